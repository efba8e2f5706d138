/* npm test: sets up what the tests need, then lint, types, unit tests, build and end-to-end tests. */
import { spawn } from 'node:child_process'
import { existsSync, rmSync } from 'node:fs'
import path from 'node:path'
import { beside, buildBeside, install, root, run, settingUp, staticFiles, tool } from './setup.mjs'
import { unitTests } from './unit-tests.mjs'

/** Debian's Chromium without its window: its browser tests take a quarter less time. The whole of it does as well. */
const SHELL = '/usr/bin/chromium-headless-shell'
const WHOLE = '/usr/bin/chromium'

/** Installs it where apt-get may be used. @returns once that has ended, well or not */
function fetchShell() {
  const apt = [
    ...(process.getuid?.() === 0 ? [] : ['sudo', '-n']),
    ...['apt-get', '-qq', '-o', 'Acquire::Retries=0', '-o', 'Acquire::http::Timeout=20'],
  ].join(' ')
  const child = spawn(
    'sh',
    ['-c', `${apt} update; ${apt} install -y --no-install-recommends chromium-headless-shell`],
    { stdio: 'ignore', env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } },
  )
  return new Promise((ended) => {
    child.on('error', ended)
    child.on('close', ended)
  })
}

/** The browser for the end-to-end tests. */
function chromium() {
  const there = [process.env.CHROMIUM, SHELL, WHOLE].find((p) => p && existsSync(p))
  if (there) return there
  console.error(
    'The end-to-end tests need Chromium. Install it ("apt-get install chromium" on Debian), or set CHROMIUM to its path, and run npm test again.',
  )
  process.exit(1)
}

// It comes while packages come.
const fetched = process.env.CHROMIUM || existsSync(SHELL) ? null : fetchShell()
const SEEDED = path.join(root, '.cache', 'e2e-seeded')
await settingUp(
  async () => {
    install()
    await fetched
    process.env.CHROMIUM = chromium()
    console.log(`The end-to-end tests run in ${process.env.CHROMIUM}.`)
    await staticFiles()
    // Most of these keep one core busy at a time: two lines of work, side by side. The types of pages follow from the build.
    rmSync(SEEDED, { recursive: true, force: true })
    await Promise.all([
      buildBeside()
        .then(() => beside('types of pages', tool('next'), ['typegen']))
        .then(() => beside('types', tool('tsc'), ['--noEmit'])),
      beside('lint, dead code, dependency rules', 'npm', ['run', '-s', 'lint']).then(() =>
        beside('demo data for the end-to-end tests', tool('tsx'), ['demo/seed.ts'], { AZALEA_DATA: SEEDED }),
      ),
    ])
  },
  () => false,
)
console.log('\n— unit tests —')
unitTests()
console.log('\n— end-to-end tests —')
run(tool('playwright'), ['test'], { env: { ...process.env, AZALEA_SEEDED: '1' } })
