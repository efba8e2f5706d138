import { expect, type Page } from '@playwright/test'
import { loopTrack } from './sounds'

/** Opens the demo by keyboard alone, as far as a browser allows. */
export async function openDemo(page: Page) {
  await page.goto('/')
  await page.getByRole('link', { name: /Thursday beginners/ }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('cue').first()).toBeVisible()
}

export async function goTo(page: Page, station: string) {
  await page
    .getByRole('navigation', { name: 'Stations' })
    .getByRole('link', { name: new RegExp(`^${station}`) })
    .focus()
  await page.keyboard.press('Enter')
  await page.waitForURL(`**/${station.toLowerCase()}`)
}

/** Up to 100 ms, by the letters of a name. */
const spread = (name: string) =>
  ([...name].reduce((n, c) => (31 * n + c.charCodeAt(0)) % 100_003, 7) % 4001) / 40_000

/** A routine of one's own on a fresh song, on the Count station; the name makes the song's bytes its own, and it may begin with seconds of silence. */
export async function ownSong(page: Page, name: string, bpm = 120, silent = 0) {
  await page.goto('/')
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Choose a file' }).focus()
  await page.keyboard.press('Enter')
  await (await chooser).setFiles({
    name: `${name}.wav`,
    mimeType: 'audio/wav',
    buffer: loopTrack(bpm, silent + 48, silent + 0.45 + spread(name)),
  })
  await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 30_000 })
  await page.getByTestId('sheet').focus()
}

/** A song of one's own with a step on every other count of its first eight, chosen on the floor. */
export async function drillOfSteps(page: Page, name: string) {
  await ownSong(page, name, 150)
  await goTo(page, 'Cue')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Home')
  if (await page.getByText('pick-up').count()) await page.keyboard.press('PageDown')
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 3 step L; 5 step R; 7 step L')
  await page.keyboard.press('Enter')
  await goTo(page, 'Floor')
  if (await page.getByText('pick-up', { exact: false }).count())
    await page
      .getByRole('button', { name: /^Eight 1/ })
      .first()
      .click()
}
