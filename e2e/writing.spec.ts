/* Writing a dance with few keys: dense eights, what is alike, places by name, where the dancer stands, the first minutes. */
import type { Page } from '@playwright/test'
import { loopTrack } from './sounds'
import { expect, test } from './test'
import { goTo, openDemo, ownSheet } from './ways'

const row = (page: Page, i: number) => page.locator(`[data-row="${i}"]`)
const panelTab = (page: Page, name: string | RegExp) => page.getByRole('radio', { name }).press('Space')

/** Eights of eight dances, each 14 cues in three layers: street, ballroom, jazz, folk, heels, floor work, tap, aerobics. */
const DENSE: readonly (readonly [string, string, string])[] = [
  [
    '1 rock R; 1& rock L; 2 stomp R; 3-4 slide left; 5& 6 hop x2; 7 drop',
    '1 chop R; 3 chop L; 5-6 wave L/R',
    '2& pop; 4 dip; 8 lift',
  ],
  [
    '1-2 walk R/L; 3& lock L; 4 step R; 5 cross L; 6-7 turn right 1/2; 8 close L',
    '1-4 frame up; 5 open R; 8 in',
    '2 sway; 4 sway; 6 rise; 7 fall',
  ],
  [
    '1 kick R; 1& ball R; 2 change L; 3-4 jazz R/L; 7 jump; 8 land',
    '1-2 jazz hands; 3 snap R; 5 snap L; 7-8 reach up',
    '4 roll; 5& contract; 6 arch',
  ],
  ['1-3 hop R/L; 4 stamp L; 5-7 hop L/R; 8 stamp R', '1 link; 8 clap', '1 bow; 4 up; 5 bow; 8 up'],
  ['1-8 strut R/L', '1 hip LR; 3 hair R; 5 trace L', '2 dip; 4 pop; 7 snap back'],
  [
    '1-2 sink; 3-4 roll left; 5 knee R; 6 stand L; 7 step R; 8 tap L',
    '1 swing; 3 brace LR; 5 push R; 6 pull L',
    '1 curl; 4 open; 6 ribs; 8 still',
  ],
  [
    '1e shuffle R; 2 step R; 2e shuffle L; 3 step L; 3& 4 flap x2; 5 stamp R; 6 dig L',
    '1 low; 5 out; 7 in',
    '5 lean; 6 lean; 8 up',
  ],
  [
    '1-4 jog R/L; 5 jack; 6 jack; 7 tap R',
    '1 punch R; 2 punch L; 5-6 up',
    '1 twist; 3 twist; 8 freeze; 8& shake',
  ],
]

test('eight dense eights, each 14 cues in three layers, take their characters and four keys more', async ({
  page,
}) => {
  test.slow()
  const first = await ownSheet(page, 'Eight dances')
  for (const [i, lines] of DENSE.entries()) {
    let pressed = 0
    const press = async (key: string) => {
      await page.keyboard.press(key)
      pressed++
    }
    await press('l')
    for (const [k, line] of lines.entries()) {
      if (k) await press('Tab')
      await expect(page.locator('#line')).toHaveValue('')
      await page.keyboard.type(line)
      pressed += line.length
    }
    await press('Enter')
    await expect(row(page, first + i).getByTestId('cue')).toHaveCount(14)
    expect(pressed).toBeLessThanOrEqual(lines.join('').length + 6)
    await page.keyboard.press('PageDown')
  }
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  // No word of them is cut off: every cue is as wide as its words, at three widths of the window.
  for (const width of [1024, 1280, 1440]) {
    await page.setViewportSize({ width, height: 800 })
    const cut = await page
      .getByTestId('cue')
      .evaluateAll((list) => list.filter((e) => e.scrollWidth > e.clientWidth + 1).map((e) => e.textContent))
    expect(cut).toEqual([])
  }
})

const EIGHT = '1 step R; 2 touch L; 3 step L; 4 touch R; 5-8 roll'

test('eights written alike are found and linked, one or all; halves are linked by what is marked', async ({
  page,
}) => {
  const first = await ownSheet(page, 'Alike')
  for (const line of [
    EIGHT,
    '1 jump; 5-8 wave',
    EIGHT,
    '1 step L; 2 touch R; 3 step R; 4 touch L; 5-8 roll',
  ]) {
    await page.keyboard.press('l')
    await page.keyboard.type(line)
    await page.keyboard.press('Enter')
    await page.keyboard.press('PageDown')
  }
  await panelTab(page, /^Checks/)
  const alike = page.getByTestId('alike')
  await expect(alike).toContainText('to the other side')
  const offers = alike.getByRole('button', { name: 'Link it' })
  const before = await offers.count()
  expect(before).toBeGreaterThanOrEqual(2)
  await offers.first().click()
  await expect(row(page, first + 2).getByTestId('repeat')).toBeVisible()
  await expect(row(page, first + 2).getByTestId('cue')).toHaveText([
    ...['step R', 'touch L', 'step L', 'touch R', 'roll'],
  ])
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Control+z')
  await expect(row(page, first + 2).getByTestId('repeat')).toHaveCount(0)
  // Half an eight: four counts are marked, and danced as the same four of another phrase, pulled one count on.
  await page.keyboard.press('Home')
  for (let i = 0; i < first + 4; i++) await page.keyboard.press('PageDown')
  await page.keyboard.press('5')
  await page.keyboard.press('q')
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight')
  await page.getByLabel('As in', { exact: true }).fill('eight 1')
  await expect(page.getByRole('option').first()).toContainText('ight 1')
  await page.keyboard.press('Enter')
  const from = page.getByRole('slider', { name: 'From count' })
  await expect(page.getByText('Its counts, pulled to others: 5 to 8')).toBeVisible()
  await from.focus()
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowLeft')
  await expect(page.getByText('Its counts, pulled to others: 1 to 4')).toBeVisible()
  await page.getByRole('button', { name: 'Link it' }).last().click()
  await expect(row(page, first + 4).getByTestId('cue')).toHaveText(['step R', 'touch L', 'step L', 'touch R'])
  // A line takes what is danced at a place that is named.
  await page.keyboard.press('Escape')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('PageDown')
  await page.keyboard.press('l')
  await page.keyboard.type('1 wait; 5-8 as eight 1, first four, to the other side')
  await expect(row(page, first + 5).getByTestId('cue')).toHaveCount(5)
  await page.keyboard.press('Enter')
  await expect(row(page, first + 5).getByTestId('cue')).toHaveText([
    ...['wait', 'step L', 'touch R', 'step R', 'touch L'],
  ])
})

test('a whole section is repeated in one action, found by a move in it', async ({ page }) => {
  await openDemo(page)
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('g')
  await page.keyboard.type('chorus 2')
  await page.keyboard.press('Enter')
  const rows = page.locator('[data-row]').filter({ hasText: /Chorus, 2nd, eight 1/ })
  const here = Number(await rows.getAttribute('data-row'))
  await expect(row(page, here).getByTestId('cue')).toHaveCount(0)
  await panelTab(page, 'Phrase')
  await page.getByLabel('As in', { exact: true }).fill('chorus')
  const list = page.getByRole('listbox', { name: 'What it may be danced as' })
  await expect(list.getByRole('option').first()).toContainText(/Chorus\s*\d:\d\d/)
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Link it' }).last().click()
  await expect(row(page, here).getByTestId('repeat')).toHaveText('as D1')
  await expect(row(page, here + 1).getByTestId('repeat')).toHaveText('as D2')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Control+z')
  await expect(row(page, here).getByTestId('repeat')).toHaveCount(0)
})

test('where a phrase begins and ends is said in words, and written where no step says it', async ({
  page,
}) => {
  await ownSheet(page, 'Stances')
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 2 step L; 3-4 turn right 1/4')
  await page.keyboard.press('Tab')
  await page.keyboard.type('1-2 reach R')
  await page.keyboard.press('Enter')
  await panelTab(page, 'Phrase')
  const [begin, end] = [page.getByTestId('stance-from'), page.getByTestId('stance-to')]
  await expect(begin).toHaveText('right foot free, facing front')
  await expect(end).toHaveText('weight on the left foot, facing right, arms: reach R')
  await page.getByRole('button', { name: 'Write the begin …' }).click()
  await page.getByRole('button', { name: /as danced Weight/ }).click()
  await page.getByRole('option', { name: 'right foot' }).click()
  await page.getByRole('textbox', { name: 'Arms' }).fill('on the hips')
  await page.keyboard.press('Enter')
  await expect(begin).toHaveText('weight on the right foot, facing front, arms: on the hips (written here)')
  // The checks know it: the right foot carries the weight and cannot step.
  await panelTab(page, /^Checks/)
  await expect(page.getByTestId('finding').first()).toContainText('“step R” needs the right foot')
  await page.getByTestId('sheet').focus()
  for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z')
  await expect(page.getByTestId('finding')).toHaveCount(0)
  await expect(page.getByTestId('saving')).toHaveText('Saved')
})

test('a newcomer is led from a dropped file to the first drill, a line at a time, in four actions', {
  tag: '@fast',
}, async ({ page }) => {
  await page.goto('/')
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Choose a file' }).click()
  await (await chooser).setFiles({
    ...{ name: 'First minutes.wav', mimeType: 'audio/wav', buffer: loopTrack(112, 30) },
  })
  const line = page.getByTestId('first-step')
  await expect(line).toContainText('space plays the song with a click', { timeout: 30_000 })
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Space')
  await expect(line).toContainText('Do the counts fit?')
  await page.keyboard.press('Space')
  await line.getByRole('link', { name: 'write the first eight' }).click()
  await expect(page.locator('#line')).toBeFocused()
  await page.keyboard.type('1 step R; 2 touch L; 3 step L; 4 touch R')
  await page.keyboard.press('Enter')
  await line.getByRole('link', { name: 'drill it' }).click()
  // The drill begins by itself, slowed down and counted in.
  await expect(page.getByText('75 %').first()).toBeVisible()
  await expect(page.getByRole('heading', { name: 'What do we drill?' })).toBeHidden()
  // Done once, it is said no more, on no song; loaded again, no drill begins by itself.
  await page.reload()
  await expect(page.getByRole('heading', { name: 'What do we drill?' })).toBeVisible()
  await openDemo(page)
  await expect(page.getByTestId('first-step')).toHaveCount(0)
  await page.goto('/')
  await expect(page.getByTestId('due').first()).toContainText('Due:')
})

test('zoomed to twice its size nothing is out of reach, and the sheet is a grid with names', async ({
  page,
}) => {
  await openDemo(page)
  const sheet = page.getByRole('grid')
  await sheet.focus()
  await page.keyboard.press('PageDown')
  const named = () =>
    sheet.evaluate((grid) => {
      const cell = document.getElementById(grid.getAttribute('aria-activedescendant') ?? '')
      const rowHeader = cell?.parentElement?.querySelector('[role=rowheader]')
      return `${rowHeader?.textContent}: ${cell?.textContent}`
    })
  await page.keyboard.press('1')
  await expect.poll(named).toMatch(/eight \d, feet: 1: /)
  await page.keyboard.press('ArrowDown')
  await expect.poll(named).toMatch(/eight \d, arms: 1: /)
  await page.keyboard.press('Shift+ArrowRight')
  await expect.poll(named).toMatch(/eight \d, arms: 1 and: /)
  await page.setViewportSize({ width: 640, height: 400 })
  for (const station of ['Count', 'Cue', 'Teach', 'Log']) {
    await goTo(page, station)
    const wide = await page.evaluate(() => document.documentElement.scrollWidth)
    expect(wide, station).toBeLessThanOrEqual(640)
    for (const name of ['Count', 'Cue', 'Teach', 'Floor', 'Log'])
      await expect(
        page
          .getByRole('navigation', { name: 'Stations' })
          .getByRole('link', { name: new RegExp(`^${name}`) }),
      ).toBeInViewport()
  }
  await goTo(page, 'Cue')
  const move = page.getByRole('combobox', { name: 'Move' })
  await move.scrollIntoViewIfNeeded()
  await expect(move).toBeInViewport()
})
