import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compareAlong, foldPulses, likenessAfter, seamInPulses } from './fold-pulses'
import { GROUPS, type Onsets } from './onsets'
import { FRAME_RATE } from './spectrum'

const LINE = { start: 0.2, period: 0.25 }

/** Strokes of a rhythm of eight pulses, each in a band, that is `missing` pulses ahead from a time on. */
function played(bands: readonly number[], seconds: number, leap: number, missing: number): Onsets {
  const frames = seconds * FRAME_RATE
  const groups = new Float32Array(frames * GROUPS)
  for (let k = 0; LINE.start + k * LINE.period < seconds; k++) {
    const t = LINE.start + k * LINE.period
    const place = (t < leap ? k : k + missing) % bands.length
    const band = bands[place] as number
    if (band < GROUPS) groups[Math.round(t * FRAME_RATE) * GROUPS + band] = 1
  }
  return { frames, groups } as Onsets
}

/** One deep stroke in eight pulses, and others above it. */
const RHYTHM = [0, 7, 4, 7, 9, 7, 4, 6]

describe('eight pulses laid on each other', () => {
  it('are most alike as many pulses later as are missing', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 7 }), (missing) => {
        const o = played(RHYTHM, 60, 30, missing)
        const list = likenessAfter(foldPulses(o, LINE, 2, 28), foldPulses(o, LINE, 32, 58))
        const best = list.reduce((a, b) => (b.like > a.like ? b : a))
        // The later one has to be laid so much later for it to lie where it would have been.
        expect([best.by, Math.round(best.like * 100)]).toEqual([(8 - missing) % 8, 100])
      }),
    )
  })
  it('tell the pulse at which music leaps, and that it does nowhere else', () => {
    const o = played(RHYTHM, 60, 30.2, 2)
    const all = compareAlong(o, LINE, 0, 60, 14)
    const top = all.reduce((a, b) => (b.elsewhere - b.here > a.elsewhere - a.here ? b : a))
    expect(Math.abs(top.at - 30.2)).toBeLessThan(0.3)
    expect(seamInPulses(o, LINE, top.at + 1.1, 14, 3)).toBeCloseTo(30.2, 1)
    const even = compareAlong(played(RHYTHM, 60, 30, 0), LINE, 0, 60, 14)
    expect(even.every((x) => x.here > x.elsewhere)).toBe(true)
    expect(compareAlong(o, LINE, 0, 20, 14)).toEqual([])
  })
  it('are compared along the music as they are one by one', () => {
    const o = played(RHYTHM, 60, 25.2, 3)
    const many = 56 * LINE.period
    for (const { at, here, elsewhere } of compareAlong(o, LINE, 0, 60, 14).filter((_, i) => i % 9 === 0)) {
      // A hair earlier: pulses lie on these times.
      const [from, now, to] = [at - many - 0.01, at - 0.01, at + many - 0.01]
      const alike = likenessAfter(foldPulses(o, LINE, from, now), foldPulses(o, LINE, now, to))
      expect(here).toBeCloseTo(alike[0]?.like ?? 0, 2)
      const elsewhereAlike = alike.filter(({ by }) => by > 0 && by % 1 === 0).map((x) => x.like)
      expect(elsewhere).toBeCloseTo(Math.max(...elsewhereAlike), 2)
    }
  })
  it('know how much is played on the weaker side', () => {
    const all = compareAlong(played(RHYTHM, 60, 30, 0), LINE, 0, 60, 14)
    const few = played(RHYTHM, 60, 30, 0)
    few.groups.fill(0, 0, 30 * FRAME_RATE * GROUPS)
    const later = compareAlong(few, LINE, 0, 60, 14)
    expect(later[0]?.strength).toBeLessThan(0.1 * (all[0]?.strength ?? 0))
  })
})
