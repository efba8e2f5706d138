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
 * @param lead frames of silence that are heard before it: what sets in with the first sample begins out of nothing, too
 */
export function spectrum(
  mono: Float32Array,
  sampleRate: number,
  tick: (share: number) => void,
  lead = 0,
): Spectrum {
  const maker = new SpectrumMaker(sampleRate, lead)
  for (let at = 0; at < mono.length; at += TAKEN) {
    tick(at / mono.length)
    maker.add(mono.subarray(at, at + TAKEN))
  }
  return maker.finish()
}

/** Samples that are taken at one time. */
const TAKEN = 2 ** 18

/** Makes a spectrum of sound that comes piece by piece: no more of it is kept than is looked at. */
export class SpectrumMaker {
  private readonly size: number
  private readonly fft: FFT
  private readonly window: Float32Array
  private readonly bank: Filter[]
  private readonly classes: Int8Array
  private readonly input: number[]
  private readonly complex: number[]
  private readonly magnitude: Float32Array
  private readonly out = {
    log: new Rows(BANDS),
    chroma: new Rows(12),
    loudness: new Rows(1),
    peak: new Rows(1),
  }
  /** The samples that are still looked at, and the place of the first of them. */
  private held = new Float32Array(0)
  private from = 0
  private frame = 0
  /** Samples that came. */
  private length = 0

  /** @param lead frames of silence before the sound */
  constructor(
    private readonly sampleRate: number,
    private readonly lead = 0,
  ) {
    const size = windowSize(sampleRate)
    this.size = size
    this.fft = new FFT(size)
    this.window = Float32Array.from(
      { length: size },
      (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size),
    )
    this.bank = filterBank(size, sampleRate)
    this.classes = pitchClasses(size, sampleRate)
    this.input = new Array<number>(size).fill(0)
    this.complex = this.fft.createComplexArray() as number[]
    this.magnitude = new Float32Array(size / 2 + 1)
  }

  /** Seconds of sound that came. */
  get seconds(): number {
    return this.length / this.sampleRate
  }

  /** Takes the next samples, -1..1. */
  add(mono: Float32Array): void {
    const keep = this.held.subarray(Math.max(0, this.centreOf(this.frame) - this.size / 2 - this.from))
    const held = new Float32Array(keep.length + mono.length)
    held.set(keep)
    held.set(mono, keep.length)
    this.from += this.held.length - keep.length
    this.held = held
    this.length += mono.length
    while (this.centreOf(this.frame) + this.size / 2 <= this.length) this.look()
  }

  /** The spectrum of all that came, its end followed by silence. */
  finish(): Spectrum {
    const frames = this.lead + Math.floor(this.seconds * FRAME_RATE)
    while (this.frame < frames) this.look()
    const { log, chroma, loudness, peak } = this.out
    return {
      ...{ frames, bands: BANDS },
      ...{ log: log.taken(frames), chroma: chroma.taken(frames) },
      ...{ loudness: loudness.taken(frames), peak: peak.taken(frames) },
    }
  }

  /** The sample in the middle of a frame; negative before the sound. */
  private centreOf(frame: number): number {
    return Math.round(((frame - this.lead) * this.sampleRate) / FRAME_RATE)
  }

  /** Looks at the next frame. */
  private look(): void {
    const { size, input, window, complex, magnitude, classes, bank, held, out } = this
    const begin = this.centreOf(this.frame) - size / 2 - this.from
    // After the sound is silence, and before it: of that nothing was written yet.
    const from = Math.min(size, Math.max(0, -begin))
    const to = Math.max(from, Math.min(size, held.length - begin))
    for (let i = from; i < to; i++) input[i] = (held[begin + i] as number) * (window[i] as number)
    input.fill(0, to)
    this.fft.realTransform(complex, input)
    const scale = 2 / size
    const chroma = out.chroma.next()
    for (let i = 1; i <= size / 2; i++) {
      const re = complex[2 * i] as number
      const im = complex[2 * i + 1] as number
      const m = Math.sqrt(re * re + im * im) * scale
      magnitude[i] = m
      const c = classes[i] as number
      if (c >= 0) chroma[c] = (chroma[c] as number) + m
    }
    const log = out.log.next()
    for (let b = 0; b < BANDS; b++) {
      const { first, weights } = bank[b] as Filter
      let sum = 0
      for (let i = 0; i < weights.length; i++)
        sum += (weights[i] as number) * (magnitude[first + i] as number)
      log[b] = Math.log10(1 + 1000 * sum)
    }
    this.level()
    this.frame++
  }

  /** How loud the next frame's own 10 ms are. */
  private level(): void {
    const { held, from, out } = this
    const begin = Math.max(0, this.centreOf(this.frame)) - from
    const end = Math.min(this.length, this.centreOf(this.frame + 1)) - from
    let square = 0
    let peak = 0
    for (let i = begin; i < end; i++) {
      const s = held[i] as number
      square += s * s
      peak = Math.max(peak, Math.abs(s))
    }
    out.loudness.next()[0] = Math.sqrt(square / Math.max(1, end - begin))
    out.peak.next()[0] = peak
  }
}

/** Rows of numbers, as many as come. */
class Rows {
  private all: Float32Array
  private count = 0

  constructor(private readonly width: number) {
    this.all = new Float32Array(width * 1024)
  }

  /** The next row, all zero. */
  next(): Float32Array {
    const at = this.width * this.count++
    if (at + this.width > this.all.length) {
      const more = new Float32Array(2 * this.all.length)
      more.set(this.all)
      this.all = more
    }
    return this.all.subarray(at, at + this.width)
  }

  /** The first rows, one after another. */
  taken(rows: number): Float32Array {
    return this.all.slice(0, this.width * rows)
  }
}
