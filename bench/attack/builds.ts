/* npm run attack:builds: three are started at once where nothing is built, as by somebody who did not wait. Each must come up,
   answer, and hand out every script its page names. */
import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { freePort } from './server'

const STARTS = 3
const PATIENCE_MS = 300_000

/** Starts one. @returns once it answers, or with why it never did */
async function started(data: string, port: number, running: ChildProcess[]): Promise<string> {
  const child = spawn('npm', ['start'], {
    env: { ...process.env, PORT: String(port), AZALEA_DATA: data },
    stdio: ['ignore', 'pipe', 'pipe'],
    detached: true,
  })
  running.push(child)
  let said = ''
  let ended: number | null = null
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (text) => (said += text))
  child.on('close', (code) => {
    ended = code ?? -1
  })
  const url = `http://127.0.0.1:${port}/`
  for (const since = Date.now(); Date.now() - since < PATIENCE_MS; ) {
    if (ended !== null) return `ended with ${ended}: ${said.slice(-400)}`
    const page = await fetch(url).then(
      (r) => (r.ok ? r.text() : null),
      () => null,
    )
    if (page === null) {
      await new Promise((again) => setTimeout(again, 200))
      continue
    }
    const scripts = [...page.matchAll(/src="(\/_next\/[^"]+\.js)"/g)].map((m) => new URL(m[1] as string, url))
    const answers = await Promise.all(scripts.map(async (s) => (await fetch(s)).status))
    const bad = answers.filter((status) => status !== 200).length
    return bad || !scripts.length ? `${bad} of ${scripts.length} scripts are not there` : ''
  }
  return `no answer: ${said.slice(-400)}`
}

async function main() {
  const home = mkdtempSync(path.join(os.tmpdir(), 'azalea-builds-'))
  const running: ChildProcess[] = []
  rmSync('.made/build', { force: true })
  try {
    const ports = []
    for (let n = 0; n < STARTS; n++) ports.push(await freePort())
    const found = await Promise.all(
      ports.map((port, n) => started(path.join(home, String(n)), port, running)),
    )
    found.forEach((why, n) => {
      console.log(`start ${n + 1}: ${why || 'up, and every script is there'}`)
    })
    const builds = readdirSync('.builds')
    console.log(`.builds holds ${builds.join(', ')}`)
    process.exitCode = found.some((why) => why) || builds.length > 2 ? 1 : 0
  } finally {
    for (const { pid } of running)
      try {
        process.kill(-(pid as number), 'SIGKILL')
      } catch {
        // It is gone already.
      }
    rmSync(home, { recursive: true, force: true })
  }
}

main()
