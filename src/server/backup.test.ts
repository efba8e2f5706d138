import { createHash } from 'node:crypto'
import {
  createWriteStream,
  existsSync,
  mkdtempSync,
  readFileSync as read,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import { createClient } from '@libsql/client'
import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import yazl from 'yazl'
import { STARTING_MOVES } from '@/core/choreo'
import { emptyRoutine, type Routine } from '@/core/routine'
import { loopTrack } from '../../e2e/sounds'
import { DATABASE, MANIFEST, type Manifest, makeBackup } from './backup'
import { database } from './database'
import { keepHearing } from './hearings'
import { openMoves, saveMoves } from './moves'
import { ownData } from './own-data.test-tools'
import { keepRecording } from './recordings'
import { restoreBackup } from './restore'
import { logOf, logRepetition, saveRoutine } from './routines'
import { routines } from './schema'
import { shelfPart } from './shelf'
import { takeIn } from './songs'

const first = ownData()
const files = mkdtempSync(path.join(os.tmpdir(), 'azalea-zips-'))
afterAll(() => rmSync(files, { recursive: true, force: true }))
const file = (name: string) => path.join(files, name)

/** Goes to another, empty place. */
function elsewhere(): string {
  const dir = mkdtempSync(path.join(files, 'place-'))
  process.env.AZALEA_DATA = dir
  return dir
}

async function song(bpm: number, title: string) {
  async function* bytes() {
    yield loopTrack(bpm, 4)
  }
  const { song: made, routines: list } = await takeIn(bytes(), `${title}.wav`)
  await keepHearing(made.id, 7, '{"not":"read here"}', Buffer.from([1, 2, 3, 255]))
  return { song: made, id: list[0]?.id as string }
}

const repetition = (id: string) => ({
  ...{
    id,
    doneAt: 1_790_000_000_000,
    kind: 'drill' as const,
    from: 1.25,
    to: 5.5,
    label: 'Eight 1',
    pass: 'all' as const,
  },
  ...{
    speed: 0.75,
    sound: 'both' as const,
    seconds: 4,
    mark: 'clean' as const,
    looped: false,
    slips: [1.5],
    corrects: null,
    group: 'G',
  },
})

const TABLES = [
  'songs',
  'hearings',
  'routines',
  'repetitions',
  'lesson_steps',
  'timings',
  'own_counts',
  'presets',
  'move_lists',
  'traces',
  'measures',
  'recordings',
]

/** Every row of every table, as it is stored. */
async function everything(dir: string) {
  const client = createClient({ url: `file:${path.join(dir, 'azalea.db')}` })
  const out: Record<string, unknown> = {}
  for (const t of TABLES) {
    const { rows } = await client.execute(`SELECT * FROM ${t} ORDER BY 1, 2`)
    out[t] = rows.map((r) =>
      Object.values(r).map((x) => (x instanceof ArrayBuffer ? Buffer.from(x).toString('hex') : x)),
    )
  }
  client.close()
  return out
}

async function backup(name: string) {
  const made = await makeBackup()
  await pipeline(made.stream, createWriteStream(file(name)))
  await made.close()
  expect(readFileSync(file(name)).length).toBe(made.bytes)
  return file(name)
}

/** A file of some bytes. */
function written(bytes: string | Buffer): string {
  writeFileSync(file('x'), bytes)
  return file('x')
}

/** A zip of some pieces, by another hand. */
async function zipOf(name: string, pieces: Record<string, Buffer>, compress = false) {
  const zip = new yazl.ZipFile()
  for (const [n, b] of Object.entries(pieces)) zip.addBuffer(b, n, { compress })
  zip.end()
  await pipeline(zip.outputStream, createWriteStream(file(name)))
  return file(name)
}

let id = ''
beforeAll(async () => {
  const one = await song(97, 'One')
  id = one.id
  await song(120, 'Two')
  await logRepetition(id, repetition('repetition-one'))
  await saveMoves({ revision: 0, writer: 'writer-one', save: 1 }, STARTING_MOVES)
  await keepRecording('recording-one', { wav: read('public/voice/5.wav').toString('base64') })
})

describe('a backup', () => {
  it('restored in an empty place gives the same database, row for row, and the same audio', async () => {
    const before = await everything(first)
    const zip = await backup('all.zip')
    const there = elsewhere()
    expect(await restoreBackup(zip)).toMatchObject({ songs: 2, routines: 2, log: 1, beside: [] })
    expect(await everything(there)).toEqual(before)
    const names = readdirSync(path.join(first, 'audio')).sort()
    expect(readdirSync(path.join(there, 'audio')).sort()).toEqual(names)
    for (const n of names)
      expect(
        readFileSync(path.join(there, 'audio', n)).equals(readFileSync(path.join(first, 'audio', n))),
      ).toBe(true)
    // Once more it changes nothing.
    expect(await restoreBackup(zip)).toMatchObject({ songs: 0, routines: 0, log: 0, beside: [] })
    expect(await everything(there)).toEqual(before)
    // And out of there goes the same again.
    const again = await backup('again.zip')
    const third = elsewhere()
    await restoreBackup(again)
    expect(await everything(third)).toEqual(before)
    process.env.AZALEA_DATA = first
  })

  it('is merged into what is there: nothing is overwritten, what differs comes beside it', async () => {
    const there = elsewhere()
    // The same song was taken in here under another id, and has a routine of its own.
    const own = await song(97, 'Mine')
    await logRepetition(own.id, repetition('repetition-own'))
    await restoreBackup(file('all.zip'))
    const rows = await (await database()).select().from(routines)
    expect(rows.map((r) => r.title).sort()).toEqual(['Mine', 'One', 'Two'])
    expect(rows.find((r) => r.title === 'One')?.songId).toBe(own.song.id)
    expect(((await everything(there)).songs as unknown[]).length).toBe(2)
    // A routine that was changed since stays as it is; the state of the backup is added.
    await saveRoutine(id, { revision: 0, writer: 'writer-two', save: 1 }, emptyRoutine('One, changed'))
    const done = await restoreBackup(file('all.zip'))
    expect(done).toMatchObject({ routines: 1, beside: ['One (from a backup)'] })
    const [kept] = await (await database()).select().from(routines).where(eq(routines.id, id))
    expect(kept?.title).toBe('One, changed')
    expect(await restoreBackup(file('all.zip'))).toMatchObject({ routines: 0, beside: [] })
    process.env.AZALEA_DATA = first
  })

  it('with damaged rows is brought without them, and says so', async () => {
    const from = elsewhere()
    const one = await song(99, 'Sound')
    const two = await song(131, 'Damaged')
    await logRepetition(one.id, repetition('repetition-good'))
    await logRepetition(one.id, repetition('repetition-hurt'))
    await logRepetition(two.id, repetition('repetition-two'))
    await saveMoves({ revision: 0, writer: 'writer-one', save: 1 }, STARTING_MOVES)
    for (const damage of [
      `UPDATE repetitions SET slips = 'no', done_at = 'then' WHERE id = 'repetition-hurt'`,
      `UPDATE routines SET document = '[' WHERE id = '${two.id}'`,
      `UPDATE move_lists SET document = '[{"id":1}]'`,
    ])
      await (await database()).run(sql.raw(damage))
    const zip = await backup('damaged.zip')
    elsewhere()
    // The list, the routine with its row, and the row that is hurt itself.
    expect(await restoreBackup(zip)).toMatchObject({ songs: 2, routines: 1, log: 1, damaged: 4 })
    const shelf = await shelfPart({ search: '', order: 'used', from: 0 })
    expect([shelf.items.map((i) => i.title), shelf.unreadable]).toEqual([['Sound'], []])
    expect((await logOf([one.id])).map((r) => r.id)).toEqual(['repetition-good'])
    expect((await openMoves()).moves).toHaveLength(STARTING_MOVES.length)
    process.env.AZALEA_DATA = first
    rmSync(from, { recursive: true, force: true })
  })

  it('what learners said is the log’s: it comes to the routine that is here', async () => {
    elsewhere()
    await restoreBackup(file('all.zip'))
    const [before] = await (await database()).select().from(routines).where(eq(routines.id, id))
    const document = JSON.parse(before?.document ?? '') as Routine
    const made = '2026-11-20T10:00:00.000Z'
    const learners = [{ id: 'x', name: 'Ina', made, marks: [] }]
    const save = { revision: before?.revision ?? 0, writer: 'writer-two', save: 1 }
    await saveRoutine(id, save, { ...document, learners })
    const zip = await backup('learners.zip')
    elsewhere()
    await restoreBackup(file('all.zip'))
    expect(await restoreBackup(zip)).toMatchObject({ routines: 0, beside: [] })
    const [after] = await (await database()).select().from(routines).where(eq(routines.id, id))
    expect(after && (JSON.parse(after.document) as Routine).learners).toEqual(learners)
    expect(after?.revision).toBe((before?.revision ?? 0) + 1)
    process.env.AZALEA_DATA = first
  })
})

describe('what is no good backup is refused in words, and nothing is changed', () => {
  const manifest = () => JSON.parse(pieces[MANIFEST]?.toString('utf8') ?? '') as Manifest
  const pieces: Record<string, Buffer> = {}
  beforeAll(async () => {
    // Read back by hand: a stored piece lies in the zip as it is.
    const { openZip } = await import('./zip')
    const zip = await openZip(file('all.zip'), () => 1e9)
    for (const name of zip.sizes.keys()) {
      const chunks: Buffer[] = []
      for await (const c of await zip.read(name)) chunks.push(c as Buffer)
      pieces[name] = Buffer.concat(chunks)
    }
    zip.close()
  })
  const changed = (what: (p: Record<string, Buffer>) => void) => {
    const p = { ...pieces }
    what(p)
    return p
  }
  const withManifest = (what: Partial<Record<keyof Manifest, unknown>>) =>
    changed((p) => {
      p[MANIFEST] = Buffer.from(JSON.stringify({ ...manifest(), ...what }))
    })
  const audio = () => Object.keys(pieces).find((n) => n.startsWith('audio/')) as string

  const cases: [string, () => Promise<string>, RegExp][] = [
    ['no zip', async () => written('no zip at all'), /broken, or no zip/],
    ['empty', async () => written(''), /broken, or no zip/],
    ['cut off', async () => written(readFileSync(file('all.zip')).subarray(0, 60_000)), /broken/],
    ['another zip', () => zipOf('x', { 'notes.txt': Buffer.from('hello') }), /does not put there/],
    ['no manifest', () => zipOf('x', { [DATABASE]: pieces[DATABASE] as Buffer }), /no backup/],
    ['a newer version', () => zipOf('x', withManifest({ version: 3 })), /newer version/],
    ['a manifest of another kind', () => zipOf('x', withManifest({ songs: 'none' })), /broken/],
    ['a song that is not listed', () => zipOf('x', withManifest({ songs: [] })), /broken/],
    [
      'a song that is not there',
      () =>
        zipOf(
          'x',
          changed((p) => {
            delete p[audio()]
          }),
        ),
      /broken/,
    ],
    [
      'other bytes in a song',
      () =>
        zipOf(
          'x',
          changed((p) => {
            p[audio()] = Buffer.alloc((p[audio()] as Buffer).length)
          }),
        ),
      /broken/,
    ],
    [
      'other bytes in the database',
      () =>
        zipOf(
          'x',
          changed((p) => {
            p[DATABASE] = Buffer.alloc((p[DATABASE] as Buffer).length)
          }),
        ),
      /broken/,
    ],
    [
      'a name that leads elsewhere',
      async () => {
        const zip = readFileSync(
          await zipOf(
            'x',
            changed((p) => {
              p['audio/aaaaaaaaaaaaaaaaa'] = Buffer.from('x')
            }),
          ),
        )
        const text = zip.toString('latin1').replaceAll('audio/aaaaaaaaaaaaaaaaa', '../../../../etc/passwords')
        writeFileSync(file('x'), Buffer.from(text.slice(0, zip.length), 'latin1'))
        return file('x')
      },
      /broken|does not put there/,
    ],
    [
      'a name with a drive',
      () =>
        zipOf(
          'x',
          changed((p) => {
            p['audio/C'] = Buffer.from('x')
          }),
        ),
      /does not put there/,
    ],
    [
      'a bomb',
      () => zipOf('x', { ...pieces, [audio()]: Buffer.alloc(20 * 1024 * 1024) }, true),
      /unpack to more/,
    ],
    [
      'a database that does things by itself',
      async () => {
        const db = file('hostile.db')
        writeFileSync(db, pieces[DATABASE] as Buffer)
        const client = createClient({ url: `file:${db}` })
        await client.execute('CREATE TRIGGER t AFTER INSERT ON songs BEGIN DELETE FROM songs; END')
        client.close()
        return zipOf('x', withDatabase(readFileSync(db)))
      },
      /broken/,
    ],
    [
      'a database of another form',
      async () => {
        const db = file('other.db')
        writeFileSync(db, pieces[DATABASE] as Buffer)
        const client = createClient({ url: `file:${db}` })
        await client.execute('ALTER TABLE songs ADD COLUMN more TEXT')
        client.close()
        return zipOf('x', withDatabase(readFileSync(db)))
      },
      /broken/,
    ],
    [
      'a newer database',
      async () => {
        const db = file('newer.db')
        writeFileSync(db, pieces[DATABASE] as Buffer)
        const client = createClient({ url: `file:${db}` })
        await client.execute(
          "INSERT INTO __drizzle_migrations (hash, created_at) VALUES ('x', 9999999999999)",
        )
        client.close()
        return zipOf('x', withDatabase(readFileSync(db)))
      },
      /newer version/,
    ],
  ]
  const withDatabase = (bytes: Buffer) => {
    return {
      ...withManifest({
        database: { bytes: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') },
      }),
      [DATABASE]: bytes,
    }
  }
  it.each(cases)('%s', async (_, make, words) => {
    const zip = await make()
    const there = elsewhere()
    await database()
    const before = await everything(there)
    await expect(restoreBackup(zip)).rejects.toThrow(words)
    expect(await everything(there)).toEqual(before)
    const left = existsSync(path.join(there, 'audio')) ? readdirSync(path.join(there, 'audio')) : []
    expect(left).toEqual([])
    process.env.AZALEA_DATA = first
  })
})
