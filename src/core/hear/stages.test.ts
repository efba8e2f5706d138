/* The stages of hearing one by one, on curves made by hand: what goes in is known exactly. */
import { describe, expect, it } from 'vitest'
import { evened, pulseTrack } from './beats'
import type { Clues } from './clues'
import { backbeat, curves, every, harmony, uneven } from './curves.test-tools'
import { extent, strokes } from './extent'
import { levels } from './level'
import { BAR_RULE, findEights, PAIR_RULE } from './ones'
import { lagPicture } from './pulse'
import { FRAME_RATE } from './spectrum'
import { likenessOf, pathTempo, periodAt, tempoPath } from './tempo'

describe('tempo', () => {
  it.each([66, 90, 120, 171])('the family of %d BPM, whichever octave', (bpm) => {
    const path = tempoPath(lagPicture(curves(60, backbeat(60 / bpm, 60))))
    const octave = Math.log2(pathTempo(path.periods) / bpm)
    expect(Math.abs(octave - Math.round(octave))).toBeLessThan(0.012)
    expect(path.strength).toBeGreaterThan(0.3)
  })
  it('follows a tempo that rises', () => {
    const times = [0.5]
    while ((times.at(-1) as number) < 78) times.push((times.at(-1) as number) + 0.5 - 0.0005 * times.length)
    const path = tempoPath(
      lagPicture(
        curves(
          80,
          times.map((t, i) => (i % 2 ? { t, low: 0 } : { t, high: 0 })),
        ),
      ),
    )
    const fold = (x: number) => 2 ** (Math.log2(x) - Math.floor(Math.log2(x)))
    const first = periodAt(path.periods, 8)
    const last = periodAt(path.periods, 72)
    expect(fold(first / last)).toBeGreaterThan(1.08)
  })
  it('finds no strength in strokes at random', () => {
    const hits = Array.from({ length: 200 }, (_, i) => ({
      t: (60 * ((i * 0.618034 + 0.05 * Math.sin(i * i)) % 1)) % 59,
    }))
    expect(tempoPath(lagPicture(curves(60, hits))).strength).toBeLessThan(0.11)
  })
})

describe('an even pulse', () => {
  const periods = new Float32Array(30).fill(25)
  it('is one straight line through unevenly played strokes, and through a silence', () => {
    const truth = every(0.25, 0.3, 59)
    const hits = truth.map(uneven).filter((t) => t < 25 || t > 33)
    const o = curves(
      60,
      hits.map((t) => ({ t })),
    )
    const { times, steady } = evened(pulseTrack(o, periods), periods, o, 60)
    expect(steady).toBe(true)
    const off = truth.map((t) => Math.min(...times.map((x) => Math.abs(x - t))))
    expect(Math.max(...off)).toBeLessThan(0.006)
  })
  it('follows a drift of 3 %, and does not call it steady', () => {
    const truth = [0.3]
    while ((truth.at(-1) as number) < 58) {
      const t = truth.at(-1) as number
      truth.push(t + 0.25 / (1 + 0.03 * Math.sin((2 * Math.PI * t) / 40)))
    }
    const o = curves(
      60,
      truth.map((t) => ({ t })),
    )
    const { times, steady } = evened(pulseTrack(o, periods), periods, o, 60)
    expect(steady).toBe(false)
    const off = truth.slice(4, -4).map((t) => Math.min(...times.map((x) => Math.abs(x - t))))
    expect(Math.max(...off)).toBeLessThan(0.02)
  })
})

describe('how much music is like itself', () => {
  // Every beat alike, something softer and higher between.
  const o = curves(
    60,
    every(0.5, 0.5, 59.5).flatMap((t) => [{ t }, { t: t + 0.25, low: 0, high: 0.3 }]),
  )
  const picture = lagPicture(o)
  const along = (period: number) =>
    likenessOf(picture, new Float32Array(picture.windows).fill(period * FRAME_RATE))
  it('a beat later most of all, half a beat later less, whatever octave the pulse was found in', () => {
    for (const period of [0.25, 0.5, 1]) {
      const { later } = along(period)
      // The most there is: 1 / 1.15, what is near the end counting less.
      expect(later(120, 1)).toBeGreaterThan(0.85)
      expect(later(120, 0.5)).toBeLessThan(0.3)
      expect(later(120, 0.75)).toBeLessThan(0.1)
      expect(later(60, 1)).toBeCloseTo(later(120, 2), 6)
    }
  })
  it('counted at its tempo, not at 3/4 or 4/3 of it', () => {
    const { counted } = along(0.5)
    expect(counted(120)).toBeGreaterThan(0.85)
    for (const other of [90, 160]) expect(counted(other)).toBeLessThan(counted(120) - 0.2)
  })
})

describe('which pulses are beats', () => {
  it('kick and snare say how fast, under one long chord', () => {
    for (const bpm of [80, 104, 128, 160]) {
      const o = curves(60, backbeat(60 / bpm, 60))
      const best = levels(
        harmony(60, () => 0),
        o,
        every(30 / bpm, 0.5, 59.5),
      )[0]
      expect(best?.bpm).toBeCloseTo(bpm, 0)
      expect(Math.abs((((best?.beats[0] ?? 0) - 0.5 + 0.02) % (60 / bpm)) - 0.02)).toBeLessThan(0.02)
    }
  })
  it('chords say which of two equal strokes is the beat', () => {
    const o = curves(
      60,
      every(0.25, 0.5, 59.5).map((t) => ({ t })),
    )
    for (const late of [0, 0.25]) {
      const best = levels(
        harmony(60, (t) => Math.floor((t - 0.5 - late) / 2) * 5),
        o,
        every(0.25, 0.5, 59.5),
      ).find((l) => Math.round(l.bpm) === 120)
      expect(((best?.beats[0] ?? 9) - 0.5 - late + 0.52) % 0.5).toBeCloseTo(0.02, 1)
    }
  })
  it('the ways weigh 1 together', () => {
    const all = levels(
      harmony(30, () => 0),
      curves(30, backbeat(0.5, 30)),
      every(0.25, 0.5, 29),
    )
    expect(all.reduce((n, l) => n + l.probability, 0)).toBeCloseTo(1, 9)
  })
})

describe('where the music keeps time', () => {
  const beats = every(0.5, 0, 60)
  it('leaves out an intro in free time', () => {
    const free = [0.2, 1.37, 3.05, 4.92, 5.61, 6.83]
    const o = curves(
      60,
      [...free, ...every(0.5, 10, 50)].map((t) => ({ t })),
    )
    const e = extent(o, beats)
    expect(e?.first).toBeCloseTo(10, 1)
    expect(e?.last).toBeCloseTo(49.5, 1)
  })
  it('keeps a quiet intro that is in time, and swung strokes', () => {
    const o = curves(
      60,
      every(1, 4, 50).flatMap((t) => [{ t }, { t: t + 0.333, low: 0.3, high: 0.3 }]),
    )
    expect(extent(o, beats)?.first).toBeCloseTo(4, 1)
  })
  it('is nothing where nothing sounds', () => {
    expect(extent(curves(20, []), beats)).toBeNull()
    expect(strokes(curves(20, []))).toEqual([])
  })
})

describe('the beat track', () => {
  const steady = Float32Array.from({ length: 32 }, () => 0.5 * FRAME_RATE)
  /** Beats half a second apart; every eighth of them is changed. */
  const track = (eighth: (t: number) => { t: number; low?: number; high?: number }[]) =>
    pulseTrack(
      curves(
        32,
        Array.from({ length: 60 }, (_, k) => (k % 8 === 4 ? eighth(1 + k / 2) : [{ t: 1 + k / 2 }])).flat(),
      ),
      steady,
    )
  const lost = (times: readonly number[], heard: readonly number[], within: number) =>
    times.filter((t) => !heard.some((h) => Math.abs(h - t) <= within))
  const beats = Array.from({ length: 60 }, (_, k) => 1 + k / 2)
  it('does not follow one stroke, however loud, a fifth of a beat too early', () => {
    const got = track((t) => [
      { t: t - 0.1, low: 4, high: 4 },
      { t, low: 0.5, high: 0.5 },
    ])
    expect(lost(beats, got, 0.03)).toEqual([])
  })
  it('follows a beat that is played a tenth late', () => {
    const played = beats.map((t, k) => (k % 8 === 4 ? t + 0.05 : t))
    expect(
      lost(
        played,
        track((t) => [{ t: t + 0.05 }]),
        0.012,
      ),
    ).toEqual([])
  })
})

describe.each([
  ['one bar', BAR_RULE],
  ['pairs', PAIR_RULE],
])('the 1, by the rule of %s', (_, rule) => {
  /** Clues that all say the same: much at the starts of phrases, less at bars between. */
  const saying = (n: number, phrases: readonly number[]): Clues => {
    const curve = new Float32Array(n)
    for (const p of phrases)
      for (const [k, v] of [
        [p, 3],
        [p + 4, 0.5],
      ] as const)
        if (k < n) curve[k] = v
    return named((name) => {
      const [, phrase = 0] = rule.clues[name] ?? []
      return phrase > 0.2 ? curve : new Float32Array(n)
    })
  }
  const named = (curve: (name: string) => Float32Array): Clues =>
    Object.fromEntries(Object.keys(PAIR_RULE.clues).map((name) => [name, curve(name)]))
  it('is where the clues are, whatever comes before it', () => {
    for (const first of [0, 1, 3, 6]) {
      const phrases = every(8, first, 128)
      expect(findEights(saying(128, phrases), rule, null).starts.slice(0, 5)).toEqual(phrases.slice(0, 5))
    }
  })
  it('takes a spare 4 where everything after it says so', () => {
    const phrases = [0, 8, 16, 24, 32, 40, 48, 56, 60, 68, 76, 84, 92, 100, 108]
    expect(findEights(saying(116, phrases), rule, null).starts).toEqual(phrases)
  })
  it('without clues follows the beginning of the music, and is not sure', () => {
    const none = named(() => new Float32Array(96))
    const { starts, shifts } = findEights(none, rule, 2)
    expect(starts[0]).toBe(2)
    expect(shifts.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9)
    // As sure as one clue makes it, and no more.
    expect(shifts[0]).toBeGreaterThan(0.3)
    expect(shifts[0]).toBeLessThan(0.8)
  })
})
