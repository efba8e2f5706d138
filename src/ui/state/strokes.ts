import * as v from 'valibot'
import { monoOf, type Strokes } from '@/core/stretch'
import type { StrokesRequest } from '@/workers/strokes.worker'
import { inWorker } from './in-worker'

const Reply = v.variant('kind', [
  v.object({ kind: v.literal('done'), strokes: v.instance(Float64Array) }),
  v.object({ kind: v.literal('failed'), message: v.string() }),
])
const UNREADABLE = 'The strokes of the song could not be found.'

/** Finds the strokes of a song in a worker. @param begin starts the worker */
export function strokesInWorker(
  song: AudioBuffer,
  begin: () => Worker = () =>
    new Worker(new URL('../../workers/strokes.worker.ts', import.meta.url), { type: 'module' }),
): Promise<Strokes> {
  const channels = Array.from({ length: song.numberOfChannels }, (_, c) => song.getChannelData(c))
  const sum = monoOf(channels)
  // The only channel is the song's own: a copy of it is handed over.
  const mono = sum === channels[0] ? sum.slice() : sum
  const request: StrokesRequest = { mono, rate: song.sampleRate }
  return inWorker<Strokes>(
    begin,
    {
      request,
      transfer: [mono.buffer as ArrayBuffer],
      take: (data) => {
        const reply = v.safeParse(Reply, data)
        if (!reply.success) throw new Error(UNREADABLE)
        if (reply.output.kind === 'failed') throw new Error(reply.output.message)
        return reply.output.strokes
      },
      unreadable: UNREADABLE,
      stopped: UNREADABLE,
    },
    new AbortController().signal,
  )
}
