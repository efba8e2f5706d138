/* Plays a part of a sound at another speed, off the main thread. Cancelling is ending the worker. Bundled by scripts/made.mjs. */
import { wordsOf } from '@/core/formats/said'
import { type Part, type Song, stretched, stretchFaster } from '@/core/stretch'
import transform from '../../node_modules/@echogarden/pffft-wasm/dist/simd/pffft.wasm'

/** What the page gets back, in this order: any number of progress messages, then one of the others. */
export type StretchReply =
  | { kind: 'progress'; share: number }
  | { kind: 'done'; channels: Float32Array<ArrayBuffer>[] }
  | { kind: 'failed'; message: string }

stretchFaster(transform)

const say = (reply: StretchReply, transfer: Transferable[] = []) => self.postMessage(reply, { transfer })

self.onmessage = ({ data }: MessageEvent<Song & Part>) => {
  try {
    const channels = stretched(data, data, (share) => say({ kind: 'progress', share }))
    say(
      { kind: 'done', channels },
      channels.map((c) => c.buffer),
    )
  } catch (error) {
    say({ kind: 'failed', message: wordsOf(error) })
  }
}
