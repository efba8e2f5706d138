/* npm run attack:processes -- [SECONDS]: three processes serve one school from one data directory; one of them is killed every 20 s,
   while two hundred windows save. Whatever was acknowledged must be there, once. */
import { mkdtempSync, rmSync, statSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { createClient } from '@libsql/client'
import { asked, begun, dance, joined, json, pause } from './school'
import { Attacked, percentile } from './server'

const SECONDS = Number(process.argv[2] ?? 300)
const [PEOPLE, CLIENTS, KILLED_MS] = [40, 200, 20_000]
const PROCESSES = Number(process.env.PROCESSES ?? 3)
/** A window saves so often: an instructor who works without a pause. */
const THINK_MS = Number(process.env.THINK ?? 5000)
interface Client {
  cookie: string
  routine: string
  revision: number
  title: string
  saves: number
  rows: string[]
}

let from = 0
/** How the last ten seconds were: slowing down is seen in it. */
function windowSaid(data: string, times: readonly number[]): string {
  const these = times.slice(from)
  from = times.length
  const journal = statSync(path.join(data, 'azalea.db-wal'), { throwIfNoEntry: false })?.size ?? 0
  return `${these.length} saves, 95 % within ${percentile(these, 0.95).toFixed(0)} ms, journal ${(journal / 1e6).toFixed(1)} MB`
}

async function main() {
  const data = mkdtempSync(path.join(os.tmpdir(), 'azalea-attack-'))
  const publicUrl = 'http://localhost:9'
  const more = { AZALEA_PUBLIC_URL: publicUrl, AZALEA_LOG: 'silent' }
  const servers = Array.from({ length: PROCESSES }, () => new Attacked(data, more))
  // The first makes the database.
  for (const server of servers) await server.start()
  const cookies = await joined(PEOPLE, servers, data, publicUrl)
  const clients: Client[] = []
  for (let i = 0; i < CLIENTS; i++) {
    const cookie = cookies[i % PEOPLE] as string
    const id = `routine-of-client-${i}`
    await begun(servers, cookie, id, `Dance ${i}`)
    clients.push({ cookie, routine: id, revision: 0, title: '', saves: 0, rows: [] })
  }
  let over = false
  const times: number[] = []
  const wrong: string[] = []
  const work = async (c: Client, i: number) => {
    await pause((THINK_MS * i) / CLIENTS)
    while (!over) {
      const title = `Dance ${i} save ${c.saves + 1}`
      const save = { revision: c.revision, writer: `window-of-${i}`, save: c.saves + 1 }
      const begun = performance.now()
      const headers = { ...json, cookie: c.cookie }
      const answer = await asked(servers, i + c.saves, `/api/routines/${c.routine}`, {
        ...{ method: 'PUT', headers, body: JSON.stringify({ ...save, routine: dance(title) }) },
      })
      times.push(performance.now() - begun)
      const said = await answer.json()
      if (!answer.ok || said.revision !== c.revision + 1)
        wrong.push(`client ${i}, save ${save.save}: ${answer.status} ${JSON.stringify(said)}`)
      if (answer.ok) Object.assign(c, { revision: said.revision, title, saves: c.saves + 1 })
      const row = {
        ...{
          id: `row-${i}-${c.saves}-xxxx`,
          doneAt: Date.now(),
          kind: 'drill',
          from: 1,
          to: 5,
          label: 'x',
          pass: 'all',
        },
        ...{ speed: 1, sound: 'both', seconds: 4, mark: 'clean', looped: false, slips: [], corrects: null },
      }
      const logged = await asked(servers, i + c.saves + 1, `/api/routines/${c.routine}/repetitions`, {
        ...{ method: 'POST', headers, body: JSON.stringify(row) },
      })
      if (logged.ok) c.rows.push(row.id)
      else wrong.push(`client ${i}: row ${logged.status} ${await logged.text()}`)
      await pause(THINK_MS * (0.5 + Math.random()))
    }
  }
  const working = clients.map(work)
  const told = setInterval(() => console.log(windowSaid(data, times)), 10_000)
  const end = Date.now() + SECONDS * 1000
  let kills = 0
  for (; Date.now() + KILLED_MS < end; kills++) {
    await pause(KILLED_MS)
    const server = servers[kills % PROCESSES] as Attacked
    await server.kill()
    await server.start(true)
  }
  await pause(Math.max(0, end - Date.now()))
  over = true
  clearInterval(told)
  await Promise.all(working)
  const memory = servers.map((s) => `${s.memory().toFixed(0)} MB`).join(', ')
  for (const server of servers) await server.kill('SIGTERM')
  const db = createClient({ url: `file:${path.join(data, 'azalea.db')}` })
  const all = async (sql: string) => (await db.execute(sql)).rows
  const [check] = await all('PRAGMA integrity_check')
  if (check?.integrity_check !== 'ok') wrong.push(`integrity: ${check?.integrity_check}`)
  const kept = new Map((await all('SELECT id, revision, title FROM routines')).map((r) => [String(r.id), r]))
  const rows = (await all('SELECT id FROM repetitions')).map((r) => String(r.id))
  const known = new Set(rows)
  for (const c of clients) {
    const there = kept.get(c.routine)
    if (Number(there?.revision) !== c.revision || there?.title !== c.title)
      wrong.push(`${c.routine}: ${there?.revision} “${there?.title}”, not ${c.revision} “${c.title}”`)
    for (const row of c.rows) if (!known.has(row)) wrong.push(`row lost: ${row}`)
  }
  if (known.size !== rows.length) wrong.push('a row is there twice')
  for (const w of wrong.slice(0, 20)) console.log(w)
  console.log(
    `${PROCESSES} processes, ${CLIENTS} windows, ${SECONDS} s, ${kills} kills: ${times.length} saves (${(times.length / SECONDS).toFixed(0)} a second), ${rows.length} rows; ` +
      `median ${percentile(times, 0.5).toFixed(0)} ms, 95 % within ${percentile(times, 0.95).toFixed(0)} ms, most ${percentile(times, 1).toFixed(0)} ms; ${memory}; ${wrong.length} wrong`,
  )
  db.close()
  rmSync(data, { recursive: true, force: true })
  process.exit(wrong.length ? 1 : 0)
}

main()
