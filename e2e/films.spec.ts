import { readFileSync } from 'node:fs'
import path from 'node:path'
import { expect, type Page } from '@playwright/test'
import { readWav, toMono, writeWav } from '../src/core/formats/wav'
import { filmed } from '../src/core/match/film.test-tools'
import { FRAMES, makeFilm, shownFrame } from './films'
import { test } from './test'
import { openDemo } from './ways'

const BEAT = 60 / 108
/** The film of these tests: some talk, then the song from its 27th second on, at full tempo, counted over. */
const [TALK, FROM, TO] = [4, 27, 45]

let film: Buffer | null = null
const onCue = (page: Page) => page.getByTestId('sheet')
const part = (page: Page) => page.getByRole('region', { name: 'Film', exact: true })

test.beforeEach(async ({ page, server }) => {
  await openDemo(page)
  if (film) return
  const song = readWav(readFileSync(path.join(server.data, 'demo/Marmalade Weather.wav')))
  const known = { rate: song.sampleRate, samples: toMono(song) }
  const { sound } = filmed(known, [{ talk: TALK }, { from: FROM, to: TO, speed: 1 }], {
    louder: -3,
    beat: BEAT,
    seed: 5,
  })
  film = await makeFilm(page, { sound: writeWav({ sampleRate: sound.rate, channels: [sound.samples] }) })
})

/** Opens the film part and drops the film into it; waits for its take. */
async function dropFilm(page: Page, name = 'Studio.webm') {
  await page.keyboard.press('Shift+F')
  await part(page)
    .locator('input[type=file]')
    .setInputFiles({ name, mimeType: 'video/webm', buffer: film as Buffer })
  await expect(part(page).getByText('one take', { exact: true })).toBeVisible({ timeout: 120_000 })
}

/** Waits until the film shows a moment of the song, as the film was made. */
const showsSong = (page: Page, song: number, within = 0.08) =>
  expect
    .poll(async () => {
      const frame = await shownFrame(page)
      return frame === null ? null : Math.abs(frame / FRAMES - (TALK + song - FROM)) <= within
    })
    .toBe(true)

test('a film dropped on Cue is found in the song, and shows the count of the cursor', async ({
  page,
  server,
}) => {
  await dropFilm(page)
  // The demo's dance begins on the 8 before the chorus, at 35.56 s.
  const eight = 35.556
  await showsSong(page, eight)
  await onCue(page).focus()
  for (let i = 1; i <= 3; i++) {
    await page.keyboard.press('ArrowRight')
    await showsSong(page, eight + i * BEAT)
  }
  // It says so, and stills of the counts stand over the lanes.
  await expect(page.getByTestId('film-at')).toContainText('100 %')
  await page.getByRole('button', { name: 'A still a count' }).click()
  await expect(page.getByRole('img', { name: 'Count 4 in the film' }).first()).toBeVisible()
  await expect(page.getByTestId('take')).toHaveCount(1)
  // Kept: after loading anew it is there, and so is what was found.
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await page.reload()
  await part(page)
    .getByRole('button', { name: /Which film/ })
    .click()
  await page.getByRole('option', { name: 'Studio' }).click()
  await expect(part(page).getByText('one take', { exact: true })).toBeVisible()
  const routine = page.url().match(/\/r\/([^/]+)/)?.[1]
  const { routine: kept } = await (await page.request.get(`${server.url}/api/routines/${routine}`)).json()
  const [take] = kept.films.find((f: { name: string }) => f.name === 'Studio').takes
  expect(Math.abs(take.at - take.from - (FROM - TALK))).toBeLessThan(0.03)
  expect(take.rate).toBeCloseTo(1, 2)
})

test('a film goes along with what plays, and a take is moved, taken out, placed by hand and brought back', async ({
  page,
}) => {
  await dropFilm(page)
  await onCue(page).focus()
  // Again and again: however busy the machine is, it plays long enough to be looked at.
  await page.keyboard.press('o')
  await page.keyboard.press('Space')
  // While it plays the picture goes on, in the film's own place of the song.
  const frames: number[] = []
  await expect
    .poll(async () => {
      const n = await shownFrame(page)
      if (n !== null && n !== frames.at(-1)) frames.push(n)
      return new Set(frames).size
    })
    .toBeGreaterThan(5)
  await page.keyboard.press('Space')
  expect(frames.every((n) => n >= (TALK + 30 - FROM) * FRAMES && n < (TALK + TO - FROM) * FRAMES)).toBe(true)
  await part(page).getByRole('button', { name: 'One take' }).click()
  await page.getByRole('button', { name: /^Take it out/ }).click()
  await expect(page.getByText('The film does not show this count.')).toBeVisible()
  // Two pictures whose counts are known make a take: here by keys alone.
  await page.getByRole('button', { name: 'Place by hand' }).click()
  const line = page.getByRole('slider', { name: /Pictures of the film/ })
  await line.focus()
  for (let i = 0; i < 12; i++) await page.keyboard.press('Shift+ArrowRight')
  await expect(page.getByTestId('film-at')).toContainText('0:12.0')
  await page.getByRole('button', { name: /^This picture is/ }).click()
  await onCue(page).focus()
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight')
  await line.focus()
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('Shift+ArrowRight')
  await page.getByRole('button', { name: /^This picture is/ }).click()
  await part(page).getByRole('button', { name: 'One take' }).click()
  await expect(part(page).getByText('placed by hand')).toBeVisible()
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await part(page).getByRole('button', { name: 'One take' }).click()
  await expect(part(page).getByText('found by its sound')).toBeVisible()
})

test('two films are held against each other; a note stands with its picture', async ({ page }) => {
  await dropFilm(page, 'Model.webm')
  await part(page)
    .locator('input[type=file]')
    .setInputFiles({ name: 'Ilka.webm', mimeType: 'video/webm', buffer: film as Buffer })
  await expect(part(page).getByRole('button', { name: /Ilka/ })).toBeVisible()
  await expect(part(page).getByText('one take', { exact: true })).toBeVisible({ timeout: 120_000 })
  await page.getByRole('button', { name: 'Compare' }).click()
  const room = page.getByRole('region', { name: 'Comparing two films' })
  await expect(room.getByTestId('film')).toHaveCount(2)
  await room.getByRole('button', { name: /The other film/ }).click()
  await page.getByRole('option', { name: 'Model' }).click()
  await room.getByRole('button', { name: 'Count 3' }).click()
  await expect.poll(() => shownFrame(page, 0)).toBeGreaterThan(0)
  for (const which of [1, 2])
    await expect
      .poll(async () => (await shownFrame(page, which)) ?? Number.NaN)
      .toBe((await shownFrame(page, 0)) ?? Number.NaN)
  await room.getByLabel(/What to say of/).fill('close on the 3')
  await page.keyboard.press('Enter')
  await expect(room.getByText('close on the 3')).toBeVisible()
  await expect(room.getByRole('button', { name: 'Count 3, with a note' })).toBeVisible()
  await room.getByRole('radio', { name: 'Wipe' }).click()
  await expect(room.getByRole('slider', { name: 'How much of the other film is seen' })).toBeVisible()
  await room.getByRole('button', { name: 'Back to the sheet' }).click()
  await expect(room).toBeHidden()
})

test('what is no film is refused in words, before it is sent', async ({ page }) => {
  await page.keyboard.press('Shift+F')
  const drop = (name: string, buffer: Buffer) =>
    part(page).locator('input[type=file]').setInputFiles({ name, mimeType: 'video/mp4', buffer })
  await drop('letter.mp4', Buffer.from('a letter to a friend, and no film'))
  await expect(part(page).getByRole('alert')).toContainText('is no film Azalea can read. Nothing was sent.')
  await part(page)
    .getByRole('button', { name: /Put away/ })
    .click()
  await drop('half.mp4', (film as Buffer).subarray(0, 400))
  await expect(part(page).getByRole('alert')).toContainText('Nothing was sent')
})

test('on the floor a film stands beside the counts', async ({ page }) => {
  await dropFilm(page)
  await page.getByRole('link', { name: /^Floor/ }).click()
  await page.getByRole('radio', { name: 'Film' }).click()
  await page.keyboard.press('Space')
  await expect(page.getByTestId('beside').getByText('Studio, from the front')).toBeVisible()
  // It dances: pictures of the take, one after another.
  const seen = new Set<number>()
  await expect
    .poll(async () => {
      const n = await shownFrame(page)
      // What it begins with before it was put anywhere is none of them.
      if (n !== null && n >= TALK * FRAMES) seen.add(n)
      return seen.size
    })
    .toBeGreaterThan(5)
  expect([...seen].every((n) => n < (TALK + TO - FROM) * FRAMES)).toBe(true)
  await page.keyboard.press('Space')
})

test('the demo has a film of its dance: its times stand in the description, its pictures in a practice film', async ({
  page,
}) => {
  await page.getByRole('link', { name: 'Hand out' }).click()
  await page.getByText('A film’s description').click()
  await page.getByRole('button', { name: /Times of/ }).click()
  await page.getByRole('option', { name: 'Hall, Thursday' }).click()
  await expect(page.getByTestId('paste')).toContainText(/0:00 Beginning\n0:0\d Chorus, .*75 %\n0:1\d Chorus/)
  await page.getByRole('button', { name: 'Captions and lyric' }).click()
  await page.getByRole('button', { name: /Times of/ }).click()
  await page.getByRole('option', { name: 'Hall, Thursday' }).click()
  await expect(page.getByTestId('captions')).toContainText('00:00:03')
  // The dance's first count at half of its size, in a file this very browser plays.
  await page.getByText('Learners').click()
  await page.getByRole('button', { name: 'Practice film' }).click()
  await page.getByRole('radio', { name: '1', exact: true }).click()
  await page.getByRole('button', { name: /How large/ }).click()
  await page.getByRole('option', { name: '640 × 360' }).click()
  await page.getByRole('textbox', { name: 'Which counts' }).fill('Chorus, eight 1, 1 to 4')
  await page.keyboard.press('Enter')
  const coming = page.waitForEvent('download', { timeout: 200_000 })
  await page.getByRole('button', { name: 'Make the film' }).click()
  const made = readFileSync(await (await coming).path())
  await expect(page.getByText(/^Saved: /)).toBeVisible()
  const played = await page.evaluate(async (base64) => {
    const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))
    const video = document.createElement('video')
    video.src = URL.createObjectURL(new Blob([bytes], { type: 'video/mp4' }))
    await new Promise((there, wrong) => {
      video.onloadeddata = there
      video.onerror = wrong
    })
    return { seconds: video.duration, wide: video.videoWidth, high: video.videoHeight }
  }, made.toString('base64'))
  expect(played).toMatchObject({ wide: 640, high: 360 })
  expect(played.seconds).toBeGreaterThan(5)
})

test('what the floor’s camera saw is kept with the dance where that is wished', async ({ page, server }) => {
  // Where a page of the floor is loaded by itself, it may ask for the camera at once.
  await page.goto(page.url().replace(/\/cue.*/, '/floor'))
  await page.getByRole('radio', { name: 'Camera' }).click()
  await page.keyboard.press('Space')
  // One repetition to its end, and into the next.
  await expect(page.getByTestId('repetition')).toContainText('repetition 2', { timeout: 60_000 })
  await page.keyboard.press('Space')
  await page.getByRole('button', { name: 'Keep it with the dance' }).click()
  await expect(page.getByText('Kept with the dance.')).toBeVisible()
  const routine = page.url().match(/\/r\/([^/]+)/)?.[1]
  const seen = async () => {
    const { routine: kept } = await (await page.request.get(`${server.url}/api/routines/${routine}`)).json()
    return kept.films.find((f: { name: string }) => f.name.startsWith('Marmalade Weather'))
  }
  await expect.poll(async () => (await seen())?.takes.length).toBe(1)
  const [take] = (await seen()).takes
  // It begins with the dance, at the speed of the drill.
  expect(take.rate).toBe(0.75)
  expect(take.at).toBeGreaterThan(35)
  expect(take.at).toBeLessThan(38)
  // As a standing wish of this device, asked for once: the next drill's is kept by itself.
  await page.getByRole('radio', { name: 'Is kept with the dance' }).click()
  await page.getByRole('button', { name: 'Keep it', exact: true }).click()
  await expect(page.getByRole('radio', { name: 'Is kept with the dance' })).toBeChecked()
  await page.getByText('The last repetition of a drill').click()
  await page.keyboard.press('Space')
  await expect(page.getByTestId('repetition')).toContainText('repetition 2', { timeout: 60_000 })
  await page.keyboard.press('Space')
  await expect(page.getByText('Kept with the dance.')).toBeVisible()
  await expect
    .poll(async () => {
      const { routine: kept } = await (await page.request.get(`${server.url}/api/routines/${routine}`)).json()
      return kept.films.filter((f: { name: string }) => f.name.startsWith('Marmalade Weather')).length
    })
    .toBe(2)
})

test('hits are pressed while the film plays, and named one by one', async ({ page }) => {
  await page.keyboard.press('Shift+F')
  await expect(page.getByTestId('film')).toBeVisible()
  const sheet = page.getByTestId('sheet')
  await sheet.focus()
  // A layer of its own, where nothing is danced yet.
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowDown')
  await page.getByRole('button', { name: 'Press on each hit' }).first().click()
  const hits = page.getByTestId('hits')
  await expect(hits).toHaveAttribute('data-playing', 'true')
  for (const n of [1, 2, 3])
    await expect(async () => {
      await page.keyboard.press('Space')
      await expect(hits).toContainText(`${n} pressed`, { timeout: 100 })
    }).toPass()
  await page.keyboard.press('Backspace')
  await expect(hits).toContainText('2 pressed')
  await page.keyboard.press('Escape')
  const naming = page.getByTestId('name-hits')
  await expect(naming).toContainText('2 hits have no name yet')
  await page.keyboard.type('lamp up R')
  await page.keyboard.press('Enter')
  await expect(naming).toContainText('1 hit has no name yet')
  await expect(page.getByRole('main').getByText('lamp up').first()).toBeVisible()
  // The other keeps its place without one; both are undone in two steps, the hits at once.
  await page.keyboard.press('Escape')
  await expect(naming.getByRole('button', { name: 'Name them one by one' })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(naming).toContainText('2 hits have no name yet')
  await page.keyboard.press('Control+z')
  await expect(naming).toBeHidden()
})

test('a step’s first count is seen in the film on Teach', async ({ page }) => {
  await page.goto(page.url().replace(/\/cue.*/, '/teach'))
  await page.getByTestId('step').nth(2).click()
  await page.keyboard.press('Shift+F')
  await expect(page.getByRole('region', { name: 'Film of this step' }).getByTestId('film')).toBeVisible()
  await expect.poll(() => shownFrame(page)).not.toBeNull()
  await page.getByRole('button', { name: 'Play these counts' }).click()
  await page.getByRole('button', { name: 'Stop', exact: true }).first().click()
})

test('an upload that is cut goes on where it was when the server is there again', async ({
  page,
  server,
}) => {
  await page.keyboard.press('Shift+F')
  let pieces = 0
  await page.route('**/api/films/incoming/**', async (route) => {
    // The first piece is cut in its middle.
    if (route.request().method() === 'PATCH' && ++pieces === 1) return route.abort('connectionreset')
    return route.continue()
  })
  await part(page)
    .locator('input[type=file]')
    .setInputFiles({ name: 'Cut.webm', mimeType: 'video/webm', buffer: film as Buffer })
  await expect(part(page).getByText('one take', { exact: true })).toBeVisible({ timeout: 120_000 })
  expect(pieces).toBeGreaterThan(1)
  const left = await page.request.get(`${server.url}/api/films/nothing-here`)
  expect(left.status()).toBe(404)
})
