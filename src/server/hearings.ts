import { and, asc, desc, eq, min } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import * as v from 'valibot'
import { type Hearing, HearingSchema } from '@/core/hear'
import type { Routine } from '@/core/routine'
import { database, type Transaction, write } from './database'
import { Problem } from './problem'
import { hearings, songs } from './schema'

/** A hearing as the pages get it: the loudness pictures as base64. */
export interface StoredHearing {
  hearing: Hearing
  peaks: string
}

/** A hearing as it is stored; null where it cannot be read. */
export function readHearing(text: unknown): Hearing | null {
  try {
    return v.parse(HearingSchema, JSON.parse(String(text)))
  } catch {
    return null
  }
}

/**
 * The hearing a routine's counts stand on; null when the song was not heard yet. One that cannot be read is passed over: the
 * song can be heard again, and a page without it still opens.
 * @param version the one the routine names; 0 where it has no counts yet, which is laid out on the newest
 */
export async function hearingOf(songId: string, version: number): Promise<StoredHearing | null> {
  const rows = await (await database()).query.hearings.findMany({
    where: eq(hearings.songId, songId),
    orderBy: [
      desc(eq(hearings.version, version)),
      version === 0 ? desc(hearings.version) : asc(hearings.version),
    ],
  })
  for (const row of rows) {
    const hearing = readHearing(row.data)
    if (hearing) return { hearing, peaks: Buffer.from(row.peaks).toString('base64') }
    console.warn(`Hearing ${row.version} of song ${songId} cannot be read; it is passed over.`)
  }
  return null
}

/**
 * Stores what was heard. One that is there already stays as it is, whatever is sent under its version: counts stand on it;
 * only one that cannot be read gives way.
 */
export const keepHearing = (songId: string, version: number, data: string, peaks: Buffer): Promise<void> =>
  write((tx) => keepHearingIn(tx, songId, version, data, peaks))

/** The same in a transaction. */
export async function keepHearingIn(
  tx: Transaction,
  songId: string,
  version: number,
  data: string,
  peaks: Buffer,
): Promise<void> {
  const song = await tx.query.songs.findFirst({ where: eq(songs.id, songId) })
  if (!song) throw new Problem(404, 'That song is not here any more.', 'missing')
  const there = and(eq(hearings.songId, songId), eq(hearings.version, version))
  const known = await tx.query.hearings.findFirst({ where: there })
  if (known && readHearing(known.data)) return
  if (known) await tx.delete(hearings).where(there)
  await tx.insert(hearings).values({ id: nanoid(), songId, version, data, peaks, createdAt: new Date() })
}

/** A routine with counts names the hearing they stand on: where it names none, the first of its song. */
export async function withNamedHearing(tx: Transaction, songId: string, routine: Routine): Promise<Routine> {
  if (routine.heardWith !== 0 || routine.phrases.length === 0) return routine
  const [first] = await tx
    .select({ version: min(hearings.version) })
    .from(hearings)
    .where(eq(hearings.songId, songId))
  return first?.version ? { ...routine, heardWith: first.version } : routine
}
