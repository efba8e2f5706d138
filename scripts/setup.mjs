/* What every command needs first. Plain Node: nothing is installed yet when this runs. */
import { spawn, spawnSync } from 'node:child_process'
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import net from 'node:net'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { alone } from './alone.mjs'
import { hintCompiling } from './compile-hint.mjs'
import { programs } from './made.mjs'

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..')
process.chdir(root)
process.env.NEXT_TELEMETRY_DISABLED = '1'
process.env.PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD = '1'

/** Runs a command in the project; ends this process with its status when it fails. */
export function run(command, args, options = {}) {
  const done = spawnSync(command, args, { stdio: 'inherit', cwd: root, ...options })
  if (done.error) console.error(`${command}: ${done.error.message}`)
  if (done.status !== 0) process.exit(done.status ?? 1)
}

/** Runs a command beside others and prints what it said once it has ended; ends this process when it fails. */
export function beside(name, command, args, env = {}) {
  return new Promise((done) => {
    const child = spawn(command, args, { cwd: root, env: { ...process.env, ...env } })
    const said = []
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (data) => said.push(data))
    child.on('error', (error) => said.push(Buffer.from(`${command}: ${error.message}\n`)))
    child.on('close', (code) => {
      console.log(`\n— ${name} —`)
      process.stdout.write(Buffer.concat(said))
      if (code !== 0) process.exit(code ?? 1)
      done()
    })
  })
}

/** The path of a tool that npm installed. */
export const tool = (name) => path.join(root, 'node_modules', '.bin', name)

const STAMP = path.join(root, 'node_modules', '.azalea-lock')
const packagesWanted = () => readFileSync(path.join(root, 'package-lock.json'), 'utf8')
const isInstalled = () => existsSync(STAMP) && readFileSync(STAMP, 'utf8') === packagesWanted()

/**
 * Does what is needed before something can run; where two are started at once, the second waits and finds it done. Where
 * nothing is needed nobody waits.
 * @param needed what has to be there: packages, or the build as well
 */
export async function settingUp(work, needed = () => isInstalled() && isBuilt()) {
  if (needed()) return work()
  return alone('.made/lock', work, () =>
    console.error('Azalea is being set up here by another command. Waiting for it ...'),
  )
}

/** Installs packages when they are missing or the lock file changed since. */
export function install({ quiet = false } = {}) {
  if (isInstalled()) return
  if (!quiet) console.log('Installing packages ...')
  // Where nothing is there yet, what the lock file says is all there is to work out.
  const how = existsSync('node_modules') ? 'install' : 'ci'
  run(
    'npm',
    [how, '--no-audit', '--no-fund', '--loglevel=error'],
    quiet ? { stdio: ['ignore', 'ignore', 'inherit'] } : {},
  )
  writeFileSync(STAMP, packagesWanted())
}

/** The same for a command line, whose output is its own. */
export const installQuietly = () => settingUp(() => install({ quiet: true }), isInstalled)

/** Makes the programs beside the app. */
export const staticFiles = () => programs()

function newest(dir) {
  let last = 0
  for (const entry of readdirSync(dir, { withFileTypes: true })) {
    const full = path.join(dir, entry.name)
    last = Math.max(last, entry.isDirectory() ? newest(full) : statSync(full).mtimeMs)
  }
  return last
}

/** Where a build is made, and which of the finished ones is the one to start. */
const [MAKING, CURRENT] = ['.builds/making', '.made/build']
const current = () => (existsSync(CURRENT) ? readFileSync(CURRENT, 'utf8').trim() : null)

/** True where the build is newer than everything it is made from. */
function isBuilt() {
  const made = `${current()}/BUILD_ID`
  const sources = Math.max(
    newest('src'),
    newest('public'),
    ...['package-lock.json', 'next.config.ts', 'tsconfig.json'].map((f) => statSync(f).mtimeMs),
  )
  return existsSync(made) && statSync(made).mtimeMs > sources
}

/**
 * Puts a finished build in its place in one step. A server that runs keeps the build it was started with; the ones before
 * that go.
 */
function placeBuild() {
  hintCompiling(`${MAKING}/static/chunks`)
  const before = current()
  const place = `.builds/${Date.now().toString(36)}`
  renameSync(MAKING, place)
  writeFileSync(`${CURRENT}.part`, place)
  renameSync(`${CURRENT}.part`, CURRENT)
  for (const name of readdirSync('.builds'))
    if (![before, place].includes(`.builds/${name}`))
      rmSync(`.builds/${name}`, { recursive: true, force: true })
}

/** An empty place for a build, with what the last one worked out: it is made in a third of the time. */
function making() {
  rmSync(MAKING, { recursive: true, force: true })
  const cache = `${current()}/cache`
  if (!existsSync(cache)) return
  mkdirSync(MAKING, { recursive: true })
  renameSync(cache, `${MAKING}/cache`)
}

/** Packages, programs and the app, as far as they are not there yet. */
export const setUp = () =>
  settingUp(async () => {
    install()
    await staticFiles()
    build()
  })

/** Builds the app unless that is done. */
export function build() {
  if (isBuilt()) return
  console.log('Building Azalea (about half a minute) ...')
  making()
  run(tool('next'), ['build'], { env: { ...process.env, AZALEA_BUILD: MAKING } })
  placeBuild()
}

/** The same, beside other work. */
export async function buildBeside() {
  if (isBuilt()) return
  making()
  await beside('build', tool('next'), ['build'], { AZALEA_BUILD: MAKING })
  placeBuild()
}

/** A free port: the wanted one, or any other. */
export function freePort(wanted) {
  const tryPort = (port) =>
    new Promise((resolve) => {
      const server = net.createServer()
      server.once('error', () => resolve(null))
      server.listen(port, '127.0.0.1', () => {
        const { port: got } = server.address()
        server.close(() => resolve(got))
      })
    })
  return tryPort(wanted).then((port) => port ?? tryPort(0))
}

/** Serves the built app on localhost until it is stopped. */
export async function serve() {
  const host = process.env.AZALEA_HOST ?? '127.0.0.1'
  const port = await freePort(Number(process.env.PORT ?? 3000))
  console.log(`\n  Azalea: http://${host === '127.0.0.1' ? 'localhost' : host}:${port}\n`)
  run(tool('next'), ['start', '-H', host, '-p', String(port)])
}
