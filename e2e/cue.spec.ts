/* The Cue station on songs of one's own and on the demo: writing, repeating, checking, mirroring. */
import type { Page } from '@playwright/test'
import { expect, test } from './test'
import { goTo, openDemo, ownSheet, partsPlayed } from './ways'

const cues = (page: Page) => page.getByTestId('cue')
const row = (page: Page, i: number) => page.locator(`[data-row="${i}"]`)
const tab = (page: Page, name: string | RegExp) =>
  page.getByRole('radiogroup', { name: 'What is beside the sheet' }).getByRole('radio', { name }).click()
const choose = async (page: Page, label: string | RegExp, option: string | RegExp) => {
  await page.getByRole('button', { name: label }).click()
  await page.getByRole('option', { name: option }).first().click()
}

/** Chooses by name what the phrase is to be danced as, by keyboard. */
async function asIn(page: Page, name: string) {
  await page.getByLabel('As in', { exact: true }).fill(name)
  const list = page.getByRole('listbox', { name: 'What it may be danced as' })
  await expect(list.getByRole('option').first()).toContainText(new RegExp(name, 'i'))
  await page.keyboard.press('Enter')
  await expect(list.getByRole('option', { selected: true })).toContainText(new RegExp(name, 'i'))
}

const FEET = '1 step R; 2 touch L; 3 step L; 4 touch R; 5 walk R; 6 walk L; 7& 8 stomp x2'
const ARMS = '1-4 reach R; 8 clap'

test('an eight of ten cues in two layers takes its shorthand and three keys', { tag: '@fast' }, async ({
  page,
}) => {
  const first = await ownSheet(page, 'Ten cues')
  let pressed = 0
  const press = async (key: string) => {
    await page.keyboard.press(key)
    pressed++
  }
  await press('l')
  for (const c of FEET) await press(c)
  // The cues appear while the line is typed.
  await expect(row(page, first).getByTestId('cue')).toHaveCount(8)
  await press('Tab')
  for (const c of ARMS) await press(c)
  await press('Enter')
  await expect(row(page, first).getByTestId('cue')).toHaveCount(10)
  expect(pressed).toBeLessThanOrEqual(FEET.length + ARMS.length + 3)
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(cues(page)).toHaveCount(0)
})

test('a dance that begins late in its song is opened where it begins, with what follows in sight', async ({
  page,
}) => {
  const inSight = async () => {
    const chosen = page
      .locator('[data-row]')
      .filter({ has: cues(page) })
      .first()
    await expect(chosen).toBeInViewport({ ratio: 1 })
    await expect(row(page, Number(await chosen.getAttribute('data-row')) + 1)).toBeInViewport({ ratio: 1 })
    return page.getByTestId('sheet').evaluate((sheet) => sheet.scrollTop)
  }
  await openDemo(page)
  expect(await inSight()).toBeGreaterThan(0)
  await page.reload()
  const at = await inSight()
  // Once something was done it follows only as far as needed.
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('ArrowRight')
  expect(await inSight()).toBe(at)
})

test('footing broken on purpose is found and mended; an eight is repeated to the other side; all of it is undone', async ({
  page,
}) => {
  const first = await ownSheet(page, 'Broken footing')
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 2 step R; 3 step L; 4 touch R; 5-8 hold')
  await page.keyboard.press('Enter')
  await tab(page, 'Checks')
  const finding = page.getByTestId('finding')
  await expect(finding.first()).toContainText('“step R” needs the right foot')
  await expect(finding.first()).toContainText('Only the left foot is free there.')
  await page.getByRole('button', { name: 'Use the left foot' }).click()
  await expect(page.getByRole('button', { name: 'Use the left foot' })).toHaveCount(0)
  await page.keyboard.press('Control+z')
  // What was found of the routine as mended stands until the checks have run again.
  await expect(page.getByRole('button', { name: 'Use the left foot' })).toBeVisible()
  // Let stand with a reason, it stays away until its cues change.
  await finding.first().getByRole('button', { name: 'Let it stand …' }).click()
  await page.getByRole('textbox', { name: 'Why it may stand' }).fill('a hop is meant')
  await page.keyboard.press('Enter')
  await expect(page.getByText('“step R” needs the right foot')).toHaveCount(0)
  await expect(page.getByText('One finding was let stand.')).toBeVisible()
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('l')
  await page.keyboard.press('Home')
  await page.keyboard.press('Shift+End')
  await page.keyboard.type('1 step R; 2 walk R; 3 step L; 4 touch R; 5-8 hold')
  await page.keyboard.press('Enter')
  await expect(page.getByText('“walk R” needs the right foot')).toBeVisible()
  await page.keyboard.press('PageDown')
  await tab(page, 'Phrase')
  await asIn(page, 'eight 1')
  await page.getByRole('radio', { name: 'other side' }).click()
  await page.getByRole('button', { name: 'Link it' }).click()
  const second = row(page, first + 1)
  await expect(second.getByTestId('cue').first()).toHaveText('step L')
  await expect(second.getByTestId('repeat')).toContainText('⇄')
  // Circles are refused with the reason.
  await page.keyboard.press('PageUp')
  await asIn(page, 'eight 2')
  await page.getByRole('button', { name: 'Link it' }).click()
  await expect(page.getByText('That would lead in a circle')).toBeVisible()
  await expect(page.getByRole('button', { name: /eight 2 ⇄/i })).toBeVisible()
  await page.getByTestId('sheet').focus()
  for (let i = 0; i < 5; i++) await page.keyboard.press('Control+z')
  await expect(cues(page)).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
})

test('a changed cue makes a difference in a repeat; written out it is linked no more', async ({ page }) => {
  await openDemo(page)
  const sheet = page.getByTestId('sheet')
  await sheet.focus()
  for (let i = 0; i < 3; i++) await page.keyboard.press('PageDown')
  await expect(sheet.locator('[data-linked]').first()).toBeVisible()
  const here = await sheet
    .locator('[data-linked]')
    .first()
    .evaluate((cue) => Number(cue.closest<HTMLElement>('[data-row]')?.dataset.row))
  // In its own row: which others are drawn depends on how far the sheet is scrolled.
  const linked = row(page, here).locator('[data-linked]')
  await expect.poll(() => linked.count()).toBeGreaterThan(8)
  const before = await linked.count()
  await page.keyboard.press('w')
  await page.getByRole('combobox', { name: 'Move' }).fill('stamp')
  await page.keyboard.press('Enter')
  await expect(cues(page).filter({ hasText: 'stamp' })).toHaveCount(1)
  await expect.poll(() => linked.count()).toBeLessThan(before)
  await page.keyboard.press('Control+z')
  await expect(cues(page).filter({ hasText: 'stamp' })).toHaveCount(0)
  await tab(page, 'Phrase')
  await page.getByRole('button', { name: 'Write out' }).click()
  await expect(linked).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(linked).toHaveCount(before)
})

test('a line that cannot be read says where and why, and changes nothing; several lines are pasted at once', async ({
  page,
  context,
}) => {
  const first = await ownSheet(page, 'Pasted lines')
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 9 clap')
  await expect(
    page.getByRole('status').filter({ hasText: 'this phrase has the counts 1 to 8' }),
  ).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'feet of this phrase as a line' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(cues(page)).toHaveCount(0)
  // What was typed is offered, and stands in the way of nothing.
  await page.keyboard.press('l')
  await expect(page.getByRole('textbox', { name: 'feet of this phrase as a line' })).toHaveValue('')
  await expect(page.getByTestId('left-before')).toContainText('1 step R; 9 clap')
  // So it is after another station was gone to, and after the page was loaded anew; also a line that is open then.
  const line = page.getByRole('textbox', { name: 'feet of this phrase as a line' })
  const opensLine = async () => {
    await page.getByTestId('sheet').focus()
    await page.keyboard.press('Home')
    if (first) await page.keyboard.press('PageDown')
    await page.keyboard.press('l')
    await expect(line).toHaveValue('')
  }
  await goTo(page, 'Count')
  await goTo(page, 'Cue')
  await opensLine()
  await expect(page.getByTestId('left-before')).toContainText('1 step R; 9 clap')
  await page.keyboard.type('1 step R; 99 clap')
  await page.reload()
  await opensLine()
  await expect(page.getByTestId('left-before')).toContainText('1 step R; 99 clap')
  await page.keyboard.type('1 step R; 9 clap')
  await page.keyboard.press('Escape')
  await page.keyboard.press('l')
  await page.keyboard.press('Control+ArrowUp')
  await expect(page.getByRole('textbox', { name: 'feet of this phrase as a line' })).toHaveValue(
    '1 step R; 9 clap',
  )
  const lines = '1 step R; 5 step L\narms: 3 clap\n\nfeet: 1 touch R\n'
  await page.evaluate((text) => navigator.clipboard.writeText(text), lines)
  // A busy machine hands the clipboard over late.
  await expect.poll(() => page.evaluate(() => navigator.clipboard.readText())).toBe(lines)
  await page.getByRole('textbox', { name: 'feet of this phrase as a line' }).focus()
  await page.keyboard.press('Control+v')
  // They are seen before they are put in, and can be mended.
  await expect(row(page, first).getByTestId('cue')).toHaveCount(3)
  const pasted = page.getByRole('textbox', { name: /^One a phrase/ })
  await expect(pasted).toBeFocused()
  await pasted.fill(`${lines}\n9 clap`)
  await expect(page.getByRole('button', { name: /^Put in/ })).toBeDisabled()
  await page.keyboard.press('Control+Enter')
  await expect(page.getByText('1 of 4 cannot be put in yet.')).toBeVisible()
  await pasted.fill(lines)
  await page.keyboard.press('Control+Enter')
  await expect(pasted).toBeHidden()
  await expect(row(page, first).getByTestId('cue')).toHaveCount(3)
  await expect(row(page, first + 1).getByTestId('cue')).toHaveText(['touch R'])
  await page.keyboard.press('Control+z')
  await expect(cues(page)).toHaveCount(0)
  // A page that is slow to draw does not take the focus from the line that is opened meanwhile.
  await page.evaluate(() => {
    const held: FrameRequestCallback[] = []
    const draw = window.requestAnimationFrame
    window.requestAnimationFrame = (frame) => held.push(frame)
    Object.assign(window, {
      drawNow: () => {
        window.requestAnimationFrame = draw
        for (const frame of held) frame(performance.now())
      },
    })
  })
  const typed = page.getByRole('textbox', { name: 'feet of this phrase as a line' })
  await page.keyboard.press('l')
  await page.keyboard.type('1 hop')
  await page.keyboard.press('Enter')
  await expect(typed).toBeHidden()
  await page.keyboard.press('PageDown')
  await page.keyboard.press('l')
  await expect(typed).toBeFocused()
  await page.evaluate(() => (window as unknown as { drawNow: () => void }).drawNow())
  await page.keyboard.type('1 kick')
  await expect(typed).toHaveValue('1 kick')
  // Open already, and left by the keys, it has them again when it is asked for.
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('l')
  await expect(typed).toBeFocused()
  await expect(typed).toHaveValue('1 kick')
  await page.keyboard.press('Enter')
  await expect(row(page, first + 1).getByTestId('cue')).toHaveText(['kick'])
})

test('a stretch is marked, copied, pasted, turned to the other side and deleted by key', async ({ page }) => {
  const first = await ownSheet(page, 'Marked stretch')
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 2 touch L; 5 step L')
  await page.keyboard.press('Enter')
  await page.keyboard.press('1')
  await page.keyboard.press('q')
  await page.keyboard.press('ArrowRight')
  await expect(page.getByTestId('marked')).toBeVisible()
  await page.keyboard.press('Control+c')
  await page.keyboard.press('e')
  await expect(row(page, first).getByTestId('cue')).toHaveText(['step L', 'touch R', 'step L'])
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Delete')
  await expect(row(page, first).getByTestId('cue')).toHaveText(['step L'])
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Escape')
  await expect(page.getByTestId('marked')).toHaveCount(0)
  await page.keyboard.press('7')
  await page.keyboard.press('Control+v')
  await expect(row(page, first).getByTestId('cue')).toHaveText([
    'step R',
    'touch L',
    'step L',
    'step R',
    'touch L',
  ])
  await page.keyboard.press('d')
  await expect(row(page, first + 1).getByTestId('cue')).toHaveCount(5)
  // Longer by key, longer by pointer.
  await page.keyboard.press('1')
  const chip = row(page, first + 1)
    .getByTestId('cue')
    .first()
  const width = async () => (await chip.boundingBox())?.width ?? 0
  await page.keyboard.press('5')
  const fifth = row(page, first + 1)
    .getByTestId('cue')
    .nth(2)
  const narrow = (await fifth.boundingBox())?.width ?? 0
  await page.keyboard.press('Alt+Shift+ArrowRight')
  await expect.poll(async () => (await fifth.boundingBox())?.width ?? 0).toBeGreaterThan(narrow * 1.3)
  const before = await width()
  const grip = await chip.getByTestId('stretch').boundingBox()
  if (!grip) throw new Error('no grip')
  await page.mouse.move(grip.x + 3, grip.y + 8)
  await page.mouse.down()
  await page.mouse.move(grip.x - before / 2, grip.y + 8, { steps: 4 })
  await page.mouse.up()
  await expect.poll(width).toBeLessThan(before * 0.8)
})

/** As the window's own keys do, with some text on the clipboard. @returns the text that is there afterwards */
const clipboard = (page: Page, type: 'copy' | 'cut' | 'paste', text = '') =>
  page.evaluate(
    ([what, given]) => {
      const data = new DataTransfer()
      if (given) data.setData('text/plain', given)
      const event = new ClipboardEvent(what as string, {
        clipboardData: data,
        bubbles: true,
        cancelable: true,
      })
      document.querySelector('[data-testid=sheet]')?.dispatchEvent(event)
      return data.getData('text/plain')
    },
    [type, text],
  )

test('cues go to a text editor and come back; what is no line of cues is refused in words', async ({
  page,
}) => {
  const first = await ownSheet(page, 'Clipboard')
  await page.keyboard.press('1')
  await clipboard(page, 'paste', 'feet: 1-2 walk R/L; 3 hold\narms: 1 punch R; 1 fist at the hip L')
  const cues = row(page, first).getByTestId('cue')
  await expect(cues).toHaveCount(5)
  // What the two arms do at one time is gone through by arrows, and is no clash.
  await page.keyboard.press('ArrowDown')
  const field = page
    .getByRole('combobox', { name: 'Move' })
    .or(page.getByLabel('Move', { exact: true }))
    .first()
  const one = await field.inputValue()
  await page.keyboard.press('ArrowDown')
  await expect(field).not.toHaveValue(one)
  // The one that is meant is cut and turned alone, not what stands at the same place.
  const meant = await field.inputValue()
  expect((await clipboard(page, 'cut')).split('\n')).toEqual([expect.stringContaining(meant)])
  await expect(cues).toHaveCount(4)
  await expect(row(page, first).getByText(one)).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(cues).toHaveCount(5)
  await page.keyboard.press('e')
  await expect(cues.filter({ hasText: /^(punch|fist at the hip) (R|L)$/ })).toHaveCount(2)
  const sides = (await cues.allTextContents()).flatMap(
    (t) => /^(?:punch|fist at the hip) (R|L)$/.exec(t)?.[1] ?? [],
  )
  expect(new Set(sides).size).toBe(1)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Escape')
  await page.keyboard.press('8')
  const text = await clipboard(page, 'copy')
  expect(text.split('\n').sort()).toEqual([
    expect.stringMatching(/^arms: /),
    'feet: 1 walk R; 2 walk L; 3 hold',
  ])
  await page.keyboard.press('PageDown')
  await clipboard(page, 'paste', text.replace('hold', 'freeze'))
  await expect(row(page, first + 1).getByTestId('cue')).toHaveCount(5)
  await expect(row(page, first + 1).getByText('freeze')).toBeVisible()
  await tab(page, 'Checks')
  // Two arms on one count are no clash.
  await expect(page.getByRole('heading', { name: /^Checks|to look at/ })).toBeVisible()
  await expect(page.getByTestId('finding').filter({ hasText: 'both stand on' })).toHaveCount(0)
  await page.getByTestId('sheet').focus()
  await clipboard(page, 'paste', 'Dear all, see you on Thursday')
  await expect(page.getByText('is no line of cues')).toBeVisible()
  await expect(page.getByTestId('cue').filter({ hasText: 'Thursday' })).toHaveCount(0)
})

test('a typed place or time is gone to; a long phrase goes on below, and long words are whole', async ({
  page,
}) => {
  await openDemo(page)
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('g')
  await page.keyboard.type('chorus 2, 3')
  await expect(page.getByTestId('goes')).toContainText('Chorus, 2nd, eight 3, 1')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('where')).toHaveText('Chorus, 2nd, eight 3, count 1')
  // As the rows are marked, by a move, and where several are meant: each with one press.
  await page.keyboard.press('g')
  await page.keyboard.type('C2')
  const places = page.getByRole('dialog')
  await expect(page.getByTestId('goes')).toContainText('eight 2, 1')
  await places.getByRole('button', { name: /2nd, eight 2, 1/ }).click()
  await expect(page.getByTestId('where')).toContainText('2nd, eight 2, count 1')
  await page.keyboard.press('g')
  await page.keyboard.type('9:59')
  await expect(page.getByTestId('goes')).toContainText('The counts end at')
  await page.keyboard.press('Escape')
  await page.keyboard.press('g')
  await page.keyboard.type('chorus')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('where')).toHaveText('Chorus, eight 1, count 1')
  await page.keyboard.press('l')
  await page.keyboard.press('Control+a')
  await page.keyboard.type(
    '7 a move with a very long name R; 7& tap L; 8 another of many words for one count L',
  )
  await page.keyboard.press('Enter')
  // The blank between two lines of words is not seen.
  const cut = await page
    .locator('[data-testid=cue] > span')
    .evaluateAll((all) => all.filter((c) => c.scrollWidth > c.clientWidth + 5).map((c) => c.textContent))
  expect(cut).toEqual([])
  await goTo(page, 'Count')
  await page.getByTestId('sheet').focus()
  for (let i = 0; i < 4; i++) await page.keyboard.press(']')
  await expect(page.getByText('12 counts').first()).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByTestId('where')).toContainText('count 9')
  await page.keyboard.press('ArrowDown')
  await expect(page.getByTestId('where')).toContainText('eight 2, count 1')
})

test('a stretch is marked by pulling over lanes and rows, or by a click with shift; a click ends it', async ({
  page,
}) => {
  const first = await ownSheet(page, 'Pulled stretch')
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 3 touch L; 7 kick R')
  await page.keyboard.press('Enter')
  await expect(row(page, first).getByTestId('cue')).toHaveCount(3)
  const [upper, lower] = [row(page, first), row(page, first + 1)].map((r) => r.locator('[data-counts]'))
  const [a, b] = [await upper?.boundingBox(), await lower?.boundingBox()]
  if (!a || !b) throw new Error('no rows')
  const count = a.width / 8
  // The lane of the feet, from 6 of one phrase to 2 of the next.
  await page.mouse.move(a.x + 5.2 * count, a.y + 50)
  await page.mouse.down()
  await page.mouse.move(a.x + 5.2 * count + 2, a.y + 50)
  await expect(page.getByTestId('marked')).toHaveCount(0)
  await page.mouse.move(a.x + 6.5 * count, a.y + 52, { steps: 3 })
  await page.mouse.move(b.x + 1.2 * count, b.y + 50, { steps: 5 })
  await page.mouse.up()
  await expect(page.getByTestId('marked')).toHaveCount(2)
  await page.keyboard.press('Delete')
  await expect(row(page, first).getByTestId('cue')).toHaveText(['step R', 'touch L'])
  await page.keyboard.press('Control+z')
  // The mouse is up: moving it marks nothing more, and a click ends the mark.
  await page.mouse.move(b.x + 5 * count, b.y + 50)
  await page.mouse.click(b.x + 4.2 * count, b.y + 50)
  await expect(page.getByTestId('marked')).toHaveCount(0)
  await page.mouse.click(a.x + 1.2 * count, a.y + 50)
  await page.keyboard.down('Shift')
  await page.mouse.click(a.x + 5.2 * count, a.y + 50)
  await page.keyboard.up('Shift')
  await expect(page.getByTestId('marked')).toHaveCount(1)
  // What can be done with it stands beside the sheet.
  await expect(page.getByTestId('held')).toHaveText('feet: 1 cue')
  await page.getByRole('button', { name: 'To the other side' }).click()
  await expect(row(page, first).getByTestId('cue')).toHaveText(['step R', 'touch R', 'kick R'])
  await page.getByRole('button', { name: 'Copy', exact: true }).click()
  await page.mouse.click(b.x + 0.2 * count, b.y + 50)
  await page.getByRole('button', { name: 'Paste here' }).click()
  await expect(row(page, first + 1).getByTestId('cue')).toHaveText(['touch R'])
  // Over the sound all layers are marked; up to a cue that is clicked with shift, it too.
  await page.mouse.move(a.x + 2.2 * count, a.y + 15)
  await page.mouse.down()
  await page.mouse.move(a.x + 4.2 * count, a.y + 15, { steps: 4 })
  await page.mouse.up()
  await expect(page.getByTestId('held')).toHaveText('feet, arms: 1 cue')
  await page.keyboard.press('Escape')
  await page.mouse.click(a.x + 1.2 * count, a.y + 50)
  await row(page, first)
    .getByTestId('cue')
    .last()
    .click({ modifiers: ['Shift'] })
  await expect(page.getByTestId('held')).toHaveText('feet: 2 cues')
})

test('the mirrored view flips what is shown, on every station, and nothing that is stored', async ({
  page,
}) => {
  await openDemo(page)
  const first = cues(page)
    .filter({ hasText: /^step L$/ })
    .first()
  await expect(first).toBeVisible()
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('v')
  await expect(page.getByRole('button', { name: 'Mirrored' })).toBeVisible()
  await expect(cues(page).first()).toHaveText('step R')
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
  await goTo(page, 'Floor')
  await expect(page.getByText(/walk L, walk R|step L/).first()).toBeVisible()
  await page.keyboard.press('Escape')
  await page.waitForURL('**/cue')
  await page.keyboard.press('v')
  await expect(cues(page).first()).toHaveText('step L')
})

test('moves are offered, added and changed; a change goes to where the move is used', async ({ page }) => {
  const first = await ownSheet(page, 'Own moves')
  await page.keyboard.press('l')
  await page.keyboard.type('1 grape')
  await expect(page.getByRole('status').filter({ hasText: 'grapevine' })).toBeVisible()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.type(' R; 5 kettle step R')
  await page.keyboard.press('Enter')
  await expect(row(page, first).getByTestId('cue')).toHaveText(['grapevine R', 'kettle step R'])
  await tab(page, 'Moves')
  await page.getByRole('textbox', { name: 'Find or add' }).fill('kettle step')
  await page.getByRole('button', { name: 'Add “kettle step”' }).click()
  const form = page.getByRole('region', { name: 'The move kettle step' })
  await choose(page, /^Step|choose … Step|– Step/, 'ball-change')
  await form.getByRole('textbox', { name: 'Called as' }).fill('kettle')
  await page.keyboard.press('Enter')
  await form.getByRole('button', { name: 'Bring 1 cue up to date' }).click()
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('5')
  await tab(page, 'Cue')
  await expect(page.getByRole('textbox', { name: 'Called as' })).toHaveValue('kettle')
  // The list is kept for other routines.
  await page.reload()
  await tab(page, 'Moves')
  await page.getByRole('textbox', { name: 'Find or add' }).fill('kettle')
  await expect(page.getByRole('list', { name: 'Moves' }).getByRole('button')).toHaveText(/kettle step/)
  await page.getByRole('list', { name: 'Moves' }).getByRole('button').click()
  await page.getByRole('button', { name: 'Take it off the list' }).click()
  await expect(page.getByRole('list', { name: 'Moves' }).getByRole('button')).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo in the list' }).click()
  await expect(page.getByRole('list', { name: 'Moves' }).getByRole('button')).toHaveCount(1)
})

test('a move that two windows change, each otherwise, is asked about; what is not chosen comes back by undo', async ({
  page,
}) => {
  const other = await page.context().newPage()
  for (const p of [other, page]) {
    await openDemo(p)
    await tab(p, 'Moves')
    await p.getByRole('textbox', { name: 'Find or add' }).fill('grapevine')
    await p.getByRole('list', { name: 'Moves' }).getByRole('button').first().click()
  }
  const called = (p: Page) => p.getByRole('textbox', { name: 'Called as' })
  const saved = (p: Page) => expect(p.getByTestId('saving')).toHaveText('Saved')
  await called(page).fill('vine one')
  await page.keyboard.press('Enter')
  await saved(page)
  await other.bringToFront()
  await called(other).fill('vine two')
  await other.keyboard.press('Enter')
  await expect(other.getByText('“grapevine” was changed elsewhere too')).toBeVisible()
  await other.getByRole('button', { name: 'As it is there' }).press('Enter')
  await expect(called(other)).toHaveValue('vine one')
  await other.getByRole('button', { name: 'Undo in the list' }).press('Enter')
  await expect(called(other)).toHaveValue('vine two')
  // The field, left, does not write what it showed before.
  await called(other).focus()
  await other.keyboard.press('Tab')
  await saved(other)
  await page.bringToFront()
  await called(page).fill('vine three')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'As I have it' }).press('Enter')
  await expect(page.getByRole('button', { name: 'As I have it' })).toBeHidden()
  await saved(page)
  await other.close()
  await page.getByRole('button', { name: 'Undo in the list' }).press('Enter')
  await expect(called(page)).not.toHaveValue('vine three')
  await saved(page)
})

test('details, roles and options are set, and shown one at a time', async ({ page }) => {
  const first = await ownSheet(page, 'Roles and options')
  await page.keyboard.press('l')
  await page.keyboard.type('1 jump; 1 step R #easier; 3 clap @rows; 4 wait @front; 5 freely #open')
  await page.keyboard.press('Enter')
  const list = row(page, first).getByTestId('cue')
  // Everybody means everybody, each marked with who; what is free is free in every version.
  await expect(list).toHaveText(['jump', 'rows: clap', 'front: wait', 'open: freely'])
  await choose(page, /^base Version shown/, 'easier')
  await expect(list).toHaveText(['easier: step R', 'rows: clap', 'front: wait', 'open: freely'])
  await choose(page, /^everybody Show for/, 'rows')
  await expect(list).toHaveText(['easier: step R', 'rows: clap', 'open: freely'])
  await page.keyboard.press('1')
  // What is said with a cue is in reach as soon as it is chosen; nothing of it is cut off.
  const tip = page.getByRole('textbox', { name: 'Tip' })
  await tip.fill('soft '.repeat(201))
  await expect(page.getByText('5 letters more than the 1000 there is room for')).toBeVisible()
  await tip.fill('small and soft '.repeat(40))
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'Usual mistake' }).fill('too big')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'More about this cue' }).click()
  await choose(page, /Arrives facing/, 'back')
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await tab(page, 'Checks')
  await expect(page.getByTestId('finding').filter({ hasText: 'facing back' })).toBeVisible()
})

test('words are found and replaced in one step; a routine is copied', async ({ page }) => {
  await ownSheet(page, 'Found words')
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 3 step back L')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Control+f')
  await expect(page.getByRole('textbox', { name: 'Find in moves' })).toBeFocused()
  await page.keyboard.type('stop')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.keyboard.press('Control+f')
  await page.getByRole('textbox', { name: 'Find in moves' }).fill('step')
  await page.getByRole('textbox', { name: 'Put instead' }).fill('walk')
  await expect(page.getByRole('dialog').getByRole('status')).toContainText('2 cues would change')
  await page.keyboard.press('Enter')
  await expect(cues(page)).toHaveText(['walk R', 'walk back L'])
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await page.goto('/')
  const entry = page.getByRole('listitem').filter({ hasText: 'Found words' })
  await entry.getByRole('button', { name: /^Copy/ }).click()
  await expect(page.getByRole('link', { name: 'Found words (copy)' })).toBeVisible()
})

test('the moves are called on the beat once their words are ready', async ({ page }) => {
  await ownSheet(page, 'Called moves')
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 3 clap')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'What sounds' }).click()
  await choose(page, /numbers/, 'the moves')
  const asked = page.waitForResponse((r) => r.url().includes('/api/voice?say=step'))
  await page.keyboard.press('Escape')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Space')
  expect((await asked).headers()['x-stress-ms']).toMatch(/^\d+$/)
  await page.keyboard.press('Space')
})

test('a speed that is changed while it plays is heard at once, from the same place of the song', async ({
  page,
}) => {
  const parts = await partsPlayed(page)
  await openDemo(page)
  await page.keyboard.press('Space')
  await expect.poll(async () => (await parts()).length).toBe(1)
  const keys = ['-', '-', '-', '=', '-', '-', '=', '=', '=', '-']
  for (const [i, key] of keys.entries()) {
    await page.keyboard.press(key)
    await expect.poll(async () => (await parts()).length).toBe(i + 2)
  }
  const all = await parts()
  expect(all.map((p) => Math.round(p.speed * 100))).toEqual([100, 95, 90, 85, 90, 85, 80, 85, 90, 95, 90])
  for (const [i, part] of all.entries()) {
    const before = all[i - 1]
    if (!before) continue
    const seconds = (part.at - before.at) / 44_100
    expect(Math.abs(part.from - before.from - seconds * before.speed)).toBeLessThan(1e-4)
  }
  await page.keyboard.press('Space')
})
