/* npm run attack:busy -- [SONGS] [PROCESSES]: songs are dropped, all at once, beside processes that keep the processors busy, and words are
   asked for meanwhile. Every good song must be taken, every bad file be told to be no sound, and every word be spoken. */
import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { loopTrack } from '../../e2e/sounds'
import { Attacked, percentile } from './server'

const SONGS = Number(process.argv[2] ?? 20)
const BUSY = Number(process.argv[3] ?? 4)
const FIXTURES = ['mp3', 'ogg', 'flac', 'm4a', 'opus']

/** Good songs of several kinds. */
const songs = (): [string, Uint8Array][] =>
  Array.from({ length: SONGS }, (_, k) => {
    const kind = FIXTURES[k % (FIXTURES.length + 1)]
    return kind
      ? [`${k}.${kind}`, readFileSync(`e2e/fixtures/short.${kind}`)]
      : [`${k}.wav`, loopTrack(80 + k, 20 + (k % 7) * 10, 0.1 + k / 100)]
  })

const busy = (): ChildProcess => spawn(process.execPath, ['-e', 'for (;;);'], { stdio: 'ignore' })

async function main() {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-attack-'))
  const server = new Attacked(dir)
  await server.start()
  const others = Array.from({ length: BUSY }, busy)
  const times: number[] = []
  let wrong = 0
  const put = async (name: string, bytes: Uint8Array, good: boolean) => {
    const from = performance.now()
    for (;;) {
      const answer = await fetch(`${server.url}/api/songs`, {
        method: 'PUT',
        body: new Uint8Array(bytes),
        headers: { 'x-file-name': encodeURIComponent(name) },
      })
      const said = await answer.text()
      // As the shelf does it: a busy server is asked again.
      if (answer.status === 503 && said.includes('"busy"')) {
        await new Promise((again) => setTimeout(again, 1000))
        continue
      }
      times.push(performance.now() - from)
      if (good === answer.ok && (good || answer.status === 415)) return
      wrong++
      console.log(`${name}: ${answer.status} ${said.slice(0, 160)}`)
      return
    }
  }
  const say = async (k: number) => {
    const answer = await fetch(`${server.url}/api/voice?say=${encodeURIComponent(`step number ${k}`)}`)
    if (answer.ok) return
    wrong++
    console.log(`word ${k}: ${answer.status} ${(await answer.text()).slice(0, 160)}`)
  }
  await Promise.all([
    ...songs().map(([name, bytes]) => put(name, bytes, true)),
    ...Array.from({ length: 5 }, (_, k) =>
      put(`bad ${k}.mp3`, Buffer.from(`no sound ${k}`.repeat(900)), false),
    ),
    ...Array.from({ length: 12 }, (_, k) => say(k)),
  ])
  for (const child of others) child.kill('SIGKILL')
  const seconds = (share: number) => (percentile(times, share) / 1000).toFixed(1)
  console.log(
    `${SONGS} songs, 5 files that are none and 12 words beside ${BUSY} busy processes: median ${seconds(0.5)} s, slowest ${seconds(1)} s; ${wrong} wrong`,
  )
  await server.kill()
  rmSync(dir, { recursive: true, force: true })
  process.exit(wrong ? 1 : 0)
}

main()
