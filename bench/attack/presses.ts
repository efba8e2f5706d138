/* npm run attack:presses -- [ROUNDS]: presses whatever can be pressed. On each station of a dance that is full keys of its table,
   buttons, fields and lists are taken by chance. Nothing may throw, no page may fail, nothing may stand outside the window, and once all is undone
   the routine is what it was. SEED=n repeats rounds from there; STATION=cue keeps to one (shelf to the shelf); WIDTH=1024. */
import os from 'node:os'
import path from 'node:path'
import type { Browser, Page } from '@playwright/test'
import { KEYS, STATIONS } from '../../src/ui/keys/table'
import { type Attacked, demoInBrowser } from './server'

const ROUNDS = Number(process.argv[2] ?? 24)
const ACTS = Number(process.env.ACTS ?? 40)
type Place = (typeof STATIONS)[number] | 'shelf'
/** What people write, and what they should not. */
const WORDS = [
  ...['step', '12', '1 step R; 3 as 1', '-5', '0', '1e9', 'as', '   ', '"', '<b>x</b>', '5-8 as 1-4', '３'],
  ...['переступить на полупальцах с поворотом и опусканием плеча вниз', 'שלום', '👯‍♀️', 'Chorus, eight 2, 3'],
]

interface Part {
  what: string
  x: number
  y: number
  writes: boolean
  leaves: boolean
}

/** What can be pressed now: visible, in the window, covered by nothing. */
function pressable(): Part[] {
  const found = [
    ...document.querySelectorAll<HTMLElement>(
      'button, a[href], input, select, textarea, [role=option], [role=radio], [role=menuitem], [role=row], [tabindex="0"], label',
    ),
  ]
  return found.flatMap((element) => {
    const box = element.getBoundingClientRect()
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
    if (!box.width || !box.height || x < 0 || y < 0 || x > innerWidth || y > innerHeight) return []
    const top = document.elementFromPoint(x, y)
    if (!top || !(element.contains(top) || top.contains(element))) return []
    const name = element.getAttribute('aria-label') ?? element.textContent ?? ''
    const leaves = element instanceof HTMLAnchorElement && element.pathname !== location.pathname
    const writes =
      element instanceof HTMLTextAreaElement ||
      (element instanceof HTMLInputElement && !['checkbox', 'radio', 'range', 'file'].includes(element.type))
    return [{ what: `${element.tagName.toLowerCase()} “${name.trim().slice(0, 40)}”`, x, y, writes, leaves }]
  })
}

class Round {
  readonly acts: string[] = []
  readonly wrong: string[] = []
  private address = ''

  constructor(
    private readonly page: Page,
    private readonly place: Place,
    private seed: number,
  ) {
    page.on('pageerror', (error) => this.wrong.push(`thrown: ${error.message.slice(0, 300)}`))
    page.on('console', (said) => {
      if (said.type() === 'error' && !/Failed to load resource/.test(said.text()))
        this.wrong.push(`console: ${said.text().slice(0, 300)}`)
    })
    page.on('response', (answer) => {
      if (answer.status() >= 500) this.wrong.push(`${answer.status()} ${answer.url()}`)
    })
    page.on('dialog', (asked) => asked.accept().catch(() => {}))
    page.on('filechooser', () => {})
  }

  private below(n: number): number {
    this.seed = (this.seed * 1_103_515_245 + 12_345) % 2_147_483_648
    return Math.floor((this.seed / 2_147_483_648) * n)
  }

  private any<T>(all: readonly T[]): T {
    return all[this.below(all.length)] as T
  }

  async open(address: string): Promise<void> {
    this.address = address
    await this.page.goto(address)
    await this.page.waitForFunction(() => 'awake' in document.documentElement.dataset)
  }

  /** Asks the page, again where another one came meanwhile. */
  private async ask<T>(what: () => T): Promise<T> {
    for (let n = 0; ; n++)
      try {
        return await this.page.evaluate(what)
      } catch (error) {
        if (n > 5 || !/navigation|context was destroyed/i.test(String(error))) throw error
        await this.page.waitForLoadState()
      }
  }

  private async key(): Promise<void> {
    const here = Object.values(KEYS).filter((k) => this.place !== 'shelf' && k.on.includes(this.place))
    const keys = [...here.map((k) => k.keys[0] as string), 'Tab', 'Enter', 'Escape', 'ArrowDown', 'Shift+Tab']
    const key = this.any(keys).split(' ')[0]?.replace('$mod', 'Control') as string
    this.acts.push(`key ${key}`)
    await this.page.keyboard.press(key)
  }

  private async press(): Promise<void> {
    const parts = (await this.ask(pressable)).filter((p) => !p.leaves || this.below(12) === 0)
    if (!parts.length) return
    const part = this.any(parts)
    this.acts.push(`press ${part.what}`)
    await this.page.mouse.click(part.x, part.y)
    if (!part.writes) return
    const words = this.any(WORDS)
    const end = this.any(['Enter', 'Tab', 'Escape', 'ArrowDown'])
    this.acts.push(`write “${words}” ${end}`)
    await this.page.keyboard.insertText(words)
    await this.page.keyboard.press(end)
  }

  async act(): Promise<void> {
    if (this.below(3) === 0) await this.key()
    else await this.press()
    if (new URL(this.page.url()).pathname !== new URL(this.address).pathname) {
      this.acts.push(`came to ${new URL(this.page.url()).pathname}, went back`)
      await this.check()
      await this.open(this.address)
    }
    await this.check()
  }

  private async check(): Promise<void> {
    const said = await this.ask(() => {
      const wide = document.documentElement.scrollWidth - innerWidth
      const failed = document.body.textContent.includes('This page could not be opened')
      return failed ? 'the page failed' : wide > 0 ? `${wide} pixels stand outside the window` : ''
    })
    if (said && !this.wrong.includes(said)) this.wrong.push(said)
  }

  /** Closes what is open, and takes back all that was done. */
  async undoAll(): Promise<void> {
    // A station one was on the way to comes first.
    await this.page.waitForLoadState('networkidle')
    if (new URL(this.page.url()).pathname !== new URL(this.address).pathname) await this.open(this.address)
    for (let n = 0; n < 4; n++) await this.page.keyboard.press('Escape')
    const undo = this.page.getByRole('button', { name: /^Undo/ })
    for (let n = 0; n < 300 && (await undo.count()) && (await undo.first().isEnabled()); n++)
      await undo.first().click({ timeout: 5000 })
    await this.page.getByTestId('saving').getByText('Saved', { exact: true }).waitFor({ timeout: 60_000 })
  }
}

/** The demo's dance with 14 cues an eight in three layers, two roles, three versions, and long names. */
async function dense(url: string, demo: string): Promise<string> {
  const json = { 'content-type': 'application/json' }
  const id = `dense-${Date.now()}`
  await fetch(`${url}/api/routines`, {
    method: 'POST',
    headers: json,
    body: JSON.stringify({ id, copyOf: demo }),
  })
  const { routine, revision } = await routineOf(url, id)
  const moves = ['step', 'touch', 'walk', 'kick', 'cross behind', WORDS.at(-4) as string, 'hold']
  const cues = routine.phrases.flatMap((_, p) =>
    Array.from({ length: 14 }, (_, k) => ({
      ...{ id: `dense-${p}-${k}`, at: p * 192 + (k % 8) * 24 + (k > 7 ? 12 : 0), length: 12, call: '' },
      ...{ layer: ['feet', 'arms', 'head'][k % 3], move: moves[(p + k) % moves.length] },
      ...{ side: k % 2 ? 'left' : 'right', ...(k % 5 ? {} : { role: p % 2 ? 'leader' : 'follower' }) },
      ...(k % 7 ? {} : { option: ['easier', 'harder', 'hold'][p % 3] }),
    })),
  )
  const full = { ...routine, title: WORDS.at(-4), cues, repeats: [], dismissed: [] }
  const put = await fetch(`${url}/api/routines/${id}`, {
    ...{ method: 'PUT', headers: json },
    body: JSON.stringify({ revision, writer: 'presses-dense', save: 1, routine: full }),
  })
  if (!put.ok) throw new Error(`the full dance was refused: ${await put.text()}`)
  return id
}

async function routineOf(url: string, id: string) {
  const answer = await fetch(`${url}/api/routines/${id}`)
  return (await answer.json()) as {
    revision: number
    routine: { phrases: unknown[] } & Record<string, unknown>
  }
}

async function round(browser: Browser, server: Attacked, id: string, seed: number): Promise<Round> {
  const place = (process.env.STATION as Place) ?? (STATIONS[seed % STATIONS.length] as Place)
  const copy = `presses-${seed}-${Date.now()}`
  await fetch(`${server.url}/api/routines`, {
    ...{ method: 'POST', headers: { 'content-type': 'application/json' } },
    body: JSON.stringify({ id: copy, copyOf: id }),
  })
  const before = await routineOf(server.url, copy)
  const viewport = { width: Number(process.env.WIDTH ?? 1280), height: 800 }
  const context = await browser.newContext({ viewport })
  const page = await context.newPage()
  page.setDefaultTimeout(30_000)
  const made = new Round(page, place, seed * 7919 + 17)
  try {
    await made.open(place === 'shelf' ? server.url : `${server.url}/r/${copy}/${place}`)
    for (let n = 0; n < ACTS && !made.wrong.length; n++) await made.act()
    if (place !== 'shelf') {
      await made.undoAll()
      const after = await routineOf(server.url, copy)
      for (const field of Object.keys({ ...before.routine, ...after.routine }))
        if (JSON.stringify(before.routine[field]) !== JSON.stringify(after.routine[field]))
          made.wrong.push(`undone, “${field}” is not what it was`)
    }
  } catch (error) {
    const at = await page.evaluate(() => document.activeElement?.outerHTML.slice(0, 200)).catch(() => '')
    made.wrong.push(`stuck: ${String(error).slice(0, 120)}, the focus at ${at}`)
  }
  if (made.wrong.length) {
    await page.screenshot({ path: path.join(os.tmpdir(), `presses-${seed}.png`) }).catch(() => {})
    console.log(`round ${seed} (${place}): ${made.wrong.join('; ')}\n  ${made.acts.slice(-14).join('\n  ')}`)
  }
  await context.close()
  return made
}

async function main() {
  const { server, browser, demo, end } = await demoInBrowser()
  const full = await dense(server.url, demo)
  let bad = 0
  const first = Number(process.env.SEED ?? 1)
  for (let n = first; n < first + ROUNDS; n++) {
    const made = await round(browser, server, n % 2 ? full : demo, n)
    bad += made.wrong.length ? 1 : 0
  }
  console.log(`${ROUNDS} rounds of ${ACTS} presses: ${bad} wrong`)
  await end()
  process.exit(bad ? 1 : 0)
}

main()
