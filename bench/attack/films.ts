/* npm run attack:films -- [N]: films come in by pieces while the server is killed N times; then one of nearly 4 GB, with what memory
   the server takes; then broken and hostile ones, each refused in words, nothing of them left. */
import { createHash } from 'node:crypto'
import {
  closeSync,
  createReadStream,
  ftruncateSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeSync,
} from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import { Upload } from 'tus-js-client'
import { madeFilm } from '../../src/decode/film.test-tools'
import { Attacked } from './server'

const KILLS = Number(process.argv[2] ?? 20)
const PIECE = 16 * 1024 ** 2
let seed = 7
const below = (n: number) => {
  seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
  return Math.floor((seed / 2_147_483_648) * n)
}

/** A film of so many bytes: a whole one, and behind it a box nobody looks into (ISO/IEC 14496-12, 8.1.2). */
async function largeFilm(file: string, bytes: number): Promise<void> {
  const film = await madeFilm({ format: 'mp4', seconds: 3 })
  const box = Buffer.alloc(16)
  box.writeUInt32BE(1, 0)
  box.write('free', 4, 'latin1')
  box.writeBigUInt64BE(BigInt(bytes - film.length), 8)
  const out = openSync(file, 'w')
  writeSync(out, film)
  writeSync(out, box)
  ftruncateSync(out, bytes)
  closeSync(out)
}

async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256')
  await pipeline(createReadStream(file), hash)
  return hash.digest('hex')
}

/** Sends a file, going on after each cut until all of it is there. */
async function send(
  server: Attacked,
  file: string,
  bytes: number,
  id: string,
): Promise<{ status: number; said: string }> {
  let url: string | null = null
  for (let tries = 0; ; tries++) {
    const upload = new Upload(createReadStream(file) as never, {
      endpoint: `${server.url}/api/films/incoming`,
      ...(url ? { uploadUrl: url } : {}),
      chunkSize: PIECE,
      uploadSize: bytes,
      retryDelays: null,
      metadata: { id, filename: 'large.mp4' },
      onUploadUrlAvailable: () => {
        url = upload.url ? new URL(upload.url, server.url).href : null
      },
    })
    const done = await new Promise<boolean>((there) => {
      upload.options.onSuccess = () => there(true)
      upload.options.onError = () => there(false)
      upload.start()
    })
    if (done) break
    if (tries > 400) throw new Error('it does not come in')
    await new Promise((again) => setTimeout(again, 200))
  }
  for (let tries = 0; ; tries++) {
    const answer = await fetch(`${server.url}/api/films/${id}`, { method: 'POST' }).catch(() => null)
    if (answer) return { status: answer.status, said: await answer.text() }
    if (tries > 100) throw new Error('no answer')
    await new Promise((again) => setTimeout(again, 300))
  }
}

/** The most memory the server's processes had so far, in MB. */
function memory(): number {
  let most = 0
  for (const pid of readdirSync('/proc').filter((n) => /^\d+$/.test(n)))
    try {
      if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('next-server')) continue
      most = Math.max(
        most,
        Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024,
      )
    } catch {
      // It ended while it was looked at.
    }
  return most
}

async function main() {
  const data = mkdtempSync(path.join(os.tmpdir(), 'azalea-films-'))
  const server = new Attacked(path.join(data, 'here')).withDemo()
  await server.start()
  const left = () => readdirSync(path.join(server.data, 'incoming')).length
  try {
    const small = path.join(data, 'small.mp4')
    await largeFilm(small, 600 * 1024 ** 2)
    let killing = true
    const kills = (async () => {
      for (let k = 0; k < KILLS && killing; k++) {
        await new Promise((then) => setTimeout(then, 150 + below(700)))
        await server.kill()
        await server.start(true)
      }
    })()
    const sent = await send(server, small, 600 * 1024 ** 2, 'killed-film')
    killing = false
    await kills
    const kept = readdirSync(path.join(server.data, 'films'))
    const whole = kept.includes(await hashOf(small))
    console.log(
      `600 MB under ${KILLS} kills: ${sent.status}, the very bytes: ${whole}, left in incoming: ${left()}`,
    )

    await server.kill()
    await server.start(true)
    await fetch(server.url)
    const before = memory()
    const large = path.join(data, 'large.mp4')
    const bytes = 4 * 1024 ** 3 - 1024
    await largeFilm(large, bytes)
    const from = performance.now()
    const came = await send(server, large, bytes, 'largest-film')
    console.log(
      `3.99 GB: ${came.status} in ${((performance.now() - from) / 1000).toFixed(0)} s, the server's memory ${before.toFixed(0)} MB before, at most ${memory().toFixed(0)} MB`,
    )

    const film = Buffer.from(await madeFilm({ format: 'mp4' }))
    const web = Buffer.from(await madeFilm({ format: 'webm' }))
    const broken: Buffer[] = []
    for (let n = 0; n < 30; n++) {
      const one = Buffer.from(n % 2 ? film : web)
      if (n % 3 === 0) broken.push(one.subarray(0, 20 + below(one.length - 20)))
      else {
        for (let i = 0; i < 1 + n; i++)
          one[below(Math.min(one.length, n < 20 ? 400 : one.length))] = below(256)
        broken.push(one)
      }
    }
    const said = new Map<string, number>()
    for (const [n, one] of broken.entries()) {
      const file = path.join(data, `broken-${n}`)
      const out = openSync(file, 'w')
      writeSync(out, one)
      closeSync(out)
      const { status, said: words } = await send(server, file, one.length, `broken-film-${n}`)
      if (status >= 500) console.log(`broken ${n}: ${status} ${words}`)
      said.set(String(status), (said.get(String(status)) ?? 0) + 1)
    }
    console.log(`30 broken: ${JSON.stringify(Object.fromEntries(said))}, left in incoming: ${left()}`)
  } finally {
    await server.kill()
    rmSync(data, { recursive: true, force: true })
  }
}

main().catch((error: unknown) => {
  console.error(error)
  process.exitCode = 1
})
