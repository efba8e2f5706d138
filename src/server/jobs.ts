import { and, asc, count, eq, inArray, isNotNull, isNull, lt, or, type SQL, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { database, type Transaction, write } from './database'
import { type JOBS, jobs } from './school-schema'
import { me } from './who'

/*
 * Heavy work that waits in the database until a process takes it, with a lease: a process that is killed loses it, and another takes it.
 * Who lost it can neither tell how far it is nor bring what came of it. The clock is the database's.
 */

export type JobKind = (typeof JOBS)[number]
export type Job = typeof jobs.$inferSelect & { lease: string }

/** Work that waits for each other: a process does one of each queue at a time, so that seconds never wait for minutes. */
export const QUEUES = [['hear', 'match'], ['sheet']] as const satisfies readonly (readonly JobKind[])[]
const queueOf = (kind: JobKind): JobKind[] => [...(QUEUES.find((q) => q.some((k) => k === kind)) ?? [kind])]

/** A lease lasts so long, in ms, and is made longer while there is work; a busy machine comes back to it many times before it is over. */
export const LEASE_MS = 60_000
/** Taken so often and never brought to an end, it is not taken again: it may be what ends them. */
export const MOST_TRIES = 3

const now = sql`CAST(unixepoch('subsec') * 1000 AS INTEGER)`
const later = (ms: number) => sql`${now} + ${ms}`
/** Nobody has it now, and it may be done yet. */
const free = and(isNull(jobs.problem), or(isNull(jobs.until), sql`${jobs.until} < ${now}`)) as SQL
const tiring = sql`${jobs.tries} >= ${MOST_TRIES}`

/** How it is with a job somebody waits for; null where there is none. */
export type JobState =
  | { kind: 'waiting'; before: number }
  | { kind: 'working'; share: number }
  | { kind: 'failed'; why: string }
  | null

/** What work is about. */
export interface About {
  songId: string
  /** A film the song is looked for in, or a sheet that is set; '' for none. */
  subjectId: string
}

export const aboutSong = (songId: string): About => ({ songId, subjectId: '' })

const of = (kind: JobKind, { songId, subjectId }: About) =>
  and(eq(jobs.kind, kind), eq(jobs.songId, songId), eq(jobs.subjectId, subjectId)) as SQL

/** Asks for work as somebody; what waits or is being done stays as it is, what could not be done is tried anew. */
export async function ask(kind: JobKind, about: About, person = me().id): Promise<void> {
  await write(async (tx) => {
    await tx.delete(jobs).where(and(of(kind, about), isNotNull(jobs.problem)))
    await tx
      .insert(jobs)
      .values({ id: nanoid(), kind, ...about, personId: person, askedAt: now })
      .onConflictDoNothing()
  })
}

/** Nobody waits for it any more. A process that is at it notices, and ends. */
export async function takeBack(kind: JobKind, about: About): Promise<void> {
  await write((tx) => tx.delete(jobs).where(of(kind, about)))
}

export async function stateOf(kind: JobKind, about: About): Promise<JobState> {
  const db = await database()
  const [row] = await db
    .select({ job: jobs, isFree: sql<number>`${free}` })
    .from(jobs)
    .where(of(kind, about))
  if (!row) return null
  const { job, isFree } = row
  if (job.problem !== null) return { kind: 'failed', why: job.problem }
  if (job.lease !== null && !isFree) return { kind: 'working', share: job.share }
  const [before] = await db
    .select({ n: count() })
    .from(jobs)
    .where(and(inArray(jobs.kind, queueOf(kind)), free, lt(jobs.askedAt, job.askedAt)))
  return { kind: 'waiting', before: before?.n ?? 0 }
}

/** How many wait, and how many are being done. */
export async function jobsNow(): Promise<{ waiting: number; working: number }> {
  const db = await database()
  const [waiting] = await db.select({ n: count() }).from(jobs).where(free)
  const [working] = await db
    .select({ n: count() })
    .from(jobs)
    .where(and(isNull(jobs.problem), sql`${jobs.until} >= ${now}`))
  return { waiting: waiting?.n ?? 0, working: working?.n ?? 0 }
}

/** People for whom something is being done: others come first. */
const served = (tx: Transaction) =>
  tx
    .select({ id: jobs.personId })
    .from(jobs)
    .where(and(isNull(jobs.problem), sql`${jobs.until} >= ${now}`))

/** True where something may be taken: to be asked often, and without holding the database. */
export async function isAsked(kinds: readonly JobKind[]): Promise<boolean> {
  const rows = await (await database())
    .select({ id: jobs.id })
    .from(jobs)
    .where(and(inArray(jobs.kind, [...kinds]), free))
    .limit(1)
  return rows.length > 0
}

/** Takes the job that waits longest, of somebody for whom nothing is being done before others. @returns null where none waits */
export async function take(kinds: readonly JobKind[], worn: string): Promise<Job | null> {
  const lease = nanoid()
  return write(async (tx) => {
    // The answer may have been lost, and this be the second time: it has what it took.
    const [mine] = await tx.select().from(jobs).where(eq(jobs.lease, lease))
    if (mine) return mine as Job
    const ofThese = inArray(jobs.kind, [...kinds])
    await tx
      .update(jobs)
      .set({ problem: worn, lease: null, until: null })
      .where(and(ofThese, free, tiring))
    const next = await tx
      .select({ id: jobs.id })
      .from(jobs)
      .where(and(ofThese, free))
      .orderBy(asc(sql`${jobs.personId} IN ${served(tx)}`), asc(jobs.askedAt), asc(jobs.id))
      .limit(1)
    if (!next[0]) return null
    const [taken] = await tx
      .update(jobs)
      .set({ lease, until: later(LEASE_MS), tries: sql`${jobs.tries} + 1`, share: 0 })
      .where(eq(jobs.id, next[0].id))
      .returning()
    return taken as Job
  })
}

/** Makes a lease longer and says how far it is. @returns false where it was lost: somebody else has it, or nobody waits for it */
export async function renew({ lease }: Job, share: number): Promise<boolean> {
  const kept = await write((tx) =>
    tx
      .update(jobs)
      .set({ until: later(LEASE_MS), share })
      .where(eq(jobs.lease, lease))
      .returning({ id: jobs.id }),
  )
  return kept.length > 0
}

/** Brings what came of it, whole or not at all. @returns false where the lease was lost: nothing is kept then */
export async function finish({ lease }: Job, keep: (tx: Transaction) => Promise<unknown>): Promise<boolean> {
  return write(async (tx) => {
    const done = await tx.delete(jobs).where(eq(jobs.lease, lease)).returning({ id: jobs.id })
    if (!done.length) return false
    await keep(tx)
    return true
  })
}

/** It cannot be done. @param problem in a sentence for whoever waits */
export async function fail({ lease }: Job, problem: string): Promise<void> {
  await write((tx) => tx.update(jobs).set({ problem, lease: null, until: null }).where(eq(jobs.lease, lease)))
}

/**
 * Gives it back for another process, or for later: this one ends, or has no room for it.
 * @param after ms until it may be taken
 * @param counted it was tried, and went wrong
 */
export async function giveBack({ lease }: Job, after = 0, counted = false): Promise<void> {
  const until = after > 0 ? later(after) : null
  const tries = counted ? jobs.tries : sql`${jobs.tries} - 1`
  await write((tx) => tx.update(jobs).set({ lease: null, until, tries }).where(eq(jobs.lease, lease)))
}
