/* Edits that are written together: each as whoever asked for it, whole or not at all. */
import { eq } from 'drizzle-orm'
import { describe, expect, it } from 'vitest'
import { database, queued, write } from './database'
import { ownData } from './own-data.test-tools'
import { presets } from './schema'
import { doneBy, me, type Who } from './who'

ownData()

const names = async () => (await (await database()).select().from(presets)).map((p) => p.name).sort()
const row = (name: string) => ({ id: `preset-${name}`, name, settings: '{}', createdAt: new Date() })
const person = (n: number): Who => ({ id: `person-${n}`, name: `P${n}`, role: 'teacher' })

describe('edits at the same time', () => {
  it('are each made as whoever asked, in the order they were asked in', async () => {
    const order: number[] = []
    const made = await Promise.all(
      Array.from({ length: 40 }, (_, i) =>
        doneBy(person(i), () =>
          write(async (tx) => {
            order.push(i)
            await tx.insert(presets).values(row(`by ${me().id}`))
            return me().id
          }),
        ),
      ),
    )
    expect(made).toEqual(Array.from({ length: 40 }, (_, i) => `person-${i}`))
    // Where a transaction was lost on its way it is made again, whole.
    expect([...new Set(order)]).toEqual(made.map((_, i) => i))
    expect(await names()).toHaveLength(40)
  })
  it('fail alone: what one of them did before it failed is gone, the others stay', async () => {
    const db = await database()
    await db.delete(presets)
    const asked = ['a', 'b', 'c', 'd'].map((name) =>
      write(async (tx) => {
        await tx.insert(presets).values(row(name))
        if (name === 'b') throw new Error('not this one')
        // Twice the same id: the database refuses.
        if (name === 'c') await tx.insert(presets).values(row('a'))
        return name
      }),
    )
    const came = await Promise.allSettled(asked)
    expect(came.map((c) => c.status)).toEqual(['fulfilled', 'rejected', 'rejected', 'fulfilled'])
    expect(await names()).toEqual(['a', 'd'])
  })
  it('go on after one that failed alone, and after other work that waits with them', async () => {
    const db = await database()
    await db.delete(presets)
    await expect(write(() => Promise.reject(new Error('no')))).rejects.toThrow('no')
    const seen: string[] = []
    await Promise.all([
      write((tx) => tx.insert(presets).values(row('first'))),
      queued(async () => seen.push(...(await names()))),
      write((tx) => tx.insert(presets).values(row('second'))),
    ])
    expect(seen).toContain('first')
    expect(await names()).toEqual(['first', 'second'])
    await write((tx) => tx.delete(presets).where(eq(presets.name, 'first')))
    expect(await names()).toEqual(['second'])
  })
})
