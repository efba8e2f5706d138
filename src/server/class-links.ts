import { randomBytes } from 'node:crypto'
import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { type HandedOut, withStills, withVoice } from '@/core/handout'
import { removeUnnamedPage } from './class-leftovers'
import { database, queued, type Transaction, transact, write } from './database'
import { pageStore } from './file-store'
import { practicePageOf } from './handout/practice-page'
import { marked } from './leftovers'
import { mayRoutine } from './may'
import { Problem } from './problem'
import { classDevices, classFilms, classLinks, classMarks } from './school-schema'
import { publicUrl } from './settings'
import { me } from './who'

/* A class's link to its practice page, as whoever teaches the class sees it: handed out, closed, made anew, counted. */

/** What a link says: unguessable (OWASP ASVS 4.0.3, 3.2.2 asks for 64 bits of entropy of a session's token at least). */
const newToken = () => randomBytes(18).toString('base64url')

/** A link as whoever made it sees it. */
export interface ClassLink {
  id: string
  group: string
  link: string
  /** When the page was made that it leads to. */
  made: string
  films: boolean
  closed: boolean
  /** Devices that opened it, and those of them that have the newest page. */
  devices: number
  newest: number
}

/** The links of who asks to a routine, by class. */
export async function linksOf(routineId: string): Promise<ClassLink[]> {
  const rows = await (await database())
    .select({
      link: classLinks,
      devices: sql<number>`count(${classDevices.device})`,
      newest: sql<number>`coalesce(sum(${classDevices.made} = ${classLinks.made}), 0)`,
    })
    .from(classLinks)
    .leftJoin(classDevices, eq(classDevices.linkId, classLinks.id))
    .where(and(eq(classLinks.routineId, routineId), eq(classLinks.personId, me().id)))
    .groupBy(classLinks.id)
    .orderBy(asc(classLinks.group))
  return rows.map(({ link, devices, newest }) => ({
    ...{ id: link.id, group: link.group, made: link.made, films: link.films },
    link: `${publicUrl()?.origin ?? ''}/c/${link.token}`,
    ...{ closed: link.closedAt !== null, devices, newest },
  }))
}

/**
 * Hands a practice page out to a class: its link leads to it from now on. The first time a link is made; one that was closed stays
 * closed until it is opened again.
 * @param query what of the dance is chosen (handout/asked.ts)
 * @throws Problem 409 where there is nothing to hand out, 413
 */
export async function handOut(routineId: string, query: URLSearchParams, sent: HandedOut): Promise<void> {
  if (sent.films) await mayRoutine(me(), routineId, 'edit')
  const { html, page } = await practicePageOf(routineId, query, 'class')
  const pictured = sent.stills ? withStills(html, sent.stills) : html
  const whole = sent.voice ? withVoice(pictured, sent.voice) : pictured
  const bytes = new TextEncoder().encode(whole)
  const incoming = await pageStore().receive(
    (async function* () {
      yield bytes
    })(),
  )
  const facts = { made: page.made, title: page.routine.title, films: sent.films }
  try {
    await marked(pageStore(), incoming.hash, async (kept) => {
      await incoming.stage()
      await queued(async (db) => {
        await incoming.keep()
        const to = { routineId, group: sent.group, page: incoming.hash, bytes: incoming.bytes, ...facts }
        const done = transact(db, (tx) => lead(tx, to))
        const before = await done.catch(async (error) => {
          await removeUnnamedPage(db, incoming.hash)
          throw error
        })
        if (before) await removeUnnamedPage(db, before)
        await kept()
      })
    })
  } finally {
    await incoming.discard()
  }
}

type Led = Pick<
  typeof classLinks.$inferInsert,
  'routineId' | 'group' | 'page' | 'bytes' | 'made' | 'title' | 'films'
>

/** Makes the link of a class lead to a page. @returns the page it led to before */
async function lead(tx: Transaction, { routineId, group, ...to }: Led): Promise<string | null> {
  const personId = me().id
  const own = and(
    eq(classLinks.routineId, routineId),
    eq(classLinks.personId, personId),
    eq(classLinks.group, group ?? ''),
  )
  const [there] = await tx.select().from(classLinks).where(own)
  if (there) {
    await tx.update(classLinks).set(to).where(eq(classLinks.id, there.id))
    return there.page === to.page ? null : there.page
  }
  await tx.insert(classLinks).values({
    ...{ id: nanoid(), token: newToken(), createdAt: new Date(), closedAt: null },
    ...{ routineId, personId, group, ...to },
  })
  return null
}

/** Closes a link: it leads nowhere, and nothing is taken that is sent by it. */
export const closeLink = (id: string): Promise<unknown> =>
  write((tx) =>
    tx
      .update(classLinks)
      .set({ closedAt: new Date() })
      .where(and(eq(classLinks.id, id), isNull(classLinks.closedAt))),
  )

/** Opens it again, as it was. */
export const reopenLink = (id: string): Promise<unknown> =>
  write((tx) => tx.update(classLinks).set({ closedAt: null }).where(eq(classLinks.id, id)))

/** Makes it anew: the link that was handed round leads nowhere, who is to have the page gets another. Counted anew, too. */
export const renewLink = (id: string): Promise<unknown> =>
  write(async (tx) => {
    await tx.delete(classDevices).where(eq(classDevices.linkId, id))
    await tx.update(classLinks).set({ token: newToken(), closedAt: null }).where(eq(classLinks.id, id))
  })

/** Takes it away with its page. What was sent by it and waits goes too. */
export const removeLink = (id: string): Promise<void> =>
  queued(async (db) => {
    const [gone] = await transact(db, (tx) =>
      tx.delete(classLinks).where(eq(classLinks.id, id)).returning({ page: classLinks.page }),
    )
    if (gone) await removeUnnamedPage(db, gone.page)
  })

/** Something a learner sent by a link, that waits to be taken into the routine. */
export interface Waiting {
  id: string
  group: string
  kind: 'marks' | 'film'
  learner: string
  receivedAt: string
  /** A MarksFile; null for a film, which has the id. */
  sent: unknown
}

/** What learners sent by the links of who asks to a routine, the oldest first. */
export async function waitingFor(routineId: string): Promise<Waiting[]> {
  const db = await database()
  const own = and(eq(classLinks.routineId, routineId), eq(classLinks.personId, me().id))
  const marks = await db
    .select({ row: classMarks, group: classLinks.group })
    .from(classMarks)
    .innerJoin(classLinks, eq(classLinks.id, classMarks.linkId))
    .where(and(own, isNull(classMarks.takenAt)))
  const pictures = await db
    .select({ row: classFilms, group: classLinks.group })
    .from(classFilms)
    .innerJoin(classLinks, eq(classLinks.id, classFilms.linkId))
    .where(own)
  const said = marks.map(({ row, group }): Waiting => {
    const sent = JSON.parse(row.data) as { learner: string }
    const { id, receivedAt } = row
    return { id, group, kind: 'marks', learner: sent.learner, receivedAt: receivedAt.toISOString(), sent }
  })
  const filmed = pictures.map(
    ({ row, group }): Waiting => ({
      ...{ id: row.id, group, kind: 'film', learner: row.learner, sent: null },
      receivedAt: row.receivedAt.toISOString(),
    }),
  )
  return [...said, ...filmed].sort((a, b) => a.receivedAt.localeCompare(b.receivedAt))
}

/** Takes something off the list of what waits: it is in the routine, or was let go. What was sent again meanwhile waits on. */
export async function takenIn(routineId: string, id: string, receivedAt: string): Promise<void> {
  const waiting = await waitingFor(routineId)
  const known = waiting.find((w) => w.id === id)
  if (!known) return
  const at = new Date(receivedAt)
  if (Number.isNaN(at.getTime())) throw new Problem(400, 'That is no time.', 'invalid')
  await write(async (tx) => {
    if (known.kind === 'film') await tx.delete(classFilms).where(eq(classFilms.id, id))
    else
      await tx
        .update(classMarks)
        .set({ takenAt: new Date() })
        .where(and(eq(classMarks.id, id), eq(classMarks.receivedAt, at)))
  })
}
