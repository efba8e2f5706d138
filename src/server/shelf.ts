import { eq, sql } from 'drizzle-orm'
import * as v from 'valibot'
import { dueAt, type PracticeSummary, practiceSummary } from '@/core/drill'
import { heldTempi, tempoRange } from '@/core/grid'
import { overviewOf } from '@/core/hear'
import { placePhrases, repairedBeats, type SectionBand, sectionBands } from '@/core/routine'
import { oneLine } from '@/core/routine/document/text-schema'
import { type Bpm, gridTempo, type Seconds } from '@/core/time'
import { database, write } from './database'
import { ownRows, type RoutineRight, seenRoutines } from './may'
import { logOf, type OpenRoutine, openRoutine } from './routines'
import { repetitions, routines, type summaries } from './schema'
import { me } from './who'

/** What the shelf shows of one routine. */
export interface ShelfItem {
  id: string
  title: string
  credit: string
  cues: number
  /** On counts alone, without a song. */
  combination: boolean
  /** The song's sections and the shape of its sound (bytes as base64, so many a second); null when it was not heard yet. */
  heard: {
    duration: Seconds
    /** The slowest that is held, and the fastest: the same but where songs were cut together; 0 where there is no beat. */
    tempo: Bpm
    fastest: Bpm
    list: SectionBand[]
    shape: string
    rate: number
  } | null
  repetitions: number
  last: PracticeSummary['last']
  due: PracticeSummary['due']
  /** How much more is due. */
  more: number
  sits: PracticeSummary['sits']
  /** What who looks may do with it, and whose it is where it is somebody else's. */
  right: RoutineRight
  of: string
}

/** How the shelf is put in order. */
export const ORDERS = ['used', 'due', 'name'] as const
/** What of the shelf is asked for. */
export const ShelfSchema = v.object({
  search: v.optional(v.pipe(v.string(), v.trim(), v.maxLength(200)), ''),
  order: v.optional(v.picklist(ORDERS), 'used'),
  from: v.optional(v.pipe(v.string(), v.regex(/^\d{1,6}$/), v.transform(Number)), '0'),
})
export type ShelfAsked = v.InferOutput<typeof ShelfSchema>

/** A part of the shelf. */
export interface ShelfPart {
  items: ShelfItem[]
  /** How many there are that were asked for. */
  total: number
  /** How many there are at all. */
  all: number
  /** Names of those that cannot be read. */
  unreadable: string[]
}

/** So many are shown at one time. */
export const SHOWN = 12
/** Raised when a summary is made otherwise. */
const VERSION = 3
/** Bars of the picture of a song: more are not told apart at the width of a page. */
const BARS = 400

/** `used`: when it was written or danced last, in milliseconds. */
type Summary = Pick<ShelfItem, 'credit' | 'cues' | 'combination' | 'heard'> &
  PracticeSummary & { used: number }

interface Row {
  id: string
  title: string
  song: string
  credit: string
  file: string
  stamp: string
  kept: string | null
  data: string | null
  /** Null for who it belongs to. */
  right: RoutineRight | null
  of: string | null
}

/** What a song looks like from afar, and its sections. */
function ribbonOf({ routine, heard }: OpenRoutine): Summary['heard'] {
  if (!heard) return null
  const { hearing } = heard
  const times = repairedBeats(hearing.beats, routine.repairs)
  const shape = overviewOf(Buffer.from(heard.peaks, 'base64'), hearing.version)
  const per = Math.max(1, Math.ceil(shape.length / BARS))
  const bars = Uint8Array.from({ length: Math.ceil(shape.length / per) }, (_, i) =>
    shape.subarray(i * per, (i + 1) * per).reduce((m, x) => Math.max(m, x), 0),
  )
  const [tempo, fastest] = times.length > 1 ? tempoRange(heldTempi(times), gridTempo(times)) : [0, 0]
  return {
    duration: hearing.duration,
    tempo,
    fastest,
    list: sectionBands(placePhrases(routine), times, hearing.duration),
    shape: Buffer.from(bars).toString('base64'),
    rate: OVERVIEW_RATE / per,
  }
}
/** The coarsest picture of a hearing, values a second. */
const OVERVIEW_RATE = 5

async function summaryOf(id: string): Promise<Summary> {
  const open = await openRoutine(id)
  const { routine, heard } = open
  const times = repairedBeats(heard?.hearing.beats ?? [], routine.repairs)
  const log = await logOf([id])
  const [row] = await (await database())
    .select({ at: routines.updatedAt })
    .from(routines)
    .where(eq(routines.id, id))
  return {
    used: Math.max(row?.at.getTime() ?? 0, ...log.slice(-1).map((r) => r.doneAt)),
    credit: routine.credit,
    cues: routine.cues.length,
    combination: routine.combination,
    heard: ribbonOf(open),
    ...practiceSummary(routine, times, log),
  }
}

/**
 * Every routine with what it was summed up from, and the summary that is kept of it. Only what indexes hold, and columns
 * before the large ones: a row is read from its beginning.
 */
async function rowsOf(): Promise<Row[]> {
  const who = me()
  const mine = ownRows(who, repetitions.person)
  return (await database()).all<Row>(sql`
    SELECT routines.id, routines.title, s.title AS song, s.credit, s.file_name AS file,
      ${VERSION} || ' ' || routines.revision || ' ' || coalesce(h.heard, '') || ' ' || coalesce(l.rows, '') AS stamp,
      k.stamp AS kept, k.data, shared.right, people.name AS of
    FROM ${routines}
    JOIN songs s ON s.id = routines.song_id
    LEFT JOIN (SELECT song_id, count(*) || ' ' || max(version) AS heard FROM hearings GROUP BY song_id) h
      ON h.song_id = routines.song_id
    LEFT JOIN (SELECT routine_id, count(*) || ' ' || max(rowid) AS rows
      FROM ${repetitions} WHERE ${mine} GROUP BY routine_id) l ON l.routine_id = routines.id
    LEFT JOIN summaries k ON k.routine_id = routines.id AND k.by_person = ${who.id}
    LEFT JOIN shares shared ON shared.routine_id = routines.id AND shared.person_id = ${who.id}
    LEFT JOIN people ON people.id = routines.owner
    WHERE ${seenRoutines(who)}`)
}

/** Summaries of all routines: kept ones where nothing changed, others made anew. Null for one that cannot be read. */
async function summed(rows: readonly Row[]): Promise<Map<string, Summary | null>> {
  const out = new Map<string, Summary | null>()
  const fresh: (typeof summaries.$inferInsert)[] = []
  for (const { id, stamp, kept, data } of rows) {
    const known = kept === stamp && data !== null ? keptSummary(data) : null
    if (known) {
      out.set(id, known)
      continue
    }
    // One that cannot be read keeps nobody from the others, whatever is wrong with it.
    const summary = await summaryOf(id).catch((error: unknown) => {
      console.error(`Routine ${id} cannot be read:`, error instanceof Error ? error.message : error)
      return null
    })
    out.set(id, summary)
    // It is tried again each time: another version may read it.
    if (summary) fresh.push({ routineId: id, person: me().id, stamp, data: JSON.stringify(summary) })
  }
  if (fresh.length) void keep(fresh).catch(() => {})
  return out
}

/** A summary as it was kept; null for what is none, which is made anew. */
function keptSummary(data: string): Summary | null {
  const read = v.safeParse(v.pipe(v.string(), v.parseJson(), SummarySchema), data)
  return read.success ? (read.output as Summary) : null
}

/** Keeps summaries for the next time; the shelf waits for nobody who writes. */
const keep = (fresh: readonly (typeof summaries.$inferInsert)[]) =>
  write(async (tx) => {
    for (const row of fresh)
      await tx.run(sql`INSERT INTO summaries (routine_id, by_person, stamp, data)
        SELECT ${row.routineId}, ${row.person ?? ''}, ${row.stamp}, ${row.data}
        WHERE EXISTS (SELECT 1 FROM routines WHERE id = ${row.routineId})
        ON CONFLICT (routine_id, by_person) DO UPDATE SET stamp = excluded.stamp, data = excluded.data`)
  })

/** As much of a summary as the shelf would fall over. */
const SummarySchema = v.looseObject({
  credit: v.string(),
  cues: v.number(),
  combination: v.boolean(),
  used: v.number(),
  heard: v.nullable(
    v.looseObject({
      duration: v.number(),
      tempo: v.number(),
      fastest: v.number(),
      list: v.array(v.unknown()),
      shape: v.string(),
    }),
  ),
  rows: v.number(),
  last: v.nullable(v.looseObject({ label: v.string(), speed: v.number(), mark: v.string() })),
  due: v.array(v.looseObject({ label: v.string(), speed: v.number() })),
  // What is never due is so from a time that JSON has no number for.
  dueFrom: v.array(v.nullable(v.number())),
  sits: v.looseObject({ whole: v.number(), atTempo: v.number(), phrases: v.number() }),
})

const plain = (s: string) => s.normalize('NFD').replace(/\p{M}/gu, '').toLocaleLowerCase()
const byName = new Intl.Collator(undefined, { numeric: true })

/** A part of the shelf, in order: the last used, what is due first, or by name. */
export async function shelfPart({ search, order, from }: ShelfAsked, now = Date.now()): Promise<ShelfPart> {
  // A title is text, whatever was stored as one.
  const rows = (await rowsOf()).map((r) => ({ ...r, title: oneLine(String(r.title)) }))
  const known = await summed(rows)
  const words = plain(search).split(/\s+/).filter(Boolean)
  const asked = rows.filter((r) => {
    const text = plain(`${r.title} ${r.song} ${r.credit} ${known.get(r.id)?.credit ?? ''} ${r.file}`)
    return known.get(r.id) && words.every((w) => text.includes(w))
  })
  const due = (r: Row) => known.get(r.id)?.dueFrom[0] ?? Number.POSITIVE_INFINITY
  const used = (r: Row) => known.get(r.id)?.used ?? 0
  asked.sort(
    (a, b) =>
      (order === 'name' ? byName.compare(a.title, b.title) : order === 'due' ? sign(due(a), due(b)) : 0) ||
      used(b) - used(a) ||
      byName.compare(a.id, b.id),
  )
  return {
    items: asked.slice(from, from + SHOWN).map((r) => itemOf(r, known.get(r.id) as Summary, now)),
    total: asked.length,
    all: rows.length,
    unreadable: rows.filter((r) => known.get(r.id) === null).map((r) => r.title),
  }
}

/** Moves without a song, by name: what the kept summaries know, so that no document is read for it. */
export async function listCombinations(): Promise<Pick<ShelfItem, 'id' | 'title'>[]> {
  const rows = await rowsOf()
  const known = await summed(rows)
  return rows
    .filter((r) => known.get(r.id)?.combination)
    .map(({ id, title }) => ({ id, title }))
    .sort((a, b) => byName.compare(a.title, b.title))
}

const sign = (a: number, b: number) => (a < b ? -1 : a > b ? 1 : 0)

function itemOf({ id, title, right, of }: Row, s: Summary, now: number): ShelfItem {
  const { credit, cues, combination, heard, rows, last, sits } = s
  const whose = right ? { right, of: of ?? '' } : { right: 'own' as const, of: '' }
  return {
    ...whose,
    id,
    title,
    credit,
    cues,
    combination,
    heard,
    repetitions: rows,
    last,
    sits,
    ...dueAt(s, now),
  }
}
