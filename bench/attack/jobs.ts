/* npm run attack:jobs -- [SONGS]: three processes of one school hear songs that are all asked for at once, while one of them is killed
   every seven seconds for a minute. Each song must be heard in the end, rightly, and kept once; and what was given up after several
   kills is heard when it is asked for anew. */
import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { createClient } from '@libsql/client'
import { loopTrack } from '../../e2e/sounds'
import { asked, joined, json, pause } from './school'
import { Attacked } from './server'

const SONGS = Number(process.argv[2] ?? 24)
const [PEOPLE, PROCESSES, KILLED_MS, KILLING_MS] = [4, 3, 7000, 60_000]
/** Seconds of a song: heard in some seconds of a processor. */
const LENGTH = 120

interface Song {
  id: string
  bpm: number
  cookie: string
  heardMs: number
}

async function main() {
  const data = mkdtempSync(path.join(os.tmpdir(), 'azalea-jobs-'))
  const publicUrl = 'http://localhost:9'
  const more = { AZALEA_PUBLIC_URL: publicUrl, AZALEA_LOG: 'silent' }
  const servers = Array.from({ length: PROCESSES }, () => new Attacked(data, more))
  for (const server of servers) await server.start()
  const cookies = await joined(PEOPLE, servers, data, publicUrl)
  const songs: Song[] = []
  for (let i = 0; i < SONGS; i++) {
    const bpm = 90 + 2 * i
    const cookie = cookies[i % PEOPLE] as string
    const body = new Uint8Array(loopTrack(bpm, LENGTH, 0.4))
    const headers = { cookie, 'x-file-name': `Song ${i}.wav` }
    const put = await asked(servers, i, '/api/songs', { method: 'PUT', headers, body })
    const { songId } = (await put.json()) as { songId: string }
    songs.push({ id: songId, bpm, cookie, heardMs: 0 })
  }
  const begun = Date.now()
  const wrong: string[] = []
  let again = 0
  const ask = async (song: Song, i: number, method: string) => {
    const headers = { ...json, cookie: song.cookie }
    const answer = await asked(servers, i, `/api/songs/${song.id}/hear`, { method, headers })
    return (await answer.json()) as {
      state: { kind: string; why?: string }
      heard: { hearing: { tempo: number } } | null
    }
  }
  const waited = songs.map(async (song, i) => {
    for (let method = 'POST'; ; ) {
      const { state, heard } = await ask(song, i, method)
      method = 'GET'
      if (state.kind === 'failed' || state.kind === 'none') {
        again++
        method = 'POST'
      }
      if (heard) {
        song.heardMs = Date.now() - begun
        const { tempo } = heard.hearing
        if (Math.abs(tempo / song.bpm - 1) > 0.002) wrong.push(`${song.bpm} was heard as ${tempo}`)
        return
      }
      await pause(1000)
    }
  })
  let kills = 0
  const all = Promise.all(waited)
  for (; Date.now() + KILLED_MS < begun + KILLING_MS; kills++) {
    await pause(KILLED_MS)
    const server = servers[kills % PROCESSES] as Attacked
    await server.kill()
    await server.start(true)
  }
  await all
  for (const server of servers) await server.kill('SIGTERM')
  const db = createClient({ url: `file:${path.join(data, 'azalea.db')}` })
  const rows = async (sql: string) => (await db.execute(sql)).rows
  const [check] = await rows('PRAGMA integrity_check')
  if (check?.integrity_check !== 'ok') wrong.push(`integrity: ${check?.integrity_check}`)
  for (const r of await rows('SELECT song_id, count(*) AS n FROM hearings GROUP BY song_id'))
    if (Number(r.n) !== 1) wrong.push(`${r.song_id} was kept ${r.n} times`)
  const left = await rows('SELECT kind, tries, problem FROM jobs')
  for (const job of left) wrong.push(`left: ${JSON.stringify(job)}`)
  for (const w of wrong) console.log(w)
  const ms = songs.map((s) => s.heardMs)
  console.log(
    `${SONGS} songs of ${LENGTH} s, ${PROCESSES} processes, ${kills} kills: all heard after ${(Math.max(...ms) / 1000).toFixed(0)} s; ${again} asked for anew; ${wrong.length} wrong`,
  )
  db.close()
  rmSync(data, { recursive: true, force: true })
  process.exit(wrong.length ? 1 : 0)
}

main()
