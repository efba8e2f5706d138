/* From the dance to a lesson, and the lesson on the floor with a pedal. */
import type { Page } from '@playwright/test'
import { expect, test } from './test'
import {
  accessibilityFaults,
  drillOfSteps,
  goTo,
  heldBack,
  openDemo,
  ownFloor,
  ownSong,
  repetitionFrom,
  seeAllSteps,
} from './ways'

const steps = (page: Page) => page.getByTestId('step')
const minutesOf = async (page: Page) => {
  const [, m, s] = /(\d+):(\d\d)/.exec((await page.getByTestId('total').textContent()) ?? '') ?? []
  return Number(m) + Number(s) / 60
}

test('the demo has a lesson that fits its hour; less time leaves phrases out and says which; changes by hand stay', {
  tag: '@fast',
}, async ({ page }) => {
  await seeAllSteps(page)
  await openDemo(page, 'Teach')
  await expect(page.getByRole('img', { name: /Staircase of the lesson/ })).toBeVisible()
  expect(await minutesOf(page)).toBeLessThanOrEqual(60)
  expect(await accessibilityFaults(page)).toEqual([])
  // A step is made longer by hand.
  const run = page.locator('[data-testid=step][data-kind=run]')
  await run.getByRole('button', { name: /^Once more/ }).click()
  await expect(run).toContainText('Changed by hand')
  const before = await run.textContent()
  // Six minutes: by keyboard on the slider.
  const minutes = page.getByRole('slider', { name: 'Minutes' })
  await minutes.focus()
  for (let i = 0; i < 3; i++) await page.keyboard.press('PageDown')
  await expect(page.getByTestId('total')).toContainText('of 6 min')
  await expect(page.getByTestId('left')).toContainText(/No time for \d phrases: .*Verse, 2nd/)
  expect((await run.textContent())?.replace(/^\D*[\d:]+/, '')).toContain('Changed by hand')
  // Everything is undone, step by step.
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z')
  await expect(page.getByTestId('total')).toContainText('of 60 min')
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
  expect(before).toContain('Run')
})

test('steps are moved by keyboard, taken out, added; several plans; all undone', async ({ page }) => {
  await seeAllSteps(page)
  await openDemo(page, 'Teach')
  const first = await steps(page).nth(1).textContent()
  await steps(page)
    .nth(1)
    .getByRole('button', { name: /^Take out/ })
    .click()
  await expect(steps(page).nth(1)).not.toHaveText(first ?? '')
  const count = await steps(page).count()
  await steps(page).nth(2).click()
  await page.getByRole('button', { name: 'Add a step' }).click()
  await expect(steps(page)).toHaveCount(count + 1)
  await steps(page).nth(0).click()
  await page.keyboard.press('Alt+ArrowDown')
  await expect(steps(page).nth(0)).not.toContainText('Warm-up')
  // Several at once, by key; one undo brings all of them back.
  await steps(page).nth(1).click()
  await page.keyboard.press('Shift+ArrowDown')
  await expect(page.getByRole('heading', { name: '2 steps' })).toBeVisible()
  await page.keyboard.press('Delete')
  await expect(steps(page)).toHaveCount(count - 1)
  await page.keyboard.press('Control+z')
  await expect(steps(page)).toHaveCount(count + 1)
  await page.getByRole('button', { name: 'Another plan' }).click()
  await expect(page.getByRole('textbox', { name: 'Name' })).toHaveValue('Thursday, one hour (another)')
  await page.getByRole('button', { name: 'Take it away' }).click()
  await expect(page.getByRole('textbox', { name: 'Name' })).toHaveValue('Thursday, one hour')
  for (let i = 0; i < 5; i++) await page.keyboard.press('Control+z')
  await expect(steps(page).nth(1)).toHaveText(first ?? '')
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
})

test('a step is dragged by pointer to another place, and goes back with one undo', async ({ page }) => {
  await openDemo(page, 'Teach')
  const words = async () =>
    (await steps(page).locator('p').allTextContents()).map((t) => t.replace(/Changed by hand\. ?/, ''))
  const before = await words()
  const box = await steps(page).nth(3).boundingBox()
  if (!box) throw new Error('no such step')
  await steps(page)
    .nth(1)
    .dragTo(steps(page).nth(3), {
      sourcePosition: { x: 250, y: 12 },
      targetPosition: { x: 250, y: box.height - 4 },
    })
  await expect.poll(async () => (await words())[3]).toBe(before[1])
  expect((await words()).slice(0, 4)).toEqual([before[0], before[2], before[3], before[1]])
  await page.keyboard.press('Control+z')
  await expect.poll(words).toEqual(before)
})

test('a lesson runs by pedal alone: a miss goes a rung down, two clean go up, and the log has it', async ({
  page,
}) => {
  await ownSong(page, 'By pedal', 160)
  await page.keyboard.press('Home')
  if (await page.getByText('pick-up').count()) await page.keyboard.press('PageDown')
  // The dance is one eight.
  await page.keyboard.press('Shift+B')
  for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Shift+E')
  await goTo(page, 'Cue')
  await page.getByTestId('sheet').focus()
  for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 2 touch L; 3 step L; 4 touch R')
  await page.keyboard.press('Enter')
  await goTo(page, 'Teach')
  await page.getByRole('button', { name: 'Plan a lesson' }).click()
  await expect(steps(page).first()).toContainText('Warm-up')
  await page.getByRole('button', { name: 'To the floor' }).click()
  const at = page.getByTestId('lesson-step')
  await expect(at).toContainText('Step 1 of')
  await expect(page.getByRole('heading', { name: 'Warm-up' })).toBeVisible()
  // The pedal's two keys: go on, and back.
  await page.keyboard.press('PageDown')
  await expect(page.getByRole('heading', { name: 'Show' })).toBeVisible()
  await page.keyboard.press('PageUp')
  await expect(at).toContainText('Step 1 of')
  const how = page.getByTestId('lesson-how')
  const isTempo = async () =>
    (await page.getByRole('heading', { name: 'Drill' }).count()) > 0 &&
    /100 %/.test((await how.textContent()) ?? '')
  for (let i = 0; i < 20 && !(await isTempo()); i++) {
    const step = await at.textContent()
    await page.keyboard.press('ArrowRight')
    await expect(at).not.toHaveText(step ?? '')
  }
  await page.keyboard.press('PageDown')
  const speed = page.getByTestId('speed')
  await expect(speed).toHaveText('100 %')
  await repetitionFrom(page, 2)
  await page.keyboard.press('PageUp')
  await expect(speed).not.toHaveText('100 %', { timeout: 20_000 })
  const slow = await speed.textContent()
  expect(slow).not.toBe('100 %')
  // The repetitions it asks for are danced, and it goes on by itself.
  await expect(at).toBeVisible({ timeout: 60_000 })
  await page.keyboard.press('Escape')
  await page.waitForURL('**/teach')
  await goTo(page, 'Log')
  await expect(page.getByText(/missed/i).first()).toBeVisible()
  // The lesson is there as it was held, and takes a note.
  const held = page.getByTestId('held')
  await expect(held).toContainText('First lesson')
  await expect(held).toContainText(/held, .* planned for it/)
  // As many repetitions as were danced, not as were planned: the miss asked for one more.
  const from = `/api/routines/${page.url().split('/')[4]}`
  const inLesson = async () => {
    const steps: { repetitions: number }[] = await (await page.request.get(`${from}/lessons`)).json()
    return steps.reduce((n, r) => n + r.repetitions, 0)
  }
  const danced = async () => {
    const log: { corrects: string | null }[] = await (await page.request.get(`${from}/repetitions`)).json()
    return log.filter((r) => !r.corrects).length
  }
  // The last of them is sent while the page changes.
  await expect.poll(async () => (await inLesson()) - (await danced())).toBe(0)
  expect(await danced()).toBeGreaterThan(2)
  await held.getByText(/\d+ steps?/).click()
  await expect(held.getByRole('row').last()).toContainText(/Drill: .*\d:\d\d/)
  await held.getByRole('textbox').fill('Slower next time.')
  await page.keyboard.press('Enter')
  await expect(held.getByText('Slower next time.')).toBeVisible()
})

test('the demo says what lessons really took; ways to teach are kept, taken over, undone, removed', async ({
  page,
}) => {
  await openDemo(page, 'Teach')
  const use = page.getByRole('button', { name: /^Plan with .* min$/ })
  await expect(page.getByTestId('learned').first()).toContainText(/Your lessons took .* min/)
  const before = await page.getByTestId('total').textContent()
  await use.click()
  await expect(use).toHaveCount(0)
  await expect(page.getByTestId('total')).not.toHaveText(before ?? '')
  await page.getByLabel('Keep these settings as').fill('Thursday crowd')
  await page.keyboard.press('Enter')
  const remove = page.getByRole('button', { name: 'Remove “Thursday crowd”' })
  await expect(remove).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('total')).toHaveText(before ?? '')
  await page.getByRole('button', { name: /changed since, or new/ }).click()
  await page.getByRole('option', { name: 'Thursday crowd' }).click()
  await expect(page.getByTestId('total')).not.toHaveText(before ?? '')
  await remove.click()
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await expect(page.getByRole('button', { name: /changed since, or new/ })).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('total')).toHaveText(before ?? '')
})

test('feet drilled alone are logged as feet alone, and the log leads back to them', { tag: '@fast' }, async ({
  page,
}) => {
  await openDemo(page, 'Log')
  const feet = page.getByRole('table').first().getByRole('row').filter({ hasText: 'feet alone' })
  await feet.getByRole('link').click()
  await expect(page.getByRole('radio', { name: 'Feet', exact: true })).toBeChecked()
  await page.keyboard.press('Space')
  await expect(page.getByTestId('repetition')).toContainText('feet alone')
  await repetitionFrom(page, 2)
  await page.keyboard.press('c')
  await expect(page.getByRole('status').filter({ hasText: /Repetition \d+: clean/ })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'Log' }).click()
  const rows = page.getByRole('table').last().getByRole('row')
  await expect(rows.nth(1)).toContainText(/feet alone/)
})

test('a run is marked phrase by phrase where something went wrong', { tag: '@fast' }, async ({ page }) => {
  await ownSong(page, 'Marked run', 160)
  await page.keyboard.press('Home')
  if (await page.getByText('pick-up').count()) await page.keyboard.press('PageDown')
  await page.keyboard.press('Shift+B')
  await page.keyboard.press('ArrowDown')
  for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Shift+E')
  await goTo(page, 'Floor')
  await page.getByText('Danced to the back').click()
  await page.keyboard.press('r')
  await expect(page.getByTestId('repetition')).toContainText('to the back')
  // To the back every wall is the one opposite.
  await expect(page.getByTestId('standing')).toContainText('facing back')
  const sheet = page.getByRole('group', { name: 'Where something went wrong' })
  await expect(sheet).toBeVisible({ timeout: 30_000 })
  await expect(sheet.getByRole('button')).toHaveCount(2)
  const second = sheet.getByRole('button').nth(1)
  await second.focus()
  await page.keyboard.press('Space')
  await expect(second).toContainText('shaky')
  await page.keyboard.press('Space')
  await expect(second).toContainText('missed')
  await page.keyboard.press('c')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await goTo(page, 'Log')
  const rows = page.getByRole('table').last().getByRole('row')
  await expect(rows.filter({ hasText: /Full run: .*to the back/ })).toContainText('clean')
  // The phrase by itself, once, with its last mark.
  await expect(rows.filter({ hasText: /eight 2/ }).filter({ hasNotText: 'Full run' })).toContainText('missed')
})

test('a suspended device and a hidden page pause the drill; it goes on from the phrase, and the log has no false repetition', async ({
  page,
}) => {
  await page.addInitScript(() => {
    const w = window as unknown as { contexts: AudioContext[] }
    w.contexts = []
    const Real = window.AudioContext
    window.AudioContext = class extends Real {
      constructor(options?: AudioContextOptions) {
        super(options)
        w.contexts.push(this)
      }
    }
  })
  // The server takes its time with what is logged.
  const release = await heldBack(page, 'POST', '**/repetitions')
  await ownFloor(page, 'Interrupted', 140)
  await page.keyboard.press('Space')
  await expect(page.getByTestId('repetition')).toContainText('repetition 1')
  await expect(page.getByText('get ready')).toBeHidden({ timeout: 20_000 })
  await page.evaluate(() => (window as unknown as { contexts: AudioContext[] }).contexts.at(-1)?.suspend())
  await expect(page.getByText('Paused')).toBeVisible()
  await expect(page.getByText('The sound stopped')).toBeVisible()
  await page.keyboard.press('Space')
  await expect(page.getByText('Paused')).toBeHidden()
  await repetitionFrom(page, 2)
  await page.evaluate(() => {
    Object.defineProperty(document, 'hidden', { value: true, configurable: true })
    document.dispatchEvent(new Event('visibilitychange'))
  })
  await expect(page.getByText('This page was out of sight.')).toBeVisible()
  await page.evaluate(() => Reflect.deleteProperty(document, 'hidden'))
  await page.keyboard.press('Space')
  await expect(page.getByText('Paused')).toBeHidden()
  await expect(page.getByText('get ready')).toBeHidden({ timeout: 20_000 })
  // Headphones are pulled: the browser would go on from the loudspeaker.
  await page.evaluate(() => {
    navigator.mediaDevices.enumerateDevices = async () => []
    navigator.mediaDevices.dispatchEvent(new Event('devicechange'))
  })
  await expect(page.getByText('Headphones or loudspeaker changed.')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await page.waitForURL('**/cue')
  await goTo(page, 'Log')
  // What is not saved yet is not there; once it is, the log has it without being asked.
  await expect(page.getByText('Nothing drilled yet')).toBeVisible()
  release()
  // One repetition was danced to its end; the three that broke off are not there.
  await expect(page.getByText('1 repetition,')).toBeVisible()
})

test('what goes on in the middle of several phrases after an interruption is no repetition', async ({
  page,
}) => {
  await ownFloor(page, 'Interrupted midway', 160)
  await page
    .getByRole('button', { name: /^Eight 1/ })
    .first()
    .click()
  await page
    .getByRole('button', { name: /^Eight 2/ })
    .first()
    .click()
  await page.getByRole('button', { name: /^Drill/ }).click()
  // Into the second phrase: its strip has begun anew.
  await expect(page.getByText('get ready')).toBeHidden({ timeout: 20_000 })
  await page.waitForFunction(() => {
    const w = window as unknown as { last?: number; wrapped?: boolean }
    const now = Number(
      /^\d+/.exec(document.querySelector('[data-testid=count]')?.textContent ?? '')?.[0] ?? 0,
    )
    if ((w.last ?? 0) >= 7 && now > 0 && now <= 3) w.wrapped = true
    w.last = now
    return w.wrapped
  })
  const hide = (hidden: boolean) =>
    page.evaluate((value) => {
      Object.defineProperty(document, 'hidden', { value, configurable: true })
      document.dispatchEvent(new Event('visibilitychange'))
    }, hidden)
  await hide(true)
  await expect(page.getByText('Paused')).toBeVisible()
  await hide(false)
  await page.keyboard.press('Space')
  await repetitionFrom(page, 2)
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await page.waitForURL('**/cue')
  await goTo(page, 'Log')
  await expect(page.getByText('Nothing drilled yet')).toBeVisible()
})

test('timing: a simulated dancer is heard as late as it was set', async ({ page }) => {
  await drillOfSteps(page, 'Timing')
  await page.keyboard.press('t')
  await page.getByRole('slider', { name: 'Spread' }).focus()
  await page.keyboard.press('Home')
  await page.getByRole('button', { name: 'Let it tap' }).click()
  await page.getByRole('button', { name: 'Begin', exact: true }).click()
  const said = page.getByTestId('timing')
  await expect(said).toContainText('60 ms late on average, spread 0 ms', { timeout: 40_000 })
  await expect(said).toContainText(/Late on \d by 60 ms/)
  await page.getByRole('button', { name: 'Stop' }).click()
  // Measuring can be left; nothing is kept of it.
  await page.getByRole('button', { name: 'Measure it: 16 clicks' }).click()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: 'Begin', exact: true })).toBeVisible()
  await expect(page.getByTestId('delay')).toContainText('0 ms')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('heading', { name: 'What do we drill?' })).toBeVisible()
})

test('a pedal is learned by pressing it, and the pedal on the screen sends its keys', async ({ page }) => {
  await ownFloor(page, 'Learned pedal', 150)
  await page.getByRole('button', { name: 'clean: page down' }).click()
  await expect(page.getByRole('button', { name: 'press it now' })).toBeVisible()
  await page.keyboard.press('F9')
  await expect(page.getByRole('button', { name: 'clean: f9' })).toBeVisible()
  await page.getByRole('button', { name: 'A pedal to try' }).click()
  await page.getByRole('button', { name: /^Drill/ }).click()
  await repetitionFrom(page, 2)
  await page.keyboard.press('F9')
  await expect(page.getByText(/Repetition \d: clean/)).toBeVisible()
  await page.getByRole('group', { name: 'Simulated pedal' }).getByRole('button', { name: 'left' }).click()
  await expect(page.getByText(/Repetition \d: missed/)).toBeVisible()
  await page.keyboard.press('Escape')
  await page.reload()
  await expect(page.getByRole('button', { name: 'clean: f9' })).toBeVisible()
  await page.getByRole('button', { name: 'Usual keys' }).click()
  await expect(page.getByRole('button', { name: 'clean: page down' })).toBeVisible()
})
