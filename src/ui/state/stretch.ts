import * as v from 'valibot'
import type { Stretch } from '@/audio/practice'
import { inWorker } from './in-worker'

const Reply = v.variant('kind', [
  v.object({ kind: v.literal('progress'), share: v.number() }),
  v.object({
    kind: v.literal('done'),
    channels: v.array(v.custom<Float32Array<ArrayBuffer>>((x) => x instanceof Float32Array)),
  }),
  v.object({ kind: v.literal('failed'), message: v.string() }),
])
const UNREADABLE = 'The song could not be slowed down. Load the page again, then try again.'

/** Stretches in a worker of its own: two of them keep two cores busy, and each gives its memory back at its end. */
export const stretchInWorker: Stretch = (piece, told, signal) => {
  return inWorker(
    () => new Worker('/stretch/worker.js'),
    {
      request: piece,
      transfer: piece.channels.map((c) => c.buffer),
      take: (data) => {
        const reply = v.safeParse(Reply, data)
        if (!reply.success) throw new Error(UNREADABLE)
        if (reply.output.kind === 'failed') throw new Error(reply.output.message)
        if (reply.output.kind === 'done') return reply.output.channels
        told(reply.output.share)
      },
      unreadable: UNREADABLE,
      stopped: UNREADABLE,
    },
    signal,
  )
}
