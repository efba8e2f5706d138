import type { Pcm } from '@/core/formats/wav'
import { readWav } from '@/core/formats/wav'
import { firstFrame, id3Length, type Kind, kindOf, LOOKED_THROUGH } from './kinds'

interface Decoder {
  ready: Promise<void>
  decode: (bytes: Uint8Array) => Decoded | Promise<Decoded>
  free: () => void
}
interface Decoded {
  channelData: Float32Array[]
  sampleRate: number
}

type Packed = 'mp3' | 'flac' | 'vorbis' | 'opus'
const isPacked = (kind: Kind): kind is Packed => ['mp3', 'flac', 'vorbis', 'opus'].includes(kind)

/** @param whole a file is given all at once; piece by piece otherwise */
async function decoderFor(kind: Packed, whole: boolean): Promise<Decoder> {
  if (kind === 'mp3') return new (await import('mpg123-decoder')).MPEGDecoder() as unknown as Decoder
  const d =
    kind === 'flac'
      ? new (await import('@wasm-audio-decoders/flac')).FLACDecoder()
      : kind === 'vorbis'
        ? new (await import('@wasm-audio-decoders/ogg-vorbis')).OggVorbisDecoder()
        : new (await import('ogg-opus-decoder')).OggOpusDecoder()
  return {
    ready: d.ready,
    decode: (b) => (whole ? d.decodeFile(b) : d.decode(b)) as Promise<Decoded>,
    free: () => d.free(),
  }
}

/** Decoders tell of what is broken on the console, each frame of it: what there is to say is said once. */
async function quietly<T>(work: () => Promise<T>): Promise<T> {
  const { error, warn, log } = console
  Object.assign(console, { error: () => {}, warn: () => {}, log: () => {} })
  try {
    return await work()
  } finally {
    Object.assign(console, { error, warn, log })
  }
}

/** The file from where its sound begins, an ID3 tag and what else stands before an MP3 taken away. */
function soundOf(bytes: Uint8Array): { kind: Kind | null; from: number } {
  let from = 0
  // Some programs write a second tag before the first.
  for (let more = id3Length(bytes); more > 0; more = id3Length(bytes.subarray(from))) from += more
  const head = bytes.subarray(from, from + LOOKED_THROUGH)
  const kind = kindOf(head)
  return { kind, from: kind === 'mp3' ? from + Math.max(0, firstFrame(head)) : from }
}

/**
 * Decodes a whole sound file.
 * @throws Error with one sentence for people when it is empty, unknown or broken
 */
export async function decode(bytes: Uint8Array): Promise<Pcm> {
  if (bytes.length === 0) throw new Error('the file is empty')
  const { kind, from } = soundOf(bytes)
  if (kind === 'wav') return readWav(bytes.subarray(from))
  if (!kind || !isPacked(kind)) throw new Error('not a WAV, MP3, FLAC, Ogg Vorbis or Opus file')
  return quietly(async () => {
    const decoder = await decoderFor(kind, true)
    await decoder.ready
    try {
      const { channelData, sampleRate } = await decoder.decode(bytes.subarray(from))
      if (!channelData[0]?.length) throw new Error(`no sound could be read from this ${kind} file`)
      return { sampleRate, channels: channelData }
    } finally {
      decoder.free()
    }
  })
}

/**
 * True where sound comes out of the beginning of a file.
 * @param pieces the file from where its sound begins, piece by piece; no more are taken than are needed
 */
export function hasSound(kind: Kind, pieces: AsyncIterable<Uint8Array>): Promise<boolean> {
  if (!isPacked(kind)) return Promise.resolve(true)
  return quietly(async () => {
    const decoder = await decoderFor(kind, false)
    await decoder.ready
    try {
      for await (const piece of pieces) {
        const { channelData } = await decoder.decode(piece)
        if (channelData[0]?.length) return true
      }
      return false
    } catch {
      return false
    } finally {
      decoder.free()
    }
  })
}
