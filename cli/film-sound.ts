import * as bunny from 'mediabunny'
import { OpusDecoder } from 'opus-decoder'
import { toMono } from '../src/core/formats/wav'
import type { Seconds } from '../src/core/time'
import { decoded } from '../src/decode/decode'
import { kindOf, LOOKED_THROUGH } from '../src/decode/kinds'
import { placeOf, withSource } from './source'

/** A film may be this large, and so long. */
const [LARGEST, LONGEST]: [number, Seconds] = [4 * 1024 ** 3, 3 * 3600]

export interface Mono {
  rate: number
  samples: Float32Array
}

/** Samples that come piece by piece, as one. @throws Error where there are none, or too many */
async function collected(pieces: AsyncIterable<Mono>): Promise<Mono> {
  const list: Float32Array[] = []
  let [rate, length] = [0, 0]
  for await (const piece of pieces) {
    rate ||= piece.rate
    length += piece.samples.length
    if (length > LONGEST * rate) throw new Error(`longer than ${LONGEST / 3600} hours`)
    list.push(piece.samples)
  }
  if (!length) throw new Error('no sound in this file')
  const samples = new Float32Array(length)
  let at = 0
  for (const piece of list) {
    samples.set(piece, at)
    at += piece.length
  }
  return { rate, samples }
}

/** Frames of MP3 out of a film, one after another, are a file of it. */
async function* soundOfMp3(track: bunny.InputAudioTrack): AsyncGenerator<Mono> {
  const frames: Uint8Array[] = []
  for await (const packet of new bunny.EncodedPacketSink(track).packets()) frames.push(packet.data)
  const all = Buffer.concat(frames)
  const source = {
    size: all.length,
    read: async (from: number, length: number) => all.subarray(from, from + length),
  }
  for await (const pcm of decoded(source)) yield { rate: pcm.sampleRate, samples: toMono(pcm) }
}

/** The sound of a film (MP4, MOV, WebM, Matroska) as far as it can be decoded without a browser. */
async function* soundOfFilm(file: string): AsyncGenerator<Mono> {
  const input = new bunny.Input({
    source: new bunny.FilePathSource(placeOf(file)),
    formats: bunny.ALL_FORMATS,
  })
  const track = await input.getPrimaryAudioTrack()
  if (!track) throw new Error('no sound in this film')
  const codec = await track.getCodec()
  if (codec === 'mp3') return yield* soundOfMp3(track)
  if (codec !== 'opus')
    throw new Error(
      `its sound is ${codec?.toUpperCase() ?? 'of a kind nobody knows'}, which is not decoded here: save the sound as WAV, MP3, FLAC or Opus and give that`,
    )
  const decoder = new OpusDecoder()
  await decoder.ready
  try {
    for await (const packet of new bunny.EncodedPacketSink(track).packets()) {
      const { channelData, sampleRate } = decoder.decodeFrame(packet.data)
      yield { rate: sampleRate, samples: toMono({ sampleRate, channels: channelData }) }
    }
  } finally {
    decoder.free()
  }
}

/** The sound of a file, whichever it is: a song's, or a film's. @throws Error in one sentence */
export function soundOf(file: string): Promise<Mono> {
  return withSource(file, LARGEST, async (source) => {
    const kind = kindOf(await source.read(0, LOOKED_THROUGH))
    if (kind === 'mp4' || kind === 'webm') return collected(soundOfFilm(file))
    async function* pieces(): AsyncGenerator<Mono> {
      for await (const pcm of decoded(source)) yield { rate: pcm.sampleRate, samples: toMono(pcm) }
    }
    return collected(pieces())
  })
}
