import { sql } from 'drizzle-orm'
import { beforeAll, describe, expect, it } from 'vitest'
import { readWav, toMono } from '@/core/formats/wav'
import { packPeaks } from '@/core/hear'
import { listen } from '@/core/hear/listen'
import { emptyRoutine, everyEight, layOut } from '@/core/routine'
import { loopTrack } from '../../e2e/sounds'
import { removeRoutine } from './bin'
import { database, write } from './database'
import { keepHearing } from './hearings'
import { ownData } from './own-data.test-tools'
import { addRoutine, logOf, logRepetition, openRoutine, saveRoutine } from './routines'
import { SHOWN, type ShelfAsked, shelfPart } from './shelf'
import { takeIn } from './songs'

ownData()
const NOW = Date.UTC(2026, 10, 26)
const DAY = 24 * 3600 * 1000
const part = (what: Partial<ShelfAsked> = {}, now = NOW) =>
  shelfPart({ search: '', order: 'used', from: 0, ...what }, now)
const titles = async (what: Partial<ShelfAsked> = {}, now = NOW) =>
  (await part(what, now)).items.map((i) => i.title)
/** What is kept is written a moment after it was shown. */
const settled = async () => {
  await write(async () => {})
  return (await database()).all<{ routine_id: string; stamp: string }>(
    sql`SELECT routine_id, stamp FROM summaries`,
  )
}

let song = ''
let id = ''
let n = 0
const repetition = (speed: number, daysAgo: number) => ({
  ...{ id: `repetition-${n++}`, doneAt: NOW - daysAgo * DAY, kind: 'drill' as const, from: 0.4, to: 4.4 },
  ...{ label: 'Eight 1', pass: 'all' as const, speed, sound: 'both' as const, seconds: 4 },
  ...{ mark: 'clean' as const, looped: false, slips: [], corrects: null, group: '' },
})
const save = async (routine: string, title: string) => {
  const { revision, routine: document } = await openRoutine(routine)
  await saveRoutine(routine, { revision, writer: `writer-${n++}-long`, save: 1 }, { ...document, title })
}

beforeAll(async () => {
  async function* bytes() {
    yield loopTrack(120, 20, 0.4)
  }
  const taken = await takeIn(bytes(), 'Café Blüte.wav')
  song = taken.song.id
  id = taken.routines[0]?.id ?? ''
  const pcm = readWav(loopTrack(120, 20, 0.4))
  const { hearing, peaks } = listen(toMono(pcm), pcm.sampleRate)
  await keepHearing(song, hearing.version, JSON.stringify(hearing), Buffer.from(packPeaks(peaks)))
  const counts = hearing.beats.length
  const laid = layOut(
    emptyRoutine('Alpha'),
    { counts, starts: everyEight(0, counts), sections: [] },
    () => `s${n++}`,
  )
  await saveRoutine(
    id,
    { revision: 0, writer: 'writer-one', save: 1 },
    { ...laid, heardWith: hearing.version },
  )
})

describe('the shelf', () => {
  it('shows a song from afar, small enough to be sent with many others', async () => {
    const { items } = await part()
    expect(items[0]).toMatchObject({ id, title: 'Alpha', repetitions: 0, last: null, due: [], more: 0 })
    expect(items[0]?.heard).toMatchObject({ tempo: 120, fastest: 120 })
    const { shape = '', rate = 0, duration = 0 } = items[0]?.heard ?? {}
    const bars = Buffer.from(shape, 'base64')
    expect(bars.length).toBeLessThanOrEqual(400)
    expect(Math.abs(bars.length / rate - duration)).toBeLessThan(1)
    expect(Math.max(...bars)).toBeGreaterThan(100)
  })
  it('keeps what it worked out until what it was made from changes', async () => {
    await part()
    const [first] = await settled()
    expect(first?.routine_id).toBe(id)
    // What is kept is what is shown.
    await write((tx) => tx.run(sql`UPDATE summaries SET data = json_set(data, '$.cues', 77)`))
    expect((await part()).items[0]?.cues).toBe(77)
    await logRepetition(id, repetition(0.75, 30))
    expect((await part()).items[0]).toMatchObject({ cues: 0, repetitions: 1, last: { speed: 0.75 } })
    const [second] = await settled()
    expect(second?.stamp).not.toBe(first?.stamp)
    await save(id, 'Alpha again')
    expect(await titles()).toEqual(['Alpha again'])
    expect((await settled())[0]?.stamp).not.toBe(second?.stamp)
  })
  it('is searched in all names, whatever their marks and capitals; put in order; shown in parts', async () => {
    const beta = await addRoutine(song)
    await save(beta, 'Élan 10')
    const gamma = await addRoutine(song)
    await save(gamma, 'elan 9')
    await logRepetition(gamma, repetition(1, 400))
    expect(await titles({ search: 'ELAN' })).toEqual(['elan 9', 'Élan 10'])
    expect(await titles({ search: 'blute cafe alpha' })).toEqual(['Alpha again'])
    expect(await titles({ search: 'nothing of this' })).toEqual([])
    expect(await titles({ order: 'name' })).toEqual(['Alpha again', 'elan 9', 'Élan 10'])
    // Danced a year ago, and never clean twice in a row: both are due, the older first; the third was never danced.
    expect(await titles({ order: 'due' })).toEqual(['elan 9', 'Alpha again', 'Élan 10'])
    const more: string[] = []
    for (let i = 0; i < SHOWN; i++) more.push(await addRoutine(song))
    const [one, two] = [await part({ order: 'name' }), await part({ order: 'name', from: SHOWN })]
    expect([one.items.length, two.items.length, one.total]).toEqual([SHOWN, 3, SHOWN + 3])
    expect(new Set([...one.items, ...two.items].map((i) => i.id)).size).toBe(SHOWN + 3)
    const list = JSON.stringify(more)
    await write((tx) => tx.run(sql`DELETE FROM routines WHERE id IN (SELECT value FROM json_each(${list}))`))
  })
  it('says what is due by the day it is looked at', async () => {
    const due = async (now: number) => (await part({ search: 'alpha' }, now)).items[0]?.due.length
    expect(await due(NOW - 30 * DAY)).toBe(1)
    expect(await due(0)).toBe(0)
  })
  it('stands whatever is stored: what cannot be read is named beside the rest', async () => {
    const hurt = await addRoutine(song)
    await logRepetition(hurt, repetition(1, 3))
    const damages = [
      `UPDATE summaries SET data = 'half a fi' WHERE routine_id = '${hurt}'`,
      `UPDATE summaries SET data = '{"credit":1}' WHERE routine_id = '${hurt}'`,
      `UPDATE routines SET title = x'00ff' WHERE id = '${hurt}'`,
      `UPDATE routines SET document = x'00ff' WHERE id = '${hurt}'`,
      `UPDATE routines SET updated_at = 'yesterday' WHERE id = '${hurt}'`,
      `UPDATE repetitions SET slips = 'no', done_at = 'then', speed = 'fast' WHERE routine_id = '${hurt}'`,
      "UPDATE songs SET credit = x'01'",
    ]
    for (const damage of damages) {
      await write((tx) => tx.run(sql.raw(damage)))
      const found = await part({ order: 'name' })
      expect(found.all - found.total).toBe(found.unreadable.length)
      expect(found.items.length).toBeGreaterThan(0)
      expect(found.items.every((i) => typeof i.title === 'string')).toBe(true)
    }
    expect(await logOf([hurt])).toEqual([])
    await write((tx) => tx.run(sql.raw(`DELETE FROM routines WHERE id = '${hurt}'`)))
  })
  it('goes on without one that is gone, and without one that is broken in any way', async () => {
    await removeRoutine(id)
    expect(await titles({ search: 'alpha' })).toEqual([])
    const broken = await addRoutine(song)
    await write((tx) =>
      tx.run(sql`UPDATE routines SET document = 'null', title = 'Broken' WHERE id = ${broken}`),
    )
    const found = await part({ search: 'elan' })
    expect(found.items).toHaveLength(2)
    expect(found.unreadable).toEqual(['Broken'])
  })
})
