import AxeBuilder from '@axe-core/playwright'
import { expect, type Page, test } from '@playwright/test'
import { loopTrack } from './sounds'

/** Opens the demo by keyboard alone, as far as a browser allows. */
async function openDemo(page: Page) {
  await page.goto('/')
  await page.getByRole('link', { name: /Thursday beginners/ }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('cue').first()).toBeVisible()
}

async function goTo(page: Page, station: string) {
  await page
    .getByRole('navigation', { name: 'Stations' })
    .getByRole('link', { name: new RegExp(`^${station}`) })
    .focus()
  await page.keyboard.press('Enter')
  await page.waitForURL(`**/${station.toLowerCase()}`)
}

/** A routine of one's own on a fresh song, on the Count station; the name makes the song's bytes its own. */
async function ownSong(page: Page, name: string, bpm = 120) {
  await page.goto('/')
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Choose a file' }).focus()
  await page.keyboard.press('Enter')
  await (await chooser).setFiles({
    name: `${name}.wav`,
    mimeType: 'audio/wav',
    buffer: loopTrack(bpm, 48, 0.5 + name.length / 1000),
  })
  await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 30_000 })
  await page.getByTestId('sheet').focus()
}

test('nothing on the screens fails the accessibility rules', async ({ page }) => {
  const check = async (where: string) => {
    const { violations } = await new AxeBuilder({ page })
      .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
      .analyze()
    expect(violations.map((v) => `${where}: ${v.id} ${v.nodes[0]?.html}`)).toEqual([])
  }
  await page.goto('/')
  await check('shelf')
  await openDemo(page)
  await check('cue')
  await goTo(page, 'Count')
  await expect(page.getByText('What was heard')).toBeVisible()
  await check('count')
  await goTo(page, 'Log')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await check('log')
  await goTo(page, 'Floor')
  await expect(page.getByText('What do we drill?')).toBeVisible()
  await check('floor')
})

test('the demo is laid out as it was made: 108 BPM, its sections, the pick-up on 8', async ({ page }) => {
  await openDemo(page)
  await goTo(page, 'Count')
  await expect(page.getByText('108.0')).toBeVisible()
  const ribbon = page.getByTestId('ribbon')
  for (const name of ['Intro', 'Verse', 'Pre-chorus', 'Chorus', 'Break', 'Outro'])
    await expect(ribbon.getByText(name).first()).toBeVisible()
  await expect(page.getByTestId('where')).toHaveText('Pre-chorus, eight 2, count 8')
})

test('Count, by keyboard: play, move the 1, twice and half the tempo, lengths, sections, excerpt, undo', async ({
  page,
}) => {
  await ownSong(page, 'Keyboard count')
  const banner = page.getByRole('banner')
  const where = page.getByTestId('where')
  await expect(banner).toContainText('120 BPM')
  await page.keyboard.press('Home')
  const opening = await where.textContent()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('1')
  await expect(where).toContainText('count 1')
  await page.keyboard.press('Control+z')
  await expect(where).not.toContainText('count 1')
  await page.keyboard.press('x')
  await expect(banner).toContainText('240 BPM')
  await page.keyboard.press('h')
  await page.keyboard.press('h')
  await expect(banner).toContainText('60 BPM')
  await page.keyboard.press('Control+z')
  await expect(banner).toContainText('120 BPM')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Home')
  await expect(where).toHaveText(opening ?? '')
  await page.keyboard.press('.')
  await expect(where).not.toHaveText(opening ?? '')
  await page.keyboard.press(',')
  await expect(where).toHaveText(opening ?? '')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await page.getByRole('button', { name: 'One count fewer' }).press('Enter')
  await expect(page.getByText('This phrase has 7 counts')).toBeVisible()
  await page.getByRole('button', { name: 'Begin a section at this phrase' }).press('Enter')
  await page.getByRole('textbox', { name: 'Own name' }).fill('Hook of the dance')
  await page.keyboard.press('Enter')
  await expect(where).toContainText('Hook of the dance')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('b')
  await expect(page.getByText(/^From .*count 2&/)).toBeVisible()
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await page.reload()
  await expect(page.getByText('This phrase has 7 counts')).toBeVisible()
  await expect(page.getByText(/^From .*count 2&/)).toBeVisible()
  // A nudge moves the sound under the page, nothing on it.
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Alt+.')
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled()
})

test('what else was likely is taken with one press, and undone with one', async ({ page }) => {
  await ownSong(page, 'Likely')
  const banner = page.getByRole('banner')
  const where = page.getByTestId('where')
  await page.keyboard.press('Home')
  const before = [await banner.getByText('BPM').textContent(), await where.textContent()]
  const choice = page
    .getByRole('listitem')
    .getByRole('button', { name: /^(The 1 is|Twice|Half|The beat)/ })
    .first()
  await choice.press('Enter')
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled()
  await expect
    .poll(async () => [await banner.getByText('BPM').textContent(), await where.textContent()])
    .not.toEqual(before)
  await page.keyboard.press('Control+z')
  await expect
    .poll(async () => [await banner.getByText('BPM').textContent(), await where.textContent()])
    .toEqual(before)
})

test('playing moves the playhead from the cursor on, stops where it is, and follows the speed', async ({
  page,
}) => {
  await openDemo(page)
  const where = page.getByTestId('where')
  const before = await where.textContent()
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Space')
  await expect(where).not.toHaveText(before ?? '')
  await expect(where).toContainText('Chorus, eight 1')
  await page.keyboard.press('-')
  await expect(page.getByText('95 % · 103 BPM')).toBeVisible()
  await expect(where).toContainText('count 4')
  await page.keyboard.press('Space')
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible()
  const stopped = await where.textContent()
  await page.keyboard.press('ArrowRight')
  await expect(where).not.toHaveText(stopped ?? '')
})

test('Cue, by keyboard: write on counts and sub-counts in two layers, change, move, delete, undo, redo', async ({
  page,
}) => {
  await ownSong(page, 'Keyboard cue')
  await goTo(page, 'Cue')
  await page.getByTestId('sheet').focus()
  const cues = page.getByTestId('cue')
  await page.keyboard.press('PageDown')
  await page.keyboard.press('1')
  await page.keyboard.press('w')
  await page.keyboard.type('step R')
  await page.keyboard.press('Enter')
  // The cursor has gone on to the next count.
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('w')
  await page.keyboard.type('ball L')
  await page.keyboard.press('Enter')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('w')
  await page.keyboard.type('clap')
  await page.keyboard.press('Enter')
  await expect(cues).toHaveText(['step R', 'ball L', 'clap'])
  await expect(cues.nth(1)).toHaveAttribute('title', '2& ball L')
  await expect(cues.nth(2)).toHaveAttribute('title', '3 clap')
  await page.keyboard.press('3')
  await page.keyboard.press('Alt+ArrowRight')
  await expect(cues.nth(2)).toHaveAttribute('title', '3& clap')
  await page.getByRole('radio', { name: 'both' }).press('Space')
  await page.getByLabel('Called as').fill('and clap')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Delete')
  await expect(cues).toHaveText(['step R', 'ball L'])
  await page.keyboard.press('Control+z')
  await expect(cues).toHaveCount(3)
  await page.keyboard.press('Control+Shift+z')
  await expect(cues).toHaveCount(2)
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await page.reload()
  await expect(cues).toHaveText(['step R', 'ball L', 'clap'])
})

test('Cue, by pointer: click a count, write, drag along the counts', async ({ page }) => {
  await ownSong(page, 'Pointer cue')
  await goTo(page, 'Cue')
  const row = page.locator('[data-counts="8"]').nth(1)
  const box = await row.boundingBox()
  if (!box) throw new Error('no row')
  const count = box.width / 8
  await row.click({ position: { x: count * 4.2, y: 52 } })
  await page.getByLabel('Move', { exact: true }).fill('kick L')
  await page.getByRole('button', { name: 'Set on 5' }).click()
  const chip = page.getByTestId('cue')
  await expect(chip).toHaveAttribute('title', '5 kick L')
  const at = await chip.boundingBox()
  if (!at) throw new Error('no cue')
  await page.mouse.move(at.x + 10, at.y + 10)
  await page.mouse.down()
  await page.mouse.move(at.x + 10 + count, at.y + 10, { steps: 5 })
  await page.mouse.move(at.x + 10 + 1.5 * count, at.y + 10, { steps: 5 })
  await page.mouse.up()
  await expect(chip).toHaveAttribute('title', '6& kick L')
})

test('Floor: a drill counts in, loops, is marked and logged; the log leads on; a run is marked at its end', async ({
  page,
}) => {
  test.setTimeout(150_000)
  await ownSong(page, 'Floor', 140)
  await goTo(page, 'Floor')
  await page
    .getByRole('button', { name: /^Eight 2/ })
    .first()
    .press('Enter')
  await page.locator('body').press('-')
  await expect(page.getByText('70 % · 98 BPM')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page).toHaveURL(/cue$/)
  await goTo(page, 'Floor')
  await page
    .getByRole('button', { name: /^Eight 2/ })
    .first()
    .click()
  await page.getByRole('button', { name: /^Drill/ }).press('Enter')
  const count = page.getByTestId('count')
  for (const n of ['5', '6', '7', '8', '1', '2', '3']) await expect(count).toHaveText(n)
  const repetition = page.getByTestId('repetition')
  await expect(repetition).toContainText('repetition 2')
  await page.locator('body').press('PageDown')
  await expect(page.getByText('Repetition 1: clean')).toBeVisible()
  await expect(repetition).toContainText('repetition 3')
  await page.keyboard.press('PageDown')
  await expect(page.getByText('Repetition 2: clean')).toBeVisible()
  await page.keyboard.press('PageUp')
  await expect(page.getByText('Repetition 2: missed')).toBeVisible()
  await page.keyboard.press('PageDown')
  await expect(page.getByText('Repetition 2: clean')).toBeVisible()
  await page.keyboard.press('Space')
  await expect(page.getByText('What do we drill?')).toBeVisible()
  await page.getByRole('link', { name: 'Log' }).click()
  await expect(page.getByRole('row', { name: /Part A, eight 2.*75 %.*2.*clean at 75 %/ })).toBeVisible()
  await page.getByRole('link', { name: 'Drill at 85 %' }).click()
  await expect(page.getByText('85 % · 119 BPM')).toBeVisible()
  // The dance: one eight only, so that the run is short.
  await page.getByRole('link', { name: 'Back to the desk' }).click()
  await goTo(page, 'Count')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('b')
  for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('e')
  await goTo(page, 'Floor')
  await page.locator('body').press('r')
  await expect(page.getByTestId('speed')).toHaveText('100 %')
  await expect(page.getByText('How was it?')).toBeVisible({ timeout: 20_000 })
  await page.locator('body').press('b')
  await expect(page.getByText('Run: shaky')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'Log' }).click()
  await expect(page.getByRole('row', { name: /Full run: .*100 %.*shaky/ })).toBeVisible()
})

test('the floor fits a phone', async ({ page }) => {
  await openDemo(page)
  await page.setViewportSize({ width: 390, height: 780 })
  await page.goto(page.url().replace(/cue$/, 'floor'))
  await page.getByRole('button', { name: /^Drill/ }).click()
  await expect(page.getByTestId('count')).toHaveText('1', { timeout: 20_000 })
  for (const name of [/^Clean/, /^Shaky/, /^Missed/, /^Stop/])
    await expect(page.getByRole('button', { name })).toBeInViewport()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
})

test('a routine is removed only after asking', async ({ page }) => {
  await ownSong(page, 'To be removed', 99)
  await page.goto('/')
  const entry = page.getByRole('listitem').filter({ hasText: 'To be removed' })
  await entry.getByRole('button', { name: 'Remove' }).press('Enter')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alertdialog')).toBeHidden()
  await expect(entry).toBeVisible()
  await entry.getByRole('button', { name: 'Remove' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Remove' }).click()
  await expect(entry).toHaveCount(0)
})

test('Count: a count is dragged to its sound by its grip, and goes back with one undo', async ({ page }) => {
  await ownSong(page, 'Dragged')
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowRight')
  const grip = page.getByTestId('grip')
  const box = await grip.boundingBox()
  if (!box) throw new Error('no grip')
  await page.mouse.move(box.x + 8, box.y + 8)
  await page.mouse.down()
  await page.mouse.move(box.x + 28, box.y + 8, { steps: 4 })
  await expect(page.getByText(/^\+\d+ ms$/)).toBeVisible()
  await page.mouse.up()
  await expect(page.getByText('1 repair by hand')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByText('1 repair by hand')).toBeHidden()
})

test('Count: the beat is tapped along, shown before it is taken, and taken with one key', async ({
  page,
}) => {
  await ownSong(page, 'Tapped along', 100)
  await page.keyboard.press('Home')
  // Set wrong by hand first, so that the taps have something to mend.
  await page.getByRole('textbox', { name: /Set the tempo/ }).fill('87')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('banner')).toContainText('87 BPM')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('t')
  await expect(page.getByRole('heading', { name: 'Tap along' })).toBeVisible()
  // A tap whenever the place that is heard has gone on by a beat of the song: 0.6 s.
  await page.evaluate(async () => {
    const clock = () => document.querySelector('[data-testid=where]')?.nextElementSibling?.textContent ?? ''
    const before = clock()
    await new Promise<void>((done) => {
      const wait = () => (clock() !== before ? done() : requestAnimationFrame(wait))
      wait()
    })
    let next = performance.now()
    for (let k = 0; k < 12; k++) {
      await new Promise<void>((done) => {
        const wait = (now: number) => (now >= next ? done() : requestAnimationFrame(wait))
        requestAnimationFrame(wait)
      })
      window.dispatchEvent(new KeyboardEvent('keydown', { key: ' ' }))
      next += 600
    }
  })
  await expect(page.getByTestId('tapped')).toContainText(/(99|100|101)\.\d BPM, steady/)
  await page.keyboard.press('t')
  await expect(page.getByRole('banner')).toContainText('100 BPM')
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('banner')).toContainText('87 BPM')
})

test('Count: every key is on one sheet, the sections heard are taken over with one press', async ({
  page,
}) => {
  await openDemo(page)
  await goTo(page, 'Count')
  await page.keyboard.press('Shift+?')
  const sheet = page.getByRole('dialog', { name: 'Keys of this station' })
  await expect(sheet).toContainText('Follow the sound')
  await page.keyboard.press('Escape')
  await expect(sheet).toBeHidden()
  await ownSong(page, 'Phrases by key')
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press(']')
  await expect(page.getByText('This phrase has 9 counts')).toBeVisible()
  await page.keyboard.press('l')
  await expect(page.getByText('9 counts, in triplets')).toBeVisible()
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('s')
  await expect(page.getByText('This phrase has 6 counts')).toBeVisible()
  await page.keyboard.press('ArrowUp')
  await page.getByRole('radio', { name: '6' }).press('Space')
  await expect(page.getByText('This phrase has 6 counts')).toBeVisible()
})
