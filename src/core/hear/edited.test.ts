import { beforeAll, describe, expect, it } from 'vitest'
import { DEMO_TEMPO, demoTruth, renderDemoSong } from '../../../demo/song'
import { drumsAt } from '../../../e2e/sounds'
import { toMono } from '../formats/wav'
import { median } from '../time'
import { paceOf, pulsePeriods, waysToCount } from './count-song'
import { inOneTempo } from './edited'
import { strokes } from './extent'
import { LEAD } from './lead'
import { leapsOf } from './leaps'
import type { Level } from './level'
import { downbeats, listen } from './listen'
import { noiseFrom } from './made-band.test-tools'
import { FRAME_RATE, spectrum } from './spectrum'

const RATE = 44_100
const BEAT = 60 / DEMO_TEMPO
const near = (list: readonly number[], t: number) => list.some((x) => Math.abs(x - t) < 0.03)

const leapsIn = (sound: Float32Array) => {
  const { heard, path } = paceOf(spectrum(sound, RATE, () => {}, LEAD * FRAME_RATE))
  return leapsOf(heard, strokes(heard), median(pulsePeriods(path.periods)) / FRAME_RATE)
}

const demo = () => {
  const { left, right, sampleRate } = renderDemoSong()
  return toMono({ sampleRate, channels: [left, right] })
}

/** A sound without what lies between two times. */
function cutOut(sound: Float32Array, from: number, to: number): Float32Array {
  const [a, b] = [Math.round(from * RATE), Math.round(to * RATE)]
  const out = new Float32Array(sound.length - (b - a))
  out.set(sound.subarray(0, a))
  out.set(sound.subarray(b), a)
  return out
}

/** Times that are left, where what lies between two is cut out. */
const without = (times: readonly number[], from: number, to: number) =>
  times.flatMap((t) => (t < from - 0.01 ? [t] : t < to - 0.01 ? [] : [t - (to - from)]))

describe('a song of which something was cut out', () => {
  const truth = demoTruth()
  const sound = demo().subarray(0, 100 * RATE)
  const beats = truth.beats.filter((t) => t < 98)
  /** Every bar of four from the beginning of each phrase. */
  const bars = truth.phrases.flatMap((p) =>
    Array.from({ length: Math.ceil(p.length / 4) }, (_, i) => truth.beats[p.beat + 4 * i] as number),
  )

  describe.each([
    ['beside its beat', 36, 13.37],
    ['by eleven beats', 20, 11],
    ['by half a beat', 36, 20.5],
  ])('%s', (_, after, missing) => {
    const from = beats.find((t) => t > after) as number
    const to = from + missing * BEAT
    let heard: ReturnType<typeof listen>['hearing']
    let leaps: number[]
    beforeAll(() => {
      const edited = cutOut(sound, from, to)
      leaps = leapsIn(edited)
      heard = listen(edited, RATE).hearing
    }, 120_000)

    it('leaps there and nowhere else', () => {
      expect(leaps).toHaveLength(1)
      expect(Math.abs((leaps[0] as number) - from)).toBeLessThan(2 * BEAT)
    })
    it('has its beats on both sides', () => {
      const missed = without(beats, from, to).filter((t) => !near(heard.beats, t))
      // One at the seam may be counted where it would have been.
      expect(missed.length).toBeLessThanOrEqual(1)
    })
    it('has its bars on both sides', () => {
      const known = without(
        bars.filter((t) => t < 96),
        from,
        to,
      ).filter((t) => Math.abs(t - from) > 8 * BEAT)
      expect(known.filter((t) => !near(downbeats(heard), t))).toEqual([])
    })
  })

  it('is one song where nothing was cut out', () => {
    expect(leapsIn(sound)).toEqual([])
  })
})

describe('where the music does not leap', () => {
  it('is nothing found: in a held chord before it, a drift, another rhythm, a break', () => {
    const held = drumsAt(
      Array.from({ length: 70 }, (_, k) => 40.2 + k * 0.52),
      78,
      RATE,
    )
    for (let i = 0; i < 39.9 * RATE; i++) held[i] = 0.08 * Math.sin((2 * Math.PI * 220 * i) / RATE)
    expect(leapsIn(held)).toEqual([])
    const drifting = Array.from({ length: 120 }, (_, k) => 0.4 + k * 0.5 + 0.2 * Math.sin(k / 9))
    expect(leapsIn(drumsAt(drifting, 62, RATE))).toEqual([])
    const broken = Array.from({ length: 120 }, (_, k) => 0.4 + k * 0.5).filter((_, k) => k < 56 || k > 63)
    expect(leapsIn(drumsAt(broken, 62, RATE))).toEqual([])
  })
  it('nor in what is too short for two pieces, or in silence', () => {
    expect(leapsIn(drumsAt([0.5, 1, 1.5, 2], 4, RATE))).toEqual([])
    expect(leapsIn(new Float32Array(40 * RATE))).toEqual([])
  })
})

describe('pieces of one song', () => {
  const piece = (seconds: number, ...ways: (readonly [bpm: number, probability: number])[]) => ({
    ...{ from: 10, to: 10 + seconds },
    ways: {
      steady: true,
      levels: ways.map(([bpm, probability]) => ({ bpm, probability }) as Level),
    },
  })
  const tempiOf = (pieces: ReturnType<typeof piece>[]) =>
    inOneTempo(pieces).map((p) => p.ways.levels.map((w) => w.bpm))

  it('are counted at the tempo that all of them together are likeliest in', () => {
    expect(tempiOf([piece(30, [120, 0.9], [60, 0.1]), piece(30, [60.3, 0.6], [120.4, 0.4])])).toEqual([
      [120],
      [120.4],
    ])
    // A short one says less.
    expect(tempiOf([piece(90, [60, 0.6], [120, 0.4]), piece(10, [120, 0.9], [60, 0.1])])).toEqual([
      [60],
      [60],
    ])
  })
  it('have no say in it where they have no pulse', () => {
    const hiss = noiseFrom(7)
    const noise = Float32Array.from({ length: 20 * RATE }, () => 0.1 * hiss())
    const pace = paceOf(spectrum(noise, RATE, () => {}, LEAD * FRAME_RATE))
    expect(waysToCount(pace, 20)).toEqual({ steady: false, levels: [] })
  })
  it('keep their own where they know nothing of it', () => {
    expect(tempiOf([piece(60, [120, 1]), piece(20, [90, 0.7], [45, 0.3])])).toEqual([[120], [90, 45]])
    expect(tempiOf([piece(60)])).toEqual([[]])
  })
})
