/* A class's link: the practice page as a page, on a phone that keeps it, and what comes back by itself. */
import type { Page } from '@playwright/test'
import { makeFilm } from './films'
import { School } from './school'
import { loopTrack } from './sounds'
import { expect, test } from './test'
import { goTo, toThePage } from './ways'

let school: School

test.beforeAll(async () => {
  school = await School.start('e2e-class')
})
test.afterAll(() => school.end())
test.afterEach(() => school.leave())

/** The network of the phone is there again: it looks. */
const backOn = (phone: Page) => phone.evaluate(() => window.dispatchEvent(new Event('online')))
/** The page is in the phone, for days without a network. */
const kept = (phone: Page) =>
  phone.waitForFunction(
    async () =>
      navigator.serviceWorker.controller !== null && (await caches.match(location.pathname)) !== undefined,
  )

test('a class opens the page by a link, keeps it without a network, and what learners say comes back', async ({
  browser,
}) => {
  test.setTimeout(600_000)
  const kim = await school.joins(browser, 'Kim', 'owner')
  await kim.locator('a[href^="/r/"]').first().click()
  await expect(kim.getByTestId('saving')).toHaveText('Saved')
  await toThePage(kim)
  await kim.getByLabel('Class', { exact: true }).fill('Mondays')
  await kim.keyboard.press('Enter')
  await expect(kim.getByRole('button', { name: 'Hand it out' })).toBeEnabled()
  await kim.getByRole('button', { name: 'Hand it out' }).press('Enter')
  await expect(kim.getByText('Handed out to Mondays.')).toBeVisible({ timeout: 90_000 })
  const row = kim.getByRole('list', { name: 'Links of classes' }).getByRole('listitem')
  await expect(row).toContainText('Nobody has opened it yet.')
  const link = (await row.locator('code').textContent()) ?? ''
  expect(link).toMatch(/\/c\/[\w-]{24}$/)

  // On a phone of somebody who has no account.
  const phone = await school.browserOf(browser, false)
  const errors: string[] = []
  phone.on('pageerror', (e) => errors.push(e.message))
  await phone.setViewportSize({ width: 390, height: 844 })
  await phone.goto(link)
  await expect(phone.getByRole('heading', { level: 1 })).toHaveText('Marmalade Weather, Thursday beginners')
  await expect(phone.getByText('Mondays · from Kim')).toBeVisible()
  await kept(phone)
  const manifest = await phone.evaluate(async () => {
    const at = document.querySelector<HTMLLinkElement>('link[rel=manifest]')?.href ?? ''
    return (await fetch(at)).json() as Promise<
      Record<'start_url' | 'display' | 'name', string> & { icons: { src: string }[] }
    >
  })
  expect(manifest).toMatchObject({ display: 'standalone', start_url: new URL(link).pathname })
  expect(manifest.name).toContain('Mondays')
  // Pictures of it that are there: as lines, as points, and the one of phones that read no manifest.
  const touch = await phone.locator('link[rel=apple-touch-icon]').getAttribute('href')
  for (const src of [...manifest.icons.map((i) => i.src), touch ?? '']) {
    const icon = await phone.request.get(new URL(src, link).href)
    expect([src, icon.status(), icon.headers()['content-type']]).toEqual([
      src,
      200,
      expect.stringMatching(/^image\//),
    ])
  }
  // It plays as a file does.
  await phone.keyboard.press('p')
  await expect(phone.getByRole('button', { name: 'Stop' })).toBeVisible()
  await phone.keyboard.press('p')
  await phone.keyboard.press('n')
  await phone.getByLabel('Your name').fill('Mia')
  await phone.getByRole('button', { name: 'Send this to Kim' }).press('Enter')
  await expect(phone.getByText('Sent. What you say from now on goes by itself.')).toBeVisible()
  await goTo(kim, 'Log')
  await expect(kim.getByText('Came by the link: Mia.')).toBeVisible()
  const said = kim.getByRole('row').filter({ hasText: 'Mia' })
  await expect(said).toHaveCount(1)
  await expect(said.getByRole('cell').nth(1)).toHaveText('Mia')
  await expect(kim.getByTestId('saving')).toHaveText('Saved')

  // Without a network it is all there; what is said waits, also when the page is closed meanwhile.
  await school.server.kill()
  await phone.reload()
  await expect(phone.getByRole('heading', { level: 1 })).toHaveText('Marmalade Weather, Thursday beginners')
  await phone.keyboard.press('i')
  await expect(phone.getByText('It waits, and goes by itself: There is no network.')).toBeVisible()
  await phone.reload()
  await expect(phone.getByText('It waits, and goes by itself: There is no network.')).toBeVisible()
  await school.server.again()
  await backOn(phone)
  await expect(phone.getByText('Sent. What you say from now on goes by itself.')).toBeVisible()
  await kim.reload()
  await expect(said.getByRole('cell').nth(2)).toHaveText('Mia')
  // Taken back it stays so: it came once.
  await expect(kim.getByTestId('saving')).toHaveText('Saved')
  await kim.keyboard.press('Control+z')
  await expect(said.getByRole('cell').nth(1)).toHaveText('Mia')
  await expect(kim.getByTestId('saving')).toHaveText('Saved')
  await kim.reload()
  await expect(said.getByRole('cell').nth(1)).toHaveText('Mia')

  // Handed out anew: the phone says so, and has it then.
  await toThePage(kim)
  await kim.getByLabel('Class', { exact: true }).fill('Mondays')
  await kim.keyboard.press('Enter')
  await expect(row).toContainText('Opened on 1 device.')
  await kim.getByText('Learners may send films').click()
  await kim.getByRole('button', { name: 'Hand it out anew' }).press('Enter')
  await expect(row).toContainText('Opened on 1 device; 0 have the newest.', { timeout: 90_000 })
  await backOn(phone)
  await expect(phone.getByText('Kim handed out a newer page.')).toBeVisible()
  await phone.getByRole('button', { name: 'Show it' }).press('Enter')
  await expect(phone.getByText('Kim handed out a newer page.')).toBeHidden()
  await expect(phone.getByText('Mondays · from Kim')).toBeVisible()

  // Films are taken now: one of Mia's waits on Log, and comes into the films from there.
  const film = await makeFilm(kim, { sound: loopTrack(120, 4) })
  const file = { name: 'Mia tanzt.webm', mimeType: 'video/webm', buffer: film }
  await phone.locator('#film').setInputFiles(file)
  await expect(phone.getByText('The film was sent.')).toBeVisible()
  await goTo(kim, 'Log')
  await expect(kim.getByText(/^A film of Mia, Mondays/)).toBeVisible()
  await kim.getByRole('button', { name: 'Take in the film of Mia' }).press('Enter')
  await expect(kim.getByText(/^A film of Mia, Mondays/)).toBeHidden()
  await expect(kim.getByTestId('saving')).toHaveText('Saved')
  const at = `/api/routines/${new URL(kim.url()).pathname.split('/')[2]}`
  const { routine } = (await (await kim.request.get(`${school.url}${at}`)).json()) as {
    routine: { films: { whose: string }[] }
  }
  expect(routine.films.map((f) => f.whose)).toContain('Mia')
  await toThePage(kim)
  await kim.getByLabel('Class', { exact: true }).fill('Mondays')
  await kim.keyboard.press('Enter')

  // Closed it leads nowhere, also on a phone that kept it; opened again it does.
  await kim.getByRole('button', { name: 'Close the link of Mondays' }).press('Enter')
  await expect(row).toContainText('the link leads nowhere')
  await phone.reload()
  await expect(phone.getByText('Your instructor closed this link.')).toBeVisible()
  await kim.getByRole('button', { name: 'Open the link of Mondays' }).press('Enter')
  await expect(row.locator('code')).toBeVisible()
  await phone.reload()
  await expect(phone.getByText('Mondays · from Kim')).toBeVisible()
  // Made anew the old one does not, once that was meant.
  await kim.getByRole('button', { name: 'Make it anew …' }).press('Enter')
  await kim.getByRole('button', { name: 'Make it anew', exact: true }).press('Enter')
  await expect(row).toContainText('Nobody has opened it yet.')
  await expect(row.locator('code')).not.toHaveText(link)
  await phone.reload()
  await expect(phone.getByText('This link leads nowhere.')).toBeVisible()
  expect(errors).toEqual([])
})
