import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import { routines } from './schema'

/* Tables of a school: who has an account, who is signed in, what is shared. Empty where Azalea is used on one machine. */

const time = (name: string) => integer(name, { mode: 'timestamp_ms' })

/** What somebody is in the school. */
export const ROLES = ['owner', 'teacher', 'assistant'] as const
/** What somebody may do with another's routine, each including those before. */
export const RIGHTS = ['look', 'teach', 'edit'] as const

/** Accounts, with the columns that better-auth asks for (its table "user"). */
export const people = sqliteTable('people', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  /** In small letters: one signs in by it. */
  email: text('email').notNull().unique(),
  emailVerified: integer('email_verified', { mode: 'boolean' }).notNull().default(false),
  image: text('image'),
  role: text('role', { enum: ROLES }).notNull().default('teacher'),
  createdAt: time('created_at').notNull(),
  updatedAt: time('updated_at').notNull(),
})

const personId = () =>
  text('person_id')
    .notNull()
    .references(() => people.id, { onDelete: 'cascade' })

/** Who is signed in where (better-auth's "session"). */
export const sessions = sqliteTable(
  'sessions',
  {
    id: text('id').primaryKey(),
    token: text('token').notNull().unique(),
    personId: personId(),
    expiresAt: time('expires_at').notNull(),
    ipAddress: text('ip_address'),
    userAgent: text('user_agent'),
    createdAt: time('created_at').notNull(),
    updatedAt: time('updated_at').notNull(),
  },
  (t) => [index('sessions_person').on(t.personId)],
)

/** How somebody signs in: their password, hashed (better-auth's "account"). */
export const credentials = sqliteTable(
  'credentials',
  {
    id: text('id').primaryKey(),
    accountId: text('account_id').notNull(),
    providerId: text('provider_id').notNull(),
    personId: personId(),
    password: text('password'),
    accessToken: text('access_token'),
    refreshToken: text('refresh_token'),
    idToken: text('id_token'),
    accessTokenExpiresAt: time('access_token_expires_at'),
    refreshTokenExpiresAt: time('refresh_token_expires_at'),
    scope: text('scope'),
    createdAt: time('created_at').notNull(),
    updatedAt: time('updated_at').notNull(),
  },
  (t) => [index('credentials_person').on(t.personId)],
)

/** better-auth's "verification"; nothing is sent by mail, so nothing is in it. */
export const verifications = sqliteTable('verifications', {
  id: text('id').primaryKey(),
  identifier: text('identifier').notNull(),
  value: text('value').notNull(),
  expiresAt: time('expires_at').notNull(),
  createdAt: time('created_at').notNull(),
  updatedAt: time('updated_at').notNull(),
})

/** Links by which an account is begun, or gets another password. The link itself is not kept, only its hash. */
export const invitations = sqliteTable('invitations', {
  /** SHA-256 of what the link says. */
  id: text('id').primaryKey(),
  email: text('email').notNull(),
  name: text('name').notNull(),
  role: text('role', { enum: ROLES }).notNull(),
  /** Whose password it sets; null where it begins an account. */
  personId: text('person_id').references(() => people.id, { onDelete: 'cascade' }),
  createdAt: time('created_at').notNull(),
  expiresAt: time('expires_at').notNull(),
})

/** Tries to sign in, by name and by address, since the first that counts. */
export const guesses = sqliteTable('guesses', {
  /** SHA-256: who tried what is nobody's to read. */
  key: text('key').primaryKey(),
  tries: integer('tries').notNull(),
  since: time('since').notNull(),
})

/** Routines that are shared, with whom, to do what. */
export const shares = sqliteTable(
  'shares',
  {
    routineId: text('routine_id')
      .notNull()
      .references(() => routines.id, { onDelete: 'cascade' }),
    personId: personId(),
    right: text('right', { enum: RIGHTS }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.routineId, t.personId] }), index('shares_person').on(t.personId)],
)

/** Windows in which routines are open, and when they were heard of last. */
export const presences = sqliteTable(
  'presences',
  {
    routineId: text('routine_id')
      .notNull()
      .references(() => routines.id, { onDelete: 'cascade' }),
    window: text('window').notNull(),
    personId: personId(),
    at: time('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.routineId, t.window] }), index('presences_at').on(t.at)],
)

/** What the school itself keeps, by name. */
export const schoolFacts = sqliteTable('school_facts', {
  name: text('name').primaryKey(),
  value: text('value').notNull(),
})
