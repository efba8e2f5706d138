/* npm run bench:places-edit: how long after a key a dancer of sixty is seen elsewhere on the plan, in Chromium. */
import { writeFileSync } from 'node:fs'
import { chromium, type Page } from '@playwright/test'
import type { Routine } from '../../src/core/routine'
import { demoId, serving } from '../page/serving'
import { crowd } from './crowd'

/** Of the browser (W3C, Prioritized Task Scheduling); TypeScript's library does not know it yet. */
declare const scheduler: { postTask: (task: () => void, how: { priority: 'user-blocking' }) => void }

const TIMES = 24

const ordered = (list: readonly number[]) => [...list].sort((a, b) => a - b)
const share = (list: readonly number[], of: number) => ordered(list)[Math.floor(of * (list.length - 1))] ?? 0

/**
 * Presses a key on the dancer that is chosen.
 * @returns milliseconds from the key to the picture with the dancer elsewhere, and until all else is drawn by it
 */
function pressed(page: Page): Promise<{ seen: number; all: number }> {
  return page.evaluate(
    () =>
      new Promise<{ seen: number; all: number }>((done) => {
        const dancer = document.activeElement as SVGElement
        const begun = performance.now()
        let seen = 0
        new MutationObserver((_, own) => {
          own.disconnect()
          requestAnimationFrame(() => {
            scheduler.postTask(() => done({ seen, all: performance.now() - begun }), {
              priority: 'user-blocking',
            })
          })
        }).observe(dancer, { attributes: true, attributeFilter: ['aria-label'] })
        new MutationObserver((_, own) => {
          own.disconnect()
          requestAnimationFrame(() => {
            // The next task once the frame is painted, before any timer: an edit is written down by one.
            scheduler.postTask(() => (seen = performance.now() - begun), { priority: 'user-blocking' })
          })
        }).observe(dancer, { attributes: true, attributeFilter: ['transform'] })
        const key = { key: 'ArrowRight', bubbles: true, cancelable: true }
        dancer.dispatchEvent(new KeyboardEvent('keydown', key))
        dancer.dispatchEvent(new KeyboardEvent('keyup', key))
      }),
  )
}

async function measure(page: Page, cue: string): Promise<void> {
  await page.goto(cue)
  await page.getByTestId('sheet').waitFor()
  await page.keyboard.press('Alt+5')
  const dancers = page.getByTestId('plan').getByTestId('dancer')
  await dancers.nth(30).waitFor()
  await page.waitForLoadState('networkidle')
  await dancers.nth(30).focus()
  const cdp = await page.context().newCDPSession(page)
  await cdp.send('Profiler.enable')
  if (process.env.PROFILE) await cdp.send('Profiler.start')
  const took: { seen: number; all: number }[] = []
  for (let i = 0; i < TIMES; i++) {
    took.push(await pressed(page))
    // What follows an edit once it rests is not of the next one.
    await page.getByTestId('saving').filter({ hasText: 'Saved' }).waitFor()
  }
  if (process.env.PROFILE)
    writeFileSync(process.env.PROFILE, JSON.stringify((await cdp.send('Profiler.stop')).profile))
  console.log('| a key that moves one of 60 dancers | median | 95 % |')
  console.log('| --- | --- | --- |')
  for (const [what, list] of [
    ['until they are seen elsewhere', took.map((t) => t.seen)],
    ['until all that depends on it is', took.map((t) => t.all)],
  ] as const)
    console.log(`| ${what} | ${share(list, 0.5).toFixed(1)} ms | ${share(list, 0.95).toFixed(1)} ms |`)
}

/** Puts the crowd into a routine. */
async function crowdInto(base: string, id: string): Promise<void> {
  const known = await fetch(`${base}/api/routines/${id}`)
  const { routine, revision } = (await known.json()) as { routine: Routine; revision: number }
  const { dancers, formations, space } = crowd(4)
  const answer = await fetch(`${base}/api/routines/${id}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      ...{ revision, writer: 'bench-window', save: 1 },
      routine: { ...routine, dancers, formations, space },
    }),
  })
  if (!answer.ok) throw new Error(await answer.text())
}

const main = () =>
  serving(3971, async (base) => {
    const id = await demoId(base)
    await crowdInto(base, id)
    const browser = await chromium.launch({
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox'],
    })
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.addInitScript({ content: 'globalThis.__name = (f) => f' })
    await measure(page, `${base}/r/${id}/cue`)
    await browser.close()
  })

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
