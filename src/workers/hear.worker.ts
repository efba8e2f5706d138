/* Hears a song off the main thread. One song a worker; cancelling is ending the worker. */
import { toMono } from '@/core/formats/wav'
import { type Hearing, listen } from '@/core/hear'

/** What the page sends. */
export interface HearRequest {
  channels: Float32Array[]
  sampleRate: number
}

/** What the page gets back, in this order: any number of progress messages, then one of the others. */
export type HearReply =
  | { kind: 'progress'; share: number }
  | { kind: 'heard'; hearing: Hearing; peaks: Uint8Array }
  | { kind: 'failed'; message: string }

const say = (reply: HearReply) => self.postMessage(reply)

self.onmessage = ({ data }: MessageEvent<HearRequest>) => {
  try {
    const { hearing, peaks } = listen(toMono(data), data.sampleRate, (share) =>
      say({ kind: 'progress', share }),
    )
    const both = new Uint8Array(peaks.peak.length * 2)
    both.set(peaks.peak)
    both.set(peaks.loudness, peaks.peak.length)
    say({ kind: 'heard', hearing, peaks: both })
  } catch (error) {
    say({ kind: 'failed', message: error instanceof Error ? error.message : String(error) })
  }
}
