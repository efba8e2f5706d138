import type { Page } from '@playwright/test'
import { demoTruth } from '../demo/song'
import { writeWav } from '../src/core/formats/wav'
import { demoSong } from './heard-songs'
import { drumLoop, drumsAt, fineTrack, hourOfSilence, loopTrack, silence } from './sounds'
import { tapAlong } from './tap'
import { expect, test } from './test'
import { goTo, heldBack, writeFirstEight } from './ways'

const choose = async (page: Page, file: string | { name: string; mimeType: string; buffer: Buffer }) => {
  await page.goto('/')
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Choose a file' }).click()
  await (await chooser).setFiles(file)
}
const wav = (name: string, buffer: Buffer) => ({ name, mimeType: 'audio/wav', buffer })
const routines = async (page: Page) => {
  await page.goto('/')
  return page.getByRole('listitem').count()
}

for (const kind of ['mp3', 'flac', 'ogg', 'opus']) {
  test(`a ${kind} file with tags is taken in, heard and laid out`, async ({ page }) => {
    await choose(page, `e2e/fixtures/short.${kind}`)
    await expect(page).toHaveURL(/\/count$/)
    await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 30_000 })
    await expect(page.getByRole('banner')).toContainText('Short Crossing')
    await expect(page.getByRole('banner')).toContainText('The Nobody Quartet · 100 BPM')
  })
}

test('an M4A file is taken in; where this browser has no decoder for it, it says so', async ({ page }) => {
  await choose(page, 'e2e/fixtures/short.m4a')
  await expect(page.getByText(/BPM, steady|cannot read the sound/)).toBeVisible({ timeout: 30_000 })
})

test('two songs cut together are each counted at their own tempo', async ({ page }) => {
  const at = (bpm: number, from: number, many: number) =>
    Array.from({ length: many }, (_, k) => from + (k * 60) / bpm)
  const seam = 0.4 + (48 * 60) / 96
  const mix = new Float32Array(Math.round((seam + 26) * 44_100))
  mix.set(drumsAt(at(96, 0.4, 48), seam).subarray(0, Math.round(seam * 44_100)))
  mix.set(drumLoop(140, 26, 0), Math.round(seam * 44_100))
  // The second sounds otherwise: over its drums a chord is held.
  for (let i = Math.round(seam * 44_100); i < mix.length; i++)
    for (const hz of [220, 277, 659, 1760, 3520])
      mix[i] = (mix[i] ?? 0) + 0.06 * Math.sin((2 * Math.PI * hz * i) / 44_100)
  await choose(page, wav('Two songs.wav', Buffer.from(writeWav({ sampleRate: 44_100, channels: [mix] }))))
  await expect(page.getByText('96 → 140')).toBeVisible({ timeout: 30_000 })
  await expect(page.getByText('BPM, changing at 0:30.')).toBeVisible()
  await expect(page.getByRole('banner')).toContainText('96–140 BPM')
  // How fast it is said to be is how fast it is there.
  const dock = page.getByLabel('Playing')
  await expect(dock).toContainText('100 % · 96 BPM')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('End')
  await expect(dock).toContainText('100 % · 140 BPM')
  // What was heard at the wrong one of two tempi is put right by itself.
  await page.keyboard.press('Shift+H')
  await expect(page.getByText('96 → 70')).toBeVisible()
  await expect(page.getByText('Of the song at the cursor, 0:30 to 0:56:')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByText('96 → 140')).toBeVisible()
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await page.goto('/')
  await expect(page.getByText('96–140 BPM')).toBeVisible()
})

test('the heard grid is stored: the song is not heard again on the next visit', async ({ page }) => {
  await choose(page, wav('Stored once.wav', loopTrack(120, 30)))
  await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 30_000 })
  const workers: string[] = []
  page.on('worker', (w) => workers.push(w.url()))
  await page.reload()
  await expect(page.getByText('BPM, steady')).toBeVisible()
  await expect(page.locator('footer')).not.toContainText('sound')
  expect(workers).toEqual([])
})

test('the same bytes under another name are kept once; a second routine may be begun', async ({ page }) => {
  const sound = loopTrack(96, 24)
  await choose(page, wav('First name.wav', sound))
  await expect(page).toHaveURL(/\/count$/)
  const first = page.url()
  await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 30_000 })
  await choose(page, wav('Other name.wav', sound))
  await expect(page.getByRole('alertdialog')).toContainText('“First name”')
  await page.getByRole('button', { name: 'Begin another routine' }).click()
  await expect(page).toHaveURL(/\/count$/)
  expect(page.url()).not.toBe(first)
  // Heard already: the page is laid out from what is stored.
  await expect(page.getByText('BPM, steady')).toBeVisible()
})

test('two hear one song: who is later stands on what was heard first, and on what was written on it', async ({
  page,
  browser,
}) => {
  await choose(page, wav('Heard by two.wav', loopTrack(112, 30)))
  await page.waitForURL('**/count')
  const later = await (await browser.newContext()).newPage()
  const goOn = await heldBack(later, 'GET', '**/api/songs/*/hearing')
  const asks = later.waitForRequest('**/api/songs/*/hearing')
  await later.goto(page.url())
  await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 30_000 })
  await goTo(page, 'Cue')
  await writeFirstEight(page, '1 step R; 3 touch L')
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await asks
  const saves: string[] = []
  later.on('request', (r) => r.method() === 'PUT' && saves.push(r.url()))
  goOn()
  await expect(later.getByText('BPM, steady')).toBeVisible()
  await goTo(later, 'Cue')
  await expect(later.getByTestId('cue')).toHaveText(['step R', 'touch L'])
  expect(saves).toEqual([])
  await writeFirstEight(later, '1 step R; 3 touch L; 7 clap')
  await expect(later.getByTestId('saving')).toHaveText('Saved')
  await page.reload()
  await expect(page.getByTestId('cue')).toHaveText(['step R', 'touch L', 'clap'])
  await later.context().close()
})

test('a file dropped beside the place for it is taken in', async ({ page }) => {
  await page.goto('/')
  const heading = page.getByRole('heading', { name: 'Azalea', exact: true })
  await expect(heading).toBeVisible()
  const dropped = await page.evaluateHandle((text) => {
    const data = new DataTransfer()
    const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0))
    data.items.add(new File([bytes], 'Beside.wav', { type: 'audio/wav' }))
    return data
  }, loopTrack(120, 8).toString('base64'))
  await heading.dispatchEvent('dragover', { dataTransfer: dropped })
  await heading.dispatchEvent('drop', { dataTransfer: dropped })
  await expect(page).toHaveURL(/\/count$/, { timeout: 20_000 })
  await expect(page).toHaveTitle(/^Beside/)
})

test('a 96 kHz 24-bit file and a mono file work', async ({ page }) => {
  await choose(page, wav('Fine.wav', fineTrack(100, 20)))
  await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 30_000 })
  await expect(page.getByRole('banner')).toContainText('100 BPM')
})

const refused: [string, () => Buffer, RegExp][] = [
  ['an empty file', () => Buffer.alloc(0), /is empty\. Nothing was kept/],
  [
    'a text file named .mp3',
    () => Buffer.from('These are the words of a song, not the sound of it.\n'.repeat(400)),
    /not a sound file/,
  ],
  [
    'a WAV header with nothing behind it',
    () => loopTrack(100, 5).subarray(0, 44),
    /not a sound file|holds no sound/,
  ],
  ['an hour of silence', hourOfSilence, /60 minutes long|not a sound file/],
]
for (const [what, bytes, says] of refused) {
  test(`${what} is refused in words, and nothing else is touched`, async ({ page }) => {
    const before = await routines(page)
    await choose(page, { name: 'Bad.mp3', mimeType: 'audio/mpeg', buffer: bytes() })
    await expect(page.getByRole('main').getByRole('alert')).toContainText(says)
    expect(await routines(page)).toBe(before)
  })
}

test('a file over the limit is refused, whether it states its size or not', async ({ request }) => {
  const headers = { 'x-file-name': 'Huge.wav' }
  const stated = await request.put('/api/songs', { headers, data: Buffer.alloc(300 * 1024 * 1024) })
  expect(stated.status()).toBe(413)
  expect((await stated.json()).error.message).toContain('over the limit of 200 MB')
})

test('a WAV cut short works as far as it goes', async ({ page }) => {
  await choose(page, wav('Cut.wav', loopTrack(110, 30).subarray(0, 2_000_001)))
  await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 30_000 })
})

for (const [what, bytes] of [
  ['three seconds', () => loopTrack(100, 3)],
  ['a file without any beat', () => silence(20)],
] as const) {
  test(`${what}: says that no beat was found, keeps the song, and can be removed`, async ({ page }) => {
    const before = await routines(page)
    await choose(page, wav(`No beat ${what}.wav`, bytes()))
    await expect(page.getByRole('main').getByRole('alert')).toContainText('No steady beat was found', {
      timeout: 30_000,
    })
    await page.getByRole('button', { name: 'Remove this song' }).click()
    await page.getByRole('button', { name: 'Put it into the bin' }).click()
    await expect(page).toHaveURL('/')
    await expect.poll(() => routines(page)).toBe(before)
  })
}

test('an upload can be cancelled and leaves nothing', async ({ page }) => {
  const before = await routines(page)
  await page.route('**/api/songs', () => {})
  await choose(page, wav('Cancelled.wav', loopTrack(100, 30)))
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByRole('button', { name: 'Choose a file' })).toBeVisible()
  await page.unroute('**/api/songs')
  expect(await routines(page)).toBe(before)
})

test('hearing can be stopped and begun again', async ({ page }) => {
  await page.route('**/audio?**', async (route) => {
    await stopped
    await route.continue()
  })
  let go = () => {}
  const stopped = new Promise<void>((done) => {
    go = done
  })
  await choose(page, wav('Stopped.wav', loopTrack(104, 40)))
  await page.getByRole('button', { name: 'Stop listening' }).click()
  await expect(page.getByRole('main').getByRole('alert')).toBeVisible()
  go()
  await page.getByRole('button', { name: 'Listen again' }).click()
  await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 30_000 })
})

test('a song whose beats are known is heard through the real upload as it was made', async ({
  page,
  request,
}) => {
  const LEAD = 1.3
  const { sampleRate, channels } = demoSong()
  const later = (x: Float32Array) => {
    const out = new Float32Array(x.length + LEAD * sampleRate)
    out.set(x, LEAD * sampleRate)
    return out
  }
  const bytes = Buffer.from(writeWav({ sampleRate, channels: channels.map(later) }))
  await choose(page, wav('Known beats.wav', bytes))
  await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 60_000 })
  const id = new URL(page.url()).pathname.split('/')[2]
  const stored = async () => (await request.get(`/api/routines/${id}`)).json()
  const { heard } = await stored()
  const beats: number[] = heard.hearing.beats
  const truth = demoTruth()
  for (const t of truth.beats)
    expect(Math.min(...beats.map((b) => Math.abs(b - t - LEAD)))).toBeLessThan(0.012)
  const starts: number[] = heard.hearing.phrases.map((k: number) => beats[k])
  const found = truth.phrases.filter((p) =>
    starts.some((s) => Math.abs(s - LEAD - (truth.beats[p.beat] as number)) < 0.05),
  )
  expect(found.length / truth.phrases.length).toBeGreaterThan(0.9)
  // What the stretches are is a guess until it is taken over.
  const ribbon = page.getByTestId('ribbon')
  await expect(page.getByText('Sections, a guess')).toBeVisible()
  await expect(ribbon.getByText('Chorus')).toHaveCount(0)
  await page.getByRole('button', { name: 'Take over all' }).press('Enter')
  await expect(ribbon.getByText('Chorus').first()).toBeVisible()
  await expect(page.getByText('Sections, a guess')).toHaveCount(0)
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Control+z')
  await expect(ribbon.getByText('Chorus')).toHaveCount(0)
  // One guess alone.
  await page.getByRole('button', { name: /^Take: . is chorus/ }).press('Enter')
  await expect(ribbon.getByText('Chorus').first()).toBeVisible()
  await expect(ribbon.getByText('Verse')).toHaveCount(0)
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Control+z')
  // The spare 4 is on the page too, which is saved a moment after it is shown.
  await expect
    .poll(
      async () => (await stored()).routine.phrases.filter((p: { length: number }) => p.length === 4).length,
    )
    .toBe(1)
})

test('a song without a beat is counted by tapping it', async ({ page }) => {
  await choose(page, wav('Tapped from nothing.wav', silence(40)))
  await page.getByRole('button', { name: 'Tap the beat' }).click({ timeout: 30_000 })
  await expect(page.getByRole('heading', { name: 'Tap along' })).toBeVisible()
  const tapped = page.getByTestId('tapped')
  await expect(page.getByRole('button', { name: 'Take it' })).toBeDisabled()
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible()
  await tapAlong(page, 0.5, 16)
  await expect(tapped).toContainText(/(119|120|121)\.\d BPM, steady/)
  await page.keyboard.press('t')
  await expect(page.getByTestId('sheet')).toBeVisible()
  await expect(page.getByRole('banner')).toContainText('120 BPM')
  // Reloaded before that, the window would have asked.
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await page.reload()
  await expect(page.getByRole('banner')).toContainText('120 BPM')
})

test('a song heard by an older version is heard again on request; what was set by hand stays', async ({
  page,
  request,
}) => {
  const sound = drumLoop(112, 40, 0.6)
  const file = Buffer.from(writeWav({ sampleRate: 44_100, channels: [sound] }))
  const put = await request.put('/api/songs', { headers: { 'x-file-name': 'Older.wav' }, data: file })
  const { songId, routines: made } = await put.json()
  const beats = Array.from({ length: 70 }, (_, k) => 0.62 + (k * 60) / 112.3)
  const old = {
    version: 2,
    duration: 40,
    tempo: 112.3,
    steady: true,
    beats,
    phrases: [0, 8, 16, 24, 32, 40, 48, 56, 64],
    sections: [{ beat: 0, letter: 'A' }],
    confidence: { beats: 0.5, one: 0.5 },
  }
  const peaks = Buffer.alloc(8000).toString('base64')
  await request.put(`/api/songs/${songId}/hearing`, { data: { hearing: old, peaks } })
  await page.goto(`/r/${made[0].id}/count`)
  await expect(page.getByText('112.3')).toBeVisible()
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press(']')
  await page.getByRole('button', { name: 'Hear again' }).click()
  await expect(page.getByText('112.0')).toBeVisible({ timeout: 30_000 })
  await expect(page.getByText('This phrase has 9 counts')).toBeVisible()
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Control+z')
  await expect(page.getByText('112.3')).toBeVisible()
})
