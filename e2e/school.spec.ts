/* Azalea served to a school: accounts, what is shared, and what is not. */
import type { Page } from '@playwright/test'
import { makeFilm } from './films'
import { PASSWORD, School } from './school'
import { loopTrack } from './sounds'
import { answering, answers, expect, test } from './test'
import { goTo, heldBack, writeFirstEight } from './ways'

let school: School

test.beforeAll(async () => {
  school = await School.start('e2e-school')
})
test.afterAll(() => school.end())
test.afterEach(() => school.leave())

async function signsIn(page: Page, name: string): Promise<void> {
  // The page itself went there: nobody waited for it yet.
  await page.waitForURL('**/sign-in')
  await answers(page)
  await page.getByLabel('Your address').fill(`${name.toLowerCase()}@school.example`)
  await page.getByLabel('Your password').fill(PASSWORD)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('navigation', { name: 'Account' })).toContainText(name)
  await answers(page)
}

const dances = (page: Page) => page.locator('a[href^="/r/"]')

test('the first account takes over what is there; another sees what is shared with them, and changes nothing', async ({
  browser,
}) => {
  const stranger = await school.browserOf(browser)
  await stranger.goto(school.url)
  await expect(stranger.getByRole('heading', { name: 'Sign in to Azalea' })).toBeVisible()
  expect((await stranger.request.get(`${school.url}/api/shelf`)).status()).toBe(401)

  const kim = await school.joins(browser, 'Kim', 'owner')
  const first = dances(kim).first()
  const title = await first.textContent()
  await kim.getByRole('link', { name: 'Account and school' }).click()
  await kim.getByLabel('Name', { exact: true }).fill('Anna')
  await kim.getByLabel('E-mail address').fill('anna@school.example')
  await kim.getByRole('button', { name: 'Make a link' }).click()
  const link = (await kim.getByTestId('link').textContent()) ?? ''

  const anna = await school.browserOf(browser)
  await anna.goto(link)
  // A password that many use is said to be one, and is not taken.
  await anna.getByLabel('A password').fill('password1234')
  const hard = anna.getByRole('meter', { name: 'How hard it is to guess' })
  await expect(hard).toHaveText('Easily guessed: many use one like it')
  await anna.getByRole('button', { name: 'Begin' }).click()
  await expect(anna.getByText('That password is easily guessed: many use one like it.')).toBeVisible()
  await anna.getByLabel('A password').fill(PASSWORD)
  await expect(hard).toHaveText('Very hard to guess')
  await anna.getByRole('button', { name: 'Begin' }).click()
  await expect(anna.getByText('None yet.')).toBeVisible()

  await kim.goto(school.url)
  await kim.getByRole('button', { name: `Share ${title}` }).click()
  await kim.getByRole('button', { name: /What Anna may do/ }).click()
  await kim.getByRole('option', { name: 'to look at' }).click()
  await kim.getByRole('button', { name: 'Done' }).click()

  await anna.goto(school.url)
  await expect(anna.getByText('Shared by Kim, to look at')).toBeVisible()
  await expect(anna.getByRole('button', { name: `Remove ${title}` })).toHaveCount(0)
  await dances(anna).first().click()
  await expect(anna.getByTestId('saving')).toHaveText('To look at')
  const at = anna.url()
  await goTo(anna, 'Cue')
  await anna.getByTestId('sheet').focus()
  await anna.keyboard.press('Delete')
  await expect(anna.getByTestId('notice')).toContainText('shared with you to look at')

  await kim.getByRole('button', { name: `Share ${title}` }).click()
  await kim.getByRole('button', { name: /What Anna may do/ }).click()
  await kim.getByRole('option', { name: 'not shared' }).click()
  await kim.getByRole('button', { name: 'Done' }).click()
  await anna.goto(at)
  await expect(anna.getByRole('heading', { name: 'That is not here' })).toBeVisible()

  // What happens with an account is told to whoever it is of, once in each browser.
  const told = anna.getByRole('status', { name: 'About your account' })
  await anna.goto(school.url)
  await expect(anna.getByText('None yet.')).toBeVisible()
  await kim.goto(`${school.url}/school`)
  await kim.getByRole('button', { name: 'New password for Anna' }).click()
  await expect(kim.getByTestId('link')).toBeVisible()
  await anna.reload()
  await expect(told).toContainText('Kim made a link by which another password can be set.')
  await expect(told.getByRole('listitem')).toHaveCount(1)
  await told.getByRole('button', { name: 'I know of that' }).press('Enter')
  await expect(told).toHaveCount(0)
  await anna.getByRole('link', { name: 'Account' }).click()
  await expect(anna.getByText('for the first time. That is this device.')).toBeVisible()
  await anna.goto(school.url)
  await expect(anna.getByText('None yet.')).toBeVisible()
  await expect(told).toHaveCount(0)
})

test('work that was done while signed out waits, and is saved once the same person signs in', async ({
  browser,
}) => {
  const kim = await school.joins(browser, 'Lou', 'teacher')
  await kim.getByRole('button', { name: 'Without a song' }).click()
  await kim.getByLabel('Name').fill('Combination of Lou')
  await kim.getByRole('button', { name: 'Begin', exact: true }).click()
  await kim.waitForURL('**/cue')
  await expect(kim.getByTestId('saving')).toHaveText('Saved')
  // Signed out in another window of the same browser.
  const other = await kim.context().newPage()
  answering(other)
  await other.goto(school.url)
  await other.getByRole('button', { name: 'Sign out' }).click()
  await expect(other.getByRole('heading', { name: 'Sign in to Azalea' })).toBeVisible()
  // Somebody else signs in there: what Lou does is not done as them.
  const mia = school.account('invite', 'mia@school.example', 'Mia', 'teacher')
  await other.goto(mia)
  await other.getByLabel('A password').fill(PASSWORD)
  await other.keyboard.press('Enter')
  await expect(other.getByText('None yet.')).toBeVisible()
  await kim.keyboard.type('walk')
  await kim.keyboard.press('Enter')
  await expect(kim.getByTestId('saving')).toHaveText('Not saved')
  await expect(kim.getByRole('link', { name: /Sign in again/ })).toBeVisible()
  await other.getByRole('button', { name: 'Sign out' }).click()
  await signsIn(other, 'Lou')
  // On a slow machine it has tried again by itself by now.
  const again = kim.getByRole('button', { name: 'Try now' })
  await expect(async () => {
    // It may go away between the look and the press.
    if (await again.isVisible()) await again.click({ timeout: 2000 })
    await expect(kim.getByTestId('saving')).toHaveText('Saved', { timeout: 3000 })
  }).toPass({ timeout: 60_000 })
  await other.goto(school.url)
  await expect(other.getByText('1 cue')).toBeVisible()
})

test('two at one routine see each other, and both have what they did; asked is where both touched the same', async ({
  browser,
}) => {
  const nora = await school.joins(browser, 'Nora', 'teacher')
  const olga = await school.joins(browser, 'Olga', 'teacher')
  await nora.getByRole('button', { name: 'Without a song' }).click()
  await nora.getByLabel('Name').fill('Ours')
  await nora.getByRole('button', { name: 'Begin', exact: true }).click()
  await nora.waitForURL('**/cue')
  const at = nora.url()
  await writeFirstEight(nora, '1 step R')
  await expect(nora.getByTestId('saving')).toHaveText('Saved')
  await nora.goto(school.url)
  await nora.getByRole('button', { name: 'Share Ours' }).click()
  await nora.getByRole('button', { name: /What Olga may do/ }).click()
  await nora.getByRole('option', { name: 'to edit' }).click()
  await nora.getByRole('button', { name: 'Done' }).click()
  await olga.goto(at)
  await nora.goto(at)
  await expect(nora.getByTestId('others')).toHaveText('Olga is here')
  // Both stand on the same state; the second to save has what the first did.
  await writeFirstEight(olga, '1 step R; 3 touch L')
  await expect(olga.getByTestId('saving')).toHaveText('Saved')
  await writeFirstEight(nora, '1 step R; 5-6 sway R')
  await expect(nora.getByTestId('cue')).toHaveText(['step R', 'touch L', 'sway R'])
  await expect(nora.getByTestId('saving')).toHaveText('Saved')
  // Undo takes back what was done here alone.
  await nora.keyboard.press('Control+z')
  await expect(nora.getByTestId('cue')).toHaveText(['step R', 'touch L'])
  await expect(nora.getByTestId('saving')).toHaveText('Saved')
  // Who looks at what the other did has it, and saves nothing by that.
  const saves: string[] = []
  for (const page of [nora, olga]) page.on('request', (r) => r.method() === 'PUT' && saves.push(r.url()))
  const looks = async (page: Page) => {
    const heard = page.waitForResponse('**/here')
    await page.evaluate(() => document.dispatchEvent(new Event('visibilitychange')))
    await heard
  }
  await looks(olga)
  await expect(olga.getByTestId('cue')).toHaveText(['step R', 'touch L'])
  for (const page of [nora, olga, nora]) await looks(page)
  expect(saves).toEqual([])
  await olga.reload()
  await expect(olga.getByTestId('cue')).toHaveText(['step R', 'touch L'])
  // Both write on 7. Nora's page asks every quarter of a minute what is new there: not while she writes, however long that takes here.
  const looksAgain = await heldBack(nora, 'POST', '**/here')
  await writeFirstEight(olga, '1 step R; 3 touch L; 7 clap')
  await expect(olga.getByTestId('saving')).toHaveText('Saved')
  await writeFirstEight(nora, '1 step R; 3 touch L; 7 snap')
  const asks = nora.getByRole('alert').filter({ hasText: 'The same was changed elsewhere' })
  await expect(asks).toContainText('“snap” here, “clap” there')
  looksAgain()
  await nora.getByRole('button', { name: 'As I have it' }).click()
  await expect(nora.getByTestId('saving')).toHaveText('Saved')
  await expect(nora.getByTestId('cue')).toHaveText(['step R', 'touch L', 'snap'])
  await olga.reload()
  await expect(olga.getByTestId('cue')).toHaveText(['step R', 'touch L', 'snap'])
  // The list of moves is everybody's: each adds one, on pages that were open before.
  for (const [page, move] of [
    [olga, 'scoop'],
    [nora, 'lean over'],
  ] as const) {
    await page.getByRole('radio', { name: 'Moves' }).click()
    await page.getByLabel('Find or add').fill(move)
    await page.keyboard.press('Enter')
    await expect(page.getByTestId('saving')).toHaveText('Saved')
  }
  const kept = await nora.request.get(`${school.url}/api/moves`)
  const { moves } = (await kept.json()) as { moves: { name: string }[] }
  expect(moves.slice(-2).map((m) => m.name)).toEqual(['scoop', 'lean over'])
  await expect(nora.getByText('The move list was changed in another window')).toHaveCount(0)
})

test('on a phone the server hears a song and looks for it in a film, also while its page is left; who listens is changed by a press', async ({
  browser,
}) => {
  const phone = { hasTouch: true, isMobile: true, viewport: { width: 390, height: 844 } }
  const page = await school.joins(browser, 'Noor', 'teacher', phone)
  /** Brings a song, of which the page is not told how far it is until it is let go on. */
  const brings = async (name: string, bpm: number) => {
    await page.goto(school.url)
    const goOn = await heldBack(page, 'GET', '**/api/songs/*/hear')
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Choose a file' }).click()
    const file = { name, mimeType: 'audio/wav', buffer: loopTrack(bpm, 30, 0.47) }
    await (await chooser).setFiles(file)
    await expect(page.getByRole('button', { name: 'Listen on this device' })).toBeVisible()
    return { at: page.url(), goOn }
  }
  const first = await brings('By the server.wav', 118)
  first.goOn()
  await page.goto(school.url)
  await page.goto(first.at)
  await expect(page.getByText(/^118 BPM · \d+ eights/)).toBeVisible({ timeout: 60_000 })

  // So it looks for the song in a film: the page is left while it does, and has what it found when it comes again.
  const film = await makeFilm(page, { sound: loopTrack(118, 14, 0.47) })
  const searched = await heldBack(page, 'GET', '**/api/routines/*/takes/*')
  await page.goto(first.at.replace(/count$/, 'cue'))
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Shift+F')
  const films = page.getByRole('region', { name: 'Film', exact: true })
  const asked = page.waitForResponse((r) => r.request().method() === 'POST' && r.url().includes('/takes/'))
  await films
    .locator('input[type=file]')
    .setInputFiles({ name: 'Phone.webm', mimeType: 'video/webm', buffer: film })
  expect((await asked).ok()).toBe(true)
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  searched()
  await page.goto(school.url)
  await page.goto(first.at.replace(/count$/, 'cue'))
  await expect(films.getByText('one take', { exact: true })).toBeVisible({ timeout: 60_000 })

  const second = await brings('By the phone.wav', 96)
  const kept = page.waitForRequest((r) => r.method() === 'PUT' && r.url().endsWith('/hearing'))
  await page.getByRole('button', { name: 'Listen on this device' }).click()
  second.goOn()
  await expect(page.getByText(/^96 BPM · \d+ eights/)).toBeVisible({ timeout: 60_000 })
  await kept
})

test('an assistant begins nothing, and an erased account is nobody’s', async ({ browser }) => {
  const pat = await school.joins(browser, 'Pat', 'assistant')
  await expect(pat.getByText('Begin with a song')).toHaveCount(0)
  await pat.getByRole('link', { name: 'Account' }).click()
  await pat.getByRole('button', { name: 'Erase it …' }).click()
  await pat.getByLabel('Your password, to be sure').fill('not this one')
  await pat.getByRole('button', { name: 'Erase all of it' }).click()
  await expect(pat.getByText('That is not your password.')).toBeVisible()
  await pat.getByLabel('Your password, to be sure').fill(PASSWORD)
  // What is filled in before the page for signing in answers, as browsers do, is kept, and goes in.
  const goOn = await heldBack(pat, 'GET', '**/*.js')
  await pat.getByRole('button', { name: 'Erase all of it' }).click()
  await expect(pat.getByRole('heading', { name: 'Sign in to Azalea' })).toBeVisible()
  await pat.getByLabel('Your address').fill('pat@school.example')
  await pat.getByLabel('Your password').fill(PASSWORD)
  goOn()
  await pat.waitForFunction(() => 'awake' in document.documentElement.dataset)
  await expect(pat.getByLabel('Your password')).toBeFocused()
  await pat.keyboard.press('Enter')
  await expect(pat.getByText('The address or the password is wrong.')).toBeVisible()
})
