import { and, inArray } from 'drizzle-orm'
import * as v from 'valibot'
import { OWN_CALLS, stressOf, trimmed } from '@/core/drill'
import { base64Text } from '@/core/formats/base64'
import { readWav, toMono, writeWav } from '@/core/formats/wav'
import { database, write } from './database'
import { ownRows } from './may'
import { Problem } from './problem'
import { ownCounts } from './schema'
import { me } from './who'

/** One recorded count as the pages get it: a WAV file as base64, and where in it the count falls. */
export interface OwnCount {
  call: string
  wav: string
  stressMs: number
}

/** Longest word kept, in seconds. */
const LONGEST = 3
/** Rates a voice is recorded at, in samples a second. */
export const RATES = [8000, 192_000] as const

/** Words as they were recorded; `wav` is base64. */
export const OwnCountsSchema = v.pipe(
  v.array(
    v.object({
      call: v.picklist(OWN_CALLS),
      wav: base64Text(800_000),
    }),
  ),
  v.minLength(1),
  v.maxLength(OWN_CALLS.length),
)

/** All that were recorded, by their place in the count. */
export async function allOwnCounts(): Promise<OwnCount[]> {
  const rows = await (await database()).select().from(ownCounts).where(ownRows(me(), ownCounts.owner))
  return rows
    .map(({ call, wav, stressMs }) => ({ call, wav: Buffer.from(wav).toString('base64'), stressMs }))
    .sort((a, b) => OWN_CALLS.indexOf(a.call as never) - OWN_CALLS.indexOf(b.call as never))
}

/**
 * Keeps recordings, each cut to its sound with its stress measured; one of the same count is replaced. All or none.
 * @throws Problem 422 where a recording holds no sound
 */
export async function keepOwnCounts(words: v.InferOutput<typeof OwnCountsSchema>): Promise<void> {
  const rows = words.map(({ call, wav }) => {
    const word = trimmed(samplesOf(call, wav))
    // Not spread into an argument list: a second of sound is longer than those may be.
    if (!word.samples.some((x) => Math.abs(x) > 0))
      throw new Problem(422, `The recording of “${call}” is silent. Nothing was changed.`)
    return {
      call,
      owner: me().id,
      wav: Buffer.from(writeWav({ sampleRate: word.rate, channels: [word.samples] })),
      stressMs: 1000 * stressOf(word),
      recordedAt: new Date(),
    }
  })
  await write(async (tx) => {
    const again = inArray(
      ownCounts.call,
      rows.map((r) => r.call),
    )
    await tx.delete(ownCounts).where(and(again, ownRows(me(), ownCounts.owner)))
    await tx.insert(ownCounts).values(rows)
  })
}

function samplesOf(call: string, wav: string): { rate: number; samples: Float32Array } {
  let pcm: ReturnType<typeof readWav>
  try {
    pcm = readWav(new Uint8Array(Buffer.from(wav, 'base64')))
  } catch {
    throw new Problem(422, `The recording of “${call}” cannot be read. Nothing was changed.`)
  }
  const samples = toMono(pcm)
  const [least, most] = RATES
  if (!(pcm.sampleRate >= least && pcm.sampleRate <= most))
    throw new Problem(
      422,
      `The recording of “${call}” has a rate no voice is recorded at. Nothing was changed.`,
    )
  if (!samples.length || samples.length > LONGEST * pcm.sampleRate)
    throw new Problem(422, `The recording of “${call}” is empty or too long. Nothing was changed.`)
  return { rate: pcm.sampleRate, samples }
}

/** Takes all recordings away. */
export async function removeOwnCounts(): Promise<void> {
  await write((tx) => tx.delete(ownCounts).where(ownRows(me(), ownCounts.owner)))
}
