/* Measures of slowed sound: sharpness of what is struck, purity of a chord, likeness of a voice. */
import FFT from 'fft.js'

export const RATE = 44_100

/** Energy of a band, sample by sample: the squared size of its analytic signal. */
export function bandEnergy(sound: Float32Array, low: number, high: number): Float64Array {
  const size = 2 ** Math.ceil(Math.log2(sound.length))
  const fft = new FFT(size)
  const time = fft.createComplexArray() as number[]
  for (let i = 0; i < size; i++) {
    time[2 * i] = sound[i] ?? 0
    time[2 * i + 1] = 0
  }
  const spectrum = fft.createComplexArray() as number[]
  fft.transform(spectrum, time)
  const soft = Math.max(10, 0.1 * low)
  for (let k = 0; k < size; k++) {
    const hz = (k * RATE) / size
    const up = Math.min(1, Math.max(0, (hz - low) / soft + 0.5))
    const down = Math.min(1, Math.max(0, (high - hz) / (0.1 * high) + 0.5))
    const level = k < size / 2 ? 2 * up * down : 0
    spectrum[2 * k] = (spectrum[2 * k] as number) * level
    spectrum[2 * k + 1] = (spectrum[2 * k + 1] as number) * level
  }
  fft.inverseTransform(time, spectrum)
  return Float64Array.from(
    { length: sound.length },
    (_, i) => (time[2 * i] as number) ** 2 + (time[2 * i + 1] as number) ** 2,
  )
}

const sorted = (list: readonly number[]) => [...list].sort((a, b) => a - b)
export const quantile = (list: readonly number[], share: number) =>
  sorted(list)[Math.min(list.length - 1, Math.floor(share * list.length))] ?? Number.NaN

export interface Struck {
  /** From a tenth to nine tenths of its loudest, on the average of all, ms. */
  rise: number
  /** How far apart their places are: the middle four fifths of where 15 % of the energy of each has sounded, ms. */
  spread: number
  /** Median of those, ms after the place. */
  late: number
  /** Loudness of 30 to 5 ms before against the loudest, dB. */
  before: number
}

/** What is struck at some places. @param half ms that are looked at on either side */
export function struckAt(energy: Float64Array, places: readonly number[], half = 60): Struck {
  const q = Math.round((half / 1000) * RATE)
  const mean = new Float64Array(2 * q)
  const at: number[] = []
  for (const t of places) {
    const from = Math.round(t * RATE) - q
    let all = 0
    for (let i = 0; i < 2 * q; i++) {
      const e = energy[from + i] ?? 0
      mean[i] = (mean[i] as number) + e / places.length
      all += e
    }
    let sum = 0
    for (let i = 0; i < 2 * q; i++) {
      sum += energy[from + i] ?? 0
      if (sum >= 0.15 * all) {
        at.push(((i - q) / RATE) * 1000)
        break
      }
    }
  }
  const smooth = mean.map((_, i) => {
    let sum = 0
    for (let d = -6; d <= 6; d++) sum += mean[i + d] ?? 0
    return Math.sqrt(sum / 13)
  })
  const loud = quantile([...smooth], 1 - 100 / smooth.length)
  // Over what sounds beside it all the time.
  const base = quantile([...smooth.slice(0, Math.round(0.03 * RATE))], 0.5)
  const nine = smooth.findIndex((x, i) => i > q - 0.05 * RATE && x >= base + 0.9 * (loud - base))
  const tenth = smooth.slice(0, nine).findLastIndex((x) => x < base + 0.1 * (loud - base))
  const ahead = smooth.slice(q - Math.round(0.03 * RATE), q - Math.round(0.005 * RATE))
  const quiet = Math.sqrt(ahead.reduce((s, x) => s + x * x, 0) / ahead.length)
  return {
    rise: ((nine - tenth) / RATE) * 1000,
    spread: quantile(at, 0.9) - quantile(at, 0.1),
    late: quantile(at, 0.5),
    before: 20 * Math.log10(quiet / loud),
  }
}

/** Energy of a steady chord farther than 6 Hz from its partials against that near them, dB. */
export function impurity(sound: Float32Array, partials: readonly number[]): number {
  const inner = sound.subarray(RATE, sound.length - RATE)
  const size = 2 ** Math.floor(Math.log2(inner.length))
  const fft = new FFT(size)
  const spectrum = fft.createComplexArray() as number[]
  fft.realTransform(
    spectrum,
    Array.from(
      { length: size },
      (_, i) => (inner[i] as number) * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size)),
    ),
  )
  let [near, far] = [0, 0]
  for (let k = 0; k <= size / 2; k++) {
    const hz = (k * RATE) / size
    const e = (spectrum[2 * k] as number) ** 2 + (spectrum[2 * k + 1] as number) ** 2
    if (partials.some((p) => Math.abs(hz - p) < 6)) near += e
    else far += e
  }
  return 10 * Math.log10(far / near)
}

/** Levels of 79 bands up to 16 kHz, spaced by the mel scale, every 10 ms, dB. */
function melLevels(sound: Float32Array): Float64Array[] {
  const size = 2048
  const fft = new FFT(size)
  const spectrum = fft.createComplexArray() as number[]
  const edges = Array.from({ length: 81 }, (_, i) => {
    const mel = (2595 * Math.log10(1 + 16_000 / 700) * i) / 80
    return 700 * (10 ** (mel / 2595) - 1)
  })
  const frames: Float64Array[] = []
  for (let at = -size / 2; at < sound.length - size / 2; at += 441) {
    fft.realTransform(
      spectrum,
      Array.from(
        { length: size },
        (_, i) => (sound[at + i] ?? 0) * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size)),
      ),
    )
    frames.push(
      Float64Array.from({ length: 79 }, (_, b) => {
        const [low, mid, high] = [edges[b], edges[b + 1], edges[b + 2]] as [number, number, number]
        let sum = 1e-7
        for (let k = Math.floor((low * size) / RATE); k <= Math.ceil((high * size) / RATE); k++) {
          const hz = (k * RATE) / size
          const weight = hz <= mid ? (hz - low) / (mid - low) : (high - hz) / (high - mid)
          if (weight > 0)
            sum += weight * ((spectrum[2 * k] as number) ** 2 + (spectrum[2 * k + 1] as number) ** 2)
        }
        return 10 * Math.log10(sum)
      }),
    )
  }
  return frames
}

/** How far a sound is from what it should be: the mean difference of its levels, dB. */
export function melDistance(a: Float32Array, b: Float32Array): number {
  const [one, two] = [melLevels(a), melLevels(b)]
  const frames = Math.min(one.length, two.length)
  let sum = 0
  for (let i = 0; i < frames; i++)
    one[i]?.forEach((x, k) => {
      sum += Math.abs(x - (two[i]?.[k] as number)) / 79
    })
  return sum / frames
}

/** The sharpest onsets of a record above 5 kHz, in seconds. */
export function sharpest(sound: Float32Array): number[] {
  const energy = bandEnergy(sound, 5000, 14_000)
  const steps = Math.floor(energy.length / 22)
  const log = Float64Array.from({ length: steps }, (_, k) => {
    let sum = 0
    for (let i = 0; i < 22; i++) sum += (energy[22 * k + i] as number) / 22
    return Math.log(sum + 1e-6)
  })
  const rises = Array.from(log, (x, k) => (k ? Math.max(0, x - (log[k - 1] as number)) : 0))
  const enough = quantile(rises, 0.993)
  const found: number[] = []
  for (const [k, rise] of rises.entries()) {
    if (rise < enough) continue
    const last = found.at(-1)
    if (last === undefined || k - last > 160) found.push(k)
    else if (rise > (rises[last] as number)) found[found.length - 1] = k
  }
  return found.map((k) => (k * 22) / RATE)
}

/** Loudness of the 20 ms after some places over that of the 25 to 4 ms before them, above 5 kHz, dB. */
export function afterOverBefore(sound: Float32Array, places: readonly number[]): number {
  const energy = bandEnergy(sound, 5000, 14_000)
  let [after, before] = [0, 0]
  for (const t of places) {
    const c = Math.round(t * RATE)
    let all = 1e-12
    for (let i = c - 0.05 * RATE; i < c + 0.05 * RATE; i++) all += energy[Math.round(i)] ?? 0
    for (let i = 0; i < 0.02 * RATE; i++) after += (energy[c + i] ?? 0) / all / 20
    for (let i = Math.round(0.004 * RATE); i < 0.025 * RATE; i++) before += (energy[c - i] ?? 0) / all / 21
  }
  return 10 * Math.log10(after / before)
}
