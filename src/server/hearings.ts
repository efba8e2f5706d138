import { asc, desc, eq } from 'drizzle-orm'
import * as v from 'valibot'
import { type Hearing, HearingSchema } from '@/core/hear'
import { database } from './database'
import { hearings } from './schema'

/** A hearing as the pages get it: the loudness pictures as base64. */
export interface StoredHearing {
  hearing: Hearing
  peaks: string
}

/**
 * A hearing of a song: of one version, or the first there is; null when it was not heard yet.
 * @param version 0 for the first
 */
export async function hearingOf(songId: string, version: number): Promise<StoredHearing | null> {
  const row = await (await database()).query.hearings.findFirst({
    where: eq(hearings.songId, songId),
    orderBy: [desc(eq(hearings.version, version)), asc(hearings.version)],
  })
  if (!row) return null
  return {
    hearing: v.parse(HearingSchema, JSON.parse(row.data)),
    peaks: Buffer.from(row.peaks).toString('base64'),
  }
}
