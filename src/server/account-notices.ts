import Bowser from 'bowser'
import { and, desc, eq, lt } from 'drizzle-orm'
import type { LibSQLDatabase } from 'drizzle-orm/libsql'
import { nanoid } from 'nanoid'
import type * as schema from './schema'
import { accountNotices } from './school-schema'

/*
 * What happened with an account is told to whoever it is of, on all their devices but the one it was done on (OWASP ASVS 4.0.3, 2.2.3): nothing is sent by
 * mail. Nobody can take a notice away, as whoever came in by a stolen password would.
 */

/** A device somebody was not signed in on for so long is told as a new one; the rest is forgotten with it. */
const KEPT_MS = 400 * 24 * 3600 * 1000
/** So many of the newest are told. */
const MOST_TOLD = 50
/** Browsers that are none say anything, at any length. */
const LONGEST_AGENT = 512

type On = Pick<LibSQLDatabase<typeof schema>, 'select' | 'insert' | 'delete'>
type Notice = typeof accountNotices.$inferSelect

/** Notes what happened with an account. */
export async function noteIn(
  on: On,
  person: string,
  what: Notice['what'],
  { detail = '', by = '', sessionId = '' }: Partial<Pick<Notice, 'detail' | 'by' | 'sessionId'>>,
  now = Date.now(),
): Promise<void> {
  await on
    .insert(accountNotices)
    .values({ id: nanoid(), personId: person, what, detail, by, sessionId, at: new Date(now) })
}

/** What a browser calls itself, in words: "Firefox on Linux". */
export function deviceIn(userAgent: string): string {
  if (!userAgent) return 'something that is no browser'
  const { browser, os } = Bowser.parse(userAgent.slice(0, LONGEST_AGENT))
  return `${browser.name || 'a browser'} on ${os.name || 'an unknown system'}`
}

/** Notes that somebody signed in, where they never did on a device like it. */
export async function noteDevice(
  on: On,
  person: string,
  userAgent: string,
  sessionId: string,
  now = Date.now(),
): Promise<void> {
  const detail = deviceIn(userAgent)
  const like = and(
    eq(accountNotices.personId, person),
    eq(accountNotices.what, 'device'),
    eq(accountNotices.detail, detail),
  )
  const [known] = await on.select({ id: accountNotices.id }).from(accountNotices).where(like).limit(1)
  if (!known) await noteIn(on, person, 'device', { detail, sessionId }, now)
}

/** What happened with somebody's account, the newest first. @param sessionId of who asks: what was done there is marked as `here` */
export async function noticesOf(on: On, person: string, sessionId: string) {
  const rows = await on
    .select()
    .from(accountNotices)
    .where(eq(accountNotices.personId, person))
    .orderBy(desc(accountNotices.at), desc(accountNotices.id))
    .limit(MOST_TOLD)
  return rows.map(({ id, what, detail, by, at, sessionId: in_ }) => ({
    ...{ id, what, detail, by, at: at.toISOString(), here: in_ !== '' && in_ === sessionId },
  }))
}

/** Forgets what happened long ago. */
export const sweepNotices = (on: On, now = Date.now()): Promise<unknown> =>
  on.delete(accountNotices).where(lt(accountNotices.at, new Date(now - KEPT_MS)))
