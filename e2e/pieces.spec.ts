/* The teacher's own way: pieces with their pick-up, phrases that go off their music, lessons that are late, every "&" on the floor. */
import type { Page } from '@playwright/test'
import { expect, test } from './test'
import { goTo, openDemo, ownSheet, ownSong, repetitionFrom, seeAllSteps, shownIn } from './ways'

const choose = async (page: Page, label: string, option: RegExp) => {
  await page.getByRole('button', { name: new RegExp(`${label}$`) }).press('Enter')
  await page.getByRole('option', { name: option }).press('Enter')
}

/** Two written eights, the first with a hop on 8& that lasts over the line. */
async function leaning(page: Page, name: string) {
  await ownSheet(page, name, 150)
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 3 step L; 5 step R; 7 step L; 8&*1 hop R')
  await page.keyboard.press('Enter')
  await page.keyboard.press('PageDown')
  await page.keyboard.press('l')
  await page.keyboard.type('1 kick L; 3 step R; 5 kick L; 7& tap L; 8 clap')
  await page.keyboard.press('Enter')
}

test('an 8& that goes over the line is proposed, belongs to what follows, and is taken along everywhere', async ({
  page,
}) => {
  await leaning(page, 'From eight and')
  await page.keyboard.press('Alt+2')
  const offer = page.getByTestId('leaning')
  await expect(offer).toContainText('“hop” begins on 8& and goes on into')
  await offer.getByRole('button', { name: 'It does' }).press('Enter')
  await expect(offer).toHaveCount(0)
  await expect(page.getByTestId('leans')).toHaveCount(1)
  const part = page.getByRole('region', { name: 'What belongs together' })
  await expect(part.getByRole('button', { name: /Begins with/ })).toContainText('the 8& before')
  await part.getByRole('button', { name: 'Everywhere so' }).press('Enter')
  await expect.poll(() => page.getByTestId('leans').count()).toBeGreaterThan(1)
  // A loop of the row begins with it.
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('o')
  await expect(page.getByText(/eight 2, from 8& until 8&/i).first()).toBeVisible()
  await page.keyboard.press('o')
  // The plan's pieces begin with it, and the cue sheet's rows.
  await goTo(page, 'Teach')
  await page.getByRole('button', { name: 'Plan a lesson' }).click()
  await seeAllSteps(page)
  await expect(page.getByRole('heading', { name: /eight 2, from 8&/i }).first()).toBeVisible()
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.goto(page.url().replace('/teach', '/hand-out'))
  const row = page
    .getByTestId('sheet-preview')
    .getByRole('region', { name: /eight 2/i })
    .first()
  await expect(row.locator('.counts').first()).toContainText('8&')
  await expect(row).toContainText('hop R')
})

test('a phrase made longer says what comes off its music, and leaves it there in one press', async ({
  page,
}) => {
  await ownSong(page, 'One count more')
  await page.keyboard.press('PageDown')
  await page.keyboard.press(']')
  await expect(page.getByText(/phrases after it begin a count later in the music now/)).toBeVisible()
  await page.getByRole('button', { name: 'Leave it on its music' }).press('Enter')
  await expect(page.getByTestId('moved')).toHaveCount(0)
  await expect(page.getByText('· 9 counts')).toHaveCount(1)
  await expect(page.getByText('· 7 counts')).toHaveCount(1)
  await page.keyboard.press('Control+z')
  await expect(page.getByText('· 7 counts')).toHaveCount(0)
  // What was undone is not put back a second time.
  await page.keyboard.press('Control+z')
  await expect(page.getByText('· 9 counts')).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'Leave it on its music' })).toHaveCount(0)
})

test('the floor says 7& where it is danced, never goes back to 7, and shows each layer and what to mind', async ({
  page,
}) => {
  await leaning(page, 'Seven and')
  await page.getByTestId('cue').filter({ hasText: 'tap L' }).click()
  await page.getByRole('textbox', { name: 'Tip' }).fill('Only a tap.')
  await page.getByRole('textbox', { name: 'Tip' }).press('Enter')
  await page.getByTestId('cue').filter({ hasText: 'kick L' }).first().click()
  await page.getByRole('textbox', { name: 'Tip' }).fill('Knee first.')
  await page.getByRole('textbox', { name: 'Tip' }).press('Enter')
  const id = /r\/([^/]+)/.exec(page.url())?.[1]
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  // Last time it slipped on 7&: that is minded first, though the kick comes before it.
  const { heard } = await (await page.request.get(`/api/routines/${id}`)).json()
  const [from, to] = [8, 16].map((count) => heard.hearing.beats[count])
  const logged = await page.request.post(`/api/routines/${id}/repetitions`, {
    data: {
      ...{
        id: 'slipped-last-time',
        doneAt: Date.now() - 86_400_000,
        kind: 'drill',
        from,
        to,
        label: 'eight 2',
      },
      ...{
        pass: 'all',
        speed: 0.75,
        sound: 'both',
        seconds: 5,
        mark: 'shaky',
        looped: false,
        corrects: null,
      },
      slips: [(heard.hearing.beats[14] + heard.hearing.beats[15]) / 2],
    },
  })
  expect(logged.ok()).toBe(true)
  await page.goto(`/r/${id}/floor`)
  // Two counts that are pressed, over two rows, choose what lies between.
  const pressed = (row: RegExp, count: string) =>
    page.getByRole('group', { name: row }).getByRole('button', { name: count, exact: true }).click()
  await pressed(/^Counts of .*eight 1$/i, '7')
  await pressed(/^Counts of .*eight 2$/i, '2')
  await expect(page.getByRole('textbox', { name: 'Which counts' })).toHaveValue(/eight 1, 7 to eight 2, 2$/i)
  await page.getByRole('textbox', { name: 'Which counts' }).fill('eight 2')
  await page.keyboard.press('Enter')
  const counts = await shownIn(page, 'count')
  await page.keyboard.press('Space')
  await expect(page.getByTestId('tip')).toContainText('Only a tap.')
  await repetitionFrom(page, 2)
  const said = (await counts()).join(' ')
  expect(said).toContain('7 7& 8')
  expect(said).not.toContain('7& 7 ')
  await page.keyboard.press('Shift+K')
  await expect(page.getByTestId('tip')).toHaveCount(0)
  await page.keyboard.press('Shift+K')
  await expect(page.getByTestId('tip')).toBeVisible()
  await page.keyboard.press('Escape')
})

test('a lesson is as long as its minutes; on the floor any step is gone to, and minutes are left out and put back', async ({
  page,
}) => {
  await openDemo(page, 'Teach')
  await expect(page.getByTestId('pace')).toContainText(/new eights, about \d\.\d min each/)
  await choose(page, 'At the end', /to the back/)
  await expect(page.getByTestId('total')).toContainText(/^(59:\d\d|60:00)/)
  await page.getByRole('button', { name: 'To the floor' }).press('Enter')
  const step = page.getByTestId('lesson-step')
  await expect(step).toHaveText(/^Step 1 of (\d+)/)
  const all = Number(/of (\d+)/.exec((await step.textContent()) ?? '')?.[1])
  await page.keyboard.press('Shift+N')
  const list = page.getByRole('dialog', { name: 'The lesson' })
  await list.getByRole('button', { name: '10 min' }).press('Enter')
  await expect(list.getByRole('status')).toContainText(/steps are left out: \d+ min/)
  await expect(list.getByText(/Everything is still taught|Not taught today/)).toBeVisible()
  await list
    .getByRole('button', { name: /Break down/ })
    .first()
    .press('Enter')
  await expect(list).toHaveCount(0)
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Break down')
  const fewer = Number(/of (\d+)/.exec((await step.textContent()) ?? '')?.[1])
  expect(fewer).toBeLessThan(all)
  await page.getByRole('button', { name: 'Put back what was left out' }).press('Enter')
  await expect(step).toHaveText(new RegExp(`of ${all}$`))
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Break down')
})
