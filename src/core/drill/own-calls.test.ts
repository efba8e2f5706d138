import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readWav, toMono } from '../formats/wav'
import {
  fitted,
  LEAST_KEPT,
  lateBy,
  meant,
  type PlacedPiece,
  placedSyllables,
  shortened,
  soundOf,
  stressOf,
  syllablesOf,
} from '.'

const RATE = 16_000
/** The counts the app ships with, spoken by a general-purpose speech package: real speech whose stress is known. */
const count = (name: string) => {
  const pcm = readWav(new Uint8Array(readFileSync(`public/voice/${name}.wav`)))
  return { rate: pcm.sampleRate, samples: toMono(pcm) }
}
const word = (name: string) => {
  const w = count(name)
  expect(w.rate).toBe(RATE)
  return w
}

/** Words mixed into quiet (and a little noise), each with its stress at a time. */
function spokenAt(words: readonly { name: string; at: number }[], seconds: number, noise = 0.001) {
  const samples = new Float32Array(Math.round(seconds * RATE))
  let seed = 7
  for (let i = 0; i < samples.length; i++) {
    seed = (seed * 1103515245 + 12345) % 2147483648
    samples[i] = noise * (seed / 1073741824 - 1)
  }
  for (const { name, at } of words) {
    const w = word(name)
    const start = Math.round((at - stressOf(w)) * RATE)
    w.samples.forEach((x, i) => {
      if (start + i >= 0 && start + i < samples.length)
        samples[start + i] = (samples[start + i] as number) + x
    })
  }
  return { rate: RATE, samples }
}
const EIGHT = ['1', '2', '3', '4', '5', '6', '7', '8']

describe('a recording is cut at its syllables', () => {
  it('one a count, with its stress where it was, and two of seven', () => {
    const at = EIGHT.map((_, i) => 0.4 + i * 0.7)
    const found = syllablesOf(
      spokenAt(
        EIGHT.map((name, i) => ({ name, at: at[i] as number })),
        6.5,
      ),
    )
    for (const t of at) expect(Math.min(...found.map((s) => Math.abs(s.stress - t)))).toBeLessThan(0.015)
    expect(found.length).toBeGreaterThanOrEqual(8)
    expect(found.length).toBeLessThanOrEqual(10)
    found.forEach((s, i) => {
      expect(s.from).toBeLessThanOrEqual(s.stress)
      expect(s.stress).toBeLessThan(s.to)
      if (i) expect(s.from).toBeGreaterThanOrEqual((found[i - 1]?.to ?? 0) - 1e-9)
    })
  })
  it('sung without a pause, at its dips', () => {
    // "boom-ka-ta": three tones swelling and sinking, never silent.
    const samples = Float32Array.from({ length: 1.5 * RATE }, (_, i) => {
      const t = i / RATE
      return (0.12 + 0.5 * Math.sin((Math.PI * t) / 0.5) ** 2) * Math.sin(2 * Math.PI * 180 * t)
    })
    expect(syllablesOf({ rate: RATE, samples })).toHaveLength(3)
  })
  it('a quiet room says nothing', () => {
    expect(syllablesOf(spokenAt([], 3))).toEqual([])
    expect(syllablesOf({ rate: RATE, samples: new Float32Array(0) })).toEqual([])
  })
})

describe('speech is made shorter', () => {
  const tone = (hz: number) => ({
    rate: RATE,
    samples: Float32Array.from({ length: RATE }, (_, i) => Math.sin((2 * Math.PI * hz * i) / RATE)),
  })
  const risings = (x: Float32Array) =>
    x.reduce((n, y, i) => n + (i > 0 && y >= 0 && (x[i - 1] as number) < 0 ? 1 : 0), 0)
  it('and keeps its pitch and its loudness', () => {
    for (const hz of [110, 180, 233]) {
      const { samples } = shortened(tone(hz), 0.65)
      expect(samples).toHaveLength(Math.round(0.65 * RATE))
      expect(Math.abs(risings(samples) / 0.65 - hz)).toBeLessThan(0.03 * hz)
      const middle = samples.subarray(2000, 8000)
      expect(Math.sqrt(middle.reduce((s, x) => s + x * x, 0) / middle.length)).toBeGreaterThan(0.6)
    }
  })
  it('to exactly the length asked for, whatever it is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 9000 }),
        fc.double({ min: 0.4, max: 1, noNaN: true }),
        (n, keep) => {
          const { samples } = shortened({ rate: RATE, samples: tone(150).samples.subarray(0, n) }, keep)
          expect(samples).toHaveLength(Math.round(n * keep))
          expect(samples.every(Number.isFinite)).toBe(true)
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('the place of what was said', () => {
  it('what all are late by is taken away, on counts or on halves', () => {
    expect(lateBy([3, 27, 51.5, 74.5])).toBeCloseTo(3, 0)
    expect(lateBy([-4, 20, 8, 44])).toBeCloseTo(-4, 0)
    expect(lateBy([])).toBe(0)
    // What lies anywhere tells nothing.
    expect(lateBy([0, 3, 6, 9, 12, 15, 18, 21])).toBe(0)
  })
  it('is drawn onto the count or half it was meant on, and left between them', () => {
    expect([23, 26, 13.4, 18, 6, 8].map(meant)).toEqual([24, 24, 12, 18, 6, 8])
  })
})

/** 120 counts a minute: a tick is 1/48 of a second. */
const full = (tick: number) => tick / 48

describe('pieces are fitted into their room', () => {
  const piece = (at: number, seconds: number): PlacedPiece => ({
    recording: 'abcdefgh',
    at,
    from: 1,
    stress: 1.05,
    to: 1.05 + seconds,
  })
  const range = { from: 0, to: 192 }
  it('short ones are left as they are, long ones are said faster, down to a limit', () => {
    expect(fitted([piece(0, 0.3), piece(24, 0.3)], range, full).map((s) => s.keep)).toEqual([1, 1])
    const [long] = fitted([piece(0, 0.6), piece(24, 0.3)], range, full)
    expect(long?.keep).toBeCloseTo((0.5 - 0.05 - 0.01) / 0.6, 3)
  })
  it('then the lesser falls silent: between counts before halves, halves before counts', () => {
    const places = (list: PlacedPiece[]) => fitted(list, range, full).map((s) => s.piece.at)
    expect(places([piece(0, 0.7), piece(12, 0.2), piece(24, 0.2)])).toEqual([0, 24])
    expect(places([piece(0, 0.2), piece(18, 0.9), piece(24, 0.2)])).toEqual([0, 24])
    expect(places([piece(0, 0.2), piece(6, 0.9), piece(12, 0.2), piece(24, 0.2)])).toEqual([0, 12, 24])
  })
  it('never runs into the next, keeps every stress in its place, and only what is danced', () => {
    const list = fc.array(
      fc.tuple(fc.double({ min: -30, max: 220, noNaN: true }), fc.double({ min: 0.02, max: 1, noNaN: true })),
    )
    fc.assert(
      fc.property(list, fc.constantFrom(0.5, 0.75, 1), (raw, speed) => {
        const at = (t: number) => full(t) / speed
        const said = fitted(
          raw.map(([a, s]) => piece(a, s)),
          range,
          at,
        )
        said.forEach((e, i) => {
          expect(e.time).toBe(at(e.piece.at))
          expect(e.keep).toBeGreaterThanOrEqual(LEAST_KEPT)
          const next = said[i + 1]
          const ends = e.time + e.keep * (e.piece.to - e.piece.stress)
          if (next) expect(ends).toBeLessThanOrEqual(next.time - 0.05 + 1e-9)
          expect(e.piece.at).toBeGreaterThan(-3)
          expect(e.piece.at).toBeLessThan(192)
        })
        const counted = said.filter((e) => e.piece.at % 24 === 0).length
        expect(counted).toBeLessThanOrEqual(raw.length)
      }),
    )
  })
})

describe('recorded at 70 %, it sounds at 100 %', () => {
  it('with every stress within 15 ms of the grid, rendered and measured by its onsets', () => {
    // 110 counts a minute, the way through the microphone 140 ms, the voice up to 18 ms off.
    const beat = 60 / 110
    const jitter = [0.012, -0.018, 0.005, 0.016, -0.011, 0.003, -0.006, 0.009]
    const late = 0.14
    const slow = beat / 0.7
    const recording = spokenAt(
      EIGHT.map((name, i) => ({ name, at: 0.5 + i * slow + late + (jitter[i] as number) })),
      0.5 + 9 * slow,
    )
    const pieces = placedSyllables(syllablesOf(recording), (t) => ((t - 0.5) / slow) * 24)
    const placed = pieces.map((p) => ({ ...p, at: meant(p.at), recording: 'abcdefgh' }))
    for (const speed of [1, 1.1, 0.5]) {
      const at = (tick: number) => ((tick / 24) * beat) / speed
      const said = fitted(placed, { from: 0, to: 192 }, at)
      const out = new Float32Array(Math.round((8 * (beat / speed) + 1.5) * RATE))
      for (const e of said) {
        const start = 0.5 + e.time - (e.piece.stress - e.piece.from)
        soundOf(recording, e).samples.forEach((x, i) => {
          const j = Math.round(start * RATE) + i
          if (j < out.length) out[j] = (out[j] as number) + x
        })
      }
      const heard = syllablesOf({ rate: RATE, samples: out })
      EIGHT.forEach((_, i) => {
        const wanted = 0.5 + at(24 * i)
        expect(Math.min(...heard.map((s) => Math.abs(s.stress - wanted)))).toBeLessThan(0.015)
      })
    }
  })
})

describe('the sound of a piece', () => {
  const sound = (n: number, piece: { from: number; stress: number; to: number }) =>
    soundOf({ rate: 1000, samples: new Float32Array(n).fill(1) }, {
      time: 0,
      keep: 1,
      recording: 'r',
      piece: { at: 0, ...piece },
    } as never)
  it('fades in and out over five thousandths of a second, and is as it was between', () => {
    const { rate, samples } = sound(100, { from: 0.01, stress: 0.02, to: 0.06 })
    expect([rate, samples.length]).toEqual([1000, 50])
    const shown = Array.from(samples, (x) => Math.round(10 * x) / 10)
    expect(shown.slice(0, 7)).toEqual([0, 0.2, 0.4, 0.6, 0.8, 1, 1])
    expect(shown.slice(-7)).toEqual([1, 1, 0.8, 0.6, 0.4, 0.2, 0])
  })
  it('is none where nothing is left of it', () => {
    expect(sound(100, { from: 0.02, stress: 0.02, to: 0.02 }).samples).toHaveLength(0)
    expect(sound(10, { from: 0.2, stress: 0.3, to: 0.4 }).samples).toHaveLength(0)
  })
})
