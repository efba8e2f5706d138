/* npm test: sets up what the tests need, then lint, types, unit tests, build and end-to-end tests. */
import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { build, install, run, staticFiles, tool } from './setup.mjs'

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
console.log('\n— types —')
run(tool('next'), ['typegen'])
run(tool('tsc'), ['--noEmit'])
console.log('\n— lint, dead code, dependency rules —')
run('npm', ['run', '-s', 'lint'])
console.log('\n— unit tests —')
run(tool('vitest'), ['run'])
console.log('\n— build —')
build()
console.log('\n— end-to-end tests —')
run(tool('playwright'), ['test'])
