import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { chmodSync, existsSync, mkdirSync, readdirSync, statSync, utimesSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { createClient } from '@libsql/client'
import { sql } from 'drizzle-orm'
import { describe, expect, it } from 'vitest'
import { loopTrack } from '../../e2e/sounds'
import { database, queued, settleNow, write } from './database'
import { faultOf, isLocked } from './faults'
import { diskStore } from './file-store'
import { handle } from './handle'
import { bounded, markKeeping, passingFile } from './leftovers'
import { may } from './may'
import { filesKept, ownData } from './own-data.test-tools'
import { openRoutine } from './routines'
import { presets } from './schema'
import { databaseUrl, dataDirectory } from './settings'
import { shelfPart } from './shelf'
import { takeIn } from './songs'
import { sweep } from './sweep'

const home = ownData()
const ALL = { search: '', order: 'used', from: 0 } as const
const place = (...parts: string[]) => path.join(home, ...parts)
const context = { params: Promise.resolve({}) }
const answerTo = async (error: unknown) => {
  const answer = await handle(may.everybody, async () => {
    throw error
  })(new Request('http://localhost/api/x', { headers: { host: 'localhost' } }), context)
  return { status: answer.status, ...(await answer.json()).error }
}
const coded = (code: string) => Object.assign(new Error(`${code}: no`), { code })
async function* bytes(seconds: number) {
  yield loopTrack(97, seconds)
}

describe('what is wrong with the machine', () => {
  it.each([
    ['SQLITE_FULL', 507, 'full', /disk .* is full/],
    ['ENOSPC', 507, 'full', /Free some space/],
    ['SQLITE_READONLY_DIRECTORY', 503, 'read-only', /may not write/],
    ['EROFS', 503, 'read-only', /the right to/],
    ['SQLITE_BUSY_SNAPSHOT', 503, 'locked', /Another program holds/],
    ['SQLITE_NOTADB', 500, 'damaged', /damaged/],
  ])('%s is told in words, with what to do', async (code, status, name, words) => {
    const behind = new Error('Failed query: insert', { cause: coded(code) })
    for (const error of [coded(code), behind]) {
      const told = await answerTo(error)
      expect(told).toMatchObject({ status, code: name })
      expect(told.message).toMatch(words)
    }
  })
  it('a database that cannot be opened at all is told too', async () => {
    // A place where no file can be: a folder of that name stands there.
    const taken = place('taken.db')
    mkdirSync(taken, { recursive: true })
    const error = await Promise.resolve()
      .then(() => createClient({ url: `file:${taken}` }).execute('select 1'))
      .then(
        () => null,
        (e: unknown) => e,
      )
    expect(await answerTo(error)).toMatchObject({ status: 503, code: 'read-only' })
  })
  it('anything else is no fault of the machine', () => {
    expect(faultOf(new Error('SQLITE'))).toBeNull()
    expect(faultOf(coded('ECONNRESET'))).toBeNull()
    expect(isLocked(coded('SQLITE_FULL'))).toBe(false)
  })
})

describe('a database', () => {
  it('that is held by another program is waited for, and readers go on meanwhile', async () => {
    const { routines } = await takeIn(bytes(5), 'Held.wav')
    const other = createClient({ url: databaseUrl() })
    const held = await other.transaction('write')
    let written = false
    const mine = write((tx) => tx.run(sql`UPDATE routines SET title = 'Later'`)).then(() => {
      written = true
    })
    const before = performance.now()
    expect((await openRoutine(routines[0]?.id ?? '')).song.title).toBe('Held')
    // The thread that answers is not the one that waits.
    expect(performance.now() - before).toBeLessThan(1000)
    expect(written).toBe(false)
    await held.rollback()
    await mine
    other.close()
    expect((await shelfPart(ALL)).items.map((i) => i.title)).toEqual(['Later'])
  })
  it('lies whole in its one file once it is quiet', async () => {
    await settleNow()
    const wal = `${place('azalea.db')}-wal`
    expect(existsSync(wal) ? statSync(wal).size : 0).toBe(0)
    const copy = createClient({ url: databaseUrl() })
    expect((await copy.execute('SELECT count(*) AS n FROM routines')).rows[0]?.n).toBe(1)
    copy.close()
  })
  it('has no endless journal where others read and write without a pause', async () => {
    const LONG = { id: 'long', name: 'Long', createdAt: new Date() }
    const journal = () => statSync(`${place('azalea.db')}-wal`).size
    // What is as it was is not written again.
    const writeMegabyte = (letter: string) =>
      write((tx) =>
        tx
          .insert(presets)
          .values({ ...LONG, settings: letter.repeat(2 ** 20) })
          .onConflictDoUpdate({
            target: presets.id,
            set: { settings: letter.repeat(2 ** 20) },
          }),
      )
    const writeMegabytes = async (letters: string) => {
      for (const letter of letters) await writeMegabyte(letter)
    }
    const reader = createClient({ url: databaseUrl() })
    await database()
    const reading = await reader.transaction('read')
    await reading.execute('SELECT count(*) FROM routines')
    await writeMegabytes('abcdefghijklmnopqrst')
    expect(journal()).toBeGreaterThan(16 * 2 ** 20)
    // What is read is read to its end.
    expect((await reading.execute("SELECT * FROM presets WHERE id = 'long'")).rows).toEqual([])
    await reading.rollback()
    reader.close()
    await writeMegabytes('uvwxyz')
    // Everything before this has been done.
    await queued(async () => {})
    expect(journal()).toBeLessThan(8 * 2 ** 20)
  })
  it('of a newer version is looked at and never written', async () => {
    const dir = place('newer')
    mkdirSync(dir)
    process.env.AZALEA_DATA = dir
    const { routines } = await takeIn(bytes(6), 'Newer.wav')
    const id = routines[0]?.id ?? ''
    await write((tx) =>
      tx.run(sql`INSERT INTO __drizzle_migrations (hash, created_at) VALUES ('x', 9999999999999)`),
    )
    // Opened anew, as by the next start.
    process.env.AZALEA_DATA = home
    await database()
    process.env.AZALEA_DATA = dir
    expect((await openRoutine(id)).song.title).toBe('Newer')
    await expect(takeIn(bytes(7), 'More.wav')).rejects.toMatchObject({ code: 'newer' })
    expect(filesKept(dir, 'audio')).toHaveLength(1)
    expect(readdirSync(path.join(dir, 'passing'))).toEqual([])
    process.env.AZALEA_DATA = home
  })
  it('that is damaged is said to be', async () => {
    const dir = place('damaged')
    mkdirSync(dir)
    writeFileSync(path.join(dir, 'azalea.db'), Buffer.alloc(8192, 7))
    process.env.AZALEA_DATA = dir
    expect(await answerTo(await shelfPart(ALL).catch((e: unknown) => e))).toMatchObject({ code: 'damaged' })
    process.env.AZALEA_DATA = home
  })
})

describe('what was left behind', () => {
  const ended = () => {
    const { pid } = spawnSync(process.execPath, ['-e', ''])
    return pid
  }
  it('by a process that is gone goes at the next start; what a living one works with stays', async () => {
    const child = spawn(process.execPath, ['-e', 'setTimeout(() => {}, 60000)'])
    const files = {
      gone: place('passing', `${ended()}-abc.x.part`),
      mineBefore: place('passing', `${process.pid}-abc.x.part`),
      alive: place('passing', `${child.pid}-abc.x.part`),
      forgotten: place('passing', `${child.pid}-abc.y.part`),
      mine: passingFile('part'),
    }
    for (const file of Object.values(files)) writeFileSync(file, 'x')
    utimesSync(files.forgotten, new Date(0), new Date(0))
    await sweep(await database())
    const left = Object.entries(files).flatMap(([name, file]) => (existsSync(file) ? [name] : []))
    expect(left).toEqual(['alive', 'mine'])
    child.kill()
  })
  it('sound without a row goes, sound with one stays', async () => {
    const { song } = await takeIn(bytes(8), 'Stays.wav')
    const orphan = createHash('sha256').update('orphan').digest('hex')
    writeFileSync(place('audio', orphan), 'sound')
    for (const hash of [orphan, song.hash])
      writeFileSync(place('passing', `${ended()}-abc.${hash}.keeping`), '')
    await sweep(await database())
    expect(await diskStore().size(orphan)).toBeNull()
    expect(await diskStore().size(song.hash)).toBe(song.bytes)
    // Done by this process, it leaves no mark.
    const done = await markKeeping(orphan)
    await done()
    expect(readdirSync(place('passing')).filter((n) => n.endsWith('.keeping'))).toEqual([])
  })
  it('a song that cannot be written down leaves no file', async () => {
    const before = readdirSync(place('audio'))
    await write((tx) =>
      tx.run(sql`CREATE TRIGGER no BEFORE INSERT ON songs BEGIN SELECT RAISE(ABORT, 'no'); END`),
    )
    await expect(takeIn(bytes(9), 'Never.wav')).rejects.toThrow()
    await write((tx) => tx.run(sql`DROP TRIGGER no`))
    expect(readdirSync(place('audio'))).toEqual(before)
  })
  it('spoken words are kept in a bound, the last used', async () => {
    const dir = place('voice')
    mkdirSync(dir)
    for (let i = 0; i < 5; i++) {
      writeFileSync(path.join(dir, `${i}`), 'x')
      utimesSync(path.join(dir, `${i}`), i, i)
    }
    await bounded(dir, 3)
    expect(readdirSync(dir)).toEqual(['2', '3', '4'])
    await bounded(place('none'), 3)
  })
  it('nothing in the data directory can be read by others', () => {
    const dir = place('fresh')
    process.env.AZALEA_DATA = dir
    expect(statSync(dataDirectory()).mode & 0o077).toBe(0)
    // Also where it was made more open before.
    chmodSync(dir, 0o755)
    dataDirectory()
    expect(statSync(dir).mode & 0o077).toBe(0)
    process.env.AZALEA_DATA = home
  })
})
