import { eq } from 'drizzle-orm'
import * as v from 'valibot'
import { base64Text } from '@/core/formats/base64'
import { unpackMeasure } from '@/core/stretch'
import { database, write } from './database'
import { Problem } from './problem'
import { measures } from './schema'
import { songById } from './songs'

/** A measure as it is sent: base64. Of twenty minutes it is under a tenth of a megabyte. */
export const MeasureSchema = v.object({ measure: base64Text(400_000) })

/** Keeps what playing a song needs to know of it; sent again it is the same. @throws Problem 404, 422 */
export async function keepMeasure(
  songId: string,
  { measure }: v.InferOutput<typeof MeasureSchema>,
): Promise<void> {
  const data = Buffer.from(measure, 'base64')
  if (!unpackMeasure(data)) throw new Problem(422, 'How the song is played cannot be read. Nothing was kept.')
  await songById(songId)
  await write((tx) =>
    tx
      .insert(measures)
      .values({ songId, data })
      .onConflictDoUpdate({ target: measures.songId, set: { data } }),
  )
}

/** What was kept, as base64; '' where it is not known yet. @throws Problem 404 */
export async function measureOfSong(songId: string): Promise<string> {
  await songById(songId)
  const row = await (await database()).query.measures.findFirst({ where: eq(measures.songId, songId) })
  return row ? Buffer.from(row.data).toString('base64') : ''
}
