/* npm test: sets up what the tests need, then lint, types, unit tests, build and end-to-end tests. */
import { spawnSync } from 'node:child_process'
import { existsSync, rmSync } from 'node:fs'
import path from 'node:path'
import { beside, buildBeside, install, root, run, staticFiles, tool } from './setup.mjs'

/** Finds Chromium, or installs Debian's where apt-get may be used. */
function chromium() {
  const there = [process.env.CHROMIUM, '/usr/bin/chromium'].find((p) => p && existsSync(p))
  if (there) return there
  const root = process.getuid?.() === 0
  const apt = (...args) =>
    spawnSync(root ? 'apt-get' : 'sudo', root ? args : ['-n', 'apt-get', ...args], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    }).status === 0
  console.log('Installing Chromium (Debian package) ...')
  apt('update', '-qq')
  if (apt('install', '-y', '-qq', '--no-install-recommends', 'chromium') && existsSync('/usr/bin/chromium'))
    return '/usr/bin/chromium'
  console.error(
    'The end-to-end tests need Chromium. Install it ("apt-get install chromium" on Debian), or set CHROMIUM to its path, and run npm test again.',
  )
  process.exit(1)
}

install()
process.env.CHROMIUM = chromium()
staticFiles()
// Most of these keep one core busy at a time: two lines of work, side by side. The types of pages follow from the build.
const SEEDED = path.join(root, '.cache', 'e2e-seeded')
rmSync(SEEDED, { recursive: true, force: true })
await Promise.all([
  buildBeside()
    .then(() => beside('types of pages', tool('next'), ['typegen']))
    .then(() => beside('types', tool('tsc'), ['--noEmit'])),
  beside('lint, dead code, dependency rules', 'npm', ['run', '-s', 'lint']).then(() =>
    beside('demo data for the end-to-end tests', tool('tsx'), ['demo/seed.ts'], { AZALEA_DATA: SEEDED }),
  ),
])
console.log('\n— unit tests —')
run(tool('vitest'), ['run'])
console.log('\n— end-to-end tests —')
run(tool('playwright'), ['test'], { env: { ...process.env, AZALEA_SEEDED: '1' } })
