import { copyFileSync } from 'node:fs'
import path from 'node:path'
import { createClient } from '@libsql/client'
import { describe, expect, it } from 'vitest'
import { counted, practice } from '@/core/drill'
import { danced, placePhrases, ROUTINE_VERSION, repairedBeats, stretchName } from '@/core/routine'
import { timeOfTick } from '@/core/time'
import { lessonLog } from './lessons'
import { ownData } from './own-data.test-tools'
import { logOf, openRoutine } from './routines'
import { shelfPart } from './shelf'
import { timingLog } from './timings'

const dir = ownData()
const file = path.join(dir, 'azalea.db')
// The demo as the version before kept it: documents of version 1, rows of the log that named phrases.
copyFileSync(path.resolve('src/server/fixtures/version-1.db'), file)

/** What the old database said, read as it was. */
async function before() {
  const client = createClient({ url: `file:${path.resolve('src/server/fixtures/version-1.db')}` })
  const all = async (sql: string) => (await client.execute(sql)).rows
  const documents = await all('select document from routines')
  return {
    document: JSON.parse(String(documents[0]?.document)),
    repetitions: await all('select * from repetitions order by done_at, rowid'),
    steps: await all('select * from lesson_steps'),
    timings: await all('select * from timings order by done_at, rowid'),
  }
}

describe('a database of the version before', () => {
  it('opens: the dance is danced as it was, and no row of the log is lost or forgets what it was about', async () => {
    const old = await before()
    expect(old.document.version).toBe(1)
    const { items, unreadable } = await shelfPart({ search: '', order: 'used', from: 0 })
    expect(unreadable).toEqual([])
    const { routine, heard, id } = await openRoutine(items[0]?.id ?? '')
    expect(routine.version).toBe(ROUTINE_VERSION)
    const times = repairedBeats(heard?.hearing.beats ?? [], routine.repairs)
    const placed = placePhrases(routine)

    // Repeats: as many as before, between the same phrases.
    const starts = new Map<string, number>()
    let tick = 0
    for (const p of old.document.phrases) {
      starts.set(p.id, tick)
      tick += 24 * p.length
    }
    type Old = { phrase: string; at: number; source: string; from: number }
    const linked = (old.document.repeats as Old[]).map((r) => [
      (starts.get(r.phrase) ?? 0) + r.at,
      (starts.get(r.source) ?? 0) + r.from,
    ])
    const byPlace = (list: number[][]) => list.sort((a, b) => (a[0] ?? 0) - (b[0] ?? 0))
    expect(byPlace(routine.repeats.map((r) => [r.to.from, r.from]))).toEqual(byPlace(linked))
    expect(danced(routine).filter((c) => c.link).length).toBeGreaterThan(20)

    // The log: each row keeps the seconds of the phrases it named.
    const log = await logOf([id])
    expect(log.map((r) => [r.id, r.doneAt, r.mark])).toEqual(
      old.repetitions.map((r) => [r.id, Number(r.done_at), r.mark]),
    )
    log.forEach((r, i) => {
      const from = starts.get(String(old.repetitions[i]?.first_phrase)) ?? -1
      expect(Math.abs((r.from ?? -99) - timeOfTick(times, from))).toBeLessThan(0.001)
    })
    const lines = practice(counted(log, times))
    expect(lines.every((l) => l.stretch !== null)).toBe(true)
    expect(lines.some((l) => l.ready === 1)).toBe(true)

    expect(await lessonLog(id)).toHaveLength(old.steps.length)
    const timed = await timingLog(id)
    expect(timed).toHaveLength(old.timings.length)
    expect(timed.every((t) => t.from !== null && t.to !== null)).toBe(true)

    // Lessons: every step is about counts again.
    const [plan] = routine.plans
    expect(plan?.steps.length).toBe(old.document.plans[0].steps.length)
    const danced1 = plan?.steps.filter(
      (s) => s.kind !== 'warm-up' && s.kind !== 'cool-down' && s.kind !== 'rest',
    )
    expect(danced1?.every((s) => s.stretch && stretchName(placed, s.stretch).length > 3)).toBe(true)
  })
  it('is brought up once: opened again, it says the same', async () => {
    const { items } = await shelfPart({ search: '', order: 'used', from: 0 })
    const id = items[0]?.id ?? ''
    const once = JSON.stringify((await openRoutine(id)).routine)
    const { upgrade } = await import('./upgrade')
    const { database } = await import('./database')
    await upgrade(await database())
    expect(JSON.stringify((await openRoutine(id)).routine)).toBe(once)
  })
})
