import FFT from 'fft.js'

/** Frames per second of everything that is heard. */
export const FRAME_RATE = 100

const BANDS = 72
const LOWEST_HZ = 32
const HIGHEST_HZ = 15_000

/** What the ear keeps of the sound, one value or row per 10 ms frame. */
export interface Spectrum {
  frames: number
  bands: number
  /** Log-compressed band magnitudes, frames × bands, row by row. */
  log: Float32Array
  /** Pitch-class energy, frames × 12, C first. */
  chroma: Float32Array
  /** Root-mean-square of the frame's 10 ms, 0..1. */
  loudness: Float32Array
  /** Peak of the frame's 10 ms, 0..1. */
  peak: Float32Array
}

/** The next power of two that spans about 46 ms, so that 44.1 and 48 kHz use 2,048 points. */
function windowSize(sampleRate: number): number {
  return 2 ** Math.max(8, Math.round(Math.log2(sampleRate * 0.0464)))
}

interface Filter {
  first: number
  weights: Float32Array
}

/** Triangular filters, evenly spaced in log frequency, each at least one bin wide. */
function filterBank(size: number, sampleRate: number): Filter[] {
  const top = Math.min(HIGHEST_HZ, sampleRate * 0.48)
  const edges = Array.from(
    { length: BANDS + 2 },
    (_, i) => LOWEST_HZ * (top / LOWEST_HZ) ** (i / (BANDS + 1)),
  )
  const bin = (hz: number) => (hz * size) / sampleRate
  return Array.from({ length: BANDS }, (_, b) => {
    const mid = bin(edges[b + 1] as number)
    const low = Math.min(bin(edges[b] as number), mid - 1)
    const high = Math.max(bin(edges[b + 2] as number), mid + 1)
    const first = Math.max(1, Math.ceil(low))
    const weights = new Float32Array(Math.max(1, Math.floor(high) - first + 1))
    let sum = 0
    for (let i = 0; i < weights.length; i++) {
      const x = first + i
      const w = x <= mid ? (x - low) / (mid - low) : (high - x) / (high - mid)
      weights[i] = Math.max(0, w)
      sum += weights[i] as number
    }
    if (sum > 0) for (let i = 0; i < weights.length; i++) weights[i] = (weights[i] as number) / sum
    return { first, weights }
  })
}

/** Pitch class of every bin between 110 and 2,000 Hz, or -1. */
function pitchClasses(size: number, sampleRate: number): Int8Array {
  const out = new Int8Array(size / 2 + 1).fill(-1)
  for (let i = 1; i <= size / 2; i++) {
    const hz = (i * sampleRate) / size
    if (hz >= 110 && hz <= 2000) out[i] = ((Math.round(12 * Math.log2(hz / 440)) + 69) % 12) as number
  }
  return out
}

/**
 * Short-time spectrum in log-spaced bands, logarithmically compressed as in Böck & Widmer 2013, "Maximum filter
 * vibrato suppression for onset detection".
 * @param mono samples -1..1
 * @param tick called now and then with the share done, 0..1; may throw to cancel
 */
export function spectrum(mono: Float32Array, sampleRate: number, tick: (share: number) => void): Spectrum {
  const size = windowSize(sampleRate)
  const frames = Math.floor((mono.length / sampleRate) * FRAME_RATE)
  const fft = new FFT(size)
  const window = Float32Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size))
  const bank = filterBank(size, sampleRate)
  const classes = pitchClasses(size, sampleRate)
  const input = new Array<number>(size).fill(0)
  const complex = fft.createComplexArray() as number[]
  const magnitude = new Float32Array(size / 2 + 1)
  const out: Spectrum = {
    frames,
    bands: BANDS,
    log: new Float32Array(frames * BANDS),
    chroma: new Float32Array(frames * 12),
    loudness: new Float32Array(frames),
    peak: new Float32Array(frames),
  }
  const scale = 2 / size
  for (let f = 0; f < frames; f++) {
    const centre = Math.round((f * sampleRate) / FRAME_RATE)
    for (let i = 0; i < size; i++) {
      const at = centre - size / 2 + i
      input[i] = at >= 0 && at < mono.length ? (mono[at] as number) * (window[i] as number) : 0
    }
    fft.realTransform(complex, input)
    for (let i = 1; i <= size / 2; i++) {
      const re = complex[2 * i] as number
      const im = complex[2 * i + 1] as number
      const m = Math.sqrt(re * re + im * im) * scale
      magnitude[i] = m
      const c = classes[i] as number
      if (c >= 0) out.chroma[f * 12 + c] = (out.chroma[f * 12 + c] as number) + m
    }
    bank.forEach(({ first, weights }, b) => {
      let sum = 0
      for (let i = 0; i < weights.length; i++) sum += (weights[i] as number) * (magnitude[first + i] ?? 0)
      out.log[f * BANDS + b] = Math.log10(1 + 1000 * sum)
    })
    level(mono, sampleRate, f, out)
    if (f % 500 === 0) tick(f / frames)
  }
  return out
}

function level(mono: Float32Array, sampleRate: number, f: number, out: Spectrum) {
  const from = Math.round((f * sampleRate) / FRAME_RATE)
  const to = Math.min(mono.length, Math.round(((f + 1) * sampleRate) / FRAME_RATE))
  let square = 0
  let peak = 0
  for (let i = from; i < to; i++) {
    const s = mono[i] as number
    square += s * s
    const a = Math.abs(s)
    if (a > peak) peak = a
  }
  out.loudness[f] = Math.sqrt(square / Math.max(1, to - from))
  out.peak[f] = peak
}
