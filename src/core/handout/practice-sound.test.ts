import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cuesOf, page } from '../routine/hand.test-tools'
import {
  calledIn,
  faded,
  musicPiece,
  soundCaptions,
  soundLength,
  soundParts,
  soundPlan,
  USUAL_SOUND,
  usualContents,
} from '.'

const routine = page(4, cuesOf(['1 step R; 3 big slow turn L; 5 kick R', '1 step L; 5 clap']))
const times = Array.from({ length: 33 }, (_, i) => 3 + i * 0.5)
const contents = { ...usualContents(routine), stretch: { from: 0, to: 384 } }
const plan = (what: Partial<typeof USUAL_SOUND> = {}) =>
  soundPlan(routine, times, contents, { ...USUAL_SOUND, ...what })

describe('a practice sound', () => {
  it('goes up a ladder, each rung said, counted in, and so often', () => {
    const p = plan({ speeds: [0.5, 1], times: 2 })
    expect(p.chapters.map((c) => c.name)).toEqual(['50 %', '100 %'])
    expect(p.announced.map((a) => a.words)).toEqual(['50 percent', '100 percent'])
    expect(p.legs.map((l) => l.timeline.speed)).toEqual([0.5, 0.5, 1, 1])
    // Worked by hand: 16 counts of half a second are 16 s at half the speed, four counts of count-in 4 s.
    expect(p.legs[0]?.start).toBeCloseTo(0.5 + 1.8 + 4, 9)
    expect(p.legs[1]?.start).toBeCloseTo(6.3 + 16 + 4, 9)
    expect(p.chapters[1]?.at).toBeCloseTo(6.3 + 16 + 4 + 16 + 1, 9)
    expect(p.seconds).toBeCloseTo((p.legs[3]?.start ?? 0) + 8 + 0.8, 9)
    expect(p.words).toContain('step R')
  })
  it('calls fade: words, their first words, numbers, nothing', () => {
    expect([0, 1, 2, 3].map((k) => calledIn('fading', k, 4))).toEqual(['words', 'first', 'numbers', 'none'])
    expect([0, 7].map((k) => calledIn('fading', k, 8))).toEqual(['words', 'none'])
    const calls = plan({ speeds: [0.5], times: 4, calls: 'fading' }).legs.map((l) =>
      l.timeline.counts.filter((c) => c.call).map((c) => c.call),
    )
    expect(calls[0]).toContain('big slow turn L')
    expect(calls[1]).toContain('big')
    expect(calls[2]?.slice(0, 3)).toEqual(['1', '2', '3'])
    expect(calls[3]).toEqual([])
  })
  it('has captions of its speeds, count-ins and moves, whatever it calls', () => {
    const of = (calls: (typeof USUAL_SOUND)['calls']) =>
      soundCaptions(routine, times, contents, { ...USUAL_SOUND, speeds: [0.5], times: 1, calls })
    const list = of('none')
    expect(of('words')).toEqual(list)
    // The speed is said for 1.8 s from 0.5 s on; four counts of a second each are counted in.
    expect(list.slice(0, 6).map((c) => [c.start, c.text])).toEqual([
      [0.5, '50 percent'],
      ...[2.3, 3.3, 4.3, 5.3].map((at, i) => [at, String(5 + i)]),
      [6.3, 'step R'],
    ])
    for (const [i, c] of list.entries()) {
      expect(c.end).toBeGreaterThan(c.start)
      expect(c.end).toBeLessThanOrEqual(list[i + 1]?.start ?? Number.POSITIVE_INFINITY)
    }
  })
  it('nothing lies over anything else, and all of it within its length', () => {
    fc.assert(
      fc.property(
        fc.subarray([0.5, 0.6, 0.75, 0.9, 1], { minLength: 1 }),
        fc.integer({ min: 1, max: 5 }),
        fc.constantFrom(2, 4, 8),
        fc.boolean(),
        (speeds, n, countIn, announced) => {
          const p = plan({ speeds, times: n, countIn, announced })
          expect(p.legs).toHaveLength(speeds.length * n)
          let end = 0
          for (const l of p.legs) {
            expect(l.start - l.timeline.lead).toBeGreaterThanOrEqual(end - 1e-9)
            end = l.start + l.timeline.body
          }
          for (const a of p.announced)
            for (const l of p.legs)
              expect(a.at + 1.5 <= l.start - l.timeline.lead || a.at >= l.start + l.timeline.body).toBe(true)
          expect(p.seconds).toBeGreaterThan(end)
        },
      ),
    )
  })
  it('is made in parts, each of which holds all that sounds of it, to the sample', () => {
    fc.assert(
      fc.property(
        fc.subarray([0.5, 0.63, 0.75, 1], { minLength: 1 }),
        fc.integer({ min: 1, max: 3 }),
        fc.boolean(),
        fc.constantFrom(8000, 44_100),
        (speeds, n, announced, rate) => {
          const p = plan({ speeds, times: n, announced })
          const parts = soundParts(p, rate)
          expect(parts).toHaveLength(p.announced.length + p.legs.length)
          expect(parts.map((x) => x.from)).toEqual(parts.map((x) => x.from).sort((a, b) => a - b))
          for (const x of parts) {
            expect(x.from).toBeGreaterThanOrEqual(0)
            expect(x.to).toBeLessThanOrEqual(soundLength(p, rate))
            const sounds = x.announced
              ? [x.announced.at]
              : [...(x.leg?.timeline.countIn ?? []), ...(x.leg?.timeline.counts ?? [])].map(
                  (e) => (x.leg?.start ?? 0) + e.time,
                )
            // Nothing is put on the clock of a part before it begins, not by a part of a sample.
            for (const t of sounds) expect(t - x.from / rate).toBeGreaterThanOrEqual(0)
            for (const t of sounds) expect(t).toBeLessThan(x.to / rate)
          }
        },
      ),
    )
  })
  it('has under each click the beat of the song it counts', () => {
    for (const rate of [8000, 44_100])
      for (const leg of plan({ speeds: [0.6, 0.73, 1], times: 2 }).legs) {
        const piece = musicPiece(leg, rate)
        const { speed, body, counts } = leg.timeline
        const inSong = (t: number) => piece.from + (t - piece.at / rate) * speed
        // The grid of this page: a beat each half second from 3 s on.
        const beats = counts.filter((c) => c.kind !== 'sub')
        for (const [i, c] of beats.entries()) expect(inSong(leg.start + c.time)).toBeCloseTo(3 + 0.5 * i, 9)
        expect(beats).toHaveLength(16)
        expect((piece.at + piece.frames) / rate).toBeCloseTo(leg.start + body, 3)
        // It is there, faded in, when the first click comes.
        expect(leg.start - piece.at / rate).toBeGreaterThan(0.0039)
      }
  })
  it('fades its music at both ends, and nowhere else', () => {
    const music = [new Float32Array(1000).fill(1), new Float32Array(1000).fill(-1)]
    faded(music, 0.5, 8000)
    for (const [i, x] of (music[0] as Float32Array).entries())
      expect(x).toBeCloseTo(0.5 * Math.min(1, i / 32, (999 - i) / 32), 6)
    expect(music[1]?.[500]).toBe(-0.5)
  })
})
