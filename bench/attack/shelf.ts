/* npm run attack:shelf: 220 songs and 60,000 rows of the log, opened by a server that has not seen them before, and again. */
import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { createClient } from '@libsql/client'
import { Attacked } from './server'

const [SONGS, ROWS] = [220, 60_000]

async function fill(dir: string): Promise<void> {
  const db = createClient({ url: `file:${path.join(dir, 'azalea.db')}` })
  const one = 'SELECT id FROM routines LIMIT 1'
  const write: string[] = []
  for (let i = 1; i < SONGS; i++) {
    const n = String(i).padStart(4, '0')
    write.push(
      `INSERT INTO songs (id, hash, bytes, mime, file_name, title, credit, created_at) SELECT 'song-${n}-xxxx', substr('${n}' || hash, 1, 64), bytes, mime, file_name, title || ' ${n}', credit, created_at FROM songs WHERE id = (SELECT song_id FROM routines WHERE id = (${one}))`,
      `INSERT INTO hearings (id, song_id, version, data, peaks, created_at) SELECT 'hear-${n}', 'song-${n}-xxxx', version, data, peaks, created_at FROM hearings WHERE song_id = (SELECT song_id FROM routines WHERE id = (${one})) LIMIT 1`,
      `INSERT INTO routines (id, song_id, title, revision, writer, save, document, created_at, updated_at) SELECT 'routine-${n}', 'song-${n}-xxxx', title || ' ${n}', revision, writer, save, document, created_at, updated_at - ${i * 1000} FROM routines WHERE id = (${one})`,
    )
  }
  await db.batch(write, 'write')
  const { rows } = await db.execute(`SELECT id FROM routines`)
  const columns =
    'id, routine_id, done_at, kind, song_from, song_to, label, layer, group_name, speed, sound, seconds, mark, looped, slips, corrects, first_phrase, last_phrase'
  for (const [i, r] of rows.entries())
    await db.execute(
      `WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${Math.floor(ROWS / SONGS)})
       INSERT INTO repetitions (${columns})
       SELECT 'row-${i}-' || n.i, '${r.id}', p.done_at - n.i * 3600000, ${columns.split(', ').slice(3).join(', ')}
       FROM n, (SELECT * FROM repetitions WHERE corrects IS NULL LIMIT 1 OFFSET ${i % 30}) p`,
    )
  db.close()
}

async function main() {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-attack-'))
  const server = new Attacked(dir).withDemo()
  await server.start()
  await server.kill('SIGTERM')
  await fill(dir)
  await server.start()
  const ask = async (url = '/') => {
    const from = performance.now()
    const answer = await fetch(server.url + url)
    const text = await answer.text()
    return { ms: performance.now() - from, kb: text.length / 1000 }
  }
  // `start` has asked once: what was not summed up is being kept now.
  await new Promise((r) => setTimeout(r, 3000))
  const times = []
  for (let i = 0; i < 9; i++) times.push(await ask())
  const sorted = times.map((t) => t.ms).sort((a, b) => a - b)
  console.log(
    `the shelf: median ${sorted[4]?.toFixed(0)} ms, slowest ${sorted.at(-1)?.toFixed(0)} ms, ${times[0]?.kb.toFixed(0)} KB`,
  )
  for (const url of ['/api/shelf?search=0123', '/api/shelf?order=due', '/api/shelf?order=name&from=200']) {
    const { ms, kb } = await ask(url)
    console.log(`${url}: ${ms.toFixed(0)} ms, ${kb.toFixed(0)} KB`)
  }
  await server.kill()
  rmSync(dir, { recursive: true, force: true })
}

main()
