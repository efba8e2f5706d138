import * as v from 'valibot'
import { type Take, TakeSchema } from '@/core/match'
import type { TakesRequest } from '@/workers/takes.worker'
import { inWorker } from './in-worker'

const Reply = v.variant('kind', [
  v.object({ kind: v.literal('progress'), share: v.number() }),
  v.object({
    kind: v.literal('done'),
    takes: v.array(TakeSchema),
  }),
  v.object({ kind: v.literal('failed'), message: v.string() }),
])

const UNREADABLE = 'What was found in the film cannot be read. Load the page again, then try again.'

/**
 * Where in a film a song plays, worked out in a worker.
 * @param url where the film is
 * @param song the packed trace of the song
 * @param signal ends the worker at once; the promise then rejects with an AbortError
 */
export function searchTakes(
  url: string,
  song: Uint8Array,
  progress: (share: number) => void,
  signal: AbortSignal,
  begin: () => Worker = () =>
    new Worker(new URL('../../workers/takes.worker.ts', import.meta.url), { type: 'module' }),
): Promise<Take[]> {
  const request: TakesRequest = { url: new URL(url, location.href).href, song }
  return inWorker(
    begin,
    {
      request,
      transfer: [],
      take: (data) => {
        const reply = v.safeParse(Reply, data)
        if (!reply.success) throw new Error(UNREADABLE)
        if (reply.output.kind === 'failed') throw new Error(reply.output.message)
        if (reply.output.kind === 'done') return reply.output.takes
        progress(reply.output.share)
      },
      unreadable: UNREADABLE,
      stopped: 'The search in the film stopped unexpectedly.',
    },
    signal,
  )
}
