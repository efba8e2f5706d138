/* The stages after the beats: metre, exact time, kinds of section, certainty. */
import { describe, expect, it } from 'vitest'
import { drumLoop, drumsAt } from '../../../e2e/sounds'
import { keeping, localTrust } from './certainty'
import { clues } from './clues'
import { strokes } from './extent'
import { type BeatFeatures, beatFeatures } from './features'
import { guessKinds } from './kinds'
import { downbeats, listen } from './listen'
import { likeBars } from './metre'
import { BAR_RULE, findEights } from './ones'
import { onsets } from './onsets'
import { barsOf, packPeaks, peaksFrom, shapeOf, unpackPeaks } from './pictures'
import { lagPicture } from './pulse'
import { spectrum } from './spectrum'
import { machineTime } from './steady'

const RATE = 44_100
const onsetsOf = (mono: Float32Array) => onsets(spectrum(mono, RATE, () => {}))
const strokesOf = (mono: Float32Array) => strokes(onsetsOf(mono))

describe('exact time', () => {
  it('is found within 0.02 per cent, and not where the tempo drifts by 3 %', () => {
    const line = machineTime(strokesOf(drumLoop(117.3, 60)), 30 / 117)
    expect(30 / (line?.period ?? 1) / 117.3).toBeCloseTo(1, 3)
    const beats = [0.5]
    while ((beats.at(-1) as number) < 58) {
      const t = beats.at(-1) as number
      beats.push(t + 0.5 / (1 + 0.03 * Math.sin(t / 6)))
    }
    expect(machineTime(strokesOf(drumsAt(beats, 60)), 0.25)).toBeNull()
  })
  it('is found from a neighbouring family too', () => {
    const line = machineTime(strokesOf(drumLoop(120, 60)), (4 / 3) * 0.25)
    expect(line?.period).toBeCloseTo(0.25, 4)
  })
})

/** A waltz: low on 1, high on 2 and 3, soft halves between, a chord a bar. */
function waltz(bpm: number, seconds: number): { mono: Float32Array; bars: number[] } {
  const out = new Float32Array(seconds * RATE)
  const beat = 60 / bpm
  const add = (t: number, length: number, voice: (s: number) => number) => {
    const at = Math.round(t * RATE)
    for (let i = 0; i < length * RATE && at + i < out.length; i++)
      out[at + i] = (out[at + i] as number) + voice(i / RATE)
  }
  const bars: number[] = []
  for (let k = 0; 0.6 + k * beat < seconds - 0.5; k++) {
    const t = 0.6 + k * beat
    const note = [130.8, 174.6, 196, 130.8][Math.floor(k / 3) % 4] as number
    add(t + beat / 2, 0.15, (s) => 0.05 * Math.sin(2 * Math.PI * note * 4 * s) * Math.exp(-20 * s))
    if (k % 3 === 0) {
      bars.push(t)
      add(
        t,
        0.9 * beat,
        (s) => 0.5 * Math.sin(Math.PI * note * s) * Math.min(1, s / 0.004) * Math.exp(-3 * s),
      )
    } else
      for (const f of [2, 2.5, 3])
        add(
          t,
          0.4 * beat,
          (s) => 0.12 * Math.sin(2 * Math.PI * note * f * s) * Math.min(1, s / 0.003) * Math.exp(-9 * s),
        )
  }
  return { mono: out, bars }
}

describe('bars of three', () => {
  it.each([96, 120, 144])('a waltz at %d BPM has them, on its own beats', (bpm) => {
    const { mono, bars } = waltz(bpm, 50)
    const s = spectrum(mono, RATE, () => {})
    const o = onsets(s)
    const beats = Array.from({ length: bars.length * 3 - 2 }, (_, k) => 0.6 + (k * 60) / bpm)
    const like = likeBars(lagPicture(o), beats)
    for (const other of [4, 5, 7] as const) expect(like[3]).toBeGreaterThan(like[other] + 0.06)
    const { starts } = findEights(clues(beatFeatures(s, o, beats)), BAR_RULE, 0, 3)
    expect(starts.slice(1).every((p, i) => p - (starts[i] as number) === 6)).toBe(true)
    expect((starts[0] ?? 1) % 3).toBe(0)
  })
  it('begin with a downbeat every three beats, counted from each phrase and back from the first', () => {
    const { hearing } = listen(drumLoop(112, 12), RATE)
    const beats = Array.from({ length: 20 }, (_, k) => k)
    // Phrases of six; the second is a beat late.
    const waltzed = { ...hearing, beats, bar: 3 as const, phrases: [2, 9, 15] }
    expect(downbeats(waltzed)).toEqual([2, 5, 8, 9, 12, 15, 18])
    expect(downbeats({ ...waltzed, phrases: [4] })).toEqual([1, 4, 7, 10, 13, 16, 19])
    expect(downbeats({ ...waltzed, bar: 4, phrases: [5] })).toEqual([1, 5, 9, 13, 17])
  })
  it('music in four has none', () => {
    expect(listen(drumLoop(112, 40), RATE).hearing.bar).toBe(4)
  })
})

/** Features of stretches that differ in loudness, strokes and low end only. */
function features(parts: readonly { beats: number; full: number; low?: number }[]): BeatFeatures {
  const each = (of: (p: (typeof parts)[number]) => number) =>
    Float32Array.from(parts.flatMap((p) => new Array<number>(p.beats).fill(of(p))))
  const beats = parts.reduce((n, p) => n + p.beats, 0)
  const none = (n: number) => new Float32Array(beats * n)
  const full = each((p) => p.full)
  return {
    beats,
    timbre: none(12),
    chroma: none(12),
    bass: none(18),
    low: each((p) => p.low ?? p.full),
    mid: full,
    high: full,
    all: full,
    busy: full,
    loudness: full,
    shine: none(1),
  }
}

describe('kinds of section', () => {
  it('follow from what comes again, how full it is and where it stands; each with a reason', () => {
    const parts = [
      { letter: 'A', beats: 16, full: 0.3 },
      { letter: 'B', beats: 32, full: 0.6 },
      { letter: 'C', beats: 16, full: 0.75 },
      { letter: 'D', beats: 32, full: 1 },
      { letter: 'B', beats: 32, full: 0.6 },
      { letter: 'C', beats: 16, full: 0.75 },
      { letter: 'D', beats: 32, full: 1 },
      { letter: 'E', beats: 16, full: 0.5, low: 0.05 },
      { letter: 'F', beats: 32, full: 0.7 },
      { letter: 'D', beats: 32, full: 1 },
      { letter: 'G', beats: 16, full: 0.3 },
    ]
    let beat = 0
    const stretches = parts.map(({ letter, beats }) => {
      const s = { beat, letter }
      beat += beats
      return s
    })
    const guesses = guessKinds(features(parts), stretches)
    expect(guesses.map((g) => g.kind)).toEqual([
      'intro',
      'verse',
      'pre-chorus',
      'chorus',
      'verse',
      'pre-chorus',
      'chorus',
      'break',
      'bridge',
      'chorus',
      'outro',
    ])
    for (const g of guesses) expect(g.why).not.toBe('')
  })
  it('are not guessed where nothing comes again', () => {
    const guesses = guessKinds(
      features([
        { beats: 16, full: 1 },
        { beats: 16, full: 1 },
      ]),
      [
        { beat: 0, letter: 'A' },
        { beat: 16, letter: 'B' },
      ],
    )
    expect(guesses.map((g) => g.kind)).toEqual(['part', 'part'])
  })
})

describe('certainty of a phrase', () => {
  it('is less where strokes leave the beat', () => {
    const beats = Array.from({ length: 100 }, (_, k) => 0.5 + k / 2)
    const played = beats
      .map((t, k) => (k >= 40 && k < 60 ? t + 0.17 * Math.sin(k * 5.1) : t))
      .sort((a, b) => a - b)
    const o = onsetsOf(drumsAt(played, 52))
    const starts = [0.5, 20.5, 30.5]
    const [before, off, after] = keeping(o, beats, starts).map(localTrust) as [number, number, number]
    expect(off).toBeLessThan(before - 0.15)
    expect(off).toBeLessThan(after - 0.15)
  })
  it('of a whole song goes with each 1, all of them together being likely', () => {
    const { hearing: h } = listen(drumLoop(120, 50), RATE)
    expect(h.sure.ones).toHaveLength(h.phrases.length)
    expect(h.sure.beats).toHaveLength(h.phrases.length)
    for (const p of [...h.sure.ones, ...h.sure.beats]) {
      expect(p).toBeGreaterThanOrEqual(0)
      expect(p).toBeLessThanOrEqual(1)
    }
  })
})

describe('stored pictures', () => {
  it('come back as they were kept; older hearings have no onsets', () => {
    const curve = (n: number) => Uint8Array.from({ length: 50 }, (_, i) => (i * n) % 256)
    const peaks = peaksFrom(curve(3), curve(7))
    expect(unpackPeaks(packPeaks(peaks), 4)).toEqual(peaks)
    const old = unpackPeaks(Uint8Array.from([...curve(3), ...curve(5), ...curve(7)]), 3)
    expect(old).toEqual(peaksFrom(shapeOf(curve(3), curve(5)), curve(7)))
    expect(unpackPeaks(Uint8Array.from([...curve(3), ...curve(5)]), 2).onset).toHaveLength(0)
  })

  it('have levels that hold the largest of what they stand for, the last for what is left', () => {
    const { levels } = peaksFrom(
      Uint8Array.from({ length: 50 }, (_, i) => i),
      new Uint8Array(50),
    )
    expect(levels.map((l) => l.rate)).toEqual([100, 25, 5])
    expect([...(levels[1]?.shape ?? [])]).toEqual([3, 7, 11, 15, 19, 23, 27, 31, 35, 39, 43, 47, 49])
    expect([...(levels[2]?.shape ?? [])]).toEqual([19, 39, 49])
  })

  it('are drawn the same from a coarse level as from the finest, within a frame of the coarse one', () => {
    const shape = Uint8Array.from({ length: 6000 }, (_, i) => (i % 1000 === 500 ? 200 : 20))
    const peaks = peaksFrom(shape, shape)
    const bars = barsOf(peaks, 60, (i) => i)
    expect([...bars]).toEqual([...barsOf({ levels: peaks.levels.slice(0, 1) }, 60, (i) => i)])
    expect(bars.filter((b) => b === 200)).toHaveLength(6)
    // Twelve bars a second: only the finest level tells them apart.
    const fine = barsOf(peaks, 120, (i) => i / 12)
    expect([...fine].flatMap((b, i) => (b === 200 ? [i] : []))).toEqual([60])
  })
})
