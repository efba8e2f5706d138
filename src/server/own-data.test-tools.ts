import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll } from 'vitest'
import { libsqlServer } from './libsql-http.test-tools'

/** A data directory for the tests of one file, empty at first and gone afterwards. */
export function ownData(): string {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-test-'))
  const before = { ...process.env }
  let far: Awaited<ReturnType<typeof libsqlServer>> | null = null
  beforeAll(async () => {
    process.env.AZALEA_DATA = dir
    delete process.env.AZALEA_DATABASE_URL
    // The same tests run a second time over a network that is slow and loses transactions (vitest.config.ts).
    if (!process.env.AZALEA_TEST_FAR) return
    far = await libsqlServer(() => path.join(dir, 'far.db'), { latency: 1, loses: 11 })
    process.env.AZALEA_DATABASE_URL = far.url
  })
  afterAll(async () => {
    await far?.end()
    process.env = before
    rmSync(dir, { recursive: true, force: true })
  })
  return dir
}
