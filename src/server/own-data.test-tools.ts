import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll } from 'vitest'

/** A data directory for the tests of one file, empty at first and gone afterwards. */
export function ownData(): string {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-test-'))
  const before = { ...process.env }
  beforeAll(() => {
    process.env.AZALEA_DATA = dir
    delete process.env.AZALEA_DATABASE_URL
  })
  afterAll(() => {
    process.env = before
    rmSync(dir, { recursive: true, force: true })
  })
  return dir
}
