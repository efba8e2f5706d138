/** Sound as numbers: one array a channel, -1..1. */
export interface Pcm {
  sampleRate: number
  channels: Float32Array[]
}

const PCM = 1
const FLOAT = 3
/** Samples a second: below them nothing is heard, above them nobody records. */
const RATES = [1000, 768_000] as const
const MOST_CHANNELS = 64
const EXTENSIBLE = 0xfffe

/**
 * Reads a RIFF/WAVE file (IBM & Microsoft 1991, "Multimedia Programming Interface and Data Specifications 1.0"):
 * integer PCM of 8, 16, 24 or 32 bits and float of 32 or 64 bits, any channel count. A data chunk cut short is
 * read as far as it goes.
 * @throws Error with a sentence for people when the file is not a WAV or holds no sound
 */
export function readWav(bytes: Uint8Array): Pcm {
  const { body, size, format } = soundIn(bytes)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  return samples(view, body, Math.min(size, bytes.length - body), format)
}

/** How the sound of a WAV file is written. */
export interface WavFormat {
  kind: number
  channels: number
  rate: number
  bits: number
}

/**
 * Where the sound of a WAV file lies, by its beginning.
 * @returns the place of its first byte, how many there should be, and how they are written
 * @throws Error with a sentence for people when the file is not a WAV, or its sound does not begin in what is there of it
 */
export function soundIn(bytes: Uint8Array): { body: number; size: number; format: WavFormat } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const tag = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4))
  if (bytes.length < 12 || tag(0) !== 'RIFF' || tag(8) !== 'WAVE') throw new Error('This is not a WAV file.')
  let format: WavFormat | null = null
  for (let at = 12; at + 8 <= bytes.length; ) {
    const name = tag(at)
    const size = view.getUint32(at + 4, true)
    const body = at + 8
    if (name === 'fmt ' && body + 16 <= bytes.length) {
      let kind = view.getUint16(body, true)
      if (kind === EXTENSIBLE && body + 26 <= bytes.length) kind = view.getUint16(body + 24, true)
      format = {
        kind,
        channels: view.getUint16(body + 2, true),
        rate: view.getUint32(body + 4, true),
        bits: view.getUint16(body + 14, true),
      }
    }
    if (name === 'data') {
      if (!format) throw new Error('This WAV file has no format chunk before its sound.')
      return { body, size, format }
    }
    at = body + size + (size % 2)
  }
  throw new Error('This WAV file holds no sound.')
}

/** A part of the sound of a WAV file. @param bytes whole frames of it @throws Error where it is written in a way that is not read */
export function readFrames(bytes: Uint8Array, format: WavFormat): Pcm {
  return samples(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength), 0, bytes.length, format)
}

function samples(view: DataView, from: number, size: number, f: WavFormat): Pcm {
  const read = sampleReader(view, f.kind, f.bits)
  if (f.rate < RATES[0] || f.rate > RATES[1])
    throw new Error(`This WAV file says it has ${f.rate} samples a second, which no recording has.`)
  if (!read || f.channels < 1 || f.channels > MOST_CHANNELS)
    throw new Error(`This WAV file uses an encoding Azalea does not read (format ${f.kind}, ${f.bits} bits).`)
  const width = f.bits / 8
  const frames = Math.floor(size / (width * f.channels))
  if (frames === 0) throw new Error('This WAV file holds no sound.')
  const channels = Array.from({ length: f.channels }, () => new Float32Array(frames))
  for (let c = 0; c < f.channels; c++) {
    const out = channels[c] as Float32Array
    for (let i = 0; i < frames; i++) out[i] = read(from + (i * f.channels + c) * width)
  }
  return { sampleRate: f.rate, channels }
}

function sampleReader(view: DataView, kind: number, bits: number): ((at: number) => number) | null {
  if (kind === FLOAT && bits === 32) return (at) => view.getFloat32(at, true)
  if (kind === FLOAT && bits === 64) return (at) => view.getFloat64(at, true)
  if (kind !== PCM) return null
  if (bits === 8) return (at) => (view.getUint8(at) - 128) / 128
  if (bits === 16) return (at) => view.getInt16(at, true) / 32_768
  if (bits === 24)
    return (at) =>
      ((view.getUint8(at) << 8) | (view.getUint8(at + 1) << 16) | (view.getUint8(at + 2) << 24)) /
      2_147_483_648
  if (bits === 32) return (at) => view.getInt32(at, true) / 2_147_483_648
  return null
}

const even = (size: number) => size + (size % 2)

/** True for a WAV file of 64-bit float samples. */
export function isLongFloat(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const tag = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4))
  if (bytes.length < 12 || tag(0) !== 'RIFF' || tag(8) !== 'WAVE') return false
  for (let at = 12; at + 24 <= bytes.length; at += 8 + even(view.getUint32(at + 4, true))) {
    if (tag(at) !== 'fmt ') continue
    const kind = view.getUint16(at + 8, true)
    const longest = view.getUint16(at + 22, true) === 64
    return longest && (kind === FLOAT || kind === EXTENSIBLE)
  }
  return false
}

/** Writes 16-bit PCM WAV. Samples outside -1..1 are clipped. */
export function writeWav({ sampleRate, channels }: Pcm): Uint8Array {
  const n = channels[0]?.length ?? 0
  const block = channels.length * 2
  const out = new Uint8Array(44 + n * block)
  const view = new DataView(out.buffer)
  const text = (at: number, s: string) => {
    for (let i = 0; i < s.length; i++) view.setUint8(at + i, s.charCodeAt(i))
  }
  text(0, 'RIFF')
  view.setUint32(4, 36 + n * block, true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, PCM, true)
  view.setUint16(22, channels.length, true)
  view.setUint32(24, sampleRate, true)
  view.setUint32(28, sampleRate * block, true)
  view.setUint16(32, block, true)
  view.setUint16(34, 16, true)
  text(36, 'data')
  view.setUint32(40, n * block, true)
  channels.forEach((channel, c) => {
    for (let i = 0; i < n; i++) {
      const s = Math.max(-1, Math.min(1, channel[i] as number))
      view.setInt16(44 + i * block + c * 2, Math.round(s < 0 ? s * 32_768 : s * 32_767), true)
    }
  })
  return out
}

/** No recording is louder, and nothing that is no number is this loud. */
const LOUDEST = 64

/** One channel: the mean of all. */
export function toMono({ channels }: Pcm): Float32Array {
  const [first] = channels
  if (!first) return new Float32Array(0)
  const out = new Float32Array(first.length)
  for (const channel of channels)
    for (let i = 0; i < out.length; i++) {
      const x = channel[i] as number
      // What a broken file says beyond any sound is silence: one such sample would spoil all that is heard.
      if (Math.abs(x) <= LOUDEST) out[i] = (out[i] as number) + x / channels.length
    }
  return out
}
