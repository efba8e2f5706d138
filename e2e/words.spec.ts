/* Words, sounds, parts, loops, and grids from and to files, on songs of one's own. */
import { readFile } from 'node:fs/promises'
import type { Page } from '@playwright/test'
import { expect, test } from './test'
import { ownSong, shownIn } from './ways'

const words = (page: Page) => page.getByRole('region', { name: 'Words and sounds' })
const text = (name: string, content: string) => ({
  name,
  mimeType: 'text/plain',
  buffer: Buffer.from(content),
})
const choose = async (page: Page, button: string, file: ReturnType<typeof text>) => {
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: button }).click()
  await (await chooser).setFiles(file)
}
const toStation = async (page: Page, name: 'Count' | 'Cue') => {
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name }).click()
  await expect(page).toHaveURL(new RegExp(`/${name.toLowerCase()}$`))
}
const saved = async (page: Page, button: string) => {
  const download = page.waitForEvent('download')
  await page.getByRole('dialog').getByRole('button', { name: button, exact: true }).click()
  return readFile(await (await download).path())
}

test('lyric lines are brought from a file, put on counts, renamed, and taken away, each undone by one step', async ({
  page,
}) => {
  await ownSong(page, 'Brought words')
  await page.keyboard.press('y')
  await choose(page, 'Bring from a file', text('broken.lrc', 'no time\nnone here\n'))
  await expect(words(page).getByRole('alert')).toContainText('No line begins with a time')
  await choose(
    page,
    'Bring from a file',
    text('w.lrc', '[00:02.11]turn the lamp low\nwithout a time\n[00:06.90]and let it go\n'),
  )
  await expect(words(page).getByRole('alert')).toContainText('One place in “w.lrc” could not be read')
  const list = words(page).getByRole('listitem')
  await expect(list).toHaveCount(2)
  await expect(page.getByTestId('sheet').getByText('turn the lamp low')).toBeVisible()
  await page.getByRole('button', { name: 'Lines onto counts' }).click()
  await expect(page.getByRole('button', { name: /“and let it go” onto/ })).toBeDisabled()
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('button', { name: /“and let it go” onto/ })).toBeEnabled()
  const field = list.first().getByRole('textbox')
  await field.fill('turn the lights low')
  await field.press('Enter')
  await expect(page.getByTestId('sheet').getByText('turn the lights low')).toBeVisible()
  await page.getByRole('button', { name: 'Take “and let it go” away' }).click()
  await expect(list).toHaveCount(1)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(list).toHaveCount(0)
})

test('a label file brings words and sounds, and they go out as one', async ({ page }) => {
  await ownSong(page, 'Labelled words')
  await page.keyboard.press('y')
  const labels = '2.5\t4.25\tlow lamp\n6\t6\tclap\n'
  await choose(page, 'Bring from a file', text('w.lab', labels))
  await expect(words(page).getByRole('listitem')).toHaveCount(2)
  await expect(page.getByTestId('sheet').locator('[data-kind=sound]')).toHaveText('clap')
  await expect(page.getByTestId('sheet').locator('[data-kind=lyric]')).toHaveText('low lamp')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('i')
  expect((await saved(page, 'Words and sounds as labels')).toString()).toBe(labels)
})

test('typed lines are tapped in while the song plays; what is left untapped is kept', async ({ page }) => {
  await ownSong(page, 'Tapped words')
  await page.keyboard.press('y')
  await page.getByLabel(/still to be tapped/).fill('one lamp\n\ntwo lamps\nthree lamps')
  await page.getByRole('button', { name: 'Tap them in' }).click()
  const next = page.getByTestId('tap-words')
  await expect(next).toContainText('one lamp')
  await expect(page.getByTestId('where')).toContainText('count 3')
  await page.keyboard.press('Space')
  await expect(next).toContainText('1 of 3 tapped')
  await expect(page.getByTestId('where')).toContainText('count 7')
  await page.keyboard.press('Space')
  await expect(next).toContainText('three lamps')
  await page.keyboard.press('Escape')
  await expect(words(page).getByRole('listitem')).toHaveCount(2)
  await expect(page.getByLabel(/still to be tapped/)).toHaveValue('three lamps')
  await page.keyboard.press('Control+z')
  await expect(words(page).getByRole('listitem')).toHaveCount(0)
  // Another station is gone to in the middle of it, and with a line typed that no key has ended.
  await page.getByRole('button', { name: 'Tap them in' }).click()
  await expect(page.getByTestId('where')).toContainText('count 3')
  await page.keyboard.press('Space')
  await expect(next).toContainText('1 of 3 tapped')
  await toStation(page, 'Cue')
  await expect(page.getByTestId('sheet').getByText('one lamp')).toBeVisible()
  await toStation(page, 'Count')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('y')
  await expect(words(page).getByRole('listitem')).toHaveCount(1)
  const still = page.getByLabel(/still to be tapped/)
  await expect(still).toHaveValue('two lamps\nthree lamps')
  await still.fill('two lamps')
  await toStation(page, 'Cue')
  await toStation(page, 'Count')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('y')
  await expect(still).toHaveValue('two lamps')
})

test('a sound is marked, a part begun and named, by key', async ({ page }) => {
  await ownSong(page, 'Marked sounds')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('k')
  // Its name is typed at once; the page has the keys again.
  await expect(words(page).getByRole('listitem').getByRole('textbox')).toBeFocused()
  await page.keyboard.type('clap')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('sheet').getByText('clap')).toBeVisible()
  await expect(page.getByTestId('sheet')).toBeFocused()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Shift+A')
  await expect(page.getByRole('textbox', { name: 'This part' })).toBeFocused()
  await page.keyboard.type('Slow half')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('sheet').getByText('Slow half')).toBeVisible()
  await expect(page.getByTestId('spoken')).toHaveText('Done: name the part.')
})

test('a row is played again and again', async ({ page }) => {
  await ownSong(page, 'Looped row')
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('o')
  await expect(page.getByTestId('looped')).toHaveCount(1)
  const where = await shownIn(page, 'where')
  await page.keyboard.press('Space')
  // Round and round, and never out of the row.
  const laps = async () => {
    const counts = (await where()).map((text) => Number(/count (\d+)/.exec(text)?.[1]))
    return counts.filter((n, i) => n < (counts[i - 1] ?? 0)).length
  }
  await expect.poll(laps, { timeout: 30_000 }).toBeGreaterThanOrEqual(2)
  for (const text of await where()) expect(text).toContain('eight 2, count')
  await page.keyboard.press('Space')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Shift+O')
  await expect(page.getByTestId('looped')).toHaveCount(2)
  await page.keyboard.press('o')
  await expect(page.getByTestId('looped')).toHaveCount(0)
})

test('a grid goes to files and comes back as it was', async ({ page }) => {
  await ownSong(page, 'Grid to files')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press(']')
  await page.keyboard.press('i')
  const before = {
    beats: await saved(page, 'Beats as text'),
    midi: await saved(page, 'MIDI tempo map'),
    jams: await saved(page, 'JAMS'),
    labels: await saved(page, 'Sections as labels'),
  }
  await page.keyboard.press('Escape')
  for (const [name, buffer] of [
    ['grid.txt', before.beats],
    ['grid.mid', before.midi],
    ['grid.jams', before.jams],
  ] as const) {
    // Made wrong first: twice as many counts.
    await page.getByTestId('sheet').focus()
    await page.keyboard.press('Shift+D')
    await expect(page.getByRole('banner')).toContainText('240 BPM')
    await page.keyboard.press('i')
    await choose(page, 'Choose a file', { name, mimeType: 'application/octet-stream', buffer })
    await expect(page.getByTestId('brought')).toContainText('120.0 BPM')
    await page.getByRole('button', { name: 'Take it' }).click()
    await expect(page.getByRole('banner')).toContainText('120 BPM')
    await page.keyboard.press('i')
    if (name === 'grid.mid') expect(await saved(page, 'MIDI tempo map')).toEqual(before.midi)
    else expect((await saved(page, 'Beats as text')).toString()).toBe(before.beats.toString())
    await page.keyboard.press('Escape')
  }
  await page.keyboard.press('i')
  await choose(page, 'Choose a file', text('x.lab', before.labels.toString()))
  await expect(page.getByTestId('brought')).toContainText('sections, which replace')
  await page.getByRole('button', { name: 'Leave it' }).click()
  await choose(page, 'Choose a file', text('bad.txt', '1.0\n2.0\nsoon\n'))
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('Line 3: “soon” is not a time')
})
