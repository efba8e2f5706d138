import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { test } from './test'
import { accessibilityFaults, openDemo } from './ways'

const plan = (page: Page) => page.getByTestId('plan')
const table = (page: Page) => page.getByTestId('who-stands-where')
const dancer = (page: Page, letter: string) =>
  plan(page).getByRole('button', { name: new RegExp(`^${letter}[,:]`) })

test.beforeEach(async ({ page }) => {
  await openDemo(page)
  await page.keyboard.press('Alt+5')
  await expect(plan(page)).toBeVisible()
})

/** The row of a dancer in the table of who stands where. */
const row = (page: Page, letter: string) => table(page).getByRole('row', { name: new RegExp(`^${letter} `) })

test('dancers are moved by keys and by pulling, one undo each, and stand there after loading anew', async ({
  page,
}) => {
  await expect(row(page, 'A')).toContainText('70 cm left of the middle, 1.5 m from the front')
  await dancer(page, 'A').focus()
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('ArrowUp')
  await expect(row(page, 'A')).toContainText('20 cm left of the middle, 1.4 m from the front')
  await expect(page.getByTestId('chosen-dancers')).toHaveText('A')
  // Pulled, it comes to stand on half a metre.
  const box = await dancer(page, 'B').boundingBox()
  if (!box) throw new Error('B is not there')
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + 20, y + 30, { steps: 5 })
  await page.mouse.up()
  await expect(row(page, 'B')).toContainText(/1(\.5)? m right of the middle, (2|2\.5) m from the front/)
  const stood = (await row(page, 'B').textContent()) ?? ''
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await page.reload()
  await page.keyboard.press('Alt+5')
  await expect(row(page, 'B')).toHaveText(stood)
  await page.keyboard.press('Control+z')
  await expect(row(page, 'B')).toContainText('70 cm right of the middle, 1.5 m from the front')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(row(page, 'A')).toContainText('70 cm left of the middle, 1.5 m from the front')
  // The next test finds it so.
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
})

test('in the mirror the plan, its words and what is pulled are turned; what is written stays', async ({
  page,
}) => {
  const middleOf = async (letter: string) => {
    const box = await dancer(page, letter).boundingBox()
    if (!box) throw new Error(`${letter} is not there`)
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  }
  const [a, b] = [await middleOf('A'), await middleOf('B')]
  expect(a.x).toBeLessThan(b.x)
  /** How far right of the middle everybody is drawn in the small plans over the rows. */
  const inRows = async () => {
    const plans = page.getByTestId('formation-in-row').getByTestId('small-plan')
    await expect(plans.first()).toBeVisible()
    return plans.evaluateAll((list) =>
      list.flatMap((svg) =>
        [...svg.querySelectorAll('g[transform]')].map((g) => {
          const [, x = '0'] = /translate\(([-\d.]+)/.exec(g.getAttribute('transform') ?? '') ?? []
          return Math.round(Number(x) - Number(svg.getAttribute('width')) / 2)
        }),
      ),
    )
  }
  const small = await inRows()
  expect(new Set(small).size).toBeGreaterThan(1)
  await page.getByRole('button', { name: 'True sides' }).click()
  await expect.poll(inRows).toEqual(small.map((x) => 0 - x))
  await expect(page.getByRole('group', { name: /all dancers, as in a mirror$/ })).toBeVisible()
  await expect(row(page, 'A')).toContainText('70 cm right of the middle, 1.5 m from the front')
  await expect.poll(async () => Math.round((await middleOf('A')).x)).toBe(Math.round(b.x))
  // Turned by the arrow as the page shows it: who is left on the page comes further up it than who is right.
  await page.getByRole('button', { name: 'Turn ⟳' }).click()
  await expect.poll(async () => (await middleOf('A')).y - (await middleOf('B')).y).toBeGreaterThan(10)
  await page.keyboard.press('Control+z')
  await expect(row(page, 'A')).toContainText('70 cm right of the middle, 1.5 m from the front')
  // To the right of the page, by a key and by a pull.
  await dancer(page, 'A').focus()
  await page.keyboard.press('Shift+ArrowRight')
  await expect(row(page, 'A')).toContainText('1.2 m right of the middle')
  const { x, y } = await middleOf('A')
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + 25, y, { steps: 5 })
  await page.mouse.up()
  await expect(row(page, 'A')).toContainText(/(1\.5|2) m right of the middle/)
  expect((await middleOf('A')).x).toBeGreaterThan(x)
  await page.getByRole('button', { name: 'Mirrored' }).click()
  await expect(row(page, 'A')).toContainText(/(1\.5|2) m left of the middle/)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(row(page, 'A')).toContainText('70 cm left of the middle, 1.5 m from the front')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
})

test('two who change sides meet on their count, and the bend that is proposed keeps them apart', async ({
  page,
}) => {
  // Where the dance begins the two in front exchange; on the Arrow's count they do so again.
  await page.getByRole('button', { name: 'Next ›' }).click()
  await dancer(page, 'A').click()
  await dancer(page, 'B').click({ modifiers: ['Shift'] })
  await page.getByRole('button', { name: 'row', exact: true }).click()
  await page.getByRole('button', { name: '‹ Before' }).click()
  await page.getByRole('button', { name: 'row', exact: true }).click()
  await page.getByRole('button', { name: 'Next ›' }).click()
  await page.getByRole('button', { name: 'Exchange' }).click()
  await page.keyboard.press('Alt+3')
  const all = page.getByTestId('finding').filter({ hasText: /A and B meet on \d&? of/ })
  await expect(all).toHaveCount(2)
  // The other one is on the way to the formation after.
  const meets = page.getByTestId('finding').filter({ hasText: /A and B meet on \d&? of Verse, 2nd, eight 1/ })
  await expect(meets).toBeVisible()
  await meets.getByRole('button', { name: /^Bend [AB]’s way$/ }).click()
  await expect(meets).toBeHidden()
  await page.keyboard.press('Control+z')
  await expect(meets).toBeVisible()
})

test('the plan is large, goes from formation to formation, and is saved as a picture', async ({ page }) => {
  await page.getByRole('button', { name: 'Large' }).click()
  const large = page.getByTestId('plan-large')
  await expect(large.getByRole('heading', { name: 'Two rows → Arrow' })).toBeVisible()
  expect(await accessibilityFaults(page)).toEqual([])
  await large.getByRole('button', { name: /Windows/ }).click()
  await expect(large.getByRole('heading', { name: 'Windows' })).toBeVisible()
  const coming = page.waitForEvent('download')
  await large.getByRole('button', { name: 'Save as SVG' }).click()
  const svg = readFileSync(await (await coming).path(), 'utf8')
  expect(svg).toContain('audience')
  expect(svg).not.toContain('var(')
  const picture = page.waitForEvent('download')
  await large.getByRole('button', { name: 'Save as PNG' }).click()
  const png = readFileSync(await (await picture).path())
  expect(png.subarray(1, 4).toString()).toBe('PNG')
  expect(png.readUInt32BE(16)).toBeGreaterThan(1000)
  await large.getByRole('button', { name: 'Close the large plan' }).click()
  await expect(large).toBeHidden()
})

test('the path of the steps says how much room the dance takes, and where it leaves it', async ({ page }) => {
  await page.getByRole('radio', { name: 'Path' }).click()
  await expect(page.getByTestId('room-needed')).toContainText(/It takes 3\.\d m by 3\.\d m\. Begin/)
  await page.getByRole('button', { name: 'Room and camera' }).click()
  await page.getByRole('textbox', { name: 'Room, wide (m)' }).fill('2,5')
  await page.keyboard.press('Enter')
  await expect(
    page
      .getByRole('main')
      .getByText(/leads out of the room/)
      .first(),
  ).toBeVisible()
  await page.getByRole('button', { name: 'How far steps go' }).click()
  await page.getByRole('button', { name: /A step that says no way/ }).click()
  await page.getByRole('option', { name: 'nobody knows' }).click()
  await expect(page.getByTestId('path-unknown')).toContainText('nobody knows where it goes')
  await page.getByRole('button', { name: 'Plain steps go to their side' }).click()
  await expect(page.getByTestId('path-unknown')).toBeHidden()
})

test('on the floor one’s own place is said, now and next, in the mirror on the other side', async ({
  page,
}) => {
  // As it was set on Cue.
  await page.getByRole('button', { name: 'True sides' }).click()
  await page.goto(page.url().replace(/\/cue.*/, '/floor'))
  await page.getByRole('radio', { name: 'Plan', exact: true }).click()
  await page.getByRole('radio', { name: 'Cleo' }).click()
  await page.getByText('Whose place is said').click()
  await page.keyboard.press('Space')
  await expect(page.getByTestId('where-now')).toContainText(
    /C: 1\.4 m right of the middle, 3 m from the front · by .*: 1 m right of the middle, 2 m from the front/,
  )
  const [cleo, middle] = await Promise.all(
    ['C', 'middle'].map((name) => plan(page).getByText(name, { exact: true }).boundingBox()),
  )
  expect(cleo?.x).toBeGreaterThan(middle?.x ?? Number.POSITIVE_INFINITY)
})
