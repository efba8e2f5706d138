import { desc, eq } from 'drizzle-orm'
import * as v from 'valibot'
import { type Hearing, HearingSchema } from '@/core/hear'
import { database } from './database'
import { hearings } from './schema'

/** A hearing as the pages get it: the loudness pictures as base64. */
export interface StoredHearing {
  hearing: Hearing
  peaks: string
}

/** The newest hearing of a song, or null when it was not heard yet. */
export async function hearingOf(songId: string): Promise<StoredHearing | null> {
  const row = await (await database()).query.hearings.findFirst({
    where: eq(hearings.songId, songId),
    orderBy: desc(hearings.version),
  })
  if (!row) return null
  return {
    hearing: v.parse(HearingSchema, JSON.parse(row.data)),
    peaks: Buffer.from(row.peaks).toString('base64'),
  }
}
