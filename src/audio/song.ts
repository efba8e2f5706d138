import * as v from 'valibot'
import { isLongFloat, type Pcm, readWav } from '@/core/formats/wav'

/** All songs are decoded to this rate, whatever the device plays at. */
export const SONG_RATE = 44_100

/** What went wrong with a song, in words for people. */
export class SongProblem extends Error {}

/** Progress is told in steps of this share. */
const STEP = 0.04

/** Fetches the bytes of a song. @param progress share received, 0..1 @throws SongProblem */
export function fetchSong(url: string, progress: (share: number) => void): Promise<ArrayBuffer> {
  return new Promise((resolve, reject) => {
    // fetch() hands on hundreds of pieces, which the page would have to put together.
    const request = new XMLHttpRequest()
    request.open('GET', url)
    request.responseType = 'arraybuffer'
    let told = 0
    request.onprogress = ({ loaded }) => {
      const share = loaded / sizeOf(request)
      if (!(share >= told + STEP && share < 1)) return
      told = share
      progress(told)
    }
    request.onload = () => {
      const problem = problemOf(request)
      if (problem) return reject(new SongProblem(problem))
      progress(1)
      resolve(request.response as ArrayBuffer)
    }
    request.onerror = () => reject(new SongProblem(BROKEN))
    request.send()
  })
}

const BROKEN = 'The connection broke while the song was read. Load the page again.'

const sizeOf = (answer: XMLHttpRequest) => Number(answer.getResponseHeader('x-size') ?? 0)

const Refusal = v.pipe(v.string(), v.parseJson(), v.object({ error: v.object({ message: v.string() }) }))

/** What the server says of a request it refused; null where it is not the server that answers. */
function saidIn(bytes: ArrayBuffer): string | null {
  const said = v.safeParse(Refusal, new TextDecoder().decode(bytes))
  return said.success ? said.output.error.message : null
}

/** What is wrong with what came, in words; null where it is the song, whole. */
function problemOf(answer: XMLHttpRequest): string | null {
  const bytes = answer.response as ArrayBuffer
  if (answer.status >= 300) return saidIn(bytes) ?? 'The song could not be fetched from the server.'
  if (bytes.byteLength > sizeOf(answer))
    return 'The song on the server changed while it was read. Load the page again.'
  return bytes.byteLength < sizeOf(answer) ? BROKEN : null
}

/** Decodes a song with the browser's own decoders. */
export async function decodeSong(bytes: ArrayBuffer): Promise<AudioBuffer> {
  // Browsers read no WAV of 64-bit samples, which some editors write.
  if (isLongFloat(new Uint8Array(bytes))) return resampledTo(readWav(new Uint8Array(bytes)))
  const context = new OfflineAudioContext(2, 1, SONG_RATE)
  try {
    return await context.decodeAudioData(bytes)
  } catch {
    throw new SongProblem(
      'This browser cannot read the sound in this file. Save it as WAV, MP3 or FLAC and drop it again.',
    )
  }
}

/** Sound of any rate as a buffer of `SONG_RATE`. */
async function resampledTo({ sampleRate, channels }: Pcm): Promise<AudioBuffer> {
  const length = channels[0]?.length ?? 0
  const context = new OfflineAudioContext(
    Math.min(2, channels.length),
    Math.max(1, Math.ceil((length / sampleRate) * SONG_RATE)),
    SONG_RATE,
  )
  const source = context.createBufferSource()
  const buffer = context.createBuffer(channels.length, length, sampleRate)
  for (const [c, samples] of channels.entries()) buffer.getChannelData(c).set(samples)
  source.buffer = buffer
  source.connect(context.destination)
  source.start()
  return context.startRendering()
}

/** Copies of the channels, for a worker to keep. */
export function channelsOf(buffer: AudioBuffer): Float32Array<ArrayBuffer>[] {
  return Array.from({ length: buffer.numberOfChannels }, (_, c) => {
    const copy = new Float32Array(buffer.length)
    buffer.copyFromChannel(copy, c)
    return copy
  })
}
