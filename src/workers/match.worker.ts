/* Works out how a recording sounds, and finds a song in it, off the main thread. Cancelling is ending the worker. */
import { wordsOf } from '@/core/formats/said'
import { toMono } from '@/core/formats/wav'
import { findTakesNear, packTrace, type Take, traceOf, unpackTrace } from '@/core/match'

/** What the page sends. */
export interface MatchRequest {
  channels: Float32Array[]
  sampleRate: number
  /** The packed trace of the song that is looked for; null where only the recording's own is wanted. */
  song: Uint8Array | null
}

/** What the page gets back, in this order: any number of progress messages, then one of the others. */
export type MatchReply =
  | { kind: 'progress'; share: number }
  | { kind: 'done'; trace: Uint8Array; takes: Take[] }
  | { kind: 'failed'; message: string }

const say = (reply: MatchReply) => self.postMessage(reply)

self.onmessage = ({ data }: MessageEvent<MatchRequest>) => {
  try {
    const part = data.song ? 0.6 : 1
    const trace = traceOf(toMono(data), data.sampleRate, (x) => say({ kind: 'progress', share: part * x }))
    const song = data.song && unpackTrace(data.song)
    const takes = song
      ? findTakesNear(song, trace, (x) => say({ kind: 'progress', share: part + (1 - part) * x }))
      : []
    say({ kind: 'done', trace: packTrace(trace), takes })
  } catch (error) {
    say({ kind: 'failed', message: wordsOf(error) })
  }
}
