import { createHash, randomBytes } from 'node:crypto'
import { and, asc, eq, gt, lt, ne, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import * as v from 'valibot'
import { LONGEST_PASSWORD, SHORTEST_PASSWORD } from '@/core/password/chosen'
import { refusalOfPassword } from '@/core/password/strength'
import { name } from '@/core/routine/document/text-schema'
import { noteIn } from './account-notices'
import { database, type Transaction, write } from './database'
import { Problem } from './problem'
import { films, lessonSteps, ownCounts, recordings, repetitions, routines, songs, timings } from './schema'
import { credentials, invitations, people, ROLES, sessions } from './school-schema'
import { publicUrl } from './settings'
import { Email, hashed } from './sign-in'
import type { Role } from './who'

/* Accounts of a school: begun by a link that is handed over, as nothing is sent by mail. */

/** A link is good for so long. */
const LINK_MS = 7 * 24 * 3600 * 1000

export const InvitationSchema = v.object({
  email: Email,
  name: name(100, 'It needs a name.'),
  role: v.picklist(ROLES),
})

/** A password somebody chooses: long, of any letters (NIST SP 800-63B, 5.1.1.2). It is looked at once more when it is taken. */
export const Password = v.pipe(
  v.string(),
  v.transform((s) => s.normalize('NFKC')),
  v.minLength(SHORTEST_PASSWORD, `A password has at least ${SHORTEST_PASSWORD} letters.`),
  v.maxLength(LONGEST_PASSWORD, `A password has at most ${LONGEST_PASSWORD} letters.`),
)

export interface Person {
  id: string
  name: string
  role: Role
}

/** What is told of an invitation to whoever has its link. */
export interface Invited {
  email: string
  name: string
  /** It gives an account that is there another password. */
  again: boolean
}

const idOfToken = (token: string) => createHash('sha256').update(token).digest('hex')

const over = () => new Problem(404, 'This link is used up or too old. Ask for a new one.', 'missing')

/** Everybody who has an account, by name. */
export async function everybody(): Promise<(Person & { email: string })[]> {
  return (await database())
    .select({ id: people.id, name: people.name, email: people.email, role: people.role })
    .from(people)
    .orderBy(asc(people.name), asc(people.email))
}

/** Invitations that were not taken up yet, without their links: those are nowhere. */
export async function openInvitations(now = Date.now()) {
  return (await database())
    .select({
      id: invitations.id,
      name: invitations.name,
      email: invitations.email,
      role: invitations.role,
      expiresAt: invitations.expiresAt,
    })
    .from(invitations)
    .where(gt(invitations.expiresAt, new Date(now)))
    .orderBy(asc(invitations.name))
}

async function makeLink(
  tx: Transaction,
  row: Omit<typeof invitations.$inferInsert, 'id' | 'createdAt' | 'expiresAt'>,
  now: number,
): Promise<string> {
  const token = randomBytes(24).toString('base64url')
  await tx.delete(invitations).where(eq(invitations.email, row.email))
  await tx.insert(invitations).values({
    ...{ ...row, id: idOfToken(token), createdAt: new Date(now), expiresAt: new Date(now + LINK_MS) },
  })
  return `${publicUrl()?.origin ?? ''}/invited/${token}`
}

/** Invites somebody; a link they were given before is void. @returns the link. @throws Problem 409 where they have an account */
export const invite = (asked: v.InferOutput<typeof InvitationSchema>, now = Date.now()): Promise<string> =>
  write(async (tx) => {
    const [there] = await tx.select().from(people).where(eq(people.email, asked.email))
    if (there) throw new Problem(409, `${asked.email} has an account already, as ${there.name}.`, 'taken')
    return makeLink(tx, { ...asked, personId: null }, now)
  })

/** A link by which somebody who has an account sets another password. @param by who makes it. @throws Problem 404 */
export const linkFor = (id: string, by: string, now = Date.now()): Promise<string> =>
  write(async (tx) => {
    const { email, name, role } = await personIn(tx, id)
    await noteIn(tx, id, 'link', { by }, now)
    return makeLink(tx, { email, name, role, personId: id }, now)
  })

export const withdraw = (id: string): Promise<unknown> =>
  write((tx) => tx.delete(invitations).where(eq(invitations.id, id)))

async function personIn(tx: Transaction, id: string): Promise<typeof people.$inferSelect> {
  const [person] = await tx.select().from(people).where(eq(people.id, id))
  if (!person) throw new Problem(404, 'That account is not here any more.', 'missing')
  return person
}

async function invitationIn(
  tx: Transaction | Awaited<ReturnType<typeof database>>,
  token: string,
  now: number,
) {
  const good = and(eq(invitations.id, idOfToken(token)), gt(invitations.expiresAt, new Date(now)))
  const [row] = await tx.select().from(invitations).where(good)
  if (!row) throw over()
  return row
}

/** Whom a link invites. @throws Problem 404 */
export async function invitedBy(token: string, now = Date.now()): Promise<Invited> {
  const { email, name, personId } = await invitationIn(await database(), token, now)
  return { email, name, again: personId !== null }
}

/** Takes a link up: an account is begun, or gets another password and is signed out everywhere. @throws Problem 404 */
export async function accept(token: string, password: string, now = Date.now()): Promise<{ email: string }> {
  // Before it is hashed, which takes its time.
  const kept = await hashedChoice(password, await invitationIn(await database(), token, now))
  return write(async (tx) => {
    const row = await invitationIn(tx, token, now)
    await tx.delete(invitations).where(eq(invitations.id, row.id))
    await tx.delete(invitations).where(lt(invitations.expiresAt, new Date(now)))
    const at = { createdAt: new Date(now), updatedAt: new Date(now) }
    const id = row.personId ?? nanoid()
    if (row.personId === null) {
      const [first] = await tx.select({ n: sql<number>`count(*)` }).from(people)
      await tx.insert(people).values({ id, name: row.name, email: row.email, role: row.role, ...at })
      // What was made on this machine before there were accounts is whoever's it is served by.
      if (!first?.n) await takeOverAll(tx, id)
    }
    await setPassword(tx, id, kept, now)
    if (row.personId !== null) await noteIn(tx, id, 'reset', {}, now)
    return { email: row.email }
  })
}

/** The hash of a password somebody chose. @throws Problem 400 where it is easily guessed */
function hashedChoice(password: string, { name, email }: { name: string; email: string }): Promise<string> {
  const why = refusalOfPassword(password, [name, email])
  if (why) throw new Problem(400, why, 'invalid')
  return hashed(password)
}

/** Keeps a password for somebody, and signs them out wherever they are. */
async function setPassword(tx: Transaction, id: string, kept: string, now: number): Promise<void> {
  const at = { createdAt: new Date(now), updatedAt: new Date(now) }
  await tx.delete(credentials).where(eq(credentials.personId, id))
  await tx.delete(sessions).where(eq(sessions.personId, id))
  await tx.insert(credentials).values({
    ...{ id: nanoid(), accountId: id, providerId: 'credential', personId: id, password: kept, ...at },
  })
}

/** Another password for somebody who is signed in. They are signed out everywhere, and sign in anew. */
export async function changePassword(id: string, password: string, now = Date.now()): Promise<void> {
  const [person] = await (await database()).select().from(people).where(eq(people.id, id))
  if (!person) throw new Problem(404, 'That account is not here any more.', 'missing')
  const kept = await hashedChoice(password, person)
  await write(async (tx) => {
    await setPassword(tx, id, kept, now)
    await noteIn(tx, id, 'password', {}, now)
  })
}

const OWNED = [songs, routines, films, recordings, ownCounts] as const
const LOGS = [repetitions, lessonSteps, timings] as const

/** Gives somebody all that belongs to nobody. */
async function takeOverAll(tx: Transaction, id: string): Promise<void> {
  for (const table of OWNED) await tx.update(table).set({ owner: id }).where(eq(table.owner, ''))
  for (const table of LOGS) await tx.update(table).set({ person: id }).where(eq(table.person, ''))
}

/** True where somebody else keeps the accounts too. */
async function anotherOwner(tx: Transaction, id: string): Promise<boolean> {
  const others = await tx
    .select({ id: people.id })
    .from(people)
    .where(and(eq(people.role, 'owner'), ne(people.id, id)))
  return others.length > 0
}

export const lastOwner = () =>
  new Problem(409, 'Somebody has to keep the accounts: make somebody else an owner first.', 'last-owner')

/**
 * Makes somebody something else in the school; what they are signed in with ends where they may do less.
 * @param by who does it
 * @throws Problem 404, 409
 */
export const setRole = (id: string, role: Role, by: string, now = Date.now()): Promise<void> =>
  write(async (tx) => {
    const person = await personIn(tx, id)
    if (person.role === 'owner' && role !== 'owner' && !(await anotherOwner(tx, id))) throw lastOwner()
    await tx
      .update(people)
      .set({ role, updatedAt: new Date(now) })
      .where(eq(people.id, id))
    if (role !== person.role) await noteIn(tx, id, 'role', { detail: role, by }, now)
  })

/** @throws Problem 404, 409 where nobody would keep the accounts */
export const mayBeErased = (id: string): Promise<void> =>
  write(async (tx) => {
    const { role } = await personIn(tx, id)
    if (role === 'owner' && !(await anotherOwner(tx, id))) throw lastOwner()
  })
