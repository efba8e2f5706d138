import { isLongFloat, type Pcm, readWav } from '@/core/formats/wav'

/** All songs are decoded to this rate, whatever the device plays at. */
export const SONG_RATE = 44_100

/** What went wrong with a song, in words for people. */
export class SongProblem extends Error {}

/** Progress is told in steps of this share. */
const STEP = 0.04

/** Fetches the bytes of a song. @param progress share received, 0..1 */
export async function fetchSong(
  url: string,
  progress: (share: number) => void,
  signal?: AbortSignal,
): Promise<ArrayBuffer> {
  const response = await fetch(url, { signal: signal ?? null })
  if (!response.ok || !response.body) {
    const said = (await response.json().catch(() => null)) as { error?: { message?: string } } | null
    throw new SongProblem(said?.error?.message ?? 'The song could not be fetched from the server.')
  }
  const size = Number(response.headers.get('x-size') ?? 0)
  const out = new Uint8Array(size)
  const reader = response.body.getReader()
  let at = 0
  let told = 0
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    if (at + part.value.length > size)
      throw new SongProblem('The song on the server changed while it was read. Load the page again.')
    out.set(part.value, at)
    at += part.value.length
    // A song comes in hundreds of pieces; nobody needs to see each.
    if (at < size && at / size < told + STEP) continue
    told = at / size
    progress(told)
  }
  if (at < size) throw new SongProblem('The connection broke while the song was read. Load the page again.')
  return out.buffer
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
