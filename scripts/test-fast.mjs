/* npm run test:fast: lint, types, the quick unit tests, and of the browser tests one a station and the main way through (those with the
   tag @fast). What takes long (hearing whole songs, the server at an address, everything else in the browser) is npm test's. */
import { existsSync, rmSync } from 'node:fs'
import path from 'node:path'
import { beside, buildBeside, install, root, run, settingUp, staticFiles, tool } from './setup.mjs'
import { unitTests } from './unit-tests.mjs'

const SEEDED = path.join(root, '.cache', 'e2e-seeded')
/** Files of unit tests that take more than four seconds each, by room. */
const LONG = {
  cli: ['listen', 'takes'],
  'src/app': ['roles'],
  'src/audio': ['practice'],
  'src/core': ['edits'],
  'src/core/hear': ['answers', 'edited', 'later-stages', 'listen', 'loops', 'spare-bars', 'stages'],
  'src/core/loudness': ['loudness'],
  'src/core/match': ['any-speed', 'match'],
  'src/core/stretch': ['stretch'],
  'src/decode': ['decode'],
  'src/server': [
    ...['account-notices', 'bounded', 'class-links', 'films', 'jobs', 'libsql-http', 'match-job', 'moves'],
    ...['object-store', 'own-counts', 'school', 'server', 'sheet-job'],
  ],
  'src/server/handout': ['sheet-pdf'],
}
/** The runner takes one name at a time: it cuts a list in braces at its commas. */
const without = Object.entries(LONG).flatMap(([room, files]) =>
  files.flatMap((file) => ['--exclude', `${room}/${file}.test.ts`]),
)
await settingUp(
  async () => {
    install()
    await staticFiles()
    const fresh = existsSync(SEEDED)
    const units = ['--project', 'core', '--project', 'here', '--project', 'server', ...without]
    const seeded = fresh
      ? Promise.resolve()
      : beside('demo data', tool('tsx'), ['demo/seed.ts'], { AZALEA_DATA: SEEDED })
    await Promise.all([
      buildBeside()
        .then(() => beside('types of pages', tool('next'), ['typegen']))
        .then(() => beside('types', tool('tsc'), ['--noEmit'])),
      beside('lint, dead code, dependency rules', 'npm', ['run', '-s', 'lint']).then(() => seeded),
    ])
    unitTests(units)
  },
  () => false,
)
run(tool('playwright'), ['test', '--grep', '@fast'], { env: { ...process.env, AZALEA_SEEDED: '1' } })
rmSync(path.join(root, 'test-results'), { recursive: true, force: true })
