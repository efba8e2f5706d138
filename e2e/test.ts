/* What every spec begins with: a server of its own with the demo's data, fresh for each file. */
import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { cpSync, existsSync, rmSync } from 'node:fs'
import net from 'node:net'
import path from 'node:path'
import { type BrowserContext, test as base, expect, type Page } from '@playwright/test'
import { forgetHeardSongs, SEEDED } from './heard-songs'

/** Makes the demo's data; called once before all files. `npm test` has made it while something else was waited for. */
export default function seed(): void {
  forgetHeardSongs()
  if (process.env.AZALEA_SEEDED && existsSync(SEEDED)) return
  rmSync(SEEDED, { recursive: true, force: true })
  const made = spawnSync('node_modules/.bin/tsx', ['demo/seed.ts'], {
    env: { ...process.env, AZALEA_DATA: SEEDED },
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  if (made.status !== 0) throw new Error('the demo could not be seeded')
}

export const freePort = () =>
  new Promise<number>((resolve) => {
    const probe = net.createServer()
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as net.AddressInfo
      probe.close(() => resolve(port))
    })
  })

/** A server of the built app on some data, as a process group of its own. */
export class Server {
  private constructor(
    readonly url: string,
    readonly data: string,
    private readonly port: number,
    private process: ChildProcess,
    private readonly school: boolean,
  ) {}

  /** @param school it is served to a school under its own address: one signs in */
  static async start(data: string, port?: number, school = false): Promise<Server> {
    const at = port ?? (await freePort())
    const served = school ? { AZALEA_PUBLIC_URL: `http://localhost:${at}` } : {}
    // A connection that waits for its next request is not closed just as a test sends one: Playwright would not send it again.
    const kept = ['--keepAliveTimeout', '600000']
    const child = spawn('node_modules/.bin/next', ['start', '-H', '127.0.0.1', '-p', String(at), ...kept], {
      env: { ...process.env, AZALEA_DATA: data, NEXT_TELEMETRY_DISABLED: '1', ...served },
      detached: true,
      stdio: 'ignore',
    })
    const server = new Server(`http://localhost:${at}`, data, at, child, school)
    await server.until(true)
    return server
  }

  /** As long as it takes a busy machine. @throws where the process ended while it was waited for */
  private async until(up: boolean): Promise<void> {
    for (;;) {
      const there = await fetch(this.url).then(
        (r) => r.ok,
        () => false,
      )
      if (there === up) return
      const { exitCode } = this.process
      if (up && exitCode !== null) throw new Error(`the server on port ${this.port} ended with ${exitCode}`)
      await new Promise((again) => setTimeout(again, 50))
    }
  }

  /** No goodbye: the whole process group goes at once. */
  async kill(): Promise<void> {
    try {
      process.kill(-(this.process.pid as number), 'SIGKILL')
    } catch {
      return // it is gone already
    }
    await this.until(false)
  }

  /** As a machine that is shut down ends it: it may do what it has to do before. */
  async end(): Promise<void> {
    const ended = new Promise((gone) => this.process.once('exit', gone))
    process.kill(-(this.process.pid as number), 'SIGTERM')
    await ended
  }

  /** The same data on the same port again. */
  async again(): Promise<void> {
    const { process: child } = await Server.start(this.data, this.port, this.school)
    this.process = child
  }
}

interface Own {
  server: Server
}
interface Files {
  /** The servers of a worker, one after another, are all found here. */
  port: number
  /** The server of the file that is run now. */
  servers: { of: (file: string) => Promise<Server> }
  /** A browser that keeps on disk what it compiled of the pages' programs, as one at home does, from test to test. */
  browserAtHome: BrowserContext
}

/** What pages keep in a browser, but for cookies. */
const STORED = 'file_systems,indexeddb,local_storage,service_workers,cache_storage'

/** Waits until the page that is shown answers: what is pressed before that is lost. */
export async function answers(page: Page): Promise<void> {
  await page.waitForFunction(() => 'awake' in document.documentElement.dataset)
}

/** From now on, a page that is opened or loaded again is waited for until it answers. */
export function answering(page: Page): void {
  for (const name of ['goto', 'reload'] as const) {
    const open = page[name].bind(page) as (...given: unknown[]) => ReturnType<Page['goto']>
    Object.assign(page, {
      [name]: async (...given: unknown[]) => {
        const response = await open(...given)
        if (response?.headers()['content-type']?.includes('html')) await answers(page)
        return response
      },
    })
  }
}

export const test = base.extend<Own, Files>({
  // biome-ignore lint/correctness/noEmptyPattern: a fixture that needs no other
  port: [async ({}, use) => use(await freePort()), { scope: 'worker' }],
  servers: [
    async ({ port }, use, worker) => {
      const data = path.resolve(`.cache/e2e-${worker.workerIndex}`)
      let now: { file: string; server: Server } | null = null
      const end = async () => {
        await now?.server.kill()
        rmSync(data, { recursive: true, force: true })
      }
      await use({
        of: async (file) => {
          if (now?.file === file) return now.server
          await end()
          if (existsSync(SEEDED)) cpSync(SEEDED, data, { recursive: true })
          now = { file, server: await Server.start(data, port) }
          return now.server
        },
      })
      await end()
    },
    { scope: 'worker' },
  ],
  server: async ({ servers }, use, { file }) => use(await servers.of(file)),
  browserAtHome: [
    async ({ playwright, launchOptions, port }, use, worker) => {
      const profile = path.resolve(`.cache/e2e-browser-${worker.workerIndex}`)
      rmSync(profile, { recursive: true, force: true })
      const context = await playwright.chromium.launchPersistentContext(profile, {
        ...launchOptions,
        baseURL: `http://localhost:${port}`,
        viewport: { width: 1280, height: 800 },
      })
      await use(context)
      await context.close()
      rmSync(profile, { recursive: true, force: true })
    },
    { scope: 'worker' },
  ],
  // A test finds nothing of the one before but what the browser compiled: its pages go, and all that any of them had stored
  // (e2e/alone.spec.ts). The server is asked for so that it is there.
  context: async ({ browserAtHome, server: _there }, use) => {
    const [resting] = browserAtHome.pages()
    if (!resting) throw new Error('the browser has no page that stays')
    await use(browserAtHome)
    for (const page of browserAtHome.pages()) {
      if (page === resting) continue
      // It is left before it is closed: so it sends what it has not saved yet.
      await page.goto('about:blank')
      await page.close()
    }
    await browserAtHome.unrouteAll()
    await browserAtHome.clearPermissions()
    await browserAtHome.clearCookies()
    const cdp = await browserAtHome.newCDPSession(resting)
    await cdp.send('Storage.clearDataForOrigin', { origin: '*', storageTypes: STORED })
    await cdp.detach()
  },
  baseURL: async ({ server }, use) => use(server.url),
  // An error of the page, or a rejection nobody handled, fails the test that met it.
  page: async ({ context }, use) => {
    const page = await context.newPage()
    const errors: string[] = []
    page.on('pageerror', (e) => errors.push(e.message))
    answering(page)
    await use(page)
    expect(errors).toEqual([])
  },
})

export { expect }
