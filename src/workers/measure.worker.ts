/* Finds what playing a song needs to know of it, off the main thread. Cancelling is ending the worker. */
import { wordsOf } from '@/core/formats/said'
import { measureSong } from '@/core/stretch'

/** What the page sends. */
export interface MeasureRequest {
  channels: Float32Array[]
  rate: number
}

/** What the page gets back; the measure is packed. */
export type MeasureReply =
  | { kind: 'done'; measure: Uint8Array<ArrayBuffer> }
  | { kind: 'failed'; message: string }

const say = (reply: MeasureReply) => self.postMessage(reply)

self.onmessage = ({ data }: MessageEvent<MeasureRequest>) => {
  try {
    say({ kind: 'done', measure: measureSong(data.channels, data.rate) })
  } catch (error) {
    say({ kind: 'failed', message: wordsOf(error) })
  }
}
