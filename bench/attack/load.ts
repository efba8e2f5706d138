/* npm run attack:load: fifty readers and twenty uploads at once; what other requests take meanwhile. */
import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { loopTrack } from '../../e2e/sounds'
import { Attacked, percentile } from './server'

const [READERS, UPLOADS] = [50, 20]

async function main() {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-attack-'))
  const server = new Attacked(dir).withDemo()
  await server.start()
  const { items } = await (await fetch(`${server.url}/api/shelf`)).json()
  const id = items[0].id as string
  const wavs = Array.from({ length: UPLOADS }, (_, i) => new Uint8Array(loopTrack(90 + i, 120, 0.2)))
  let over = false
  /** What readers wait for a whole page, and for a document. */
  const read: Record<'page' | 'document', number[]> = { page: [], document: [] }
  const reader = async (url: string) => {
    while (!over) {
      const from = performance.now()
      await (await fetch(server.url + url)).arrayBuffer().catch(() => {})
      read[url.startsWith('/api') ? 'document' : 'page'].push(performance.now() - from)
      // A person looks at what came.
      await new Promise((r) => setTimeout(r, 1000))
    }
  }
  const readers = Array.from({ length: READERS }, (_, i) =>
    reader(['/', `/api/routines/${id}`, `/r/${id}/cue`][i % 3] as string),
  )
  const times: number[] = []
  const other = (async () => {
    while (!over) {
      const from = performance.now()
      await (await fetch(`${server.url}/api/moves`)).text()
      times.push(performance.now() - from)
      await new Promise((r) => setTimeout(r, 20))
    }
  })()
  const from = performance.now()
  const uploads = await Promise.all(
    wavs.map(async (body, i) => {
      const answer = await fetch(`${server.url}/api/songs`, {
        method: 'PUT',
        body,
        headers: { 'x-file-name': `u${i}.wav` },
      })
      await answer.text()
      return answer.status
    }),
  )
  const seconds = (performance.now() - from) / 1000
  over = true
  await Promise.all([...readers, other])
  const [pages, documents] = [read.page, read.document].map(
    (all) => `${percentile(all, 0.5).toFixed(0)} ms, 95 % within ${percentile(all, 0.95).toFixed(0)} ms`,
  )
  console.log(
    `${READERS} readers, ${UPLOADS} uploads of ${((wavs[0]?.length ?? 0) / 1e6).toFixed(0)} MB in ${seconds.toFixed(1)} s (${uploads.filter((s) => s === 200).length} taken): ` +
      `other requests ${times.length}, median ${percentile(times, 0.5).toFixed(0)} ms, 95 % within ${percentile(times, 0.95).toFixed(0)} ms; documents ${documents}; whole pages ${pages}; ${server.memory().toFixed(0)} MB`,
  )
  await server.kill()
  rmSync(dir, { recursive: true, force: true })
}

main()
