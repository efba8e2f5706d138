/* Teaching in the small: a few counts at a time, any pass, added up, read from the prompter. */
import type { Page } from '@playwright/test'
import { expect, test } from './test'
import { goTo, openDemo, ownSheet, seeAllSteps } from './ways'

const choose = async (page: Page, label: string | RegExp, option: string | RegExp) => {
  await page.getByRole('button', { name: label }).click()
  await page
    .getByRole('option', { name: option, exact: typeof option === 'string' })
    .first()
    .click()
}
const steps = (page: Page) => page.getByTestId('step')

/** A song with one written eight, on Teach, its lesson planned. */
async function oneEight(page: Page, name: string) {
  await ownSheet(page, name, 150)
  await page.keyboard.press('l')
  await page.keyboard.type('1 step L; 2 touch R; 3 kick R; 4 step R; 5 turn right 1/2; 6 step L; 7-8 jump')
  await page.keyboard.press('Tab')
  await page.keyboard.type('1-4 reach R; 5 clap')
  await page.keyboard.press('Enter')
  await goTo(page, 'Teach')
  await page.getByRole('button', { name: 'Plan a lesson' }).click()
  await expect(steps(page).first()).toBeVisible()
}

test('a lesson of one eight by twos is planned, and led by the pedal alone; the prompter is read count by count', async ({
  page,
}) => {
  await oneEight(page, 'Two by two')
  await choose(page, /At once/, 'two counts')
  await choose(page, /Order/, 'whole body')
  await seeAllSteps(page)
  await expect(steps(page).filter({ hasText: 'Break down' })).toHaveCount(4)
  await expect(steps(page).filter({ hasText: 'Counts added up.' })).toHaveCount(6)
  await expect(page.getByRole('heading', { name: /eight 1, 1 to 4$/ })).toBeVisible()
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.getByRole('button', { name: 'To the floor' }).click()
  const step = page.getByTestId('lesson-step')
  await expect(step).toHaveText(/Step 1 of/)
  // The warm-up is left by the pedal, then the eight is shown: its words are read before it is danced.
  await page.keyboard.press('PageDown')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Show')
  const lines = page.getByTestId('prompt-line')
  await expect(lines).toHaveCount(8)
  await expect(page.getByTestId('prompt-begin')).toContainText('left foot free, facing front')
  await expect(page.getByTestId('prompt-end')).toContainText('facing back')
  await expect(lines.nth(1)).toContainText('Ready: stay off the right foot: it kicks on 3')
  await expect(lines.nth(3)).toContainText('Ready: turn right on 5, to the back')
  await page.keyboard.press('PageDown')
  await page.keyboard.press('PageDown')
  await expect(lines.nth(2)).toHaveAttribute('aria-current', 'step')
  await page.keyboard.press('PageUp')
  await expect(lines.nth(1)).toHaveAttribute('aria-current', 'step')
  // Slowly from the lit count, and back to the same line.
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('speed')).toHaveText('60 %')
  await expect(page.getByText(/eight 1, 2 to 8/).first()).toBeVisible()
  await page.keyboard.press('Space')
  await expect(lines.nth(1)).toHaveAttribute('aria-current', 'step')
  for (let i = 0; i < 6; i++) await page.keyboard.press('PageDown')
  await expect(lines.nth(7)).toHaveAttribute('aria-current', 'step')
  await page.keyboard.press('PageDown')
  await expect(page.getByTestId('repetition')).toContainText('repetition 1 of 1')
  // Shown once; then the first two counts are broken down.
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Break down', { timeout: 30_000 })
  await expect(lines).toHaveCount(2)
})

test('every field of a step is set, for several at once, and stays when the lesson is laid out anew', async ({
  page,
}) => {
  await oneEight(page, 'Shaped steps')
  const drills = page.locator('[data-testid=step][data-kind=drill]')
  const [first, second] = [drills.nth(0), drills.nth(1)]
  await first.click()
  const panel = page.getByTestId('step-part')
  await expect(panel).toContainText('This step')
  await second.click({ modifiers: ['ControlOrMeta'] })
  await expect(panel).toContainText('2 steps')
  await choose(page, /How$/, 'small, marked')
  await choose(page, /Led in by/, 'the song’s bars')
  await expect(first).toContainText('small, the song leads in')
  await expect(second).toContainText('small, the song leads in')
  await first.click()
  await panel.getByRole('textbox', { name: 'Which counts' }).fill('3 to 5')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: /eight 1, 3 to 5/ })).toBeVisible()
  await choose(page, /Danced by/, 'right arm alone')
  await panel.getByRole('textbox', { name: 'What to say' }).fill('From the shoulder.')
  await panel.getByRole('textbox', { name: 'Minutes of talk' }).focus()
  await expect(first).toContainText('right arm alone, small')
  // Undone, it is gone from its field too, and leaving that does not bring it back.
  await page.getByRole('button', { name: 'Undo' }).press('Enter')
  await expect(panel.getByRole('textbox', { name: 'What to say' })).toHaveValue('')
  await panel.getByRole('textbox', { name: 'What to say' }).focus()
  await panel.getByRole('textbox', { name: 'Minutes of talk' }).focus()
  await expect(page.getByRole('button', { name: 'Redo' })).toBeEnabled()
  await page.getByRole('button', { name: 'Redo' }).press('Enter')
  // Arms first here, whatever is usual.
  await drills.nth(2).click()
  await panel.getByRole('button', { name: 'arms', exact: true }).click()
  await expect(panel.getByTestId('pass-order')).toHaveText('arms')
  await panel.getByRole('button', { name: 'Back to the settings' }).click()
  await choose(page, /Learners/, 'advanced')
  await expect(drills.filter({ hasText: 'right arm alone, small' })).toHaveCount(1)
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await page.reload()
  await expect(drills.filter({ hasText: 'right arm alone, small' })).toHaveCount(1)
})

test('counts are added up on the floor by one key each, from the top, the last two, the join, and fall back', async ({
  page,
}) => {
  await openDemo(page, 'Floor')
  await page.getByRole('textbox', { name: 'Which counts' }).fill('Chorus, eight 1, 1 to 4')
  await page.keyboard.press('Enter')
  await page.getByRole('radio', { name: '4 counts' }).press('Space')
  await page.getByRole('button', { name: /^Drill Chorus, eight 1, 1 to 4/ }).click()
  const name = page
    .locator('main')
    .getByText(/Chorus, eight/)
    .first()
  await expect(page.getByTestId('adds')).toContainText('+ Chorus, eight 1, 5 to 8, from the top')
  await page.keyboard.press('Shift+O')
  await expect(name).toHaveText('Chorus, eight 1')
  await page.keyboard.press('Shift+T')
  await expect(name).toHaveText('Chorus, eight 1, 5 to eight 2, 4')
  await page.keyboard.press('Shift+J')
  await expect(name).toHaveText('Chorus, eight 2, 3 to 6')
  await page.keyboard.press('Shift+U')
  await expect(name).toHaveText('Chorus, eight 1, 1 to eight 2, 4')
  await expect(page.getByTestId('speed')).toHaveText('75 %')
  await page.keyboard.press('Space')
  await expect(page.getByRole('heading', { name: 'What do we drill?' })).toBeVisible()
})

test('a class’s next lesson is proposed from its log: what sat least first, then what was not taught yet', async ({
  page,
}) => {
  await seeAllSteps(page)
  await openDemo(page, 'Teach')
  await expect(page.getByRole('combobox', { name: 'Class' })).toHaveValue('Thursday beginners')
  await page.getByRole('button', { name: 'Plan the next lesson' }).click()
  await expect(page.getByRole('textbox', { name: 'Name' })).toHaveValue('Thursday beginners, lesson 2')
  await expect(steps(page).first()).toContainText('Warm-up')
  await expect(steps(page).nth(1)).toContainText(/It did not sit yet|It sat at \d+ %/)
  // What was drilled with the class is not shown as new.
  const shown = page.locator('[data-testid=step][data-kind=show]')
  await expect(shown.first()).toBeVisible()
  await expect(page.getByText('The dance has changed since')).toHaveCount(0)
  // Set anew, it is still the next lesson.
  await choose(page, /Learners/, 'intermediate')
  await expect(steps(page).nth(1)).toContainText(/It did not sit yet|It sat at \d+ %/)
  // Another class has nothing behind it, and moves that are new to it.
  await page.getByRole('combobox', { name: 'Class' }).fill('Sunday children')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Plan the next lesson' })).toHaveCount(0)
  const fresh = page.getByTestId('new-moves')
  const before = await steps(page).count()
  await fresh.getByRole('button', { name: 'Drill it first' }).first().click()
  await expect(steps(page)).toHaveCount(before + 1)
  await expect(steps(page).nth(1)).toHaveAttribute('data-kind', 'drill')
  await goTo(page, 'Log')
  await choose(page, /Class$/, 'Thursday beginners')
  await expect(page.getByRole('heading', { name: 'What sits, and what does not' })).toBeVisible()
})

test('a course says what is new when, that it cannot stand in time, and goes out as a calendar', async ({
  page,
}) => {
  await openDemo(page, 'Teach')
  await page.getByRole('combobox', { name: 'Class' }).fill('New course')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'A course' }).click()
  await page.getByLabel('First lesson').fill('2026-12-03T18:30')
  await page.getByRole('button', { name: 'Plan eight lessons' }).click()
  const list = page.getByTestId('course').getByRole('listitem')
  await expect(list).toHaveCount(8)
  await expect(list.first()).toContainText('Thu 3 Dec, 18:30')
  await expect(list.first()).toContainText('New:')
  await expect(list.nth(1)).toContainText('Again:')
  await expect(list.last()).toContainText('Nothing new: it is run.')
  await expect(page.getByTestId('course-problem')).toHaveText('It can stand in time.')
  await page.getByLabel('It must stand by').fill('2026-12-04')
  await expect(page.getByTestId('course-problem')).toContainText('It cannot stand in time')
  // One lesson goes to another day, another falls out; both are undone.
  await list.nth(1).getByRole('button', { name: 'Thu 10 Dec, 18:30' }).press('Enter')
  await page.getByLabel('is moved to').fill('2026-12-11T19:00')
  await page.getByRole('button', { name: 'Move it' }).press('Enter')
  await expect(list.nth(1)).toContainText('Fri 11 Dec, 19:00')
  await list.nth(2).getByRole('button', { name: 'Thu 17 Dec, 18:30' }).press('Enter')
  await page.getByRole('button', { name: 'It falls out' }).press('Enter')
  await expect(list).toHaveCount(7)
  await page.keyboard.press('Control+z')
  await expect(list).toHaveCount(8)
  await page.getByLabel('How many come').fill('24')
  await page.keyboard.press('Enter')
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save the dates' }).click()
  expect((await download).suggestedFilename()).toMatch(/\.ics$/)
  await page.getByRole('button', { name: 'To the floor' }).click()
  await expect(page.getByText('New course, 24 people')).toBeVisible()
})

test('undo outlives a page that was made before the last save arrived', async ({ page }) => {
  await ownSheet(page, 'Made too early')
  const cues = page.getByTestId('cue')
  const banner = page.getByRole('banner')
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R')
  await page.keyboard.press('Enter')
  await page.getByTestId('sheet').focus()
  await expect(cues).toHaveCount(1)
  await expect(banner.getByText('Saved')).toBeVisible()
  const early = await page.context().request.get(page.url())
  const body = await early.text()
  await page.keyboard.press('PageDown')
  await page.keyboard.press('l')
  await page.keyboard.type('1 step L')
  await page.keyboard.press('Enter')
  await page.getByTestId('sheet').focus()
  await expect(cues).toHaveCount(2)
  await expect(banner.getByText('Saved')).toBeVisible()
  await page.route(page.url(), (route) => route.fulfill({ body, contentType: 'text/html; charset=utf-8' }), {
    times: 1,
  })
  await page.reload()
  await expect(cues).toHaveCount(2)
  await expect(banner.getByRole('button', { name: 'Undo' })).toBeEnabled()
  await page.keyboard.press('Control+z')
  await expect(cues).toHaveCount(1)
})
