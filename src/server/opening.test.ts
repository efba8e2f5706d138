/* A process that starts while another writes. */
import { createClient } from '@libsql/client'
import { sql } from 'drizzle-orm'
import { expect, it, vi } from 'vitest'
import { database } from './database'
import { ownData } from './own-data.test-tools'
import { databaseUrl } from './settings'

const swept = vi.hoisted(() => ({ times: 0 }))
vi.mock('./sweep', async (original) => {
  const { sweep } = await original<typeof import('./sweep')>()
  return {
    sweep: async (db: Parameters<typeof sweep>[0]) => {
      swept.times++
      if (swept.times > 1) return sweep(db)
      const other = createClient({ url: databaseUrl() })
      const held = await other.transaction('write')
      try {
        await sweep(db)
      } finally {
        await held.rollback()
        other.close()
      }
    },
  }
})

ownData()

it('sweeps again where it was refused, and holds nothing of the journal from then on', async () => {
  const db = await database()
  expect(swept.times).toBe(2)
  await db.all(sql`SELECT count(*) FROM routines`)
  const other = createClient({ url: databaseUrl() })
  await other.execute("INSERT INTO presets VALUES ('p', 'P', '{}', 0)")
  const [settled] = (await other.execute('PRAGMA wal_checkpoint(TRUNCATE)')).rows
  expect(settled?.busy).toBe(0)
  other.close()
})
