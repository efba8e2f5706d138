import type { Pcm } from '@/core/formats/wav'
import { readFrames, soundIn } from '@/core/formats/wav'
import { firstFrame, id3Length, type Kind, kindOf, LOOKED_THROUGH } from './kinds'

interface Decoder {
  ready: Promise<void>
  decode: (bytes: Uint8Array) => Decoded | Promise<Decoded>
  /** What is left when nothing more comes. */
  flush: () => Promise<Decoded | null>
  free: () => void
}
interface Decoded {
  channelData: Float32Array[]
  sampleRate: number
}

type Packed = 'mp3' | 'flac' | 'vorbis' | 'opus'
const isPacked = (kind: Kind): kind is Packed => ['mp3', 'flac', 'vorbis', 'opus'].includes(kind)

async function decoderFor(kind: Packed): Promise<Decoder> {
  if (kind === 'mp3') {
    const d = new (await import('mpg123-decoder')).MPEGDecoder()
    return {
      ready: d.ready,
      decode: (b) => d.decode(b),
      flush: async () => null,
      free: () => d.free(),
    }
  }
  const d =
    kind === 'flac'
      ? new (await import('@wasm-audio-decoders/flac')).FLACDecoder()
      : kind === 'vorbis'
        ? new (await import('@wasm-audio-decoders/ogg-vorbis')).OggVorbisDecoder()
        : new (await import('ogg-opus-decoder')).OggOpusDecoder()
  return {
    ready: d.ready,
    decode: (b) => d.decode(b) as Promise<Decoded>,
    flush: () => d.flush() as Promise<Decoded>,
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

/** A file that is read piece by piece. */
export interface Source {
  size: number
  /** Bytes from a place on, fewer at its end. */
  read: (from: number, length: number) => Promise<Uint8Array>
}

/** The file from where its sound begins, an ID3 tag and what else stands before an MP3 taken away. */
async function soundOf(source: Source): Promise<{ kind: Kind | null; from: number; head: Uint8Array }> {
  let from = 0
  let head = await source.read(0, LOOKED_THROUGH)
  // Some programs write a second tag before the first.
  for (let more = id3Length(head); more > 0; more = id3Length(head)) {
    from += more
    head = await source.read(from, LOOKED_THROUGH)
  }
  const kind = kindOf(head)
  return { kind, head, from: kind === 'mp3' ? from + Math.max(0, firstFrame(head)) : from }
}

/** Bytes that are decoded at one time. */
const PIECE = 256 * 1024

async function* piecesOf(source: Source, from: number, to: number, length: number) {
  for (let at = from; at < to; at += length) {
    const piece = await source.read(at, Math.min(length, to - at))
    if (piece.length) yield piece
  }
}

/** Where its sound lies; whatever is told before it. */
async function wavSound(source: Source, from: number, head: Uint8Array): Promise<ReturnType<typeof soundIn>> {
  try {
    return soundIn(head)
  } catch (error) {
    if (head.length >= source.size - from) throw error
    return soundIn(await source.read(from, source.size - from))
  }
}

/** The sound of a WAV file, piece by piece. */
async function* wavPieces(source: Source, from: number, head: Uint8Array, most: number): AsyncGenerator<Pcm> {
  const { body, size, format } = await wavSound(source, from, head)
  const frame = Math.max(1, (format.bits / 8) * format.channels)
  const first = from + body
  const frames = Math.floor(Math.min(size, source.size - first) / frame)
  if (frames <= 0) throw new Error('This WAV file holds no sound.')
  const length = Math.ceil(most / frame) * frame
  for await (const piece of piecesOf(source, first, first + frames * frame, length))
    yield readFrames(piece, format)
}

/** The sound of a packed file, piece by piece. */
async function* unpackedPieces(
  source: Source,
  kind: Packed,
  from: number,
  most: number,
): AsyncGenerator<Pcm> {
  const decoder = await quietly(async () => {
    const d = await decoderFor(kind)
    await d.ready
    return d
  })
  try {
    for await (const piece of piecesOf(source, from, source.size, most)) {
      const { channelData, sampleRate } = await quietly(async () => decoder.decode(piece))
      if (channelData[0]?.length) yield { sampleRate, channels: channelData }
    }
    const rest = await quietly(async () => decoder.flush())
    if (rest?.channelData[0]?.length) yield { sampleRate: rest.sampleRate, channels: rest.channelData }
  } finally {
    decoder.free()
  }
}

/**
 * Decodes a sound file piece by piece.
 * @param piece bytes that are decoded at one time
 * @throws Error with one sentence for people when it is empty, unknown or broken
 */
export async function* decoded(source: Source, piece = PIECE): AsyncGenerator<Pcm> {
  if (source.size === 0) throw new Error('the file is empty')
  const { kind, from, head } = await soundOf(source)
  if (kind === 'wav') {
    yield* wavPieces(source, from, head, piece)
    return
  }
  if (!kind || !isPacked(kind)) throw new Error('not a WAV, MP3, FLAC, Ogg Vorbis or Opus file')
  let came = false
  for await (const pcm of unpackedPieces(source, kind, from, piece)) {
    came = true
    yield pcm
  }
  if (!came) throw new Error(`no sound could be read from this ${kind} file`)
}

/**
 * True where sound comes out of the beginning of a file.
 * @param pieces the file from where its sound begins, piece by piece; no more are taken than are needed
 */
export function hasSound(kind: Kind, pieces: AsyncIterable<Uint8Array>): Promise<boolean> {
  if (!isPacked(kind)) return Promise.resolve(true)
  return quietly(async () => {
    const decoder = await decoderFor(kind)
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
