/* A server of the built app on data of its own, for benches and attacks. */
import { type ChildProcess, spawn } from 'node:child_process'
import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import net from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { chromium } from '@playwright/test'

export const freePort = () =>
  new Promise<number>((resolve) => {
    const probe = net.createServer()
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as net.AddressInfo
      probe.close(() => resolve(port))
    })
  })

export class Attacked {
  private child: ChildProcess | null = null
  url = ''
  /** @param more what else it is told by its environment */
  constructor(
    readonly data: string,
    private readonly more: Record<string, string> = {},
  ) {}

  /** Takes the demo's data, as the browser tests have it (npm test makes it). */
  withDemo(): this {
    const seeded = path.resolve('.cache/e2e-seeded')
    if (!existsSync(seeded))
      throw new Error('Run npm test, or demo/seed.ts with AZALEA_DATA=.cache/e2e-seeded, first.')
    cpSync(seeded, this.data, { recursive: true })
    return this
  }

  private port = 0
  /** It answered once it was started: a proxy that asks for its health would pass on to it. */
  serves = false

  /** @param again under the address it had before */
  async start(again = false): Promise<void> {
    const port = again ? this.port : await freePort()
    this.port = port
    this.url = `http://localhost:${port}`
    this.serves = false
    this.child = spawn('node_modules/.bin/next', ['start', '-H', '127.0.0.1', '-p', String(port)], {
      env: { ...process.env, AZALEA_DATA: this.data, NEXT_TELEMETRY_DISABLED: '1', ...this.more },
      detached: true,
      stdio: process.env.LOUD ? 'inherit' : 'ignore',
    })
    for (let i = 0; i < 400; i++) {
      const there = await fetch(`${this.url}/api/health`).then(
        (r) => r.ok,
        () => false,
      )
      this.serves = there
      if (there) return
      await new Promise((again) => setTimeout(again, 25))
    }
    throw new Error('the server did not start')
  }

  /** Ends it as a fall of the machine would. */
  async kill(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    const child = this.child
    if (!child?.pid) return
    const gone = new Promise((done) => child.once('exit', done))
    this.serves = false
    process.kill(-child.pid, signal)
    await gone
  }

  /** Resident memory of the server and what it started, in MB. */
  memory(): number {
    const pid = this.child?.pid
    if (!pid) return 0
    let pages = 0
    for (const p of [pid, ...this.children(pid)]) {
      const text = existsSync(`/proc/${p}/statm`) ? readFileSync(`/proc/${p}/statm`, 'utf8') : ''
      pages += Number(text.split(' ')[1] ?? 0)
    }
    return (pages * 4096) / 1e6
  }

  /** Seconds of a processor the server has used. */
  processor(): number {
    const stat = this.child?.pid ? readFileSync(`/proc/${this.child.pid}/stat`, 'utf8') : ''
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ')
    // proc(5): in hundredths of a second.
    return (Number(fields[11] ?? 0) + Number(fields[12] ?? 0)) / 100
  }

  private children(pid: number): number[] {
    const file = `/proc/${pid}/task/${pid}/children`
    const own = existsSync(file)
      ? readFileSync(file, 'utf8').trim().split(' ').filter(Boolean).map(Number)
      : []
    return own.flatMap((c) => [c, ...this.children(c)])
  }
}

/** The demo on a server of its own, and a browser that is at it. @returns with the demo's routine, and what ends both */
export async function demoInBrowser() {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-attack-'))
  const server = new Attacked(dir).withDemo()
  await server.start()
  const executablePath = [process.env.CHROMIUM, '/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find(
    (p) => p && existsSync(p),
  )
  const browser = await chromium.launch({
    ...(executablePath ? { executablePath } : {}),
    args: [
      ...['--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking'],
      '--autoplay-policy=no-user-gesture-required',
    ],
  })
  const shelf = (await (await fetch(`${server.url}/api/shelf`)).json()) as { items: { id: string }[] }
  const [demo] = shelf.items
  if (!demo) throw new Error('no routine is on the shelf')
  const end = async () => {
    await browser.close()
    await server.kill()
    rmSync(dir, { recursive: true, force: true })
  }
  return { server, browser, demo: demo.id, end }
}

/** A share of some numbers lies below this. */
export const percentile = (all: readonly number[], share: number) =>
  [...all].sort((a, b) => a - b)[Math.min(all.length - 1, Math.floor(share * all.length))] ?? 0
