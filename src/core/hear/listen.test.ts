import { beforeAll, describe, expect, it } from 'vitest'
import { type DemoTruth, demoTruth, renderDemoSong } from '../../../demo/song'
import { drumLoop, drumsAt } from '../../../e2e/sounds'
import { toMono } from '../formats/wav'
import type { Hearing } from './hearing'
import { downbeats, Listener, listen } from './listen'

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
  it('has every phrase where the dance has it, the spare 4 too, and doubts that one alone', () => {
    expect(h.phrases).toEqual(truth.phrases.map((p) => p.beat))
    const bars = truth.phrases.flatMap((p) => Array.from({ length: p.length / 4 }, (_, i) => p.beat + 4 * i))
    expect(
      found(
        bars.map((k) => truth.beats[k] as number),
        downbeats(h),
        0.07,
      ),
    ).toBe(1)
    const doubtful = truth.phrases.filter((_, i) => (h.sure.ones[i] as number) < 0.9)
    expect(doubtful.map((p) => p.length)).toEqual([4])
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
    // It sounds alike on both sides: one song, of which other ways to count all of it are offered.
    expect(hearing.tempi.length).toBeGreaterThan(0)
  })
})

describe('swung drums', () => {
  it.each([96, 120, 140])('at %d BPM are counted on their beats, not at 2/3 or 3/2', (bpm) => {
    const beats = Array.from({ length: Math.floor((38 * bpm) / 60) }, (_, k) => 0.5 + (k * 60) / bpm)
    const { hearing } = listen(drumsAt(beats, 40, RATE, 2 / 3), RATE)
    expect(Math.abs(hearing.tempo / bpm - 1)).toBeLessThan(0.002)
    expect(found(beats.slice(0, -2), hearing.beats, 0.02)).toBe(1)
  })
})

describe('a song whose sound begins with the file', () => {
  it.each([84, 128])('at %d BPM has its first beat, and its first eight at its place', (bpm) => {
    for (const start of [0, 0.004]) {
      const { hearing, peaks } = listen(drumLoop(bpm, 40, start), RATE)
      expect(hearing.beats[0]).toBeGreaterThanOrEqual(0)
      expect(Math.abs((hearing.beats[0] as number) - start)).toBeLessThan(0.02)
      expect(hearing.beats[2]).toBeCloseTo(start + 120 / bpm, 1)
      expect(hearing.phrases[0]).toBe(0)
      expect(hearing.duration).toBe(40)
      // The pictures are of the sound, not of the silence that was heard before it.
      expect(peaks.levels[0]?.shape[0]).toBeGreaterThan(0)
    }
  })
})

describe('a song that comes piece by piece', () => {
  it('is heard as it is at once, however it comes', () => {
    const sound = drumLoop(118, 30)
    const listener = new Listener(RATE)
    for (let at = 0, n = 1; at < sound.length; at += n, n = (n * 7) % 9973)
      listener.add(sound.subarray(at, at + n))
    expect(listener.seconds).toBe(30)
    expect(listener.hear()).toEqual(listen(sound, RATE))
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
