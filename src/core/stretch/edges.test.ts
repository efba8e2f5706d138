import { describe, expect, it } from 'vitest'
import { noise, RATE } from './sounds.test-tools'
import { stretched } from './stretcher'
import { findStrokes } from './strokes'

/** A tone with all its partials up to 16 kHz, each as loud as it is high. */
const rich = (hz: number, seconds: number) =>
  Float32Array.from({ length: seconds * RATE }, (_, i) => {
    const turn = (2 * Math.PI * hz * i) / RATE
    const twice = 2 * Math.cos(turn)
    let [sum, before, now] = [0, 0, Math.sin(turn)]
    for (let k = 1; k * hz < 16_000; k++) {
      sum += (0.1 / k) * now
      ;[before, now] = [now, twice * now - before]
    }
    return sum
  })

const windows = new Map<number, Float64Array>()
/** A raised cosine of so many samples. */
function windowOf(samples: number): Float64Array {
  const known = windows.get(samples)
  if (known) return known
  const made = Float64Array.from({ length: samples }, (_, i) => 1 - Math.cos((2 * Math.PI * i) / samples))
  windows.set(samples, made)
  return made
}

/** How loud a tone of some pitch is in a sound, squared. */
function partial(sound: Float32Array, hz: number): number {
  // Goertzel, Am. Math. Monthly 65 (1958): one multiplication a sample.
  const twice = 2 * Math.cos((2 * Math.PI * hz) / RATE)
  const window = windowOf(sound.length)
  let [before, now] = [0, 0]
  for (let i = 0; i < sound.length; i++)
    [before, now] = [now, (sound[i] as number) * (window[i] as number) + twice * now - before]
  return (now * now + before * before - twice * now * before) / sound.length ** 2
}

/** Noise that is the same each time, its highs alone. */
function hiss(samples: number): Float32Array {
  const random = noise(11)
  let before = 0
  return Float32Array.from({ length: samples }, () => {
    const now = random()
    const high = now - before
    before = now
    return high
  })
}

/** Energy of a sound between two moments, seconds. */
const energy = (sound: Float32Array, from: number, to: number) =>
  sound.subarray(Math.round(from * RATE), Math.round(to * RATE)).reduce((sum, x) => sum + x * x, 0)

const slowed = (sound: Float32Array, speed: number, strokes: ArrayLike<number>, from = 0) => {
  const samples = Math.floor(sound.length / speed) - Math.ceil((from * RATE) / speed)
  return stretched({ channels: [sound], rate: RATE, strokes }, { from, speed, samples })[0] as Float32Array
}

describe('edges of a slowed sound', () => {
  it('leave a tone its pitch: nothing comes between its partials', () => {
    for (const [hz, speed, least] of [
      [41, 0.5, 15],
      [41, 0.75, 15],
      [82, 0.5, 35],
      [82, 0.75, 35],
      [110, 0.5, 35],
      [220, 0.5, 35],
    ] as const) {
      const tone = rich(hz, 2)
      const middle = slowed(tone, speed, []).subarray(RATE / 2, (5 * RATE) / 2 - RATE / 2)
      for (let k = Math.ceil(5000 / hz); k * hz < 9000; k += 9) {
        const between = 10 * Math.log10(partial(middle, (k + speed) * hz) / partial(middle, k * hz))
        expect([hz, speed, k, Math.min(-least, between)]).toEqual([hz, speed, k, between])
      }
    }
  })

  it('are where an even speed has them, also between strokes and close to one', () => {
    const sound = new Float32Array(2 * RATE)
    const hissing = hiss(sound.length)
    // A soft one, a loud one 18 ms after it, both at once to whoever looks for strokes; then silence.
    const at = [0.5, 1, 1.5]
    const level = (t: number) => {
      const begun = at.findLast((a) => t >= a)
      if (begun === undefined || t > begun + 0.1) return 0
      return t < begun + 0.018 ? 0.05 : 0.25 * Math.exp(-(t - begun - 0.018) / 0.03)
    }
    for (let i = 0; i < sound.length; i++) sound[i] = (hissing[i] as number) * level(i / RATE)
    const out = slowed(sound, 0.5, at)
    for (const a of at) {
      const edge = 2 * (a + 0.018)
      const ratio = energy(out, edge, edge + 0.015) / energy(out, edge - 0.015, edge)
      // Without them it is 0.6: what is loud lies where it was played, 18 ms after the stroke.
      expect([a, ratio > 2]).toEqual([a, true])
    }
  })

  it('are in the same place wherever one begins to listen', () => {
    const sound = new Float32Array(2 * RATE)
    const hissing = hiss(sound.length)
    for (let i = 0; i < sound.length; i++)
      sound[i] = 0.2 * (hissing[i] as number) * Math.exp(-((i / RATE) % 0.25) / 0.03)
    const strokes = findStrokes(sound, RATE)
    const [whole, later] = [slowed(sound, 0.5, strokes), slowed(sound, 0.5, strokes, 0.4)]
    for (const t of [1, 1.5, 2, 2.5]) {
      const [a, b] = [energy(whole, t, t + 0.05), energy(later, t - 0.8, t - 0.75)]
      expect(Math.abs(10 * Math.log10(a / b))).toBeLessThan(1)
    }
  })

  it('are the same on both sides', () => {
    const hissing = hiss(RATE)
    const left = hissing.map((x, i) => 0.2 * x * Math.exp(-((i / RATE) % 0.2) / 0.02))
    const right = left.map((x) => 0.5 * x)
    const song = { channels: [left, right], rate: RATE, strokes: [] }
    const [a, b] = stretched(song, { from: 0, speed: 0.5, samples: 2 * RATE })
    expect(energy(a as Float32Array, 0.2, 1.8)).toBeGreaterThan(1)
    a?.forEach((x, i) => {
      if (Math.abs(0.5 * x - (b?.[i] as number)) > 1e-6) throw new Error(`not at ${i}`)
    })
  })

  it('leave what is low alone: a tone does not tremble under hats', () => {
    const hissing = hiss(4 * RATE)
    const both = hissing.map(
      (x, i) =>
        0.1 * x * Math.exp(-((i / RATE) % 0.25) / 0.02) + 0.5 * Math.sin((2 * Math.PI * 300 * i) / RATE),
    )
    const middle = slowed(both, 0.5, []).subarray(RATE, 7 * RATE)
    // Hats are heard twice a second now: so a tone that trembled with them would have others 2 Hz beside it.
    const beside = [294, 296, 298, 302, 304, 306].map((hz) => partial(middle, hz) / partial(middle, 300))
    expect(10 * Math.log10(Math.max(...beside))).toBeLessThan(-50)
  })

  it('leave silence alone, and what nobody hears', () => {
    expect(slowed(new Float32Array(RATE), 0.5, [0.5]).every((x) => x === 0)).toBe(true)
    const faint = hiss(RATE).map((x) => 1e-6 * x)
    const out = slowed(faint, 0.5, [])
    const ratio = energy(out, 0.5, 1.5) / (2 * energy(faint, 0.25, 0.75))
    expect(Math.abs(10 * Math.log10(ratio))).toBeLessThan(1.5)
  })
})
