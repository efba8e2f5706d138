/*
 * npm run demo:school: a school on this machine. Two processes of Azalea that share no disk, a database server and an object store (both
 * stand-ins), a way in that goes to one process and the other in turn, two accounts and a class.
 */
import { spawn } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import http from 'node:http'
import net from 'node:net'
import path from 'node:path'
import { freePort, setUp, tool } from './setup.mjs'

const DIR = path.resolve(process.env.AZALEA_DATA ?? 'data-school')
const children = []

/** Everything that was begun ends with this. */
function end(code) {
  for (const child of children) child.kill('SIGTERM')
  process.exit(code)
}
process.on('SIGINT', () => end(0))
process.on('SIGTERM', () => end(0))
process.on('uncaughtException', (error) => {
  console.error(`The school could not be made: ${error.message}`)
  end(1)
})

const begin = (command, args, env, stdio) => {
  const child = spawn(command, args, { env: { ...process.env, ...env }, stdio })
  children.push(child)
  return child
}

/** The last line something writes, once it ends; or its first one, where it goes on. */
function line(child, first = false) {
  return new Promise((resolve, reject) => {
    let text = ''
    child.stdout.on('data', (piece) => {
      text += piece
      if (first && text.includes('\n')) resolve(text.slice(0, text.indexOf('\n')))
    })
    child.on('close', (code) => {
      if (code === 0) resolve(text.trim().split('\n').at(-1))
      else reject(new Error(`it ended with ${code}`))
    })
  })
}

const tsx = (file, args, env) => begin(tool('tsx'), [file, ...args], env, ['ignore', 'pipe', 'inherit'])

/** What both accounts are signed in with: drawn once, for this folder alone. */
function password() {
  const file = path.join(DIR, 'password')
  if (!existsSync(file)) writeFileSync(file, `demo ${randomBytes(6).toString('hex')}`, { mode: 0o600 })
  return readFileSync(file, 'utf8')
}

/** Waits until a process answers, as long as it lives: a busy machine takes its time. @throws where it ended */
async function answers(port, child) {
  const up = () =>
    fetch(`http://localhost:${port}/api/health`).then(
      (r) => r.ok,
      () => false,
    )
  while (!(await up())) {
    if (child.exitCode !== null) throw new Error(`the process on port ${port} ended with ${child.exitCode}`)
    await new Promise((again) => setTimeout(again, 100))
  }
}

/** Connected to one of some processes: the first that takes it. */
async function connected(ports) {
  for (const port of ports) {
    const socket = net.connect(port, '127.0.0.1')
    const up = await new Promise((resolve) => {
      socket.once('connect', () => resolve(true))
      socket.once('error', () => resolve(false))
    })
    if (up) return socket
  }
  return null
}

/** What comes in by pieces goes to one process, which has the pieces (docs/school.md). */
const inPieces = (url) => /^\/api\/(films|classes\/[^/]+\/films?)(\/|$)/.test(url)

/** Goes to one and the other in turn; to the other where one is gone. */
function wayIn(port, to) {
  let turn = 0
  const pass = async (request, response) => {
    const first = inPieces(request.url) ? 0 : turn++ % to.length
    const socket = await connected([...to.slice(first), ...to.slice(0, first)])
    if (!socket) return response.writeHead(502).end()
    const { method, url, headers } = request
    const out = http.request({
      ...{ createConnection: () => socket, method, path: url },
      headers: { ...headers, 'x-forwarded-for': request.socket.remoteAddress ?? '' },
    })
    out.on('response', (answer) => {
      response.writeHead(answer.statusCode ?? 502, answer.headers)
      answer.pipe(response)
      answer.on('error', () => response.destroy())
    })
    out.on('error', () => {
      if (response.headersSent) response.destroy()
      else response.writeHead(502).end()
    })
    response.on('close', () => out.destroy())
    request.pipe(out)
  }
  return http.createServer(pass).listen(port, '127.0.0.1')
}

await setUp()
mkdirSync(DIR, { recursive: true, mode: 0o700 })
const port = await freePort(Number(process.env.PORT ?? 3000))
// From now on, so that nobody else takes the port: it says 502 until there is somebody to pass on to.
const ports = []
wayIn(port, ports)
const elsewhere = JSON.parse(await line(tsx('demo/stand-ins.ts', [DIR]), true))
const at = (name) => ({ ...elsewhere, AZALEA_DATA: path.join(DIR, name) })
console.log('Putting the demo’s dance there ...')
await line(tsx('demo/seed.ts', [], at('one')))
const served = { AZALEA_PUBLIC_URL: `http://localhost:${port}` }
const secret = password()
const { link, group } = JSON.parse(await line(tsx('demo/school.ts', [secret], { ...at('one'), ...served })))
let last
for (const name of ['one', 'two']) {
  const own = await freePort(port + 1 + ports.length)
  last = begin(tool('next'), ['start', '-H', '127.0.0.1', '-p', String(own)], { ...at(name), ...served }, [
    ...['ignore', 'ignore', 'inherit'],
  ])
  await answers(own, last)
  ports.push(own)
}
console.log(`
  Azalea, a school: http://localhost:${port}  (two processes, on ${ports.join(' and ')})

  Sign in as kim@school.example, who keeps the accounts, or nora@school.example, who may edit Kim's dance.
  Their password, on this machine alone: ${secret}
  To see that nothing is lost with one of the processes: kill -9 ${last.pid}
  The link of the class “${group}”: ${link}
`)
