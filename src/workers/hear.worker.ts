/* Hears a song off the main thread. One song a worker; cancelling is ending the worker. */
import { toMono } from '@/core/formats/wav'
import { type Hearing, listen, type Peaks } from '@/core/hear'

/** What the page sends. */
export interface HearRequest {
  channels: Float32Array[]
  sampleRate: number
}

/** What the page gets back, in this order: any number of progress messages, then one of the others. */
export type HearReply =
  | { kind: 'progress'; share: number }
  | { kind: 'heard'; hearing: Hearing; peaks: Peaks }
  | { kind: 'failed'; message: string }

const say = (reply: HearReply) => self.postMessage(reply)

self.onmessage = ({ data }: MessageEvent<HearRequest>) => {
  try {
    const { hearing, peaks } = listen(toMono(data), data.sampleRate, (share) =>
      say({ kind: 'progress', share }),
    )
    say({ kind: 'heard', hearing, peaks })
  } catch (error) {
    say({ kind: 'failed', message: error instanceof Error ? error.message : String(error) })
  }
}
