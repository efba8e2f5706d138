/* Any counts at all: marked, typed, looped, drilled with the right count-in, and found again in the log. */
import { expect, test } from './test'
import { drillShows, goTo, ownSong } from './ways'

test('counts are marked by key, named, typed, looped and drilled, and the log has them', async ({ page }) => {
  await ownSong(page, 'Any counts', 160)
  await page.keyboard.press('Home')
  if (await page.getByText('pick-up').count()) await page.keyboard.press('PageDown')
  for (let i = 0; i < 2; i++) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('q')
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight')
  const which = page.getByRole('textbox', { name: 'Which counts' })
  await expect(which).toHaveValue(/eight 1, 3 to 8$/)
  await expect(page.getByTestId('marked-sound')).toHaveCount(1)
  await page.getByRole('button', { name: 'Loop them' }).click()
  await expect(page.getByTestId('looped')).toHaveCount(1)
  // What is not there says so, and changes nothing.
  await which.fill('eight 99')
  await which.press('Enter')
  await expect(page.getByTestId('marked-part').getByRole('alert')).toBeVisible()
  await which.fill('7 8 and the 1 after')
  await which.press('Enter')
  await expect(which).toHaveValue(/eight 1, 7 to eight 2, 1$/)
  await expect(page.getByTestId('marked-sound')).toHaveCount(2)
  // Cue and Count mark the same.
  await goTo(page, 'Cue')
  await expect(page.getByRole('textbox', { name: 'Which counts' })).toHaveValue(/eight 1, 7 to eight 2, 1$/)
  await page.getByRole('button', { name: 'Drill these counts' }).click()
  await expect(page.getByRole('heading', { name: 'What do we drill?' })).toBeVisible()
  await expect(page.getByRole('textbox', { name: 'Which counts' })).toHaveValue(/eight 1, 7 to eight 2, 1$/)
  // Counted in to a 7, the numbers staying the eight's own.
  const drill = () => page.locator('body').press('Space')
  await drillShows(page, drill, '3', '4', '5', '6', '7', '8', '1', '7', '8', '1')
  await page.keyboard.press('c')
  await page.keyboard.press('Space')
  await expect(page.getByRole('heading', { name: 'What do we drill?' })).toBeVisible()
  await page.getByRole('link', { name: 'Log' }).click()
  await expect(page.getByRole('row', { name: /eight 1, 7 to eight 2, 1.*clean/ }).first()).toBeVisible()
  await page.getByRole('link', { name: /^Drill at/ }).click()
  await expect(page.getByRole('textbox', { name: 'Which counts' })).toHaveValue(/eight 1, 7 to eight 2, 1$/)
})

test('a name of sixty letters makes no page wider than its window', async ({ page }) => {
  await ownSong(page, 'A song whose name has sixty letters and which never seems to end', 150)
  const id = /\/r\/([^/]+)/.exec(page.url())?.[1]
  const { routine, revision } = await (await page.request.get(`/api/routines/${id}`)).json()
  const [first, ...rest] = routine.sections
  const named = { ...first, name: 'A section whose name has sixty letters and never seems to end' }
  const saved = await page.request.put(`/api/routines/${id}`, {
    data: { revision, writer: 'e2e-writer', save: 1, routine: { ...routine, sections: [named, ...rest] } },
  })
  expect(saved.ok()).toBe(true)
  await page.reload()
  for (const station of ['Cue', 'Teach', 'Log', 'Count', 'Floor']) {
    await goTo(page, station)
    await expect(page.getByText(/never seems to end/).first()).toBeVisible()
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1280)
  }
})
