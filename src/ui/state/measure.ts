import * as v from 'valibot'
import { channelsOf } from '@/audio/song'
import { type SongMeasure, unpackMeasure } from '@/core/stretch'
import type { MeasureRequest } from '@/workers/measure.worker'
import { inWorker } from './in-worker'

const Reply = v.variant('kind', [
  v.object({ kind: v.literal('done'), measure: v.instance(Uint8Array) }),
  v.object({ kind: v.literal('failed'), message: v.string() }),
])
const UNREADABLE = 'The song could not be measured.'

/** Finds what playing a song needs to know of it, in a worker. @param begin starts the worker @returns packed, as it is kept */
export function measureInWorker(
  song: AudioBuffer,
  begin: () => Worker = () =>
    new Worker(new URL('../../workers/measure.worker.ts', import.meta.url), { type: 'module' }),
): Promise<Uint8Array> {
  const channels = channelsOf(song).slice(0, 2)
  const request: MeasureRequest = { channels, rate: song.sampleRate }
  return inWorker<Uint8Array>(
    begin,
    {
      request,
      transfer: channels.map((c) => c.buffer),
      take: (data) => {
        const reply = v.safeParse(Reply, data)
        if (!reply.success) throw new Error(UNREADABLE)
        if (reply.output.kind === 'failed') throw new Error(reply.output.message)
        return reply.output.measure
      },
      unreadable: UNREADABLE,
      stopped: UNREADABLE,
    },
    new AbortController().signal,
  )
}

/** What was packed. @throws Error where it cannot be read */
export function measureOf(packed: Uint8Array): SongMeasure {
  const measure = unpackMeasure(packed)
  if (!measure) throw new Error(UNREADABLE)
  return measure
}
