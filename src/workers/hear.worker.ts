/* Hears a song off the main thread. One song a worker; cancelling is ending the worker. */
import { wordsOf } from '@/core/formats/said'
import { toMono } from '@/core/formats/wav'
import { listen } from '@/core/hear/listen'
import type { HearReply, HearRequest } from './hear-messages'

const say = (reply: HearReply) => self.postMessage(reply)

self.onmessage = ({ data }: MessageEvent<HearRequest>) => {
  try {
    const { hearing, peaks } = listen(toMono(data), data.sampleRate, (share) =>
      say({ kind: 'progress', share }),
    )
    say({ kind: 'heard', hearing, peaks })
  } catch (error) {
    say({ kind: 'failed', message: wordsOf(error) })
  }
}
