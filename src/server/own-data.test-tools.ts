import { existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll } from 'vitest'
import { libsqlServer } from './libsql-http.test-tools'
import { BUCKET, objectServer, objectsIn } from './object-store.test-tools'

/** The same tests run a second time over a network that is slow, loses transactions and closes connections (vitest.config.ts). */
export const isFar = (): boolean => process.env.AZALEA_TEST_FAR === '1'
/** Where the stand-in of the object store keeps its files, in a data directory of a test. */
const objects = (dir: string) => path.join(dir, 'far-objects')

/** A data directory for the tests of one file, empty at first and gone afterwards. */
export function ownData(): string {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-test-'))
  const before = { ...process.env }
  const ends: (() => Promise<unknown>)[] = []
  beforeAll(async () => {
    process.env.AZALEA_DATA = dir
    delete process.env.AZALEA_DATABASE_URL
    delete process.env.AZALEA_STORE
    if (!isFar()) return
    const database = await libsqlServer(() => path.join(dir, 'far.db'), {
      latency: 1,
      loses: 11,
      closes: 17,
      mutes: 0,
    })
    const files = await objectServer(objects(dir))
    ends.push(() => database.end(), files.end)
    Object.assign(process.env, {
      AZALEA_DATABASE_URL: database.url,
      AZALEA_STORE: `s3://${BUCKET}`,
      AZALEA_STORE_ENDPOINT: files.url,
      // The keys of the stand-in.
      AWS_ACCESS_KEY_ID: 'S3RVER',
      AWS_SECRET_ACCESS_KEY: 'S3RVER',
    })
  })
  afterAll(async () => {
    for (const end of ends) await end()
    process.env = before
    rmSync(dir, { recursive: true, force: true })
  })
  return dir
}

/** The names of the files that are kept in a folder, wherever they are. */
export function filesKept(dir: string, folder: 'audio' | 'films' | 'pages' | 'sheets'): string[] {
  if (isFar()) return objectsIn(objects(dir), folder)
  const at = path.join(dir, folder)
  return existsSync(at) ? readdirSync(at) : []
}
