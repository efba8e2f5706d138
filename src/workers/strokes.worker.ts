/* Finds the strokes of a song, off the main thread. Cancelling is ending the worker. */
import { wordsOf } from '@/core/formats/said'
import { findStrokes } from '@/core/stretch'

/** What the page sends. */
export interface StrokesRequest {
  mono: Float32Array
  rate: number
}

/** What the page gets back. */
export type StrokesReply = { kind: 'done'; strokes: Float64Array } | { kind: 'failed'; message: string }

const say = (reply: StrokesReply) => self.postMessage(reply)

self.onmessage = ({ data }: MessageEvent<StrokesRequest>) => {
  try {
    say({ kind: 'done', strokes: findStrokes(data.mono, data.rate) })
  } catch (error) {
    say({ kind: 'failed', message: wordsOf(error) })
  }
}
