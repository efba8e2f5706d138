import * as v from 'valibot'
import { channelsOf } from '@/audio/song'
import type { Take } from '@/core/match'
import type { MatchRequest } from '@/workers/match.worker'
import { inWorker } from './in-worker'

const Reply = v.variant('kind', [
  v.object({ kind: v.literal('progress'), share: v.number() }),
  v.object({
    kind: v.literal('done'),
    trace: v.instance(Uint8Array),
    takes: v.array(
      v.object({ from: v.number(), to: v.number(), at: v.number(), rate: v.number(), sure: v.number() }),
    ),
  }),
  v.object({ kind: v.literal('failed'), message: v.string() }),
])

const UNREADABLE = 'What was found cannot be read. Load the page again, then try again.'

/**
 * How a recording sounds, and where a song plays in it, worked out in a worker.
 * @param song the packed trace of the song that is looked for
 * @param begin starts the worker
 * @param signal ends the worker at once; the promise then rejects with an AbortError
 */
export function matchSong(
  recording: AudioBuffer,
  song: Uint8Array | null,
  progress: (share: number) => void,
  signal: AbortSignal,
  begin: () => Worker = () =>
    new Worker(new URL('../../workers/match.worker.ts', import.meta.url), { type: 'module' }),
): Promise<{ trace: Uint8Array; takes: Take[] }> {
  const channels = channelsOf(recording)
  const request: MatchRequest = { channels, sampleRate: recording.sampleRate, song }
  return inWorker(
    begin,
    {
      request,
      transfer: channels.map((c) => c.buffer),
      take: (data) => {
        const reply = v.safeParse(Reply, data)
        if (!reply.success) throw new Error(UNREADABLE)
        if (reply.output.kind === 'failed') throw new Error(reply.output.message)
        if (reply.output.kind === 'done') return reply.output
        progress(reply.output.share)
      },
      unreadable: UNREADABLE,
      stopped: 'The search stopped unexpectedly.',
    },
    signal,
  )
}
