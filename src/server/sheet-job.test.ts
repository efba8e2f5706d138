/* Setting a cue sheet, as work in the database, wherever what is asked for is kept. */
import { eq } from 'drizzle-orm'
import { beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { SheetRow } from '@/core/handout'
import { database, queued, transact } from './database'
import { erasePerson } from './erase'
import { sheetStore } from './file-store'
import { setSheet } from './handout/set-sheet'
import { JobRunner } from './job-runner'
import { type About, aboutSong, ask, QUEUES, stateOf, take } from './jobs'
import { filesKept, ownData } from './own-data.test-tools'
import { Problem } from './problem'
import { songOfRoutine } from './routine-song'
import { addRoutine } from './routines'
import { belongings, joined, ownSchool } from './school.test-tools'
import { jobs, sheets } from './school-schema'
import { aboutSheet, askAgain, askForSheet, sheetJob } from './sheet-job'
import { setFileOf, sweepSheets } from './sheet-leftovers'
import { isSet, keepAsked, keepSet, type Sheet, sheetSet } from './sheets'
import { purgeRoutine } from './song-leftovers'
import { sweep } from './sweep'
import { doneBy, type Who } from './who'

const data = ownData()
ownSchool()

const row = (heading: string, notes: readonly string[] = []): SheetRow => ({
  ...{ from: 0, length: 192, indent: 0, across: 192, heading, title: '', time: '', counts: [], between: [] },
  ...{
    again: '',
    feet: [],
    wall: '',
    lyric: '',
    notes: [...notes],
    lanes: [],
    plans: [],
    way: '',
    path: null,
  },
})
const asked = (heading: string, ...notes: string[]): Sheet => ({
  rows: [row(heading, notes)],
  head: { title: 'Annas dance', credit: '', facts: '', language: 'en' },
  paper: { size: 'A4', across: false, wall: false },
})

const HOUR = 3600 * 1000
let anna: Who
let boris: Who
const routine = { anna: '', boris: '' }
beforeAll(async () => {
  anna = await joined('Anna', 'owner')
  boris = await joined('Boris', 'teacher')
  routine.anna = (await belongings(anna, 'Annas')).routine
  routine.boris = (await belongings(boris, 'Boriss')).routine
})
beforeEach(async () => {
  const db = await database()
  await db.delete(jobs)
  await sweepSheets(db, Date.now() + 1000 * HOUR)
})

const asks = (sheet: Sheet) => doneBy(anna, () => askForSheet(routine.anna, sheet))
const about = (id: string): Promise<About> => aboutSheet(routine.anna, id)
const stateNow = async (id: string) => stateOf('sheet', await about(id))
/** A program that sets every sheet as its heading. */
const asText: typeof setSheet = async (rows) => ({
  pdf: Buffer.from(`%PDF-${rows[0]?.heading}`),
  missing: ['漢'],
})
const runs = (set: typeof setSheet = asText) => new JobRunner({ sheet: sheetJob(set) }, 'Choose less.')
const read = async (id: string) => {
  const { pdf, missing } = await sheetSet(id)
  return [pdf.toString('latin1'), ...missing]
}

describe('a sheet that is asked for', () => {
  it('is set by whoever takes it, and is there for who asked', async () => {
    const id = await asks(asked('Verse'))
    expect(await stateNow(id)).toEqual({ kind: 'waiting', before: 0 })
    await expect(sheetSet(id)).rejects.toMatchObject({ status: 410 })
    expect(await runs().runNext()).toBe(true)
    expect([await stateNow(id), await isSet(id)]).toEqual([null, true])
    expect(await read(id)).toEqual(['%PDF-Verse', '漢'])
  })

  it('is set by the program that sets sheets, pictures and all', async () => {
    const pixel =
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='
    const { rows, head, paper } = asked('Verse')
    const id = await asks({
      rows,
      head,
      paper: { ...paper, stills: { mirrored: false, pictures: { '0': pixel } } },
    })
    expect(await runs(setSheet).runNext()).toBe(true)
    expect(await stateNow(id)).toBeNull()
    expect((await sheetSet(id)).pdf.toString('latin1', 0, 5)).toBe('%PDF-')
  })

  it('twice is one, and is there at once the second time; of anybody else, or otherwise, it is another', async () => {
    const id = await asks(asked('Verse'))
    expect(await asks(asked('Verse'))).toBe(id)
    expect(await (await database()).select().from(jobs)).toHaveLength(1)
    await runs().runNext()
    expect(await asks(asked('Verse'))).toBe(id)
    expect([await stateNow(id), await isSet(id)]).toEqual([null, true])
    expect(await asks(asked('Chorus'))).not.toBe(id)
    expect(await doneBy(boris, () => askForSheet(routine.boris, asked('Verse')))).not.toBe(id)
  })

  it('and is more than can be set is refused before anything is kept', async () => {
    const long = asked('Verse', ...Array.from({ length: 4000 }, () => 'x'))
    await expect(asks(long)).rejects.toMatchObject({ status: 413 })
    expect(filesKept(data, 'sheets')).toEqual([])
  })

  it('and cannot be set says why, and is tried anew when asked for again', async () => {
    const id = await asks(asked('Verse'))
    const over = runs(async () => {
      throw new Problem(413, 'It takes more time than any.')
    })
    await over.runNext()
    expect(await stateNow(id)).toEqual({ kind: 'failed', why: 'It takes more time than any.' })
    const again = await about(id)
    await doneBy(anna, () => askAgain(again))
    await runs().runNext()
    expect(await read(id)).toEqual(['%PDF-Verse', '漢'])
  })

  it('and whose file was lost is refused, and made anew by asking for it', async () => {
    const id = await asks(asked('Verse'))
    await sheetStore().remove(id)
    await runs().runNext()
    expect(await stateNow(id)).toMatchObject({
      kind: 'failed',
      why: expect.stringContaining('Ask for it again'),
    })
    expect(await asks(asked('Verse'))).toBe(id)
    await runs().runNext()
    expect(await isSet(id)).toBe(true)
  })

  it('does not wait for songs that are heard, and they do not wait for it', async () => {
    const song = await songOfRoutine(routine.anna)
    await doneBy(anna, () => ask('hear', aboutSong(song)))
    const id = await asks(asked('Verse'))
    expect(await stateNow(id)).toEqual({ kind: 'waiting', before: 0 })
    const [slow, quick] = QUEUES
    expect([(await take(slow, ''))?.kind, (await take(quick, ''))?.kind]).toEqual(['hear', 'sheet'])
    expect([await take(slow, ''), await take(quick, '')]).toEqual([null, null])
  })

  it('worn out in one queue says nothing of another', async () => {
    const id = await asks(asked('Verse'))
    await (await database()).update(jobs).set({ tries: 3 })
    expect(await take(QUEUES[0], 'worn')).toBeNull()
    expect(await stateNow(id)).toEqual({ kind: 'waiting', before: 0 })
    expect(await take(QUEUES[1], 'worn')).toBeNull()
    expect(await stateNow(id)).toEqual({ kind: 'failed', why: 'worn' })
  })
})

describe('what is kept of sheets', () => {
  const both = (id: string) => [id, setFileOf(id)].sort()
  const kept = () => filesKept(data, 'sheets').sort()
  const setOne = async () => {
    const id = await asks(asked('Verse'))
    await runs().runNext()
    expect(kept()).toEqual(both(id))
    return id
  }

  it('goes after a day, counted from when it was asked for last', async () => {
    const id = await setOne()
    const db = await database()
    await db.update(sheets).set({ askedAt: new Date(Date.now() - 23 * HOUR) })
    await sweep(db)
    expect(kept()).toEqual(both(id))
    await asks(asked('Verse'))
    await sweep(db, Date.now() + 23 * HOUR)
    expect(kept()).toEqual(both(id))
    await sweep(db, Date.now() + 25 * HOUR)
    expect([kept(), await db.select().from(sheets)]).toEqual([[], []])
  })

  it('stays known where the store is away, and goes once it is back', async () => {
    await setOne()
    const db = await database()
    const away = () => Promise.reject(new Error('away'))
    await expect(sweepSheets(db, Date.now() + 25 * HOUR, away)).rejects.toThrow('away')
    expect(await db.select().from(sheets)).toHaveLength(1)
    await sweepSheets(db, Date.now() + 25 * HOUR)
    expect([kept(), await db.select().from(sheets)]).toEqual([[], []])
  })

  it('goes with its routine, also where it is being set', async () => {
    const other = await doneBy(anna, async () => addRoutine(await songOfRoutine(routine.anna)))
    const ask = () => doneBy(anna, () => askForSheet(other, asked('Verse')))
    const id = await ask()
    await runs().runNext()
    await queued((db) => purgeRoutine(db, other, transact))
    expect(kept()).toEqual([])
    // Who was at it meanwhile brings it to its end: nothing is left of it.
    await keepSet(id, { pdf: Buffer.from('%PDF-late'), missing: [] })
    expect(kept()).toEqual([])
    // Who asks for it, either.
    await expect(doneBy(anna, () => keepAsked(other, asked('Verse')))).rejects.toMatchObject({ status: 404 })
    expect(kept()).toEqual([])
  })

  it('goes with whoever asked', async () => {
    const clara = await joined('Clara', 'teacher')
    // Of a routine that stays.
    await doneBy(clara, () => askForSheet(routine.anna, asked('Verse')))
    await runs().runNext()
    expect(kept()).toHaveLength(2)
    await erasePerson(clara.id)
    expect(kept()).toEqual([])
    expect(await (await database()).select().from(sheets).where(eq(sheets.personId, clara.id))).toEqual([])
  })
})
