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

function readable(text: string): Hearing | null {
  try {
    return v.parse(HearingSchema, JSON.parse(text))
  } catch {
    return null
  }
}

/**
 * A hearing of a song: of one version, or the first there is; null when it was not heard yet. One that cannot be read is
 * passed over: the song can be heard again, and a page without it still opens.
 * @param version 0 for the first
 */
export async function hearingOf(songId: string, version: number): Promise<StoredHearing | null> {
  const rows = await (await database()).query.hearings.findMany({
    where: eq(hearings.songId, songId),
    orderBy: [desc(eq(hearings.version, version)), asc(hearings.version)],
  })
  for (const row of rows) {
    const hearing = readable(row.data)
    if (hearing) return { hearing, peaks: Buffer.from(row.peaks).toString('base64') }
    console.warn(`Hearing ${row.version} of song ${songId} cannot be read; it is passed over.`)
  }
  return null
}
