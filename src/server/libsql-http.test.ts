/* The server's work over a network that is slow, loses transactions, closes connections and loses answers. */
import path from 'node:path'
import { createClient } from '@libsql/client'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { emptyRoutine } from '@/core/routine'
import { loopTrack } from '../../e2e/sounds'
import { database, write } from './database'
import { take } from './jobs'
import { libsqlServer, type Weather } from './libsql-http.test-tools'
import { ownData } from './own-data.test-tools'
import { logOf, logRepetition, openRoutine, saveRoutine } from './routines'
import { songs } from './schema'
import { jobs, people } from './school-schema'
import { shelfPart } from './shelf'
import { takeIn } from './songs'

const home = ownData()
const weather: Weather = { latency: 2, loses: 0, closes: 0, mutes: 0 }
let far: Awaited<ReturnType<typeof libsqlServer>>
beforeAll(async () => {
  far = await libsqlServer(() => path.join(home, 'far.db'), weather, 'secret')
  process.env.AZALEA_DATABASE_URL = far.url
  process.env.AZALEA_DATABASE_TOKEN = 'secret'
})
afterAll(() => far.end())

const row = (n: number, of: string) => ({
  ...{
    id: `${of}-${n}`,
    doneAt: 1_790_000_000_000 + n,
    kind: 'drill' as const,
    from: 0.5,
    to: 4,
    label: 'x',
  },
  ...{ pass: 'all' as const, speed: 0.75, sound: 'both' as const, seconds: 4, mark: 'clean' as const },
  ...{ looped: false, slips: [1.5], corrects: null, group: '' },
})

describe('a database at an address', () => {
  it('is asked for with a token', async () => {
    const without = createClient({ url: far.url })
    await expect(without.execute('SELECT 1')).rejects.toThrow()
    without.close()
    expect(await (await database()).all(sql`SELECT 1 AS one`)).toMatchObject([{ one: 1 }])
  })
  it.each([
    ['loses', 'every few of its transactions'],
    ['closes', 'connections before it has done what was asked'],
    ['mutes', 'answers to what it did'],
  ] as const)('that %s %s keeps each edit once, whole, in its order', async (bad, _what) => {
    async function* bytes() {
      yield loopTrack({ loses: 97, closes: 107, mutes: 117 }[bad], 8)
    }
    const { routines } = await takeIn(bytes(), `${bad}.wav`)
    const id = routines[0]?.id ?? ''
    const before = far.lost()
    weather[bad] = 7
    for (let n = 1; n <= 25; n++) {
      const save = { revision: n - 1, writer: `writer-${bad}`, save: n }
      await saveRoutine(id, save, emptyRoutine(`Edit ${n}`))
      await logRepetition(id, row(n, bad))
      // What is only read is asked again by itself.
      expect((await openRoutine(id)).routine.title).toBe(`Edit ${n}`)
    }
    expect(far.lost() - before).toBeGreaterThan(3)
    weather[bad] = 0
    const open = await openRoutine(id)
    expect([open.revision, open.routine.title]).toEqual([25, 'Edit 25'])
    expect((await logOf([id])).map((r) => r.id)).toEqual(
      Array.from({ length: 25 }, (_, i) => `${bad}-${i + 1}`),
    )
  })
  it('keeps no half of an edit', async () => {
    const titles = async () =>
      (await shelfPart({ search: '', order: 'used', from: 0 })).items.map((i) => i.title)
    const before = await titles()
    expect(before).toHaveLength(3)
    await expect(
      write(async (tx) => {
        await tx.run(sql`UPDATE routines SET title = 'Half'`)
        throw new Error('no')
      }),
    ).rejects.toThrow('no')
    expect(await titles()).toEqual(before)
  })
})

describe('work that is taken over a network that loses answers', () => {
  it('is had by who took it, each of it once', async () => {
    const at = new Date(1_790_000_000_000)
    const ids = Array.from({ length: 20 }, (_, n) => `job-song-${n}`)
    await write(async (tx) => {
      const email = 'anna@school.example'
      await tx.insert(people).values({ id: 'anna', name: 'Anna', email, createdAt: at, updatedAt: at })
      const file = { bytes: 1, mime: 'audio/wav', fileName: 'x', title: 'x', credit: '', createdAt: at }
      for (const id of ids) {
        await tx.insert(songs).values({ id, hash: id, ...file })
        await tx.insert(jobs).values({ id, kind: 'hear', songId: id, personId: 'anna', askedAt: at })
      }
    })
    weather.mutes = 5
    const taken: string[] = []
    for (let job = await take(['hear'], ''); job; job = await take(['hear'], '')) taken.push(job.songId)
    weather.mutes = 0
    expect(taken.sort()).toEqual([...ids].sort())
  })
})
