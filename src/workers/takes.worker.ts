/* Finds where in a film a song plays, off the main thread: of the film only its sound is fetched and decoded, piece by piece.
   Cancelling is ending the worker. */
import { type AudioSample, AudioSampleSink, UrlSource } from 'mediabunny'
import { wordsOf } from '@/core/formats/said'
import { findTakesAtAnySpeed, type Take, type Trace, traceLine, unpackTrace } from '@/core/match'
import { openFilm } from '../decode/film'

/** What the page sends. */
export interface TakesRequest {
  /** Where the film is, whole. */
  url: string
  /** The packed trace of the song that is looked for. */
  song: Uint8Array
}

/** What the page gets back, in this order: any number of progress messages, then one of the others. */
export type TakesReply =
  | { kind: 'progress'; share: number }
  | { kind: 'done'; takes: Take[] }
  | { kind: 'failed'; message: string }

const say = (reply: TakesReply) => self.postMessage(reply)

/** Of the whole work, listening takes so much. */
const LISTENING = 0.45

/** All channels of a piece as one. */
function monoOf(sample: AudioSample): Float32Array {
  const { numberOfFrames, numberOfChannels } = sample
  const mono = new Float32Array(numberOfFrames)
  const plane = new Float32Array(numberOfFrames)
  for (let c = 0; c < numberOfChannels; c++) {
    sample.copyTo(plane, { planeIndex: c, format: 'f32-planar' })
    for (let i = 0; i < numberOfFrames; i++)
      mono[i] = (mono[i] as number) + (plane[i] as number) / numberOfChannels
  }
  return mono
}

/** How a film sounds, from its very beginning. @throws Error in words for people */
async function traceOfFilm(url: string, progress: (share: number) => void): Promise<Trace> {
  const input = openFilm(new UrlSource(url))
  try {
    const track = await input.getPrimaryAudioTrack()
    if (!track) throw new Error('There is no sound in this film.')
    if (!(await track.canDecode()))
      throw new Error(
        `This browser cannot hear this film: its sound is ${(await track.getCodec())?.toUpperCase() ?? 'of an unknown kind'}.`,
      )
    const seconds = await track.computeDuration()
    let made: ReturnType<typeof traceLine> | null = null
    for await (const sample of new AudioSampleSink(track).samples()) {
      made ??= traceLine(sample.sampleRate)
      made.line.lay({ at: sample.timestamp, samples: monoOf(sample) })
      progress(Math.min(1, sample.timestamp / seconds))
      sample.close()
    }
    if (!made) throw new Error('There is no sound in this film.')
    return made.maker.finish()
  } finally {
    input.dispose()
  }
}

/** Told so often that a bar moves evenly. */
function everyPercent(told: (share: number) => void) {
  let last = -1
  return (share: number) => {
    if (share - last < 0.01) return
    last = share
    told(share)
  }
}

self.onmessage = async ({ data }: MessageEvent<TakesRequest>) => {
  try {
    const progress = everyPercent((share) => say({ kind: 'progress', share }))
    const song = unpackTrace(data.song)
    if (!song) throw new Error('How the song sounds is not known.')
    const film = await traceOfFilm(data.url, (x) => progress(LISTENING * x))
    const takes = findTakesAtAnySpeed(song, film, (x) => progress(LISTENING + (1 - LISTENING) * x))
    say({ kind: 'done', takes })
  } catch (error) {
    say({ kind: 'failed', message: wordsOf(error) })
  }
}
