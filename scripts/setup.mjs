/* What every command needs first. Plain Node: nothing is installed yet when this runs. */
import { spawn, spawnSync } from 'node:child_process'
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import net from 'node:net'
import path from 'node:path'
import { fileURLToPath } from 'node:url'

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

/** Installs packages when they are missing or the lock file changed since. */
export function install({ quiet = false } = {}) {
  const stamp = path.join(root, 'node_modules', '.azalea-lock')
  const lock = readFileSync(path.join(root, 'package-lock.json'), 'utf8')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  if (!quiet) console.log('Installing packages ...')
  // Where nothing is there yet, what the lock file says is all there is to work out.
  const how = existsSync('node_modules') ? 'install' : 'ci'
  run(
    'npm',
    [how, '--no-audit', '--no-fund', '--loglevel=error'],
    quiet ? { stdio: ['ignore', 'ignore', 'inherit'] } : {},
  )
  writeFileSync(stamp, lock)
}

/** Puts the stretching worklet where the browser can load it as a file of its own, and makes the program that sets sheets. */
export function staticFiles() {
  mkdirSync('public/stretch', { recursive: true })
  copyFileSync(
    'node_modules/signalsmith-stretch/SignalsmithStretch.mjs',
    'public/stretch/SignalsmithStretch.mjs',
  )
  // Setting a long sheet takes seconds of a processor: it has a process of its own, and the server answers meanwhile.
  run(tool('esbuild'), [
    'src/server/handout/sheet-process.ts',
    ...['--bundle', '--platform=node', '--format=esm', '--packages=external', '--jsx=automatic'],
    ...['--log-level=warning', '--outfile=.made/sheet.mjs'],
  ])
}

function newest(dir) {
  let last = 0
  for (const entry of readdirSync(dir, { withFileTypes: true })) {
    const full = path.join(dir, entry.name)
    last = Math.max(last, entry.isDirectory() ? newest(full) : statSync(full).mtimeMs)
  }
  return last
}

/** True where the build is newer than everything it is made from. */
function isBuilt() {
  const made = '.next/BUILD_ID'
  const sources = Math.max(
    newest('src'),
    newest('public'),
    ...['package-lock.json', 'next.config.ts', 'tsconfig.json'].map((f) => statSync(f).mtimeMs),
  )
  return existsSync(made) && statSync(made).mtimeMs > sources
}

/** Builds the app unless that is done. */
export function build() {
  if (isBuilt()) return
  console.log('Building Azalea (about half a minute) ...')
  run(tool('next'), ['build'])
}

/** The same, beside other work. */
export const buildBeside = () => (isBuilt() ? Promise.resolve() : beside('build', tool('next'), ['build']))

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
