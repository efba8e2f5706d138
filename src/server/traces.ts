import { eq } from 'drizzle-orm'
import * as v from 'valibot'
import { base64Text } from '@/core/formats/base64'
import { unpackTrace } from '@/core/match'
import { database, write } from './database'
import { Problem } from './problem'
import { traces } from './schema'
import { songById } from './songs'

/** A trace as it is sent: base64. Of twenty minutes it is under a megabyte. */
export const TraceSchema = v.object({
  trace: base64Text(2_000_000),
})

/** Keeps how a song sounds; sent again it is the same. @throws Problem 404, 422 */
export async function keepTrace(songId: string, { trace }: v.InferOutput<typeof TraceSchema>): Promise<void> {
  const data = Buffer.from(trace, 'base64')
  if (!unpackTrace(data)) throw new Problem(422, 'How the song sounds cannot be read. Nothing was kept.')
  await songById(songId)
  await write((tx) =>
    tx.insert(traces).values({ songId, data }).onConflictDoUpdate({ target: traces.songId, set: { data } }),
  )
}

/** How a song sounds, as base64; '' where nobody worked it out. */
export async function traceOfSong(songId: string): Promise<string> {
  const row = await (await database()).query.traces.findFirst({ where: eq(traces.songId, songId) })
  return row ? Buffer.from(row.data).toString('base64') : ''
}
