import { createHash, timingSafeEqual } from 'node:crypto'
import { type AnyColumn, and, eq, isNull, type SQL, sql } from 'drizzle-orm'
import * as v from 'valibot'
import { ClassTokenSchema } from '@/core/handout'
import { type Database, database, type Transaction } from './database'
import { Problem } from './problem'
import { films, recordings, routines, songs } from './schema'
import { classLinks, people, RIGHTS, shares, sheets } from './school-schema'
import { metricsToken } from './settings'
import { isHere, isSchool, me, signedOut, type Who } from './who'

/*
 * Who may do what. Every route names what it needs (handle.ts takes none without), everything that lists rows asks here which are
 * seen. What somebody may not see is answered as what is not there: that it exists is nobody's to learn.
 */

/** What somebody may do with a routine, each including those before: all of it is its owner's alone. */
export const ROUTINE_RIGHTS = [...RIGHTS, 'own'] as const
export type RoutineRight = (typeof ROUTINE_RIGHTS)[number]

/** What a route needs of who asks. @throws Problem 401, 403, 404 */
export type Needs = (who: Who | null, params: Record<string, string | string[]>) => Promise<unknown>

const Id = v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{8,40}$/, 'An id has a wrong form.'))

/** A sheet is known by what is asked for (sheets.ts). */
const SheetId = v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'A sheet’s id has a wrong form.'))

/** Checks an id from an address. */
export function idOf(params: { id?: string | string[] }): string {
  return v.parse(Id, params.id)
}

/** @throws Problem 401 */
function known(who: Who | null): Who {
  if (!who) throw signedOut()
  return who
}

const refused = (message: string) => new Problem(403, message, 'not-yours')

/** True where one of two rights includes the other. */
export const includes = (has: RoutineRight, needed: RoutineRight): boolean =>
  ROUTINE_RIGHTS.indexOf(has) >= ROUTINE_RIGHTS.indexOf(needed)

/** Rows that are somebody's own. @param column of whose they are */
export const ownRows = (who: Who, column: AnyColumn): SQL =>
  isHere(who) ? sql`true` : sql`${column} = ${who.id}`

/** Routines on somebody's shelf: their own, and what others share with them; none of the bin. */
export const seenRoutines = (who: Who): SQL =>
  isHere(who)
    ? sql`${routines.binnedAt} IS NULL`
    : sql`(${routines.owner} = ${who.id} OR ${routines.id} IN
        (SELECT routine_id FROM shares WHERE person_id = ${who.id})) AND ${routines.binnedAt} IS NULL`

/** What somebody may do with a routine; null where they may not even know of it. */
export async function rightTo(
  db: Database | Transaction,
  who: Who,
  id: string,
): Promise<RoutineRight | null> {
  const [row] = await db
    .select({ owner: routines.owner })
    .from(routines)
    .where(and(eq(routines.id, id), isNull(routines.binnedAt)))
  if (!row) return null
  if (isHere(who) || row.owner === who.id) return 'own'
  const [share] = await db
    .select({ right: shares.right })
    .from(shares)
    .where(and(eq(shares.routineId, id), eq(shares.personId, who.id)))
  return share?.right ?? null
}

const gone = (what: string) => new Problem(404, `That ${what} is not here any more.`, 'missing')

const REFUSED: Record<RoutineRight, string> = {
  look: '',
  teach: 'This routine is shared with you to look at. Who shared it can let you teach it.',
  edit: 'This routine is shared with you, and not to be changed. Who shared it can let you edit it.',
  own: 'That is for whoever the routine belongs to.',
}

/** @throws Problem 404 where it is nothing to who asks, 403 where they may do less */
export async function mayRoutine(who: Who, id: string, needed: RoutineRight): Promise<RoutineRight> {
  const right = await rightTo(await database(), who, id)
  if (!right) throw gone('routine')
  if (!includes(right, needed)) throw refused(REFUSED[needed])
  return right
}

/**
 * True where a routine somebody sees has a row that is of the same owner: what is named in somebody's own document is not theirs by that.
 * @param names how a routine says that it has the row
 */
async function seenThrough(who: Who, owner: string, names: SQL): Promise<boolean> {
  const rows = await (await database())
    .select({ one: sql`1` })
    .from(routines)
    .where(and(seenRoutines(who), eq(routines.owner, owner), names))
    .limit(1)
  return rows.length > 0
}

/** Whose a song is that somebody may hear: theirs, or of a routine they see. @throws Problem 404 */
export async function maySong(who: Who, id: string, needed: 'look' | 'own'): Promise<void> {
  const song = await (await database()).query.songs.findFirst({
    columns: { owner: true },
    where: eq(songs.id, id),
  })
  if (!song) throw gone('song')
  if (isHere(who) || song.owner === who.id) return
  if (!(await seenThrough(who, song.owner, eq(routines.songId, id)))) throw gone('song')
  if (needed === 'own') throw refused('That is for whoever the song belongs to.')
}

/** @throws Problem 404 */
async function mayNamed(who: Who, id: string, table: typeof films | typeof recordings): Promise<void> {
  const what = table === films ? 'film' : 'recording'
  const [row] = await (await database()).select({ owner: table.owner }).from(table).where(eq(table.id, id))
  if (!row) throw gone(what)
  if (isHere(who) || row.owner === who.id) return
  if (!(await seenThrough(who, row.owner, sql`instr(${routines.document}, ${id}) > 0`))) throw gone(what)
}

/** A class's link, with who made it. */
export type Link = typeof classLinks.$inferSelect & { teacher: string }

export const leadsNowhere = () =>
  new Problem(404, 'This link leads nowhere. Ask your instructor for the one there is now.', 'missing')

/**
 * Where a link leads, while whoever made it may teach the routine.
 * @throws Problem 404 for none, 410 for one that was closed
 */
export async function linkOfToken(text: unknown): Promise<Link> {
  const token = v.safeParse(ClassTokenSchema, text)
  if (!isSchool() || !token.success) throw leadsNowhere()
  const db = await database()
  const [row] = await db
    .select({ link: classLinks, person: people })
    .from(classLinks)
    .innerJoin(people, eq(people.id, classLinks.personId))
    .where(eq(classLinks.token, token.output))
  if (!row) throw leadsNowhere()
  const { link, person } = row
  const right = await rightTo(db, person, link.routineId)
  if (link.closedAt || !right || !includes(right, 'teach'))
    throw new Problem(410, 'Your instructor closed this link. Ask for another.', 'closed')
  return { ...link, teacher: person.name }
}

/** What routes need. */
export const may = {
  /** Nothing: it is for everybody, also who is not signed in. */
  everybody: async () => {},
  /** Nothing, in a school: one signs in there. */
  unsigned: async () => {
    if (!isSchool()) throw gone('page')
  },
  /** An account of a school. */
  account: async (who: Who | null) => {
    if (!isSchool()) throw gone('page')
    known(who)
  },
  /** An account, or whoever sits before the machine. */
  signedIn: async (who: Who | null) => {
    known(who)
  },
  /** An account that makes things: all but assistants, who look at, teach and edit what is shared with them. */
  make: async (who: Who | null) => {
    if (known(who).role === 'assistant')
      throw refused('Assistants work on what is shared with them; songs and lists are a teacher’s.')
  },
  /** Whoever keeps the accounts of a school. */
  govern: async (who: Who | null) => {
    if (!isSchool()) throw gone('page')
    if (known(who).role !== 'owner') throw refused('That is for whoever keeps the accounts of the school.')
  },
  /** A class's link that who asks made. */
  ownLink: async (who: Who | null, params: { id?: string | string[] }) => {
    if (!isSchool()) throw gone('page')
    const [link] = await (await database())
      .select({ routineId: classLinks.routineId })
      .from(classLinks)
      .where(and(eq(classLinks.id, idOf(params)), eq(classLinks.personId, known(who).id)))
    if (!link) throw gone('link')
  },
  /** A class's link that leads somewhere: whoever has it needs no account. */
  classLink: async (_: Who | null, params: { token?: string | string[] }) => {
    await linkOfToken(params.token)
  },
  routine: (needed: RoutineRight) => async (who: Who | null, params: { id?: string | string[] }) =>
    mayRoutine(known(who), idOf(params), needed),
  /** A routine who asks may teach, in a school, where there are classes' links. */
  taught: async (who: Who | null, params: { id?: string | string[] }) => {
    if (!isSchool()) throw gone('page')
    await mayRoutine(known(who), idOf(params), 'teach')
  },
  /** One's own, in the bin. */
  binned: async (who: Who | null, params: { id?: string | string[] }) => {
    const asks = known(who)
    const [row] = await (await database())
      .select({ id: routines.id })
      .from(routines)
      .where(and(eq(routines.id, idOf(params)), ownRows(asks, routines.owner)))
    if (!row) throw gone('routine')
  },
  song: (needed: 'look' | 'own') => async (who: Who | null, params: { id?: string | string[] }) =>
    maySong(known(who), idOf(params), needed),
  /** One's own song, in a school: on one's own machine pages hear songs themselves. */
  heardSong: async (who: Who | null, params: { id?: string | string[] }) => {
    if (!isSchool()) throw gone('page')
    await maySong(known(who), idOf(params), 'own')
  },
  film: async (who: Who | null, params: { id?: string | string[] }) =>
    mayNamed(known(who), idOf(params), films),
  /** To edit a routine and to see a film, in a school: on one's own machine pages look for songs in films themselves. */
  searchFilm: async (who: Who | null, params: { id?: string | string[]; film?: string | string[] }) => {
    if (!isSchool()) throw gone('page')
    await mayRoutine(known(who), idOf(params), 'edit')
    await mayNamed(known(who), idOf({ id: params.film }), films)
  },
  /** A sheet of a routine who asks may teach, which they asked for, in a school: on one's own machine it is the answer itself. */
  ownSheet: async (who: Who | null, params: { id?: string | string[]; sheet?: string | string[] }) => {
    if (!isSchool()) throw gone('page')
    const own = eq(sheets.personId, known(who).id)
    const asked = eq(sheets.id, v.parse(SheetId, params.sheet))
    const [row] = await (await database())
      .select({ id: sheets.id })
      .from(sheets)
      .where(and(asked, own, eq(sheets.routineId, idOf(params))))
    if (!row) throw gone('sheet')
    await mayRoutine(known(who), idOf(params), 'teach')
  },
  recording: async (who: Who | null, params: { id?: string | string[] }) =>
    mayNamed(known(who), idOf(params), recordings),
} as const satisfies Record<string, Needs | ((needed: never) => Needs)>

/** Whether somebody may read what is measured: whoever has the token that was set for it. @throws Problem 404 where there is none, 401 */
export function mayMeasure(authorization: string | null): void {
  const token = metricsToken()
  if (!token) throw gone('page')
  const [said, right] = [authorization ?? '', `Bearer ${token}`].map((x) =>
    createHash('sha256').update(x).digest(),
  )
  if (!timingSafeEqual(said as Buffer, right as Buffer))
    throw new Problem(401, 'That needs a token.', 'token')
}

/** The routine something is sent for, where it says one. */
export function routineAsked(request: Request): string | null {
  const id = new URL(request.url).searchParams.get('routine')
  return id === null ? null : idOf({ id })
}

/** Whose it is what somebody adds to a routine: its owner's, where they may edit it. @throws Problem 403, 404 */
export async function ownerFor(routine: string | null): Promise<string> {
  const who = me()
  if (isHere(who)) return who.id
  if (routine === null) {
    await may.make(who)
    return who.id
  }
  await mayRoutine(who, routine, 'edit')
  return ownerOf(routine)
}

/** Whose a routine is. @throws Problem 404 */
export async function ownerOf(routine: string): Promise<string> {
  const row = await (await database()).query.routines.findFirst({
    columns: { owner: true },
    where: eq(routines.id, routine),
  })
  if (!row) throw gone('routine')
  return row.owner
}
