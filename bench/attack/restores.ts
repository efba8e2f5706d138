/* npm run attack:restores -- [N]: the server is killed N times while a backup, or a routine with its song, is brought into an
   empty place. After each start all of it is there or none, nothing is left over, and brought again it is all there. */
import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { createClient } from '@libsql/client'
import { Attacked } from './server'

const KILLS = Number(process.argv[2] ?? 40)
/** What is brought: where to, and how many rows of each table it has; the log does not go with a routine. */
interface Brought {
  name: string
  url: string
  bytes: Uint8Array
  whole: string
}

const inPlace = async (dir: string) => {
  const db = createClient({ url: `file:${path.join(dir, 'azalea.db')}` })
  const one = async (sql: string) =>
    (await db.execute(sql)).rows.map((r) => Object.values(r).join()).join(' ')
  const wrong: string[] = []
  const check = await one('PRAGMA integrity_check')
  if (check !== 'ok') wrong.push(check)
  const rows = await one(
    `SELECT (SELECT count(*) FROM routines), (SELECT count(*) FROM songs), (SELECT count(*) FROM hearings), (SELECT count(*) FROM repetitions)`,
  )
  const hashes = new Set((await one('SELECT hash FROM songs')).split(' ').filter(Boolean))
  db.close()
  const files = readdirSync(dir).includes('audio') ? readdirSync(path.join(dir, 'audio')) : []
  for (const file of files) if (!hashes.delete(file)) wrong.push(`left behind: audio/${file}`)
  for (const hash of hashes) wrong.push(`audio lost: ${hash}`)
  for (const file of readdirSync(path.join(dir, 'passing'))) wrong.push(`left behind: passing/${file}`)
  return { rows, wrong }
}

async function main() {
  const home = mkdtempSync(path.join(os.tmpdir(), 'azalea-attack-'))
  const source = new Attacked(path.join(home, 'source')).withDemo()
  await source.start()
  const get = async (url: string) => new Uint8Array(await (await fetch(source.url + url)).arrayBuffer())
  const { items } = await (await fetch(`${source.url}/api/shelf`)).json()
  const things: Brought[] = [
    { name: 'a backup', url: '/api/backup', bytes: await get('/api/backup'), whole: '' },
    {
      name: 'a routine',
      ...{ url: '/api/routines/open', bytes: await get(`/api/routines/${items[0].id}/file?song`), whole: '' },
    },
  ]
  await source.kill()
  const put = async (server: Attacked, { url, bytes }: Brought) => {
    const answer = await fetch(server.url + url, { method: 'PUT', body: bytes as Uint8Array<ArrayBuffer> })
    await answer.text()
    return answer.status
  }
  const counts = { none: 0, all: 0, acknowledged: 0 }
  let bad = 0
  for (let n = 0; n < KILLS; n++) {
    const what = things[n % things.length] as Brought
    const dir = path.join(home, `place-${n}`)
    const server = new Attacked(dir)
    await server.start()
    const empty = (await inPlace(dir)).rows
    let status = 0
    const bringing = put(server, what).then(
      (s) => {
        status = s
      },
      () => {},
    )
    // The first of each kind is let through, to know what all of it is.
    if (what.whole === '') await bringing
    else await new Promise((wait) => setTimeout(wait, (n * 137) % 1500))
    await server.kill()
    await bringing
    await server.start()
    const after = await inPlace(dir)
    if (what.whole === '') what.whole = after.rows
    const all = after.rows === what.whole
    counts[all ? 'all' : 'none']++
    if (status === 200) counts.acknowledged++
    const wrong = [...after.wrong]
    if (!all && after.rows !== empty) wrong.push(`half of it: ${after.rows} of ${what.whole}`)
    if (status === 200 && !all) wrong.push('acknowledged and not there')
    const again = await put(server, what)
    // A routine that is here already is asked about, not opened twice.
    if (!(again === 200 || (all && again === 409))) wrong.push(`brought again: ${again}`)
    await server.kill()
    const end = await inPlace(dir)
    if (end.rows !== what.whole) wrong.push(`brought again: ${end.rows} of ${what.whole}`)
    if (wrong.length) console.log(`${what.name}, ${n}: ${wrong.join('; ')}`)
    bad += wrong.length
    rmSync(dir, { recursive: true, force: true })
  }
  const mb = things.map((t) => `${t.name} of ${(t.bytes.length / 1e6).toFixed(0)} MB`).join(', ')
  console.log(
    `${KILLS} kills (${mb}): all there ${counts.all} times, none of it ${counts.none} times, acknowledged ${counts.acknowledged}; ${bad} wrong`,
  )
  rmSync(home, { recursive: true, force: true })
  if (bad) process.exitCode = 1
}

main()
