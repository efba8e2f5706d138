/* npm run attack:works -- [N]: three processes of one school set cue sheets and look for songs in films, all asked for at once, while one of
   them is killed again and again, four seconds after the one before serves again. Each sheet must come whole and of its own dance, each take be where it is. */
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { createClient } from '@libsql/client'
import { Upload } from 'tus-js-client'
import { extractText, getDocumentProxy } from 'unpdf'
import { aacIn, madeFilm } from '../../src/decode/film.test-tools'
import { asked, begun, dance, joined, json, pause } from './school'
import { Attacked } from './server'

/** Of each, a teacher. */
const EACH = Number(process.argv[2] ?? 6)
const [PEOPLE, PROCESSES, KILLED_MS] = [3, 3, 4000]
/** A frame of the fixture's AAC, in seconds; each film is so many of them, from another one on. */
const [FRAME, FRAMES, APART] = [1024 / 44_100, 500, 17]
const [SONG, SOUND] = ['e2e/fixtures/short.mp3', 'e2e/fixtures/short.m4a']

interface State {
  kind: string
  why?: string
}
interface Found {
  state: State
  takes: { from: number; at: number }[] | null
}

const data = mkdtempSync(path.join(os.tmpdir(), 'azalea-works-'))
const publicUrl = 'http://localhost:9'
const more = { AZALEA_PUBLIC_URL: publicUrl, AZALEA_LOG: 'silent' }
const servers = Array.from({ length: PROCESSES }, () => new Attacked(data, more))
const wrong: string[] = []
const count = { again: 0, sheets: 0, films: 0 }

/** Asks for work until it is done. */
async function done(n: number, cookie: string, address: string): Promise<Found> {
  for (let method = 'POST'; ; ) {
    const answer = await asked(servers, n, address, { method, headers: { ...json, cookie } })
    if (!answer.ok) throw new Error(`${address}: ${answer.status} ${await answer.text()}`)
    const now = (await answer.json()) as Found
    if (now.state.kind === 'done') return now
    method = 'GET'
    if (now.state.kind === 'failed' || now.state.kind === 'none') {
      count.again++
      method = 'POST'
    }
    await pause(500)
  }
}

async function setSheet(n: number, cookie: string, id: string, title: string): Promise<void> {
  const headers = { cookie, prefer: 'respond-async' }
  const begin = await asked(servers, n, `/api/routines/${id}/sheet?wall=${n % 2}`, { headers })
  if (begin.status !== 202) throw new Error(`a sheet was answered with ${begin.status}`)
  const { sheet } = (await begin.json()) as { sheet: string }
  const at = `/api/routines/${id}/sheets/${sheet}`
  await done(n, cookie, at)
  // Read as bytes: asked() reads text.
  for (;;) {
    const server = servers.find((s) => s.serves)
    const file = await fetch(`${server?.url}${at}/file`, { headers: { cookie } })
      .then(async (r) => (r.ok ? new Uint8Array(await r.arrayBuffer()) : null))
      .catch(() => null)
    if (!file) {
      await pause(100)
      continue
    }
    const { text } = await extractText(await getDocumentProxy(file), { mergePages: true })
    if (!text.includes(title)) wrong.push(`the sheet of ${title} says "${text.slice(0, 40)}"`)
    count.sheets++
    return
  }
}

async function sendFilm(cookie: string, id: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
  const server = servers[0] as Attacked
  await new Promise<void>((there, failed) => {
    const upload = new Upload(Buffer.from(bytes) as never, {
      ...{ endpoint: `${server.url}/api/films/incoming`, headers: { cookie }, uploadSize: bytes.length },
      ...{ metadata: { id, filename: 'phone.mp4' }, onSuccess: () => there(), onError: failed },
    })
    upload.start()
  })
  const taken = await fetch(`${server.url}/api/films/${id}`, { method: 'POST', headers: { ...json, cookie } })
  if (!taken.ok) throw new Error(`${taken.status} ${await taken.text()}`)
}

async function search(n: number, cookie: string, routine: string, film: string, first: number) {
  const { takes } = await done(n, cookie, `/api/routines/${routine}/takes/${film}`)
  const [take, ...others] = takes ?? []
  const off = take ? take.at - take.from - (first - 1) * FRAME : Number.NaN
  if (others.length || !(Math.abs(off) < 0.05)) wrong.push(`${film}: ${JSON.stringify(takes)}`)
  count.films++
}

async function main() {
  for (const server of servers) await server.start()
  const cookies = await joined(PEOPLE, servers, data, publicUrl)
  const { frames, description } = await aacIn(SOUND)
  const works: (() => Promise<void>)[] = []
  for (const [p, cookie] of cookies.entries()) {
    const headers = { cookie, 'x-file-name': 'Short.mp3' }
    const put = await asked(servers, 0, '/api/songs', { method: 'PUT', headers, body: readFileSync(SONG) })
    const { routines } = (await put.json()) as { routines: { id: string }[] }
    const routine = routines[0]?.id as string
    for (let i = 0; i < EACH; i++) {
      const n = p * EACH + i
      const [id, title, film] = [`dance-number-${n}`, `Dance number ${n}`, `film-number-${n}`]
      await begun(servers, cookie, id, title)
      const first = 20 + APART * n
      const seen = frames.slice(first, first + FRAMES)
      const seconds = Math.floor(FRAMES * FRAME)
      await sendFilm(
        cookie,
        film,
        await madeFilm({ seconds, format: 'mp4', heard: { frames: seen, description } }),
      )
      const body = JSON.stringify({ revision: 0, writer: `window-of-${n}`, save: 1, routine: dance(title) })
      const saved = await asked(servers, 0, `/api/routines/${id}`, {
        method: 'PUT',
        headers: { ...json, cookie },
        body,
      })
      if (!saved.ok) throw new Error(`${saved.status} ${await saved.text()}`)
      works.push(
        () => setSheet(n, cookie, id, title),
        () => search(n, cookie, routine, film, first),
      )
    }
  }
  const from = Date.now()
  let working = true
  const all = Promise.all(works.map((work) => work())).finally(() => {
    working = false
  })
  let kills = 0
  for (; working; kills++) {
    await Promise.race([pause(KILLED_MS), all.catch(() => {})])
    if (!working) break
    const server = servers[kills % PROCESSES] as Attacked
    await server.kill()
    await server.start(true)
  }
  await all
  const seconds = (Date.now() - from) / 1000
  for (const server of servers) await server.kill('SIGTERM')
  const db = createClient({ url: `file:${path.join(data, 'azalea.db')}` })
  const left = (await db.execute('SELECT kind, tries, problem FROM jobs')).rows
  for (const job of left) wrong.push(`left: ${JSON.stringify(job)}`)
  const [check] = (await db.execute('PRAGMA integrity_check')).rows
  if (check?.integrity_check !== 'ok') wrong.push(`integrity: ${check?.integrity_check}`)
  db.close()
  for (const w of wrong) console.log(w)
  console.log(
    `${count.sheets} sheets and ${count.films} films, ${PROCESSES} processes, ${kills} kills: all done after ${seconds.toFixed(0)} s; ${count.again} asked for anew; ${wrong.length} wrong`,
  )
  rmSync(data, { recursive: true, force: true })
  process.exit(wrong.length ? 1 : 0)
}

main()
