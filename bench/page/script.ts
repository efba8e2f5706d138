/* npm run bench:script: how long scripts run for a key, an edit and a load, by Chromium's own account, on the demo and on a dense dance. */
import { type Browser, type CDPSession, chromium, type Page } from '@playwright/test'
import type { Cue, Layer, Routine } from '../../src/core/routine'
import { demoId, serving } from './serving'

const PORT = 3429
const BASE = `http://localhost:${PORT}`
const TIMES = 20

/** 14 cues an eight in three layers, two roles, three versions, names of sixty letters and another script. */
function dense(demo: Routine): Routine {
  const long = 'переступить на полупальцах с поворотом и опусканием плеча вн'
  const moves = ['step', 'touch', 'walk', 'kick', 'cross behind', 'ball-change', long, 'reach up', 'hold']
  const layers: readonly Layer[] = ['feet', 'arms', 'head']
  const cues: Cue[] = demo.phrases.flatMap((_, p) =>
    Array.from({ length: 14 }, (_, k) => ({
      id: `d${p}-${k}`,
      at: p * 192 + (k % 8) * 24 + (k > 7 ? 12 : 0),
      length: 12,
      layer: layers[k % 3] as Layer,
      move: moves[(p + k) % moves.length] as string,
      side: k % 2 ? ('left' as const) : ('right' as const),
      call: '',
      ...(k % 5 === 0 ? { role: p % 2 ? 'leader' : 'follower' } : {}),
      ...(k % 7 === 0 ? { option: ['easier', 'harder', 'hold'][p % 3] as string } : {}),
    })),
  )
  return { ...demo, title: 'Dense', cues, repeats: [], positions: [], dismissed: [] }
}

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] ?? 0

/** Milliseconds of script, and of everything on the page's thread, since the page was made. */
async function spent(cdp: CDPSession): Promise<{ script: number; all: number }> {
  const { metrics } = await cdp.send('Performance.getMetrics')
  const of = (name: string) => 1000 * (metrics.find((m) => m.name === name)?.value ?? 0)
  return { script: of('ScriptDuration'), all: of('TaskDuration') }
}

const quiet = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<void>((done) => {
        const idle = () =>
          requestIdleCallback(() => requestAnimationFrame(() => requestIdleCallback(() => done())))
        requestAnimationFrame(() => requestAnimationFrame(idle))
      }),
  )

/** Script a step of `act` takes, until the page rests again: the median of several. */
async function each(page: Page, cdp: CDPSession, act: (i: number) => Promise<unknown>): Promise<string> {
  const script: number[] = []
  const all: number[] = []
  for (let i = 0; i < TIMES; i++) {
    await quiet(page)
    const before = await spent(cdp)
    await act(i)
    await quiet(page)
    const after = await spent(cdp)
    script.push(after.script - before.script)
    all.push(after.all - before.all)
  }
  return `${median(script).toFixed(1)} ms (of ${median(all).toFixed(0)} ms on the page's thread)`
}

async function settled(page: Page) {
  await page.waitForLoadState('networkidle')
  await page.getByText('reading the sound').waitFor({ state: 'hidden', timeout: 120_000 })
  await quiet(page)
}

async function measure(b: Browser, name: string, id: string): Promise<string[]> {
  const out: string[] = []
  const page = await b.newPage({ viewport: { width: 1280, height: 800 } })
  await page.addInitScript({ content: 'globalThis.__name = (f) => f' })
  const cdp = await page.context().newCDPSession(page)
  await cdp.send('Performance.enable')
  const loads: number[] = []
  for (let i = 0; i < 5; i++) {
    await page.goto('about:blank')
    await page.goto(`${BASE}/r/${id}/cue`)
    await page.waitForSelector('[data-row] canvas')
    await settled(page)
    loads.push((await spent(cdp)).script)
  }
  out.push(`| ${name}: Cue loaded, until it rests | ${median(loads).toFixed(0)} ms |`)
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Home')
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowDown')
  const arrows = ['ArrowRight', 'ArrowRight', 'ArrowDown', 'ArrowLeft', 'ArrowUp']
  const key = await each(page, cdp, (i) => page.keyboard.press(arrows[i % arrows.length] as string))
  out.push(`| ${name}: an arrow key on Cue | ${key} |`)
  await page.goto(`${BASE}/r/${id}/teach`)
  const plan = page.getByRole('button', { name: /Plan a lesson/ })
  const steps = page.getByTestId('step')
  await settled(page)
  if (await plan.isVisible()) await plan.click()
  await steps.first().waitFor()
  await settled(page)
  const more = await page
    .getByRole('button', { name: /^Once more: / })
    .nth(2)
    .boundingBox()
  const fewer = await page
    .getByRole('button', { name: /^Once fewer: / })
    .nth(2)
    .boundingBox()
  const middle = (box: typeof more) => [(box?.x ?? 0) + 8, (box?.y ?? 0) + 8] as const
  // By their places: looking for a button is work of the page too.
  const step = await each(page, cdp, (i) => page.mouse.click(...middle(i % 2 ? fewer : more)))
  out.push(`| ${name}: a step of ${await steps.count()} changed on Teach | ${step} |`)
  await page.close()
  return out
}

const main = () =>
  serving(PORT, async (base) => {
    const id = await demoId(base)
    const { routine } = (await (await fetch(`${base}/api/routines/${id}`)).json()) as { routine: Routine }
    const json = { 'content-type': 'application/json' }
    const copy = `dense${Date.now()}`
    const send = async (url: string, method: string, what: object) => {
      const answer = await fetch(`${base}${url}`, { method, headers: json, body: JSON.stringify(what) })
      if (!answer.ok) throw new Error(`${url}: ${answer.status} ${await answer.text()}`)
    }
    await send('/api/routines', 'POST', { id: copy, copyOf: id })
    const save = { revision: 0, writer: 'bench-window', save: 1 }
    await send(`/api/routines/${copy}`, 'PUT', { ...save, routine: dense(routine) })
    const b = await chromium.launch({
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--autoplay-policy=no-user-gesture-required'],
    })
    const lines = await measure(b, 'demo', id)
    lines.push(...(await measure(b, 'dense', copy)))
    await b.close()
    console.log(['| script | measured |', '| --- | --- |', ...lines].join('\n'))
  })

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
