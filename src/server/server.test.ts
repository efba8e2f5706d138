import { readFileSync } from 'node:fs'
import { eq, sql } from 'drizzle-orm'
import { describe, expect, it } from 'vitest'
import { emptyRoutine, ROUTINE_VERSION, type Routine, USUAL } from '@/core/routine'
import { packMeasure } from '@/core/stretch'
import { loopTrack } from '../../e2e/sounds'
import { removeRoutine } from './bin'
import { database, write } from './database'
import { keepHearing } from './hearings'
import { allPresets, keepPreset, lessonLog, logLessonStep, removePreset } from './lessons'
import { keepMeasure, measureOfSong } from './measures'
import { filesKept, isFar, ownData } from './own-data.test-tools'
import { routineFileOf } from './routine-file'
import {
  addRoutine,
  copyRoutine,
  logOf,
  logRepetition,
  type NewRepetition,
  openRoutine,
  saveRoutine,
} from './routines'
import { measures, presets as presetRows, routines as routineRows, saves as saveRows } from './schema'
import { shelfPart } from './shelf'
import { takeIn } from './songs'
import { sweepSaves } from './sweep'

const ALL = { search: '', order: 'used', from: 0 } as const
const dir = ownData()

async function* pieces(bytes: Uint8Array, size = 10_000) {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size)
}
const files = () => filesKept(dir, 'audio')
const song = (bpm: number) => loopTrack(bpm, 6)

let rows = 0
const repetition = (what: Partial<NewRepetition> = {}): NewRepetition => ({
  id: `repetition-${rows++}`,
  doneAt: Date.UTC(2026, 10, 1) + rows,
  kind: 'drill',
  from: 1,
  to: 5,
  label: 'Verse, eight 1',
  pass: 'all',
  speed: 0.75,
  sound: 'both',
  seconds: 5,
  mark: 'clean',
  looped: false,
  slips: [],
  corrects: null,
  group: '',
  ...what,
})
/** The first save of a window. */
const from = (revision: number, writer = `window-${rows++}-here`) => ({ revision, writer, save: 1 })

describe('songs', () => {
  it('are kept once, by the hash of their bytes, whatever they are called', async () => {
    const first = await takeIn(pieces(song(100)), 'First.wav')
    const second = await takeIn(pieces(song(100), 997), 'Second.wav')
    expect(second.song.id).toBe(first.song.id)
    expect([first.fresh, second.fresh]).toEqual([true, false])
    expect(second.routines.map((r) => r.title)).toEqual(['First'])
    expect(files()).toEqual([first.song.hash])
  })
  it('keep what playing them needs to know, the newest of it, and go with it', async () => {
    const { song: kept, routines: used } = await takeIn(pieces(song(102)), 'Measured.wav')
    expect(await measureOfSong(kept.id)).toBe('')
    const packed = (strokes: number[]) => Buffer.from(packMeasure(strokes, [0.01])).toString('base64')
    for (const strokes of [[1], [1, 2], [1, 2]]) {
      await keepMeasure(kept.id, { measure: packed(strokes) })
      expect(await measureOfSong(kept.id)).toBe(packed(strokes))
    }
    await expect(keepMeasure(kept.id, { measure: 'AAAA' })).rejects.toThrow('cannot be read')
    await expect(keepMeasure('nobody', { measure: packed([1]) })).rejects.toThrow('not here any more')
    expect(await measureOfSong(kept.id)).toBe(packed([1, 2]))
    await removeRoutine(used[0]?.id as string)
    await expect(measureOfSong(kept.id)).rejects.toThrow('not here any more')
    const left = await (await database()).select().from(measures).where(eq(measures.songId, kept.id))
    expect(left).toEqual([])
  })
  it('that break off on their way leave nothing', async () => {
    async function* broken() {
      yield song(101).subarray(0, 5000)
      throw new Error('the line went dead')
    }
    const kept = files()
    await expect(takeIn(broken(), 'Broken.wav')).rejects.toThrow('dead')
    await expect(takeIn(pieces(Buffer.from('no sound at all '.repeat(200))), 'Text.mp3')).rejects.toThrow(
      'not a sound file',
    )
    await expect(takeIn(pieces(new Uint8Array(0)), 'Empty.wav')).rejects.toThrow('is empty')
    expect(files()).toEqual(kept)
  })
  it('give back their audio only when the last routine on them goes', async () => {
    const { song: kept, routines } = await takeIn(pieces(song(102)), 'Shared.wav')
    const other = await addRoutine(kept.id)
    await removeRoutine(routines[0]?.id ?? '')
    expect(files()).toContain(kept.hash)
    await removeRoutine(other)
    expect(files()).not.toContain(kept.hash)
    await expect(openRoutine(other)).rejects.toThrow('not here any more')
  })
  it('keep one hearing a version; a routine is shown the one its counts stand on', async () => {
    const { song: heard, routines } = await takeIn(pieces(song(103)), 'Heard.wav')
    const hearing = (version: number, tempo: number) =>
      JSON.stringify({
        version,
        tempo,
        duration: 6,
        steady: true,
        beats: [],
        phrases: [],
        sections: [],
        confidence: { beats: 0, one: 0 },
        alternatives: [],
      })
    await keepHearing(heard.id, 2, hearing(2, 103), Buffer.from([1, 2]))
    await keepHearing(heard.id, 1, hearing(1, 51.5), Buffer.from([3, 4]))
    // What is there stays: counts may stand on it.
    await keepHearing(heard.id, 2, hearing(2, 103.1), Buffer.from([5, 6]))
    const id = routines[0]?.id ?? ''
    // One without counts is laid out on the newest.
    expect((await openRoutine(id)).heard?.hearing.tempo).toBe(103)
    await saveRoutine(id, from(0), { ...emptyRoutine('Heard once'), heardWith: 1 })
    expect((await openRoutine(id)).heard?.hearing.tempo).toBe(51.5)
    await saveRoutine(id, from(1), { ...emptyRoutine('Heard again'), heardWith: 2 })
    const open = await openRoutine(id)
    expect(open.heard?.hearing.tempo).toBe(103)
    expect(open.heard?.peaks).toBe(Buffer.from([1, 2]).toString('base64'))
    await keepHearing(heard.id, 3, 'half a fi', Buffer.from([1]))
    await keepHearing(heard.id, 3, hearing(3, 99), Buffer.from([2]))
    await saveRoutine(id, from(2), { ...emptyRoutine('Heard after all'), heardWith: 3 })
    expect((await openRoutine(id)).heard?.hearing.tempo).toBe(99)
  })
  it('are named by every routine with counts, also by those that named none', async () => {
    const { song: heard, routines } = await takeIn(pieces(song(105)), 'Named.wav')
    const id = routines[0]?.id ?? ''
    for (const version of [4, 6])
      await keepHearing(heard.id, version, JSON.stringify({ version }), Buffer.from([1]))
    const counted = {
      ...emptyRoutine('Counted'),
      phrases: [{ length: 8, feel: 'straight', pickUp: false } as const],
    }
    await saveRoutine(id, from(0), counted)
    expect((await openRoutine(id)).routine).toEqual({ ...counted, heardWith: 4 })
    // Saved by an earlier version, which named none.
    const db = await database()
    const before = JSON.stringify(counted)
    await db.update(routineRows).set({ document: before }).where(eq(routineRows.id, id))
    const bare = await addRoutine(heard.id)
    await db.run(sql.raw(readFileSync('drizzle/0011_named_hearings.sql', 'utf8')))
    const stored = await db.query.routines.findFirst({ where: eq(routineRows.id, id) })
    expect(stored?.document).toBe(before.replace('"heardWith":0', '"heardWith":4'))
    expect((await openRoutine(bare)).routine.heardWith).toBe(0)
  })
})

describe('routines', () => {
  it('that cannot be read keep nobody from the others; a hearing that cannot is passed over', async () => {
    const good = await takeIn(pieces(song(111)), 'Good.wav')
    const bad = await takeIn(pieces(song(112)), 'Bad.wav')
    const [goodId, badId] = [good, bad].map((t) => t.routines[0]?.id ?? '') as [string, string]
    await keepHearing(good.song.id, 3, '{"version":3,"tempo":null}', Buffer.from([1]))
    await keepHearing(good.song.id, 4, 'half a fi', Buffer.from([1]))
    expect((await openRoutine(goodId)).heard).toBeNull()
    const document = '{"title":"from another time"}'
    await write((tx) => tx.update(routineRows).set({ document }).where(eq(routineRows.id, badId)))
    const { items, unreadable } = await shelfPart(ALL)
    expect(unreadable).toEqual(['Bad'])
    expect(items.map((o) => o.id)).toContain(goodId)
    expect(items.map((o) => o.id)).not.toContain(badId)
    const row = await (await database()).query.routines.findFirst({ where: eq(routineRows.id, badId) })
    expect(row?.document).toBe(document)
    await removeRoutine(badId)
    expect((await shelfPart(ALL)).unreadable).toEqual([])
  })
  const begun = async (bpm: number) =>
    (await takeIn(pieces(song(bpm)), `Song ${bpm}.wav`)).routines[0]?.id ?? ''
  const titled = (title: string): Routine => ({ ...emptyRoutine(title), credit: 'nobody' })

  it('are never overwritten from an older state: of two saves on one revision the second is refused', async () => {
    const id = await begun(110)
    expect(await saveRoutine(id, from(0), titled('Mine'))).toBe(1)
    await expect(saveRoutine(id, from(0), titled('Yours'))).rejects.toMatchObject({ status: 409 })
    expect((await openRoutine(id)).routine.title).toBe('Mine')
  })
  it('take many writes at once, one after the other', async () => {
    const id = await begun(111)
    await Promise.all(Array.from({ length: 25 }, () => logRepetition(id, repetition())))
    const results = await Promise.allSettled(
      Array.from({ length: 8 }, (_, i) => saveRoutine(id, from(0), titled(`Try ${i}`))),
    )
    expect(results.filter((r) => r.status === 'fulfilled')).toHaveLength(1)
    expect(await logOf([id])).toHaveLength(25)
  })
  it('of a newer version are opened and never saved over, nor made into anything that loses what is new in them', async () => {
    const id = await begun(116)
    const document = JSON.stringify({
      ...titled('From later'),
      version: ROUTINE_VERSION + 1,
      costumes: ['red'],
    })
    await (await database()).update(routineRows).set({ document }).where(eq(routineRows.id, id))
    expect(await openRoutine(id)).toMatchObject({
      newer: true,
      routine: { title: 'From later', version: ROUTINE_VERSION },
    })
    for (const making of [
      () => saveRoutine(id, from(0), titled('Mine')),
      () => copyRoutine(id),
      () => routineFileOf(id, { lessons: true }),
    ])
      await expect(making()).rejects.toMatchObject({ status: 409, code: 'newer' })
    const row = await (await database()).query.routines.findFirst({ where: eq(routineRows.id, id) })
    expect(row?.document).toBe(document)
    // It can be looked at: the shelf has it, and it is danced and logged.
    expect((await shelfPart(ALL)).unreadable).toEqual([])
    await logRepetition(id, repetition())
    expect(await logOf([id])).toHaveLength(1)
  })
  it('know a save that is sent again, also after somebody else saved, and by what it says', async () => {
    const id = await begun(114)
    const save = (n: number, title: string, revision: number) =>
      saveRoutine(id, { revision, writer: 'one-window', save: n }, titled(title))
    expect([await save(1, 'One', 0), await save(1, 'One', 0)]).toEqual([1, 1])
    expect(await openRoutine(id)).toMatchObject({ revision: 1, madeBy: { writer: 'one-window', save: 1 } })
    // Another document under the same number is not known, and not written.
    await expect(save(1, 'Another', 0)).rejects.toMatchObject({ status: 409, code: 'conflict' })
    await expect(save(2, 'Two', 0)).rejects.toMatchObject({ status: 409, code: 'conflict' })
    expect(await save(2, 'Two', 1)).toBe(2)
    // A request that comes late changes nothing.
    await expect(save(1, 'One', 0)).rejects.toMatchObject({ status: 409, code: 'overtaken' })
    await saveRoutine(id, from(2, 'another-window'), titled('Theirs'))
    // The window never heard that its last one was taken.
    expect(await save(2, 'Two', 1)).toBe(2)
    await expect(save(3, 'Three', 2)).rejects.toMatchObject({ status: 409, code: 'conflict' })
    expect((await openRoutine(id)).routine.title).toBe('Theirs')
  })
  it('forget what windows saved with them, and of windows that were closed long ago', async () => {
    const known = async () => (await database()).select().from(saveRows)
    const id = await begun(117)
    const before = (await known()).length
    await saveRoutine(id, from(0), titled('One'))
    expect(await known()).toHaveLength(before + 1)
    await removeRoutine(id)
    expect(await known()).toHaveLength(before)
    await sweepSaves(await database(), Date.now() + 100 * 24 * 3600 * 1000)
    expect(await known()).toEqual([])
  })
  it('keep each row of their log once, at the time it was danced', async () => {
    const id = await begun(115)
    const row = repetition({ doneAt: Date.UTC(2026, 9, 1, 19, 30) })
    await logRepetition(id, repetition())
    await Promise.all([logRepetition(id, row), logRepetition(id, row)])
    await logRepetition(id, row)
    expect((await logOf([id])).map((r) => r.id)[0]).toBe(row.id)
    expect((await logOf([id])).map((r) => r.doneAt)[0]).toBe(row.doneAt)
    expect(await logOf([id])).toHaveLength(2)
    await expect(logRepetition(id, { ...row, mark: 'missed' })).rejects.toMatchObject({ status: 409 })
  })
  it('leave a song that is dropped while they go its audio', async () => {
    for (let round = 0; round < (isFar() ? 3 : 6); round++) {
      const first = await takeIn(pieces(song(116)), 'Again.wav')
      const [, again] = await Promise.all([
        removeRoutine(first.routines[0]?.id ?? ''),
        takeIn(pieces(song(116)), 'Again.wav'),
      ])
      const id = again.routines[0]?.id ?? ''
      const there = await openRoutine(id).catch(() => null)
      if (there) expect(files()).toContain(again.song.hash)
      if (there) await removeRoutine(id)
    }
  })
  it('keep the class and any part of the body', async () => {
    const id = await begun(113)
    await logRepetition(id, repetition({ pass: 'right arm', group: 'Thursday beginners' }))
    expect((await logOf([id])).map((r) => [r.pass, r.group])).toEqual([['right arm', 'Thursday beginners']])
  })
  it('keep a log that goes with them', async () => {
    const id = await begun(112)
    const first = await logRepetition(id, repetition())
    await logRepetition(id, repetition({ mark: 'missed', corrects: first, slips: [2.5] }))
    await logRepetition(id, repetition({ pass: 'feet' }))
    expect((await logOf([id])).map((r) => [r.mark, r.corrects, r.pass])).toEqual([
      ['clean', null, 'all'],
      ['missed', first, 'all'],
      ['clean', null, 'feet'],
    ])
    await removeRoutine(id)
    expect(await logOf([id])).toEqual([])
    await expect(logRepetition(id, repetition())).rejects.toMatchObject({ status: 404 })
  })
})

describe('lessons', () => {
  const step = {
    id: 'step-number-1',
    doneAt: Date.UTC(2026, 10, 1),
    lesson: 'evening',
    plan: 'Monday',
    kind: 'drill',
    label: 'Drill: Verse, eight 1',
    eights: 1,
    repetitions: 3,
    planned: 40,
    seconds: 52.5,
    danced: 30,
    note: '',
    group: '',
  }
  it('are logged step by step, and go with their routine', async () => {
    const id = (await takeIn(pieces(song(113)), 'Lesson.wav')).routines[0]?.id ?? ''
    await logLessonStep(id, step)
    await logLessonStep(id, {
      ...step,
      id: 'step-number-2',
      doneAt: step.doneAt + 1,
      kind: 'note',
      note: 'Wet floor.',
    })
    expect((await lessonLog(id)).map((r) => [r.kind, r.seconds, r.note])).toEqual([
      ['drill', 52.5, ''],
      ['note', 52.5, 'Wet floor.'],
    ])
    await removeRoutine(id)
    expect(await lessonLog(id)).toEqual([])
    await expect(logLessonStep(id, step)).rejects.toMatchObject({ status: 404 })
  })
  it('have ways to teach kept by name, each name once', async () => {
    const id = await keepPreset({ name: 'Children', settings: { ...USUAL, grade: 'children' } })
    // An answer was lost and it is sent again.
    expect(await keepPreset({ name: 'Children', settings: { ...USUAL, grade: 'children' } })).toBe(id)
    await expect(keepPreset({ name: 'Children', settings: USUAL })).rejects.toMatchObject({ status: 409 })
    expect((await allPresets()).map((p) => [p.name, p.settings.grade])).toEqual([['Children', 'children']])
    // One that cannot be read keeps nobody from the others.
    await write((tx) =>
      tx
        .insert(presetRows)
        .values({ id: 'broken-one', name: 'Broken', settings: '{"grade":', createdAt: new Date() }),
    )
    expect((await allPresets()).map((p) => p.name)).toEqual(['Children'])
    await removePreset('broken-one')
    await removePreset(id)
    expect(await allPresets()).toEqual([])
  })
})
