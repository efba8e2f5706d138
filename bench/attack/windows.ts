/* npm run attack:windows -- [HISTORIES]: two windows of a real browser on one routine, a server that is killed and started again, and saves that
   are lost, answered to nobody, doubled or delayed. What each history does is drawn. At its end all is well again, and whatever was done must be
   stored, or be kept by a window that asks what is to become of it. The same without a browser, thousands of times: src/ui/state/windows.test.ts. */
import type { BrowserContext, Page, Route } from '@playwright/test'
import { type Attacked, demoInBrowser } from './server'

const HISTORIES = Number(process.argv[2] ?? 30)
const STEPS = 14
let seed = Number(process.env.SEED ?? 5)
const below = (n: number) => {
  seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
  return Math.floor((seed / 2_147_483_648) * n)
}
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms))

type Fate = 'well' | 'lost' | 'answer lost' | 'doubled' | 'late'
const FATES: readonly Fate[] = ['well', 'well', 'well', 'lost', 'answer lost', 'doubled', 'late']

class History {
  private fate: Fate = 'well'
  private readonly pages: (Page | null)[] = [null, null]
  private readonly done: string[] = []
  private readonly late: (() => Promise<unknown>)[] = []
  readonly acts: string[] = []

  constructor(
    private readonly server: Attacked,
    private readonly context: BrowserContext,
    private readonly id: string,
    private readonly name: string,
  ) {}

  /** What becomes of a save on its way. */
  private through = async (route: Route) => {
    if (route.request().method() !== 'PUT') return route.continue()
    const again = () => route.fetch().catch(() => null)
    switch (this.fate) {
      case 'lost':
        return route.abort()
      case 'answer lost':
        await again()
        return route.abort()
      case 'doubled':
        await again()
        return route.continue()
      case 'late': {
        const { url, method, data } = {
          url: route.request().url(),
          method: route.request().method(),
          data: route.request().postDataBuffer(),
        }
        this.late.push(() =>
          fetch(url, {
            method,
            body: data ? new Uint8Array(data) : null,
            headers: { 'content-type': 'application/json' },
          }),
        )
        return route.abort()
      }
      default:
        return route.continue()
    }
  }

  async begin(): Promise<void> {
    await this.context.route(/\/api\/routines\/[^/]+$/, (route) => this.through(route).catch(() => {}))
  }

  private async open(k: number): Promise<Page | null> {
    const there = this.pages[k]
    if (there) return there
    const page = await this.context.newPage()
    // Closing asks where something waits; here it is always closed.
    page.on('dialog', (d) => d.accept().catch(() => {}))
    this.pages[k] = page
    await page.goto(`${this.server.url}/r/${this.id}/cue`)
    await page.waitForFunction(() => 'awake' in document.documentElement.dataset)
    return page
  }

  private async edit(k: number): Promise<void> {
    const page = await this.open(k)
    if (!page) return
    const words = `${this.name} ${this.done.length}`
    await page.getByTestId('sheet').focus()
    await page.keyboard.press('Home')
    for (let n = this.done.length % 40; n > 0; n--) await page.keyboard.press('ArrowRight')
    await page.keyboard.press('w')
    await page.getByLabel('Move', { exact: true }).fill(words)
    await page.keyboard.press('Enter')
    await page.getByText(words, { exact: true }).first().waitFor()
    this.done.push(words)
  }

  private async close(k: number): Promise<void> {
    const page = this.pages[k]
    this.pages[k] = null
    await page?.close()
  }

  async step(): Promise<void> {
    this.fate = FATES[below(FATES.length)] as Fate
    const k = below(2)
    const act = ['edit', 'edit', 'edit', 'close', 'reload', 'open', 'server', 'late', 'time'][
      below(9)
    ] as string
    this.acts.push(`${act} ${k} (${this.fate})`)
    if (act === 'edit') await this.edit(k)
    else if (act === 'open') await this.open(k)
    else if (act === 'close') await this.close(k)
    else if (act === 'reload' && this.pages[k]) {
      await this.pages[k]?.reload()
      await this.pages[k]?.waitForFunction(() => 'awake' in document.documentElement.dataset)
    } else if (act === 'server') {
      await this.server.kill()
      await pause(below(1500))
      await this.server.start(true)
    } else if (act === 'late')
      await this.late
        .shift()?.()
        .catch(() => {})
    else await pause(below(1500))
  }

  /** All is well again. @returns what is wrong */
  async end(): Promise<string[]> {
    this.fate = 'well'
    for (const arrive of this.late.splice(0)) await arrive().catch(() => {})
    for (const k of [0, 1]) await this.close(k)
    const page = (await this.open(0)) as Page
    const asked = page.getByRole('button', { name: /^(Keep it as a copy|Keep mine as a copy)$/ })
    const saved = page.getByTestId('saving').getByText('Saved', { exact: true })
    await saved.or(asked).first().waitFor({ timeout: 60_000 })
    const kept = await page.evaluate(
      () =>
        new Promise<string>((resolve) => {
          const open = indexedDB.open('azalea-outbox')
          open.onsuccess = () => {
            const all = open.result.transaction('entries').objectStore('entries').getAll()
            all.onsuccess = () => resolve(JSON.stringify(all.result))
          }
        }),
    )
    const stored = await (await fetch(`${this.server.url}/api/routines/${this.id}`)).text()
    const asks = (await asked.count()) > 0
    const has = (text: string, words: string) =>
      text.includes(`\\"${words}\\"`) || text.includes(`"${words}"`)
    const wrong = this.done.filter((w) => !has(stored, w) && !has(kept, w)).map((w) => `“${w}” is lost`)
    if (asks && this.done.every((w) => has(stored, w))) wrong.push('it asks although everything is stored')
    await this.context.close()
    return wrong
  }
}

async function main() {
  const { server, browser, demo, end } = await demoInBrowser()
  let bad = 0
  for (let n = 1; n <= HISTORIES; n++) {
    const id = `history-${n}-${Date.now()}`
    await fetch(`${server.url}/api/routines`, {
      method: 'POST',
      body: JSON.stringify({ id, copyOf: demo }),
      headers: { 'content-type': 'application/json' },
    })
    const history = new History(server, await browser.newContext(), id, `h${n}`)
    await history.begin()
    for (let k = 0; k < STEPS; k++) await history.step()
    const wrong = await history.end()
    bad += wrong.length
    if (wrong.length) console.log(`history ${n}: ${wrong.join('; ')}\n  ${history.acts.join(', ')}`)
    if (n % 10 === 0) console.log(`${n} histories, ${bad} wrong`)
  }
  console.log(`${HISTORIES} histories of ${STEPS} steps in a browser: ${bad} wrong`)
  await end()
  process.exit(bad ? 1 : 0)
}

main()
