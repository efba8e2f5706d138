import { createHash, randomBytes } from 'node:crypto'
import type { Client, InStatement } from '@libsql/client'
import { betterAuth } from 'better-auth'
import { drizzleAdapter } from 'better-auth/adapters/drizzle'
import { eq, lt, sql } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/libsql'
import * as v from 'valibot'
import { LONGEST_PASSWORD, SHORTEST_PASSWORD } from '@/core/password/chosen'
import { noteDevice } from './account-notices'
import { database, databaseClient, queued, write } from './database'
import { patiently } from './patience'
import { Problem } from './problem'
import * as school from './school-schema'
import { credentials, guesses, people, schoolFacts, sessions, verifications } from './school-schema'
import { publicUrl } from './settings'
import type { Who } from './who'

/* Signing in: sessions and hashed passwords (scrypt) are better-auth's; who may try how often is said here. */

/** A session ends so long after it began, used or not. In seconds. */
const SESSION_S = 14 * 24 * 3600
/** Tries by one name and from one address (a school has one), in so long a time. */
const [BY_NAME, BY_ADDRESS, TRIES_MS] = [10, 100, 15 * 60 * 1000] as const

/** A name to sign in by, in small letters. */
export const Email = v.pipe(
  v.string(),
  v.trim(),
  v.toLowerCase(),
  v.maxLength(254),
  v.email('That is no e-mail address.'),
)
/** A password that is tried: any, so that what is wrong with it is not told. */
export const SignInSchema = v.object({ email: Email, password: v.pipe(v.string(), v.maxLength(1000)) })

/** The client of the database as better-auth gets it: what it writes waits for other writers, as everything does. */
async function waitingClient(): Promise<Client> {
  const client = await databaseClient()
  return new Proxy(client, {
    get(target, key) {
      if (key === 'execute')
        return (...asked: [InStatement]) => {
          const [statement] = asked
          const text = typeof statement === 'string' ? statement : statement.sql
          const reads = /^\s*select\b/i.test(text)
          return reads
            ? target.execute(...asked)
            : queued(() => patiently(target, () => target.execute(...asked)))
        }
      const value = Reflect.get(target, key) as unknown
      return typeof value === 'function' ? value.bind(target) : value
    },
  })
}

/** What cookies are signed with: as it is set, else made once for this database, the same for all processes. */
async function secretOf(): Promise<string> {
  const set = process.env.AZALEA_SECRET
  if (set) return set
  const fresh = randomBytes(32).toString('base64url')
  return write(async (tx) => {
    await tx.insert(schoolFacts).values({ name: 'secret', value: fresh }).onConflictDoNothing()
    const [row] = await tx.select().from(schoolFacts).where(eq(schoolFacts.name, 'secret'))
    return row?.value ?? fresh
  })
}

async function makeAuth(url: URL) {
  const tls = url.protocol === 'https:'
  // Its tables are made before it asks for them.
  await database()
  return betterAuth({
    baseURL: url.origin,
    secret: await secretOf(),
    telemetry: { enabled: false },
    logger: { disabled: true },
    database: drizzleAdapter(drizzle(await waitingClient(), { schema: school }), {
      provider: 'sqlite',
      schema: { user: people, session: sessions, account: credentials, verification: verifications },
    }),
    user: { additionalFields: { role: { type: 'string', input: false } } },
    session: { fields: { userId: 'personId' }, expiresIn: SESSION_S, disableSessionRefresh: true },
    account: { fields: { userId: 'personId' } },
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: SHORTEST_PASSWORD,
      maxPasswordLength: LONGEST_PASSWORD,
    },
    // By name and address, in the database, for all processes: below.
    rateLimit: { enabled: false },
    advanced: {
      // Of this very host alone: no other name of the same domain can set it (RFC 6265bis, 4.1.3.2). The library's own prefix is weaker.
      cookiePrefix: tls ? '__Host-azalea' : 'azalea',
      useSecureCookies: false,
      ipAddress: { disableIpTracking: true },
      defaultCookieAttributes: { sameSite: 'lax', httpOnly: true, secure: tls, path: '/' },
    },
  })
}

type Auth = Awaited<ReturnType<typeof makeAuth>>

const shared = globalThis as { azaleaAuth?: { key: string; auth: Promise<Auth> } }

/** What keeps sessions and passwords, for the database and the address there are. */
export function auth(): Promise<Auth> {
  const url = publicUrl()
  if (!url) throw new Error('nobody signs in on one machine')
  const key = `${url.href} ${process.env.AZALEA_DATABASE_URL ?? process.env.AZALEA_DATA ?? ''}`
  if (shared.azaleaAuth?.key !== key) {
    const made = makeAuth(url)
    made.catch(() => {
      shared.azaleaAuth = undefined
    })
    shared.azaleaAuth = { key, auth: made }
  }
  return shared.azaleaAuth.auth
}

/** Who is signed in by what a request carries; null for nobody. */
export async function signedInBy(headers: Headers): Promise<Who | null> {
  if (!headers.get('cookie')) return null
  const { api } = await auth()
  const found = await api.getSession({ headers, query: { disableCookieCache: true, disableRefresh: true } })
  if (!found) return null
  const { id, name, role } = found.user as typeof found.user & Pick<Who, 'role'>
  return { id, name, role }
}

const sha = (text: string) => createHash('sha256').update(text).digest('hex')

/** From where a request comes: the address the proxy before this server wrote down last. */
export const addressOf = (headers: Headers): string =>
  headers.get('x-forwarded-for')?.split(',').at(-1)?.trim() ?? ''

/**
 * Counts a try before it is made, so that many at once are counted as well.
 * @throws Problem 429 where there were too many
 */
async function countTry(email: string, address: string, now: number): Promise<void> {
  const tried = await write(async (tx) => {
    await tx.delete(guesses).where(lt(guesses.since, new Date(now - TRIES_MS)))
    const counted = async (what: string, most: number) => {
      const key = sha(what)
      const [row] = await tx
        .insert(guesses)
        .values({ key, tries: 1, since: new Date(now) })
        .onConflictDoUpdate({ target: guesses.key, set: { tries: sql`${guesses.tries} + 1` } })
        .returning()
      return (row?.tries ?? 0) <= most ? null : (row?.since.getTime() ?? now) + TRIES_MS - now
    }
    return [await counted(`name ${email}`, BY_NAME), await counted(`address ${address}`, BY_ADDRESS)]
  })
  const wait = Math.max(0, ...tried.map((t) => t ?? 0))
  if (!wait) return
  throw new Problem(
    429,
    `Too many tries. In ${Math.ceil(wait / 60_000)} minutes there are more; whoever keeps the accounts can make a new link at once.`,
    'too-many',
  )
}

/** What the library answers whoever signed in. */
const Token = v.object({ token: v.string() })

const WRONG = 'The address or the password is wrong.'

/** Signs somebody in. @returns what is to be set in their browser. @throws Problem 401, 429 */
export async function signIn(
  headers: Headers,
  { email, password }: v.InferOutput<typeof SignInSchema>,
  now = Date.now(),
): Promise<{ cookies: string[]; who: Who }> {
  await countTry(email, addressOf(headers), now)
  const { api } = await auth()
  const answer = await api.signInEmail({
    // No session of before goes on: each sign-in has a token of its own.
    headers: new Headers({ 'user-agent': headers.get('user-agent') ?? '' }),
    body: { email, password, rememberMe: true },
    asResponse: true,
  })
  if (!answer.ok) {
    if (answer.status >= 500) throw new Error(`signing in failed: ${answer.status}`)
    throw new Problem(401, WRONG, 'wrong')
  }
  await write((tx) => tx.delete(guesses).where(eq(guesses.key, sha(`name ${email}`))))
  const [person] = await (await database()).select().from(people).where(eq(people.email, email))
  if (!person) throw new Problem(401, WRONG, 'wrong')
  const { id, name, role } = person
  const token = v.safeParse(Token, await answer.json().catch(() => null))
  await write(async (tx) => {
    const [session] = token.success
      ? await tx.select().from(sessions).where(eq(sessions.token, token.output.token))
      : []
    await noteDevice(tx, id, headers.get('user-agent') ?? '', session?.id ?? '', now)
  })
  return { cookies: answer.headers.getSetCookie(), who: { id, name, role } }
}

/** The id of the session a request is made in; '' where there is none. */
export async function sessionOf(headers: Headers): Promise<string> {
  const { api } = await auth()
  const found = await api.getSession({ headers, query: { disableCookieCache: true, disableRefresh: true } })
  return found?.session.id ?? ''
}

/** Signs somebody out, here or wherever they are signed in. @returns what is to be set in their browser */
export async function signOut(headers: Headers, who: Who, everywhere: boolean): Promise<string[]> {
  const { api } = await auth()
  if (everywhere) await write((tx) => tx.delete(sessions).where(eq(sessions.personId, who.id)))
  const answer = await api.signOut({ headers, asResponse: true })
  return answer.headers.getSetCookie()
}

/** A password as it is kept. */
export const hashed = async (password: string): Promise<string> =>
  (await (await auth()).$context).password.hash(password)

/** @throws Problem 403 where this is not the password of who is signed in, 429 after too many tries */
export async function provePassword(
  headers: Headers,
  who: Who,
  password: string,
  now = Date.now(),
): Promise<void> {
  await countTry(`account ${who.id}`, addressOf(headers), now)
  const [row] = await (await database()).select().from(credentials).where(eq(credentials.personId, who.id))
  const { verify } = (await (await auth()).$context).password
  if (!row?.password || !(await verify({ password, hash: row.password })))
    throw new Problem(403, 'That is not your password.', 'wrong')
  await write((tx) => tx.delete(guesses).where(eq(guesses.key, sha(`name account ${who.id}`))))
}
