/* The sound of a film, or of any sound file, where there is no browser. */
import {
  ADTS,
  CustomSource,
  EncodedPacketSink,
  Input,
  type InputAudioTrack,
  MATROSKA,
  MP4,
  QTFF,
  WEBM,
} from 'mediabunny'
import { type Pcm, toMono } from '@/core/formats/wav'
import type { SoundPiece } from '@/core/match'
import { decodedAac, NotDecoded } from './aac'
import { decoded, type Source } from './decode'
import { kindOf, LOOKED_THROUGH } from './kinds'

/** A piece of sound, and how much of the file is read by then, 0..1. */
export interface ReadPiece extends SoundPiece {
  share: number
}

const FORMATS = [MP4, QTFF, WEBM, MATROSKA, ADTS]

/** Frames of a track, and where in the film the first one begins. */
async function framesOf(track: InputAudioTrack) {
  const sink = new EncodedPacketSink(track)
  const first = await sink.getFirstPacket()
  async function* frames() {
    for await (const packet of sink.packets(first ?? undefined)) yield packet
  }
  async function* bytes() {
    for await (const { data } of frames()) yield data
  }
  return { begin: first?.timestamp ?? 0, frames, bytes }
}

/** Pieces of sound that follow one another without a hole. */
async function* following(begin: number, pieces: AsyncIterable<Pcm>): AsyncGenerator<SoundPiece> {
  let samples = 0
  for await (const pcm of pieces) {
    const mono = toMono(pcm)
    yield { at: begin + samples / pcm.sampleRate, rate: pcm.sampleRate, samples: mono }
    samples += mono.length
  }
}

/** Frames of MP3 out of a film, one after another, are a file of it. */
async function* soundOfMp3(bytes: AsyncIterable<Uint8Array>): AsyncGenerator<Pcm> {
  const frames: Uint8Array[] = []
  for await (const frame of bytes) frames.push(frame)
  const all = Buffer.concat(frames)
  yield* decoded({ size: all.length, read: async (from, length) => all.subarray(from, from + length) })
}

async function* soundOfOpus(track: InputAudioTrack): AsyncGenerator<SoundPiece> {
  const decoder = new (await import('opus-decoder')).OpusDecoder()
  await decoder.ready
  try {
    for await (const { data, timestamp } of (await framesOf(track)).frames()) {
      const { channelData, sampleRate } = decoder.decodeFrame(data)
      yield { at: timestamp, rate: sampleRate, samples: toMono({ sampleRate, channels: channelData }) }
    }
  } finally {
    decoder.free()
  }
}

async function* soundOfTrack(track: InputAudioTrack): AsyncGenerator<SoundPiece> {
  const codec = await track.getCodec()
  if (codec === 'opus') return yield* soundOfOpus(track)
  if (codec !== 'mp3' && codec !== 'aac')
    throw new NotDecoded(
      `its sound is ${codec?.toUpperCase() ?? 'of a kind nobody knows'}, which is not decoded here`,
    )
  const { begin, bytes } = await framesOf(track)
  if (codec === 'mp3') return yield* following(begin, soundOfMp3(bytes()))
  const description = (await track.getDecoderConfig())?.description
  yield* following(begin, decodedAac(bytes(), description ? bytesIn(description) : null))
}

const bytesIn = (x: AllowSharedBufferSource): Uint8Array =>
  ArrayBuffer.isView(x) ? new Uint8Array(x.buffer, x.byteOffset, x.byteLength) : new Uint8Array(x)

/** The sound of a film (MP4, MOV, WebM, Matroska), or of a stream of AAC, as far as it can be decoded without a browser. */
async function* soundOfFilm(source: Source): AsyncGenerator<ReadPiece> {
  const input = new Input({
    source: new CustomSource({
      getSize: () => source.size,
      read: (from, to) => source.read(from, to - from),
      prefetchProfile: 'fileSystem',
    }),
    formats: FORMATS,
  })
  try {
    const track = await input.getPrimaryAudioTrack()
    if (!track) throw new NotDecoded('no sound in this file')
    const seconds = await track.computeDuration()
    for await (const piece of soundOfTrack(track)) {
      // The last frame is filled up: what lies over the end is none of the sound.
      const samples = piece.samples.subarray(0, Math.max(0, Math.round((seconds - piece.at) * piece.rate)))
      const end = piece.at + samples.length / piece.rate
      yield { ...piece, samples, share: Math.min(1, end / seconds) }
    }
  } catch (error) {
    // What its reader says of a broken file is not for people.
    throw error instanceof NotDecoded ? error : new NotDecoded('this file is broken', { cause: error })
  } finally {
    input.dispose()
  }
}

/**
 * The sound of a file, whichever it is, piece by piece: a song's, or a film's.
 * @throws Error with one sentence for people when it is empty, unknown, broken, or not decoded without a browser
 */
export async function* soundIn(source: Source): AsyncGenerator<ReadPiece> {
  const kind = source.size ? kindOf(await source.read(0, LOOKED_THROUGH)) : null
  if (kind === 'mp4' || kind === 'webm' || kind === 'aac') return yield* soundOfFilm(source)
  let furthest = 0
  const followed: Source = {
    size: source.size,
    read: (from, length) => {
      furthest = Math.max(furthest, from)
      return source.read(from, length)
    },
  }
  for await (const piece of following(0, decoded(followed))) yield { ...piece, share: furthest / source.size }
}
