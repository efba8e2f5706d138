import FFT from 'fft.js'
import { FRAME_RATE, SpectrumMaker } from '../hear'
import type { Seconds } from '../time'

/** How a recording sounds, as far as it takes to know it again: where sound begins, in so many bands, `RATE` times a second. */
export interface Trace {
  frames: number
  /** frames × BANDS, zero mean and unit spread over some seconds, frame by frame. */
  data: Float32Array
  /** Harmony, CHROMA_RATE times a second × 12, each row of length 1 and zero mean: songs with one beat differ in it. */
  chroma: Float32Array
}

export const CHROMA_RATE = 5

export const TRACE_RATE = FRAME_RATE
export const BANDS = 12
/** Frames between the two spectra that are compared. */
const LAG = 2
/** Levelled over so long: neither a fade nor another loudness changes it. */
const LEVELLED: Seconds = 3
/** Values are kept in sixteen steps of this width, from -4 on. */
const [STEPS, STEP, LOWEST] = [16, 0.5, -2]

/**
 * The trace of a recording: half-wave rectified spectral flux of log-compressed bands.
 * @param mono samples -1..1
 * @param tick called now and then with the share done; may throw to cancel
 */
export function traceOf(
  mono: Float32Array,
  sampleRate: number,
  tick: (share: number) => void = () => {},
): Trace {
  const maker = new TraceMaker(sampleRate)
  for (let at = 0; at < mono.length; at += TAKEN) {
    tick(at / mono.length)
    maker.add(mono.subarray(at, at + TAKEN))
  }
  return maker.finish()
}

/** Samples that are taken at one time. */
const TAKEN = 2 ** 18

/** Makes the trace of a sound that comes piece by piece, as a film's does: no more of it is kept than is looked at. */
export class TraceMaker {
  private readonly spectrum: SpectrumMaker
  private readonly harmony: HarmonyMaker

  constructor(sampleRate: number) {
    this.spectrum = new SpectrumMaker(sampleRate)
    this.harmony = new HarmonyMaker(sampleRate)
  }

  add(mono: Float32Array): void {
    this.spectrum.add(mono)
    this.harmony.add(mono)
  }

  finish(): Trace {
    const { frames, bands, log } = this.spectrum.finish()
    const per = bands / BANDS
    const data = new Float32Array(frames * BANDS)
    for (let f = LAG; f < frames; f++)
      for (let b = 0; b < bands; b++) {
        const rise = (log[f * bands + b] as number) - (log[(f - LAG) * bands + b] as number)
        if (rise > 0) {
          const i = f * BANDS + Math.floor(b / per)
          data[i] = (data[i] as number) + rise
        }
      }
    return { frames, data: levelled(frames, data), chroma: this.harmony.finish() }
  }
}

/** Lowest and highest tones that make harmony here, and how long is listened for one row: tones of a bass are told apart. */
const [DEEPEST, HIGHEST, LONG] = [150, 2500, 0.19]

/** Pitch classes of each fifth of a second, the same at any sampling rate. */
class HarmonyMaker {
  private readonly size: number
  private readonly fft: FFT
  private readonly input: number[]
  private readonly complex: number[]
  private readonly bins: [number, number][] = []
  private readonly rows: Float32Array[] = []
  /** The samples that are still looked at, and the place of the first of them. */
  private held: Float32Array
  private from: number
  /** Samples that came. */
  private length = 0

  constructor(private readonly sampleRate: number) {
    this.size = 2 ** Math.ceil(Math.log2(sampleRate * LONG) - 0.2)
    this.fft = new FFT(this.size)
    this.input = new Array<number>(this.size).fill(0)
    this.complex = this.fft.createComplexArray() as number[]
    for (let i = 1; i < this.size / 2; i++) {
      const hz = (i * sampleRate) / this.size
      if (hz >= DEEPEST && hz <= HIGHEST)
        this.bins.push([i, (Math.round(12 * Math.log2(hz / 440)) + 69) % 12])
    }
    // Before its beginning it is silent.
    this.held = new Float32Array(this.size)
    this.from = -this.size
  }

  private centre(row: number): number {
    return Math.round(((row + 0.5) / CHROMA_RATE) * this.sampleRate)
  }

  add(mono: Float32Array): void {
    const next = new Float32Array(this.held.length + mono.length)
    next.set(this.held)
    next.set(mono, this.held.length)
    this.held = next
    this.length += mono.length
    this.look(this.length)
  }

  /** Rows as far as the sound reaches. */
  private look(to: number): void {
    while (this.centre(this.rows.length) + this.size / 2 <= to) this.rows.push(this.row(this.rows.length))
    // The next row may begin only after what came.
    const next = Math.min(this.length, this.centre(this.rows.length) - this.size / 2)
    const first = Math.max(this.from, next)
    this.held = this.held.slice(first - this.from)
    this.from = first
  }

  private row(r: number): Float32Array {
    const { size, input, complex } = this
    const first = this.centre(r) - size / 2 - this.from
    for (let i = 0; i < size; i++)
      input[i] = (this.held[first + i] ?? 0) * (0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / size))
    this.fft.realTransform(complex, input)
    const row = new Float32Array(12)
    for (const [i, c] of this.bins)
      row[c] =
        (row[c] as number) + Math.sqrt(Math.hypot(complex[2 * i] as number, complex[2 * i + 1] as number))
    const mean = row.reduce((a, x) => a + x, 0) / 12
    const length = Math.sqrt(row.reduce((a, x) => a + (x - mean) ** 2, 0))
    // What is as strong in all pitch classes, a drum or a hiss, has no harmony.
    if (!(length > 0.06 * mean && mean > 1e-3)) return new Float32Array(12)
    return row.map((x) => (x - mean) / length)
  }

  finish(): Float32Array {
    const rows = Math.floor((this.length / this.sampleRate) * CHROMA_RATE)
    while (this.rows.length < rows) this.rows.push(this.row(this.rows.length))
    const out = new Float32Array(rows * 12)
    for (let r = 0; r < rows; r++) out.set(this.rows[r] as Float32Array, r * 12)
    return out
  }
}

/** Each band less its mean over some seconds, in units of its spread there; where next to nothing begins, nothing. */
function levelled(frames: number, data: Float32Array): Float32Array {
  const half = Math.round((LEVELLED * TRACE_RATE) / 2)
  const out = new Float32Array(data.length)
  for (let b = 0; b < BANDS; b++) {
    let [sum, square, n] = [0, 0, 0]
    const take = (f: number, sign: 1 | -1) => {
      if (f < 0 || f >= frames) return
      const x = data[f * BANDS + b] as number
      sum += sign * x
      square += sign * x * x
      n += sign
    }
    for (let f = 0; f < half; f++) take(f, 1)
    for (let f = 0; f < frames; f++) {
      take(f + half, 1)
      take(f - half - 1, -1)
      const mean = sum / n
      const spread = Math.sqrt(Math.max(0, square / n - mean * mean))
      out[f * BANDS + b] = ((data[f * BANDS + b] as number) - mean) / (spread + 0.02)
    }
  }
  return out
}

/** Bytes before the values: rate, bands, frames. */
const HEAD = 6

/** A trace in half a byte a value, its harmony in one: its rate and bands first, so that another form is known as such. */
export function packTrace({ frames, data, chroma }: Trace): Uint8Array {
  const half = Math.ceil((frames * BANDS) / 2)
  const out = new Uint8Array(HEAD + half + chroma.length)
  new DataView(out.buffer).setUint32(2, frames)
  out[0] = TRACE_RATE
  out[1] = BANDS
  for (let i = 0; i < frames * BANDS; i++) {
    const q = Math.max(0, Math.min(STEPS - 1, Math.round(((data[i] as number) - LOWEST) / STEP)))
    out[HEAD + (i >> 1)] = (out[HEAD + (i >> 1)] as number) | (i % 2 ? q << 4 : q)
  }
  chroma.forEach((x, i) => {
    out[HEAD + half + i] = Math.round(127 * x) + 128
  })
  return out
}

/** A packed trace; null where it is of another form. */
export function unpackTrace(bytes: Uint8Array): Trace | null {
  if (bytes[0] !== TRACE_RATE || bytes[1] !== BANDS) return null
  if (bytes.length < HEAD) return null
  const frames = new DataView(bytes.buffer, bytes.byteOffset).getUint32(2)
  const half = Math.ceil((frames * BANDS) / 2)
  if (bytes.length < HEAD + half || (bytes.length - HEAD - half) % 12) return null
  const data = new Float32Array(frames * BANDS)
  for (let i = 0; i < data.length; i++) {
    const two = bytes[HEAD + (i >> 1)] as number
    data[i] = LOWEST + STEP * (i % 2 ? two >> 4 : two & 15)
  }
  const chroma = Float32Array.from(bytes.subarray(HEAD + half), (x) => (x - 128) / 127)
  return { frames, data, chroma }
}
