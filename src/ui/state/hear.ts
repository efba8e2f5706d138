import * as v from 'valibot'
import { channelsOf } from '@/audio/song'
import { bytesOf } from '@/core/formats/base64'
import { type Hearing, HearingSchema, type Peaks, unpackPeaks } from '@/core/hear'
import type { HearRequest } from '@/workers/hear-messages'
import { inWorker } from './in-worker'

/** A hearing with the pictures of its sound. */
export interface Heard {
  hearing: Hearing
  peaks: Peaks
}

/** A hearing as the server sends it, its pictures as base64. */
export interface StoredHeard {
  hearing: Hearing
  peaks: string
}

/** Opens what the server sent. */
export function heardOf({ hearing, peaks }: StoredHeard): Heard {
  return { hearing, peaks: unpackPeaks(bytesOf(peaks), hearing.version) }
}

const bytes = v.instance(Uint8Array)
const PeaksSchema = v.object({
  frameRate: v.number(),
  levels: v.array(v.object({ rate: v.number(), shape: bytes })),
  onset: bytes,
})

const Reply = v.variant('kind', [
  v.object({ kind: v.literal('progress'), share: v.number() }),
  v.object({ kind: v.literal('heard'), hearing: HearingSchema, peaks: PeaksSchema }),
  v.object({ kind: v.literal('failed'), message: v.string() }),
])

const UNREADABLE = 'What the listener heard cannot be read. Load the page again, then listen again.'

/** Hears a song in a worker. @param signal ends the worker at once; the promise then rejects with an AbortError */
export function hearSong(
  song: AudioBuffer,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<Heard> {
  const channels = channelsOf(song)
  const request: HearRequest = { channels, sampleRate: song.sampleRate }
  return inWorker(
    () => new Worker(new URL('../../workers/hear.worker.ts', import.meta.url), { type: 'module' }),
    {
      request,
      transfer: channels.map((c) => c.buffer),
      take: (data) => {
        const reply = v.safeParse(Reply, data)
        if (!reply.success) throw new Error(UNREADABLE)
        if (reply.output.kind === 'failed') throw new Error(reply.output.message)
        if (reply.output.kind === 'heard') return { hearing: reply.output.hearing, peaks: reply.output.peaks }
        progress(reply.output.share)
      },
      unreadable: UNREADABLE,
      stopped: 'The listener stopped unexpectedly.',
    },
    signal,
  )
}
