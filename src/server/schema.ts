import {
  blob,
  customType,
  index,
  integer,
  primaryKey,
  real,
  sqliteTable,
  text,
  uniqueIndex,
} from 'drizzle-orm/sqlite-core'
import type { Pass } from '@/core/routine'

const at = (name: string) => integer(name, { mode: 'timestamp_ms' }).notNull()

/** Numbers as JSON; what cannot be read as that is none, and keeps nobody from the row. */
const numbers = customType<{ data: number[]; driverData: string }>({
  dataType: () => 'text',
  toDriver: (list) => JSON.stringify(list),
  fromDriver: (text) => {
    try {
      const list: unknown = JSON.parse(text)
      return Array.isArray(list) ? list.filter((n) => Number.isFinite(n)) : []
    } catch {
      return []
    }
  },
})

/** Whose a row is: the id of an account, '' where Azalea is used on one machine without any. */
const owner = () => text('owner').notNull().default('')
/** Who was on the floor, or before the trainer. */
const person = () => text('by_person').notNull().default('')

/** A song of somebody's; its audio is stored once by the hash of its bytes. */
export const songs = sqliteTable(
  'songs',
  {
    id: text('id').primaryKey(),
    owner: owner(),
    hash: text('hash').notNull(),
    bytes: integer('bytes').notNull(),
    mime: text('mime').notNull(),
    fileName: text('file_name').notNull(),
    title: text('title').notNull(),
    credit: text('credit').notNull(),
    createdAt: at('created_at'),
  },
  (t) => [uniqueIndex('songs_owner_hash').on(t.owner, t.hash), index('songs_hash').on(t.hash)],
)

/** What the machine heard in a song: one row a version, never changed by a person's repairs. */
export const hearings = sqliteTable(
  'hearings',
  {
    id: text('id').primaryKey(),
    songId: text('song_id')
      .notNull()
      .references(() => songs.id, { onDelete: 'cascade' }),
    version: integer('version').notNull(),
    /** JSON of a Hearing. */
    data: text('data').notNull(),
    /** Bytes of the pictures, packed by the version of hearing beside them. */
    peaks: blob('peaks', { mode: 'buffer' }).notNull(),
    createdAt: at('created_at'),
  },
  (t) => [uniqueIndex('hearings_song_version').on(t.songId, t.version)],
)

/** One choreography on one song; `revision` rises by one with each saved edit. */
export const routines = sqliteTable(
  'routines',
  {
    id: text('id').primaryKey(),
    songId: text('song_id')
      .notNull()
      .references(() => songs.id, { onDelete: 'cascade' }),
    title: text('title').notNull(),
    owner: owner(),
    /** When it was put into the bin; null while it is on the shelf. */
    binnedAt: integer('binned_at', { mode: 'timestamp_ms' }),
    revision: integer('revision').notNull(),
    /** The window that saved last, and the number of its save: the same save sent again is known. */
    writer: text('writer').notNull().default(''),
    save: integer('save').notNull().default(0),
    /** JSON of a Routine. */
    document: text('document').notNull(),
    createdAt: at('created_at'),
    updatedAt: at('updated_at'),
  },
  (t) => [index('routines_song').on(t.songId), index('routines_owner').on(t.owner, t.binnedAt)],
)

/** What somebody's shelf shows of a routine, worked out when what it is made from has changed. */
export const summaries = sqliteTable(
  'summaries',
  {
    routineId: text('routine_id')
      .notNull()
      .references(() => routines.id, { onDelete: 'cascade' }),
    /** Whose log it sums up. */
    person: person(),
    /** What it was made from: anything else, and it is made anew. */
    stamp: text('stamp').notNull(),
    /** JSON. */
    data: text('data').notNull(),
  },
  (t) => [primaryKey({ columns: [t.routineId, t.person] })],
)

/** One repetition on the floor; rows are only ever added. A row may correct an earlier one. */
export const repetitions = sqliteTable(
  'repetitions',
  {
    id: text('id').primaryKey(),
    routineId: text('routine_id')
      .notNull()
      .references(() => routines.id, { onDelete: 'cascade' }),
    person: person(),
    doneAt: at('done_at'),
    kind: text('kind', { enum: ['drill', 'run'] }).notNull(),
    /** What was danced, in seconds of the song, and what it was called that day; null where nobody knows any more. */
    from: real('song_from'),
    to: real('song_to'),
    label: text('label').notNull(),
    /** What of the body it was danced with. */
    pass: text('layer').$type<Pass>().notNull().default('all'),
    /** The class it was danced with; empty where none was named. */
    group: text('group_name').notNull().default(''),
    speed: real('speed').notNull(),
    sound: text('sound', { enum: ['counts', 'music', 'both'] }).notNull(),
    seconds: real('seconds').notNull(),
    mark: text('mark', { enum: ['clean', 'shaky', 'missed', 'unmarked'] }).notNull(),
    /** It followed the one before without a gap. */
    looped: integer('looped', { mode: 'boolean' }).notNull().default(false),
    /** JSON of the places where it slipped, in seconds of the song. */
    slips: numbers('slips').notNull().default([]),
    corrects: text('corrects'),
    /** Of rows written before places were kept in seconds: the phrases they named. */
    firstPhrase: text('first_phrase')
      .notNull()
      .$default(() => ''),
    lastPhrase: text('last_phrase')
      .notNull()
      .$default(() => ''),
  },
  (t) => [index('repetitions_routine').on(t.routineId, t.doneAt)],
)

/** One step of a lesson as it was on the floor, or a note on the lesson; rows are only ever added. */
export const lessonSteps = sqliteTable(
  'lesson_steps',
  {
    id: text('id').primaryKey(),
    routineId: text('routine_id')
      .notNull()
      .references(() => routines.id, { onDelete: 'cascade' }),
    person: person(),
    doneAt: at('done_at'),
    /** One evening, and the name of the plan that was run. */
    lesson: text('lesson').notNull(),
    plan: text('plan').notNull(),
    kind: text('kind').notNull(),
    label: text('label').notNull(),
    eights: real('eights').notNull(),
    repetitions: integer('repetitions').notNull(),
    planned: real('planned').notNull(),
    seconds: real('seconds').notNull(),
    danced: real('danced').notNull(),
    note: text('note').notNull(),
    group: text('group_name').notNull().default(''),
  },
  (t) => [index('lesson_steps_routine').on(t.routineId, t.doneAt)],
)

/** One go at the timing trainer; rows are only ever added. Milliseconds, negative for early. */
export const timings = sqliteTable(
  'timings',
  {
    id: text('id').primaryKey(),
    routineId: text('routine_id')
      .notNull()
      .references(() => routines.id, { onDelete: 'cascade' }),
    person: person(),
    doneAt: at('done_at'),
    /** What was danced, in seconds of the song; null where nobody knows any more. */
    from: real('song_from'),
    to: real('song_to'),
    label: text('label').notNull(),
    speed: real('speed').notNull(),
    by: text('by', { enum: ['tap', 'clap'] }).notNull(),
    n: integer('n').notNull(),
    mean: real('mean').notNull(),
    spread: real('spread').notNull(),
    /** The count that was off most, and by how much; '' where none was off by much. */
    worst: text('worst').notNull(),
    worstMs: real('worst_ms').notNull(),
    firstPhrase: text('first_phrase')
      .notNull()
      .$default(() => ''),
    lastPhrase: text('last_phrase')
      .notNull()
      .$default(() => ''),
  },
  (t) => [index('timings_routine').on(t.routineId, t.doneAt)],
)

/** Somebody's own counting voice: a recording a call, cut to its sound. */
export const ownCounts = sqliteTable(
  'own_counts',
  {
    call: text('call').notNull(),
    owner: owner(),
    /** A WAV file. */
    wav: blob('wav', { mode: 'buffer' }).notNull(),
    /** Where in it the count falls. */
    stressMs: real('stress_ms').notNull(),
    recordedAt: at('recorded_at'),
  },
  (t) => [primaryKey({ columns: [t.owner, t.call] })],
)

/** How somebody likes to teach, by name, for any routine. */
export const presets = sqliteTable(
  'presets',
  {
    id: text('id').primaryKey(),
    name: text('name').notNull(),
    /** JSON of lesson settings. */
    settings: text('settings').notNull(),
    createdAt: at('created_at'),
  },
  (t) => [uniqueIndex('presets_name').on(t.name)],
)

/** The instructor's own move list: one document, one row. */
export const moveLists = sqliteTable('move_lists', {
  id: text('id').primaryKey(),
  revision: integer('revision').notNull(),
  writer: text('writer').notNull().default(''),
  save: integer('save').notNull().default(0),
  /** JSON of a list of moves. */
  document: text('document').notNull(),
  updatedAt: at('updated_at'),
})

/** Calls over a stretch in the instructor's own voice. Rows never change; routines name them by id. */
export const recordings = sqliteTable('recordings', {
  id: text('id').primaryKey(),
  owner: owner(),
  /** A WAV file, mono. */
  wav: blob('wav', { mode: 'buffer' }).notNull(),
  recordedAt: at('recorded_at'),
})

/** Films of dances: each the file of its hash. Rows never change but for the last column; routines name them by id. */
export const films = sqliteTable(
  'films',
  {
    id: text('id').primaryKey(),
    owner: owner(),
    hash: text('hash').notNull(),
    bytes: integer('bytes').notNull(),
    mime: text('mime').notNull(),
    fileName: text('file_name').notNull(),
    seconds: real('seconds').notNull(),
    width: integer('width').notNull(),
    height: integer('height').notNull(),
    createdAt: at('created_at'),
    /** Since when no routine names it; null while one does. */
    unnamedSince: integer('unnamed_since', { mode: 'timestamp_ms' }),
  },
  (t) => [index('films_hash').on(t.hash)],
)

/** How a song sounds, from which another copy of it is known; worked out by a page when it was first asked for. */
export const traces = sqliteTable('traces', {
  songId: text('song_id')
    .primaryKey()
    .references(() => songs.id, { onDelete: 'cascade' }),
  /** Packed by core/match. */
  data: blob('data', { mode: 'buffer' }).notNull(),
})

/** What playing a song needs to know of it: where its strokes lie, how loud it is. Found again where it is missing. */
export const measures = sqliteTable('measures', {
  songId: text('song_id')
    .primaryKey()
    .references(() => songs.id, { onDelete: 'cascade' }),
  /** Packed by core/stretch. */
  data: blob('data', { mode: 'buffer' }).notNull(),
})

/** The newest save of each window of each document: one that is sent again is known, also after somebody else saved. */
export const saves = sqliteTable(
  'saves',
  {
    /** "routine" with its id, or "moves". */
    document: text('document').notNull(),
    writer: text('writer').notNull(),
    save: integer('save').notNull(),
    /** The revision it made. */
    revision: integer('revision').notNull(),
    /** SHA-256 of what was saved. */
    hash: text('hash').notNull(),
    savedAt: at('saved_at'),
  },
  (t) => [primaryKey({ columns: [t.document, t.writer] })],
)
