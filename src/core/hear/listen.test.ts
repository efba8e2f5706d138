import { beforeAll, describe, expect, it } from 'vitest'
import { type DemoTruth, demoTruth, renderDemoSong } from '../../../demo/song'
import { drumLoop, drumsAt } from '../../../e2e/sounds'
import { toMono } from '../formats/wav'
import type { Hearing } from './hearing'
import { downbeats, eights, listen } from './listen'

const RATE = 44_100

/** Share of `truth` that has one of `heard` within `window` seconds. */
const found = (truth: readonly number[], heard: readonly number[], window: number) =>
  truth.filter((t) => heard.some((h) => Math.abs(h - t) <= window)).length / truth.length

describe('the demo song (invented, its grid known exactly)', () => {
  let truth: DemoTruth
  let h: Hearing
  beforeAll(() => {
    truth = demoTruth()
    const { left, right, sampleRate } = renderDemoSong()
    h = listen(toMono({ sampleRate, channels: [left, right] }), sampleRate).hearing
  }, 60_000)

  it('has its tempo, and is known as steady', () => {
    expect(h.tempo).toBeCloseTo(truth.tempo, 1)
    expect(h.steady).toBe(true)
  })
  it('has every beat within 12 ms, through the silent ones too, and none before the music', () => {
    expect(found(truth.beats, h.beats, 0.012)).toBe(1)
    expect(h.beats[0]).toBeGreaterThan((truth.beats[0] as number) - 0.05)
  })
  it('has the 1 of the eight where the dance does, up to the spare 4', () => {
    const spare = truth.phrases.find((p) => p.length === 4)?.beat ?? 0
    const before = truth.phrases.filter((p) => p.beat < spare).map((p) => truth.beats[p.beat] as number)
    expect(found(before, eights(h), 0.07)).toBeGreaterThan(0.9)
    expect(found(before, downbeats(h), 0.07)).toBeGreaterThan(0.9)
  })
  it('finds where the chorus begins, and that it comes again', () => {
    const letters = truth.sections
      .filter((s) => s.kind === 'chorus')
      .map(
        (s) =>
          h.sections.findLast((x) => (h.beats[x.beat] as number) < (truth.beats[s.beat] as number) + 1)
            ?.letter,
      )
    expect(letters[0]).toBe(letters[1])
  })
})

describe('a tempo that jumps', () => {
  it.each([
    [104, 122],
    [132, 118],
  ])('from %d to %d BPM keeps every beat on both sides, and the bars', (before, after) => {
    const beats = [0.5]
    while ((beats.at(-1) as number) < 78) {
      // A new tempo from the 1 of the 21st bar on.
      const bpm = beats.length > 80 ? after : before
      beats.push((beats.at(-1) as number) + 60 / bpm)
    }
    const { hearing } = listen(drumsAt(beats, 79), RATE)
    const truth = beats.filter((t) => t < 76)
    expect(found(truth, hearing.beats, 0.02)).toBeGreaterThan(0.985)
    expect(hearing.beats.length).toBeLessThanOrEqual(beats.length + 1)
    expect(hearing.steady).toBe(false)
    const bars = truth.filter((_, k) => k % 4 === 0)
    expect(found(bars, downbeats(hearing), 0.03)).toBeGreaterThan(0.9)
  })
})

describe('swung drums', () => {
  it.each([96, 120, 140])('at %d BPM are counted on their beats, not at 2/3 or 3/2', (bpm) => {
    const beats = Array.from({ length: Math.floor((58 * bpm) / 60) }, (_, k) => 0.5 + (k * 60) / bpm)
    const { hearing } = listen(drumsAt(beats, 60, RATE, 2 / 3), RATE)
    expect(Math.abs(hearing.tempo / bpm - 1)).toBeLessThan(0.002)
    expect(found(beats.slice(0, -2), hearing.beats, 0.02)).toBe(1)
  })
})

describe('a song whose first beat comes late', () => {
  it.each([
    ['silence', () => 0],
    [
      'a held chord',
      (t: number) => 0.08 * (Math.sin(2 * Math.PI * 220 * t) + Math.sin(2 * Math.PI * 277 * t)),
    ],
  ])('after 40 s of %s has no beat before it, and every one after it', (_, before) => {
    const sound = drumLoop(116, 80, 40.2)
    for (let i = 0; i < 39.9 * RATE; i++) sound[i] = before(i / RATE)
    const { hearing } = listen(sound, RATE)
    expect(hearing.beats[0]).toBeGreaterThan(40.1)
    const truth = Array.from({ length: 70 }, (_, k) => 40.2 + (k * 60) / 116)
    expect(found(truth, hearing.beats, 0.012)).toBe(1)
  })
})

describe('drum loops', () => {
  it.each([72, 88, 96, 120, 133.3, 150, 174])(
    'at %d BPM: the tempo within 0.2 per cent, every beat within 10 ms',
    (bpm) => {
      const { hearing } = listen(drumLoop(bpm, 40), RATE)
      expect(Math.abs(hearing.tempo / bpm - 1)).toBeLessThan(0.002)
      const truth = Array.from({ length: Math.floor((38 * bpm) / 60) }, (_, k) => 0.5 + (k * 60) / bpm)
      expect(found(truth, hearing.beats, 0.01)).toBe(1)
    },
  )
  it.each([22_050, 48_000, 96_000])('are heard alike at %d Hz', (rate) => {
    const { hearing } = listen(drumLoop(110, 25, 0.5, rate), rate)
    expect(hearing.tempo).toBeCloseTo(110, 0)
  })
  it('begins no beat before the music', () => {
    const { hearing } = listen(drumLoop(120, 40, 12), RATE)
    expect(hearing.beats[0]).toBeGreaterThan(11.9)
  })
})

describe('silence in the middle', () => {
  /** Eight beats of nothing from beat 40 on. */
  const broken = () => {
    const sound = drumLoop(120, 50)
    sound.fill(0, Math.round(20.45 * RATE), Math.round(24.45 * RATE))
    return listen(sound, RATE).hearing
  }
  it('is counted through, exactly, and marked as not heard', () => {
    const h = broken()
    for (let k = 40; k < 48; k++) expect(found([0.5 + k * 0.5], h.beats, 0.01)).toBe(1)
    const spans = h.inferred.map(([from, to]) => [h.beats[from], h.beats[to]] as [number, number])
    expect(spans).toHaveLength(1)
    expect(spans[0]?.[0]).toBeCloseTo(20.5, 1)
    expect(spans[0]?.[1]).toBeCloseTo(24, 1)
  })
  it('is marked nowhere where something sounds', () => {
    expect(listen(drumLoop(120, 50), RATE).hearing.inferred).toEqual([])
  })
})

it('offers other ways by weight, all of them together no more than certain', () => {
  const h = listen(drumLoop(120, 50), RATE).hearing
  for (const [sure, others] of [
    [h.confidence.beats, h.tempi],
    [h.confidence.one, h.ones],
  ] as const) {
    const weights = others.map((o) => o.weight)
    expect(weights.length).toBeGreaterThan(0)
    expect([...weights].sort((a, b) => b - a)).toEqual(weights)
    expect(weights[0] as number).toBeLessThanOrEqual(sure)
    expect(weights.reduce((a, b) => a + b, sure)).toBeLessThan(1.001)
  }
})

it('keeps a way of every speed the pulses allow, each with its own first 1, however unlikely', () => {
  const h = listen(drumLoop(128, 50), RATE).hearing
  const speeds = new Set(h.tempi.map((t) => Math.round(12 * t.factor) / 12))
  for (const factor of [1 / 2, 2 / 3]) expect([...speeds].some((s) => Math.abs(s - factor) < 0.05)).toBe(true)
  expect(h.tempi.length).toBeLessThanOrEqual(8)
  const [a, b] = h.beats as [number, number]
  for (const { one, factor, shift } of h.tempi) {
    // It lies on one of its own beats.
    const at = (one - a - shift) / ((b - a) / factor)
    expect(Math.abs(at - Math.round(at))).toBeLessThan(0.02)
    expect(one).toBeGreaterThanOrEqual(0)
  }
})

describe('what has no beat', () => {
  it.each([
    ['nothing', new Float32Array(0)],
    ['three samples', new Float32Array(3)],
    ['silence', new Float32Array(20 * RATE)],
    ['one second', drumLoop(100, 1)],
    ['three seconds', drumLoop(100, 3)],
    ['a held tone', Float32Array.from({ length: 20 * RATE }, (_, i) => 0.5 * Math.sin(i / 20))],
  ])('%s: no beats, no failure', (_, sound) => {
    const { hearing, peaks } = listen(sound, RATE)
    expect(hearing.beats).toEqual([])
    expect(hearing.tempo).toBe(0)
    expect(peaks.levels[0]?.shape).toHaveLength(Math.floor((sound.length / RATE) * 100))
  })
})

it('tells of its progress at least ten times, rising, and can be cancelled from there', () => {
  const said: number[] = []
  listen(drumLoop(120, 60), RATE, (share) => said.push(share))
  expect(said.length).toBeGreaterThanOrEqual(10)
  expect([...said].sort((a, b) => a - b)).toEqual(said)
  expect(said.at(-1)).toBe(1)
  const stop = () => {
    throw new Error('stopped')
  }
  expect(() => listen(drumLoop(120, 60), RATE, stop)).toThrow('stopped')
})

it('hears the same twice', () => {
  const sound = drumLoop(101, 30)
  expect(listen(sound, RATE)).toEqual(listen(sound, RATE))
})
