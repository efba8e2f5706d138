import { index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import { films, routines, songs } from './schema'

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

/** The link of a class to the practice page of a routine: whoever has it needs no account. */
export const classLinks = sqliteTable(
  'class_links',
  {
    id: text('id').primaryKey(),
    routineId: text('routine_id')
      .notNull()
      .references(() => routines.id, { onDelete: 'cascade' }),
    /** Whose class it is. */
    personId: personId(),
    /** Name of the class; '' for everybody who learns the routine. */
    group: text('group_name').notNull().default(''),
    /** What the link says. It is shown again to whoever made it, so it is kept as it is. */
    token: text('token').notNull().unique(),
    /** SHA-256 of the page that was handed out last, and when that was made (RFC 3339). */
    page: text('page').notNull(),
    bytes: integer('bytes').notNull(),
    made: text('made').notNull(),
    title: text('title').notNull(),
    /** Learners may send films. */
    films: integer('films', { mode: 'boolean' }).notNull().default(false),
    createdAt: time('created_at').notNull(),
    /** Since when it leads nowhere; null while it does. */
    closedAt: time('closed_at'),
  },
  (t) => [
    uniqueIndex('class_links_of').on(t.routineId, t.personId, t.group),
    index('class_links_page').on(t.page),
  ],
)

const linkId = () =>
  text('link_id')
    .notNull()
    .references(() => classLinks.id, { onDelete: 'cascade' })

/** Devices that opened a class's page, by a number they drew themselves: counted, and known by nothing else. */
export const classDevices = sqliteTable(
  'class_devices',
  {
    linkId: linkId(),
    device: text('device').notNull(),
    /** The page it has: when that was made. */
    made: text('made').notNull(),
    firstAt: time('first_at').notNull(),
    lastAt: time('last_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.linkId, t.device] })],
)

/** What sits and what does not, as a learner sent it last from a device: one row each. */
export const classMarks = sqliteTable(
  'class_marks',
  {
    id: text('id').primaryKey(),
    linkId: linkId(),
    device: text('device').notNull(),
    /** JSON of a MarksFile. */
    data: text('data').notNull(),
    made: text('made').notNull(),
    receivedAt: time('received_at').notNull(),
    /** When it was taken into the routine; null while it waits. */
    takenAt: time('taken_at'),
  },
  (t) => [uniqueIndex('class_marks_device').on(t.linkId, t.device)],
)

/** Films learners sent, until they are taken into the routine or let go. */
export const classFilms = sqliteTable('class_films', {
  /** Of the film. */
  id: text('id').primaryKey(),
  linkId: linkId(),
  device: text('device').notNull(),
  learner: text('learner').notNull(),
  receivedAt: time('received_at').notNull(),
})

/** Heavy work that any process takes: what it is. */
export const JOBS = ['hear', 'match', 'sheet'] as const

/**
 * Work about a song, or about something of it, that waits, is done, or could not be done: one row of each, none once it is done. All times are of
 * the database's own clock, as the clocks of processes may differ.
 */
export const jobs = sqliteTable(
  'jobs',
  {
    id: text('id').primaryKey(),
    kind: text('kind', { enum: JOBS }).notNull(),
    songId: text('song_id')
      .notNull()
      .references(() => songs.id, { onDelete: 'cascade' }),
    /** A film the song is looked for in, or a sheet that is set; '' where it is about the song alone. Films came first, and named the column. */
    subjectId: text('film_id').notNull().default(''),
    /** Who asked. */
    personId: personId(),
    askedAt: time('asked_at').notNull(),
    /** Drawn anew by each process that takes it; null before. Who has another has lost it. */
    lease: text('lease'),
    /** Until then nobody else takes it; null while it waits. */
    until: time('until'),
    /** How often it was taken. */
    tries: integer('tries').notNull().default(0),
    /** Done so far, 0..1. */
    share: real('share').notNull().default(0),
    /** Why it could not be done, in a sentence; null while it may. */
    problem: text('problem'),
  },
  (t) => [uniqueIndex('jobs_about').on(t.kind, t.songId, t.subjectId), index('jobs_asked').on(t.askedAt)],
)

/** Where in films songs are, as a school's server found them. */
export const filmTakes = sqliteTable(
  'film_takes',
  {
    filmId: text('film_id')
      .notNull()
      .references(() => films.id, { onDelete: 'cascade' }),
    songId: text('song_id')
      .notNull()
      .references(() => songs.id, { onDelete: 'cascade' }),
    /** Of what looked for it (core/match). */
    version: integer('version').notNull(),
    /** JSON. */
    takes: text('takes').notNull(),
  },
  (t) => [primaryKey({ columns: [t.filmId, t.songId] })],
)

/** Cue sheets that were asked for as work; what is asked for, and the sheet, are files (sheets.ts). */
export const sheets = sqliteTable(
  'sheets',
  {
    /** Of the file of what is asked for: who asks the same again has the same sheet. */
    id: text('id').primaryKey(),
    routineId: text('routine_id')
      .notNull()
      .references(() => routines.id, { onDelete: 'cascade' }),
    /** Who asked, and gets it. */
    personId: personId(),
    askedAt: time('asked_at').notNull(),
  },
  (t) => [index('sheets_routine').on(t.routineId), index('sheets_person').on(t.personId)],
)

/** What happens with an account: signed in on a device it was never on, a link for another password made, that password set, changed by oneself, another role. */
export const NOTICES = ['device', 'link', 'reset', 'password', 'role'] as const

/** What happened with accounts, told to whoever they are of. */
export const accountNotices = sqliteTable(
  'account_notices',
  {
    id: text('id').primaryKey(),
    personId: personId(),
    what: text('what', { enum: NOTICES }).notNull(),
    /** The device, or the role. */
    detail: text('detail').notNull().default(''),
    /** Who did it; '' where it was done as oneself. */
    by: text('by').notNull().default(''),
    at: time('at').notNull(),
    /** The session it was done in: there it is known; '' for none. */
    sessionId: text('session_id').notNull().default(''),
  },
  (t) => [index('account_notices_person').on(t.personId, t.at)],
)
