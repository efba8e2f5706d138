/* npm run attack:kills -- [N]: the server is killed N times while edits, rows of the log and songs come in. Whatever it
   acknowledged must be there after each start, and nothing else be left in the data directory. */
import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { createClient } from '@libsql/client'
import { loopTrack } from '../../e2e/sounds'
import { Attacked } from './server'

const KILLS = Number(process.argv[2] ?? 200)
let seed = 11
const below = (n: number) => {
  seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
  return Math.floor((seed / 2_147_483_648) * n)
}

interface Known {
  revision: number
  title: string
  rows: Set<string>
  songs: Map<string, string>
  /** Asked for, and the answer lost with the server: may be there or not. */
  unsure: number
}

async function attack(server: Attacked, id: string, known: Known, stop: () => boolean, n: number) {
  const json = { 'content-type': 'application/json' }
  const put = async (url: string, method: string, body: BodyInit, headers: Record<string, string> = json) => {
    const answer = await fetch(server.url + url, { method, body, headers })
    if (!answer.ok) throw new Error(`${url}: ${answer.status} ${await answer.text()}`)
    return answer.json()
  }
  const edits = async () => {
    const { routine } = await (await fetch(`${server.url}/api/routines/${id}`)).json()
    for (let save = 1; !stop(); save++) {
      const title = `Edit ${n} ${save}`
      const writer = `attacker-${n}`
      const { revision } = known
      const done = await put(
        `/api/routines/${id}`,
        'PUT',
        JSON.stringify({ revision, writer, save, routine: { ...routine, title } }),
      )
      known.revision = done.revision
      known.title = title
    }
  }
  const log = async () => {
    for (let k = 0; !stop(); k++) {
      const row = {
        ...{
          id: `row-${n}-${k}-xxxx`,
          doneAt: Date.now(),
          kind: 'drill',
          from: 1,
          to: 5,
          label: 'x',
          pass: 'all',
        },
        ...{ speed: 1, sound: 'both', seconds: 4, mark: 'clean', looped: false, slips: [], corrects: null },
      }
      await put(`/api/routines/${id}/repetitions`, 'POST', JSON.stringify(row))
      known.rows.add(row.id)
    }
  }
  const songs = async () => {
    for (let k = 0; !stop(); k++) {
      const wav = loopTrack(90 + below(60), 4 + below(20), 0.1 + n / 1000 + k / 100_000)
      const name = `Song ${n} ${k}.wav`
      const done = await put('/api/songs', 'PUT', new Uint8Array(wav), {
        'x-file-name': encodeURIComponent(name),
      })
      known.songs.set(done.songId, name)
    }
  }
  await Promise.all(
    [edits, log, songs, songs].map((work) =>
      work().catch((error: unknown) => {
        known.unsure++
        if (!stop()) throw error
      }),
    ),
  )
}

/** What of what was acknowledged is not there, and what is there that nobody needs. */
async function wrongs(dir: string, id: string, known: Known): Promise<string[]> {
  const db = createClient({ url: `file:${path.join(dir, 'azalea.db')}` })
  const all = async (sql: string) => (await db.execute(sql)).rows
  const out: string[] = []
  const [check] = await all('PRAGMA integrity_check')
  if (check?.integrity_check !== 'ok') out.push(`integrity: ${check?.integrity_check}`)
  const [routine] = await all(`SELECT revision, title FROM routines WHERE id = '${id}'`)
  if (Number(routine?.revision) < known.revision)
    out.push(`edit lost: ${routine?.revision} < ${known.revision}`)
  known.revision = Number(routine?.revision)
  const rows = new Set((await all('SELECT id FROM repetitions')).map((r) => String(r.id)))
  for (const row of known.rows) if (!rows.has(row)) out.push(`row lost: ${row}`)
  const songs = await all('SELECT id, hash, bytes FROM songs')
  const ids = new Set(songs.map((s) => String(s.id)))
  for (const song of known.songs.keys()) if (!ids.has(song)) out.push(`song lost: ${song}`)
  const files = new Set(readdirSync(path.join(dir, 'audio')))
  for (const s of songs) if (!files.delete(String(s.hash))) out.push(`audio lost: ${s.id}`)
  for (const file of files) out.push(`left behind: audio/${file}`)
  for (const file of readdirSync(path.join(dir, 'passing'))) out.push(`left behind: passing/${file}`)
  const allowed = new Set([
    'audio',
    'azalea.db',
    'azalea.db-wal',
    'azalea.db-shm',
    'passing',
    'voice',
    'demo',
  ])
  for (const file of readdirSync(dir)) if (!allowed.has(file)) out.push(`left behind: ${file}`)
  db.close()
  return out
}

async function main() {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-attack-'))
  const server = new Attacked(dir).withDemo()
  await server.start()
  const first = await (await fetch(`${server.url}/api/shelf`)).json()
  const id = first.items[0].id as string
  const { revision } = await (await fetch(`${server.url}/api/routines/${id}`)).json()
  const known: Known = { revision, title: '', rows: new Set(), songs: new Map(), unsure: 0 }
  let bad = 0
  let acknowledged = 0
  for (let n = 1; n <= KILLS; n++) {
    let over = false
    const working = attack(server, id, known, () => over, n)
    await new Promise((r) => setTimeout(r, 100 + below(2600)))
    over = true
    await server.kill()
    await working.catch((e: unknown) => {
      bad++
      console.log(`kill ${n}: refused while it ran: ${e}`)
    })
    await server.start()
    const found = await wrongs(dir, id, known)
    bad += found.length
    for (const w of found) console.log(`kill ${n}: ${w}`)
    acknowledged = known.rows.size + known.songs.size + known.revision
    if (n % 20 === 0) console.log(`${n} kills: ${acknowledged} acknowledged writes, ${bad} wrong`)
  }
  console.log(
    `${KILLS} kills: ${known.rows.size} rows, ${known.songs.size} songs, ${known.revision} edits acknowledged; ${known.unsure} cut off; ${bad} wrong`,
  )
  await server.kill()
  rmSync(dir, { recursive: true, force: true })
  process.exit(bad ? 1 : 0)
}

main()
