import type { Pcm } from '../src/core/formats/wav'
import { readWav } from '../src/core/formats/wav'

/** The kinds of file the command line reads; AAC is left to the browser. */
type Kind = 'wav' | 'mp3' | 'flac' | 'vorbis' | 'opus'

/** What a file is by its first bytes, never by its name. */
function kindOf(bytes: Uint8Array): Kind | null {
  const text = (from: number, n: number) => String.fromCharCode(...bytes.subarray(from, from + n))
  if (text(0, 4) === 'RIFF' && text(8, 4) === 'WAVE') return 'wav'
  if (text(0, 4) === 'fLaC') return 'flac'
  if (text(0, 4) === 'OggS') {
    const head = text(0, 200)
    if (head.includes('OpusHead')) return 'opus'
    if (head.includes('vorbis')) return 'vorbis'
    return null
  }
  if (text(0, 3) === 'ID3') return 'mp3'
  // A bare MPEG audio frame: eleven set bits, layer III (ISO/IEC 11172-3).
  if (bytes[0] === 0xff && ((bytes[1] ?? 0) & 0xe6) === 0xe2) return 'mp3'
  return null
}

interface Decoder {
  ready: Promise<void>
  decode: (bytes: Uint8Array) => Decoded | Promise<Decoded>
  free: () => void
}
interface Decoded {
  channelData: Float32Array[]
  sampleRate: number
}

async function decoderFor(kind: Exclude<Kind, 'wav'>): Promise<Decoder> {
  if (kind === 'mp3') return new (await import('mpg123-decoder')).MPEGDecoder() as unknown as Decoder
  if (kind === 'flac') {
    const d = new (await import('@wasm-audio-decoders/flac')).FLACDecoder()
    return { ready: d.ready, decode: (b) => d.decodeFile(b), free: () => d.free() }
  }
  if (kind === 'vorbis') {
    const d = new (await import('@wasm-audio-decoders/ogg-vorbis')).OggVorbisDecoder()
    return { ready: d.ready, decode: (b) => d.decodeFile(b), free: () => d.free() }
  }
  const d = new (await import('ogg-opus-decoder')).OggOpusDecoder()
  return { ready: d.ready, decode: (b) => d.decodeFile(b), free: () => d.free() }
}

/**
 * Decodes a whole sound file.
 * @throws Error with one sentence for people when it is empty, unknown or broken
 */
export async function decode(bytes: Uint8Array): Promise<Pcm> {
  if (bytes.length === 0) throw new Error('the file is empty')
  const kind = kindOf(bytes)
  if (!kind) throw new Error('not a WAV, MP3, FLAC, Ogg Vorbis or Opus file')
  if (kind === 'wav') return readWav(bytes)
  const decoder = await decoderFor(kind)
  await decoder.ready
  try {
    const { channelData, sampleRate } = await decoder.decode(bytes)
    if (!channelData[0]?.length) throw new Error(`no sound could be read from this ${kind} file`)
    return { sampleRate, channels: channelData }
  } finally {
    decoder.free()
  }
}
