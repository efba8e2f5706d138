/* Azalea with a copy of the demo's data, for benches of its pages. */
import { spawn } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'

/** Serves a copy of the demo while something is measured; the copy goes afterwards. */
export async function serving<T>(port: number, work: (base: string) => Promise<T>): Promise<T> {
  const base = `http://localhost:${port}`
  const data = mkdtempSync(path.join(os.tmpdir(), 'azalea-bench-'))
  cpSync(process.env.AZALEA_SEEDED_DATA ?? '.cache/e2e-seeded', data, { recursive: true })
  const server = spawn('npx', ['next', 'start', '-H', '127.0.0.1', '-p', String(port)], {
    env: { ...process.env, AZALEA_DATA: data },
    stdio: 'ignore',
    detached: true,
  })
  const isUp = () =>
    fetch(base).then(
      () => true,
      () => false,
    )
  try {
    while (!(await isUp())) {
      if (server.exitCode !== null) throw new Error(`the server ended with ${server.exitCode}`)
      await new Promise((again) => setTimeout(again, 250))
    }
    return await work(base)
  } finally {
    if (server.pid) process.kill(-server.pid)
    rmSync(data, { recursive: true, force: true })
  }
}

/** The demo's routine on the shelf. */
export async function demoId(base: string): Promise<string> {
  const home = await (await fetch(base)).text()
  return /\/r\/([A-Za-z0-9_-]+)/.exec(home)?.[1] as string
}
