import { beforeAll, describe, expect, it } from 'vitest'
import { drumLoop } from '../../../e2e/sounds'
import { listen } from './listen'

const RATE = 44_100

/** Share of `truth` that has one of `heard` within `window` seconds. */
const found = (truth: readonly number[], heard: readonly number[], window: number) =>
  truth.filter((t) => heard.some((h) => Math.abs(h - t) <= window)).length / truth.length

const LOOP = () => drumLoop(120, 50)
let first: { said: number[] } & ReturnType<typeof listen>
beforeAll(() => {
  const said: number[] = []
  first = { said, ...listen(LOOP(), RATE, (share) => said.push(share)) }
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
    expect(first.hearing.inferred).toEqual([])
  })
})

it('offers other ways by weight, all of them together no more than certain', () => {
  const h = first.hearing
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
  const { said } = first
  expect(said.length).toBeGreaterThanOrEqual(10)
  expect([...said].sort((a, b) => a - b)).toEqual(said)
  expect(said.at(-1)).toBe(1)
  const stop = () => {
    throw new Error('stopped')
  }
  expect(() => listen(LOOP(), RATE, stop)).toThrow('stopped')
})

it('hears the same twice', () => {
  const { said: _, ...heard } = first
  expect(listen(LOOP(), RATE)).toEqual(heard)
})
