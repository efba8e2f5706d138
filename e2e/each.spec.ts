/* Ways in: each time a word is sung, and a dance that was spoken once. */
import type { APIRequestContext, Page } from '@playwright/test'
import { expect, test } from './test'
import { goTo, openDemo, ownSheet } from './ways'

const idOf = (page: Page) => /\/r\/([^/]+)/.exec(page.url())?.[1] as string

/** The open routine with something more in it, as another window would have saved it. */
async function saved(
  page: Page,
  request: APIRequestContext,
  more: (routine: Record<string, unknown>) => object,
) {
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  const id = idOf(page)
  const { routine, revision } = await (await request.get(`/api/routines/${id}`)).json()
  const put = await request.put(`/api/routines/${id}`, {
    data: { revision, writer: 'another-window', save: 1, routine: { ...routine, ...more(routine) } },
  })
  expect(put.ok()).toBe(true)
  await page.goto(`/r/${id}/cue`)
  await expect(page.getByLabel('Move', { exact: true })).toBeVisible()
  await page.getByTestId('sheet').focus()
}

test('a gesture stands each time a word is sung, is changed at all places, and lets one differ', async ({
  page,
  request,
}) => {
  await ownSheet(page, 'Hey hey')
  await page.keyboard.press('w')
  await page.keyboard.type('punch R')
  await page.keyboard.press('Enter')
  const cues = page.getByTestId('cue')
  await expect(cues).toHaveCount(1)
  await saved(page, request, (r) => {
    const at = (r.cues as { at: number }[])[0]?.at ?? 0
    const count = at / 24
    return {
      marks: [0, 8, 16, 24].map((n, i) => ({
        id: `hey${i}`,
        at: 0.45 + (count + n) * 0.5,
        end: null,
        kind: 'lyric',
        text: i % 2 ? 'hey' : 'Hey!',
      })),
    }
  })
  await cues.first().click()
  const each = page.getByTestId('each')
  await each.getByRole('button', { name: 'Each time “Hey!” is sung (4)' }).press('Enter')
  await expect(cues).toHaveCount(4)
  await expect(each.getByRole('heading', { name: 'Stands 4 times' })).toBeVisible()
  await cues.nth(2).click()
  await page.getByLabel('Move', { exact: true }).fill('reach')
  await page.getByLabel('Move', { exact: true }).press('Enter')
  await expect(cues.filter({ hasText: 'reach R' })).toHaveCount(4)
  await cues.nth(1).click()
  await each.getByRole('button', { name: 'This one differs' }).press('Enter')
  await page.getByLabel('Move', { exact: true }).fill('snap')
  await page.getByLabel('Move', { exact: true }).press('Enter')
  await expect(cues.filter({ hasText: 'reach R' })).toHaveCount(3)
  await cues.first().click()
  await each.getByRole('button', { name: 'Delete all 3' }).press('Enter')
  await expect(cues).toHaveText(['♪ snap R'])
  // One step each.
  await page.keyboard.press('Control+z')
  await expect(cues).toHaveCount(4)
})

test('a dance that was spoken once is named place by place, by keys alone', async ({ page, request }) => {
  await ownSheet(page, 'Spoken once')
  await page.keyboard.press('w')
  await page.keyboard.type('hold')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('cue')).toHaveCount(1)
  await saved(page, request, (r) => {
    const from = ((r.cues as { at: number }[])[0]?.at ?? 0) + 24
    const pieces = [0, 24, 36, 72].map((at, i) => ({
      at: from + at + 0.7,
      from: i,
      stress: i + 0.1,
      to: i + 0.4,
    }))
    return {
      voices: [
        { id: 'said', stretch: { from, to: from + 96 }, recording: 'recording-1', pieces, exact: false },
      ],
    }
  })
  const naming = page.getByTestId('naming')
  await expect(naming).toContainText('4 said places have no move yet')
  await naming.getByRole('button', { name: 'Name them one by one' }).press('Enter')
  const field = naming.getByRole('combobox', { name: 'What was said here' })
  for (const [words, place] of [
    ['step R', '2'],
    ['', '3'],
    ['ball-change L', '3&'],
    ['kick R', '5'],
  ] as const) {
    await expect(naming.getByRole('status')).toContainText(new RegExp(`On .*${place}$`))
    await expect(field).toBeFocused()
    await page.keyboard.type(words)
    await page.keyboard.press('Enter')
  }
  await expect(page.getByTestId('cue')).toHaveText(['hold', 'step R', 'ball-change L', 'kick R'])
  // What was skipped is still said, and asked for again.
  await expect(naming).toContainText('1 said place has no move yet')
  await goTo(page, 'Count')
})

test('one field finds actions, places, moves and settings, does them and leads there, by keys alone', async ({
  page,
}) => {
  await openDemo(page)
  await expect(page).toHaveTitle('Marmalade Weather, Thursday beginners · Cue · Azalea')
  const dialog = page.getByRole('dialog', { name: 'Find' })
  const find = async (words: string) => {
    await page.keyboard.press('Control+k')
    await expect(dialog).toBeVisible()
    await page.keyboard.type(words)
  }
  // An action is done, where nobody knows its key.
  await find('mirrored')
  await expect(dialog.getByRole('option').first()).toContainText('V')
  await page.keyboard.press('Enter')
  await expect(dialog).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'Mirrored', exact: true })).toBeVisible()
  // A place, and a move of the dance.
  await find('chorus, eight 2')
  await expect(dialog.getByRole('option').first()).toContainText('Chorus, eight 2, 1')
  await dialog.getByRole('option').first().click()
  await expect(page.getByText('Chorus, eight 2, count 1')).toBeVisible()
  await find('punch up')
  await expect(dialog.getByRole('option', { name: /punch up/ })).toContainText('A move')
  await dialog.getByRole('option', { name: /punch up/ }).click()
  await expect(page.getByText('Chorus, eight 2, count 7')).toBeVisible()
  // A setting leads to its station; what is called nothing says so.
  await find('minutes there are')
  await dialog.getByRole('option', { name: /Minutes there are/ }).click()
  await page.waitForURL('**/teach')
  await expect(page).toHaveTitle(/· Teach · Azalea$/)
  await find('qwertz')
  await expect(dialog.getByText('Nothing is called so.')).toBeVisible()
  // A press at its edge, beside everything that is in it, leaves the keys where they are: Escape still closes it.
  await dialog.click({ position: { x: 5, y: 5 } })
  await page.keyboard.press('Escape')
  await expect(dialog).toHaveCount(0)
})

test('moves are written without a song, danced at another tempo, and laid on a song', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'Without a song' }).press('Enter')
  await page.getByLabel('Name').fill('Corner to corner')
  await page.getByLabel('Name').press('Enter')
  await page.waitForURL('**/cue')
  const sheet = page.getByTestId('sheet')
  await sheet.focus()
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 3 touch L; 5-8 roll the hands')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  const cues = page.getByTestId('cue')
  await expect(cues).toHaveText(['step R', 'touch L', 'roll the hands'])
  // Another tempo changes no count.
  await goTo(page, 'Count')
  await page.getByLabel(/Set the tempo/).fill('80')
  await page.getByLabel(/Set the tempo/).press('Enter')
  await expect(page.getByRole('banner')).toContainText('80 BPM')
  await expect(sheet.getByText('0:10', { exact: true })).toBeVisible()
  await goTo(page, 'Floor')
  await page.keyboard.press('Space')
  await expect(page.getByTestId('count')).toHaveText('1', { timeout: 20_000 })
  await page.keyboard.press('Space')
  await openDemo(page)
  await sheet.focus()
  await page.keyboard.press('End')
  await page.keyboard.press('Alt+4')
  const before = await cues.count()
  await page.getByRole('button', { name: 'Lay “Corner to corner” here' }).press('Enter')
  await expect(cues).toHaveCount(before + 3)
  await expect(page.getByTestId('spoken')).toHaveText('Done: lay “Corner to corner” here.')
  await page.keyboard.press('Control+z')
  await expect(cues).toHaveCount(before)
})
