/* The practice page: made once from the demo, then opened from its file, with no network, as a learner does. */
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { registerMp3Encoder } from '@mediabunny/mp3-encoder'
import type { Browser, BrowserContextOptions, Page } from '@playwright/test'
import * as bunny from 'mediabunny'
import { demoTruth } from '../demo/song'
import { readWav, writeWav } from '../src/core/formats/wav'
import type { MarksFile, PageVoice } from '../src/core/handout'
import { placePhrases, type Routine, stretchName, type Voice } from '../src/core/routine'
import { TICKS_PER_COUNT } from '../src/core/time'
import { demoSong } from './heard-songs'
import { clapping, loopTrack } from './sounds'
import { expect, test } from './test'
import { accessibilityFaults, goTo, openDemo, partsPlayed, programsRunInWorklets, toThePage } from './ways'

test.describe.configure({ mode: 'serial' })

let file = ''

test.afterAll(() => {
  if (file) rmSync(path.dirname(file), { recursive: true, force: true })
})

/** The page in a browser of its own without a network; every request is written down. */
async function opened(browser: Browser, options: BrowserContextOptions = {}, at = file) {
  const context = await browser.newContext({ offline: true, ...options })
  const page = await context.newPage()
  const asked: string[] = []
  const troubles: string[] = []
  page.on('request', (r) => asked.push(r.url()))
  page.on('pageerror', (e) => troubles.push(e.message))
  page.on('console', (m) => m.type() === 'error' && troubles.push(m.text()))
  // What is put on the audio clock, and when.
  await page.addInitScript(() => {
    const put: { when: number; offset: number; seconds: number; peak: number; attack: number }[] = []
    Object.assign(window, { put })
    const { start } = AudioBufferSourceNode.prototype
    AudioBufferSourceNode.prototype.start = function (when = 0, offset = 0, ...rest) {
      const seconds = this.buffer?.duration ?? 0
      // Only of what is short: a song is no call.
      const samples = seconds < 5 ? (this.buffer?.getChannelData(0) ?? []) : []
      let peak = 0
      for (const x of samples) peak = Math.max(peak, Math.abs(x))
      // Where in it the sound begins that is heard.
      const attack = samples.findIndex((x) => Math.abs(x) > peak / 2) / (this.buffer?.sampleRate ?? 1)
      put.push({ when, offset, seconds, peak, attack })
      return start.call(this, when, offset, ...rest)
    }
  })
  const parts = await partsPlayed(page)
  await page.goto(pathToFileURL(at).href)
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Marmalade Weather, Thursday beginners')
  return { page, asked, troubles, context, parts }
}

const put = (page: Page) =>
  page.evaluate(
    () =>
      (
        window as unknown as {
          put: { when: number; offset: number; seconds: number; peak: number; attack: number }[]
        }
      ).put,
  )

/** Another encoding of the demo's song: MP3 of 96 kbit/s, one channel, softer, begun later. */
async function otherCopy(lead: number): Promise<Buffer> {
  registerMp3Encoder()
  const { sampleRate, channels } = demoSong()
  const [left] = channels as [Float32Array]
  const before = Math.round(lead * sampleRate)
  const samples = new Float32Array(before + left.length)
  samples.set(
    left.map((x) => x * 0.6),
    before,
  )
  const target = new bunny.BufferTarget()
  const out = new bunny.Output({ format: new bunny.Mp3OutputFormat(), target })
  const source = new bunny.AudioSampleSource({ codec: 'mp3', bitrate: 96_000 })
  out.addAudioTrack(source)
  await out.start()
  for (let i = 0; i < samples.length; i += sampleRate) {
    const sample = new bunny.AudioSample({
      ...{ data: samples.slice(i, i + sampleRate), format: 'f32', numberOfChannels: 1 },
      ...{ sampleRate, timestamp: i / sampleRate },
    })
    await source.add(sample)
    sample.close()
  }
  await out.finalize()
  return Buffer.from(target.buffer as ArrayBuffer)
}

/** How much later a sound lies in the decoded copy than it was put there, in seconds: by correlation with what it was made from. */
async function delayOf(page: Page, copy: Buffer, lead: number): Promise<number> {
  const [from, seconds] = [20, 1]
  const heard = await page.evaluate(
    async ([base64, at, length]) => {
      const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))
      const sound = await new OfflineAudioContext(1, 1, 44_100).decodeAudioData(bytes.buffer)
      return Array.from(sound.getChannelData(0).slice(at * 44_100, (at + length) * 44_100))
    },
    [copy.toString('base64'), from, seconds] as const,
  )
  const { sampleRate, channels } = demoSong()
  const [left] = channels as [Float32Array]
  const begin = Math.round((from - lead) * sampleRate)
  let [best, delay] = [Number.NEGATIVE_INFINITY, 0]
  for (let d = -2500; d <= 2500; d++) {
    let alike = 0
    for (let i = 4000; i < heard.length - 4000; i += 3)
      alike += (heard[i] as number) * (left[begin + i - d] ?? 0)
    if (alike > best) [best, delay] = [alike, d]
  }
  return delay / sampleRate
}

/** Saves the page. @returns where it lies, in a folder of its own */
async function savedPage(page: Page): Promise<string> {
  const download = page.waitForEvent('download', { timeout: 200_000 })
  await page.getByRole('button', { name: 'Save the page' }).press('Enter')
  const at = path.join(mkdtempSync(path.join(os.tmpdir(), 'azalea-page-')), 'practice.html')
  await (await download).saveAs(at)
  return at
}

test('it is made from the station, in one file below two megabytes', async ({ page }) => {
  await openDemo(page)
  await toThePage(page)
  const preview = page.frameLocator('iframe')
  await expect(preview.getByRole('heading', { level: 1 })).toHaveText('Marmalade Weather, Thursday beginners')
  file = await savedPage(page)
  await expect(page.getByText(/^Saved: \d\.\d\d MB\.$/)).toBeVisible()
  expect(statSync(file).size).toBeLessThan(2_000_000)
  const text = readFileSync(file, 'utf8')
  expect(text).not.toMatch(/(src|href)="?https?:|localhost|@import/)
})

test('it is practised by keys alone, with counts alone; what sits is kept, and goes back to the log', async ({
  browser,
  page: azalea,
}) => {
  const { page, asked, troubles, context } = await opened(browser)
  expect(await programsRunInWorklets(page)).toBe(true)
  expect(await accessibilityFaults(page)).toEqual([])
  const chorus = page.getByRole('region', { name: 'Chorus, eight 1' })
  const count = (n: number) => chorus.getByRole('button', { name: new RegExp(`^${n} `) })
  await count(1).focus()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await expect(count(3)).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('chosen')).toContainText('now the last count')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('chosen')).toHaveText('Chorus, eight 1, 3 to 4')
  await page.keyboard.press('-')
  await expect(page.locator('output')).toHaveText('70 %')
  await page.keyboard.press('p')
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible()
  await expect(chorus.locator('.now')).toHaveText(/^3/)
  await expect(page.getByTestId('words')).toContainText('step L')
  await page.keyboard.press('m')
  await expect(page.getByTestId('words')).toContainText('step R')
  await page.keyboard.press('p')
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible()
  // Clicks lie on the grid: counted in with eight, two counts, at 70 % of 108.
  const everyClick = (await put(page)).filter((s) => s.seconds < 0.075)
  const clicks = everyClick.slice(0, 10)
  for (const [i, c] of clicks.entries())
    expect(Math.abs(c.when - (clicks[0]?.when ?? 0) - (i * 60) / 108 / 0.7)).toBeLessThan(0.003)
  expect(clicks).toHaveLength(10)
  // Calls are spoken, each with its stress on a click, and what is cut out of the voice's one file is loud there.
  const voice = JSON.parse((await page.locator('#voice').textContent()) ?? '') as PageVoice
  const stresses = Object.values(voice.calls).map(([from, to, stress]) => [to - from, stress - from] as const)
  const spoken = (await put(page)).filter((s) => s.seconds >= 0.075)
  expect(spoken.length).toBeGreaterThan(4)
  // On a slow machine the next round is on the clock before it is stopped, its first word before that word's click.
  const beats = everyClick.map((c) => c.when)
  beats.push((beats.at(-1) ?? 0) + 60 / 108 / 0.7)
  for (const s of spoken) {
    expect(s.peak).toBeGreaterThan(0.3)
    const on = stresses
      .filter(([seconds]) => Math.abs(seconds - s.seconds) < 0.001)
      .flatMap(([, stress]) => beats.map((beat) => Math.abs(s.when + stress - beat)))
    expect(Math.min(...on)).toBeLessThan(0.003)
  }
  await page.keyboard.press('n')
  await expect(chorus.getByText('not yet')).toBeVisible()
  await chorus.getByRole('button', { name: /^eight 1/i }).press('Enter')
  await page.keyboard.press('i')
  await expect(chorus.getByText('sits', { exact: true })).toBeVisible()
  // Kept on this device; taken out and put back.
  await page.reload()
  await page.getByRole('button', { name: 'Take out Chorus, eight 1', exact: true }).press('Enter')
  await expect(chorus.getByText('sits', { exact: true })).toBeHidden()
  await page.getByRole('button', { name: 'Put it back' }).press('Enter')
  await expect(chorus.getByText('sits', { exact: true })).toBeVisible()
  const save = page.getByRole('button', { name: 'Save this for my instructor' })
  await expect(save).toBeDisabled()
  await page.getByLabel('Your name').fill('Ottilie Brandt')
  expect(await accessibilityFaults(page)).toEqual([])
  const download = page.waitForEvent('download')
  await save.press('Enter')
  const sent = await download
  expect(sent.suggestedFilename()).toBe('Ottilie Brandt.azalea-marks.json')
  const bytes = readFileSync(await sent.path())
  expect((JSON.parse(bytes.toString()) as MarksFile).marks.map((m) => m.sits)).toEqual([false, true])
  // Nothing was asked of anybody, not even in vain.
  expect(asked.filter((url) => !url.startsWith('file:') && !url.startsWith('blob:'))).toEqual([])
  expect(troubles).toEqual([])
  await context.close()

  await openDemo(azalea)
  await goTo(azalea, 'Log')
  const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'application/json', buffer })
  const chooser = azalea.waitForEvent('filechooser')
  await azalea.getByRole('button', { name: 'Choose files' }).press('Enter')
  // One that is wrong keeps none of the others out.
  await (await chooser).setFiles([
    file('wrong.json', Buffer.from('{"azalea":"routine"}')),
    file('ottilie.json', bytes),
  ])
  await expect(azalea.getByText('wrong.json: This is nothing a practice page saved.')).toBeVisible()
  await expect(azalea.getByText('Brought: Ottilie Brandt.')).toBeVisible()
  const told = azalea.getByTestId('from-learners')
  await expect(
    told.getByRole('row', { name: 'Chorus, eight 1, 3 to 4 Ottilie Brandt Drill it' }),
  ).toBeVisible()
  const all = told.getByRole('row', { name: 'Chorus, eight 1 Ilka, Bo, Ottilie Brandt Drill it' })
  await expect(all).toBeVisible()
  await azalea.reload()
  await azalea.getByRole('button', { name: 'Take Ottilie Brandt’s away' }).press('Enter')
  await expect(all).toBeHidden()
  await azalea.getByRole('button', { name: /^Undo/ }).press('Enter')
  await expect(all).toBeVisible()
})

test('another encoding of the song is known by its sound, its counts lie where they sound; another song is refused', async ({
  browser,
}) => {
  const lead = 1.7
  const { page, asked, troubles, context, parts } = await opened(browser)
  const input = page.getByLabel('Choose my copy of the song')
  await input.setInputFiles({
    ...{ name: 'other.wav', mimeType: 'audio/wav', buffer: loopTrack(97, 60, 0.4) },
  })
  await expect(page.getByRole('alert')).toContainText('This is another song', { timeout: 60_000 })
  await input.setInputFiles({ name: 'broken.mp3', mimeType: 'audio/mpeg', buffer: Buffer.from('nothing') })
  await expect(page.getByRole('alert')).toContainText('cannot read the sound')
  const bytes = await otherCopy(lead)
  await input.setInputFiles({ name: 'mine.mp3', mimeType: 'audio/mpeg', buffer: bytes })
  await expect(page.getByText('Your copy fits.')).toBeVisible({ timeout: 60_000 })
  const counts = await page
    .locator('[data-seconds]')
    .evaluateAll((all) =>
      all.map((x) => [Number(x.getAttribute('data-tick')), Number(x.getAttribute('data-seconds'))]),
    )
  expect(counts.length).toBeGreaterThan(60)
  // Against the grid the page was made from, and where the very same sound lies in what this browser decodes: nothing is levelled out.
  const grid = await page.evaluate(() => JSON.parse(document.getElementById('data')?.textContent ?? '').times)
  const delay = await delayOf(page, bytes, lead)
  for (const [tick, seconds] of counts as [number, number][])
    expect(Math.abs(seconds - ((grid as number[])[tick / 24] as number) - lead - delay)).toBeLessThan(0.003)
  // The grid itself was heard, and lies within a few milliseconds of the beats as they were made.
  const { beats } = demoTruth()
  for (const [, seconds] of counts as [number, number][])
    expect(Math.min(...beats.map((b) => Math.abs(seconds - lead - delay - b)))).toBeLessThan(0.005)
  // At any speed, the song and the clicks are put where they belong together.
  const places = counts.map(([, seconds]) => seconds as number)
  for (const percent of [100, 60]) {
    const before = (await put(page)).length
    await page.getByLabel('Speed').fill(String(percent))
    await page.keyboard.press('p')
    await expect(page.getByTestId('words')).not.toBeEmpty()
    const clicks = (await put(page)).slice(before).filter((s) => s.seconds < 0.075)
    const song = (await parts()).at(-1)
    expect(song?.speed).toBeCloseTo(percent / 100)
    const at = clicks.map((c) => (song?.from ?? 0) + (c.when - (song?.at ?? 0) / 44_100) * (song?.speed ?? 0))
    const danced = at.filter((t) => t >= (places[0] as number) - 0.003)
    expect(danced.length).toBeGreaterThan(1)
    for (const t of danced) expect(Math.min(...places.map((p) => Math.abs(p - t)))).toBeLessThan(0.003)
    await page.getByRole('button', { name: 'Stop' }).press('Enter')
  }
  await expect(page.getByText('cannot be played')).toBeHidden()
  // Kept where that is asked for: the next practice begins with one press, until it is kept no more.
  await page.getByRole('button', { name: 'Keep it on this device' }).press('Enter')
  await expect(page.getByText('Kept: next time one press is enough.')).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: 'Practise with mine.mp3' }).press('Enter')
  await expect(page.getByText('Your copy fits.')).toBeVisible()
  await page.getByRole('button', { name: 'Do not keep it' }).press('Enter')
  await expect(page.getByText('It is not kept any more.')).toBeVisible()
  await page.reload()
  await expect(page.getByText('Choose your own copy')).toBeVisible()
  await expect(page.getByRole('button', { name: /^Practise with/ })).toHaveCount(0)
  expect(asked.filter((url) => !url.startsWith('file:') && !url.startsWith('blob:'))).toEqual([])
  expect(troubles).toEqual([])
  await context.close()
})

test('on a phone it is practised by touch, everything is in reach', async ({ browser }) => {
  const { page, troubles, context } = await opened(browser, {
    ...{ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true },
  })
  const wide = await page.evaluate(() => document.documentElement.scrollWidth)
  expect(wide).toBeLessThanOrEqual(390)
  const chorus = page.getByRole('region', { name: 'Chorus, eight 2', exact: true })
  await chorus.getByRole('button', { name: /^1 / }).tap()
  await chorus.getByRole('button', { name: /^8 / }).tap()
  await expect(page.getByTestId('chosen')).toHaveText('Chorus, eight 2')
  await page.evaluate(() => scrollTo(0, 0))
  await page.getByRole('button', { name: 'Play' }).tap()
  // The card that is danced is brought into sight, above what plays it: looked at in one moment, whichever count it is.
  const seen = await page.waitForFunction(() => {
    const now = document.querySelector('[aria-label="Chorus, eight 2"] .now')?.getBoundingClientRect()
    const dock = document.querySelector('[aria-label="Practise"]')?.getBoundingClientRect()
    return now && dock && { top: now.top, bottom: now.bottom, dock: dock.top }
  })
  const { top, bottom, dock } = (await seen.jsonValue()) as { top: number; bottom: number; dock: number }
  expect(top).toBeGreaterThanOrEqual(0)
  expect(bottom).toBeLessThanOrEqual(dock)
  await page.getByRole('button', { name: 'Stop' }).tap()
  // Put down on the floor: the count and the move fill the page, in letters that are read from two metres.
  await page.getByRole('button', { name: 'Large' }).tap()
  await page.getByRole('button', { name: 'Play' }).tap()
  const afar = page.getByRole('region', { name: 'From afar' })
  await expect(afar.locator('.now')).not.toBeEmpty()
  const sizes = await afar.evaluate((e) =>
    ['.count', '.now'].map((part) =>
      Number.parseFloat(getComputedStyle(e.querySelector(part) as Element).fontSize),
    ),
  )
  // A phone's page of 390 px is 65 mm wide, and a capital letter has seven tenths of its size: 9 mm.
  expect(Math.min(...sizes) * 0.7 * (65 / 390)).toBeGreaterThan(6)
  expect(await afar.evaluate((e) => e.scrollWidth <= e.clientWidth)).toBe(true)
  await afar.getByRole('button', { name: 'Stop' }).tap()
  await expect(afar).toBeHidden()
  await page.getByRole('button', { name: 'Large' }).tap()
  await page.getByText('Calls, sides, loudness').tap()
  await page.getByLabel('Called').selectOption('numbers')
  const small = await page
    .locator('button')
    .evaluateAll((all) => all.filter((b) => b.getBoundingClientRect().height < 44).map((b) => b.textContent))
  expect(small).toEqual([])
  expect(troubles).toEqual([])
  await context.close()
})

test('calls and counts in the instructor’s own voice are heard in the page, on their counts', async ({
  browser,
  page: azalea,
}) => {
  await openDemo(azalea)
  const id = /\/r\/([^/]+)/.exec(azalea.url())?.[1]
  const wav = (sound: Float32Array) =>
    Buffer.from(writeWav({ sampleRate: 44_100, channels: [sound] })).toString('base64')
  const kept = await azalea.request.put('/api/voice/recordings/own-calls-of-e2e', {
    data: { wav: wav(clapping(0.6, 6)) },
  })
  expect(kept.ok()).toBe(true)
  // Every count in one's own voice lasts as long as nothing else does.
  const counts = ['1', '2', '3', '4', '5', '6', '7', '8', '&'].map((call) => ({
    ...{ call, wav: wav(clapping(1, 0.2)) },
  }))
  expect((await azalea.request.put('/api/voice/own', { data: counts })).ok()).toBe(true)
  const own: { stressMs: number; wav: string }[] = await (await azalea.request.get('/api/voice/own')).json()
  const { routine, revision }: { routine: Routine; revision: number } = await (
    await azalea.request.get(`/api/routines/${id}`)
  ).json()
  const placed = placePhrases(routine)
  const eight = placed
    .map((p) => ({ from: p.start, to: p.end }))
    .find((stretch) => stretchName(placed, stretch) === 'Chorus, eight 1')
  if (!eight) throw new Error('the demo has no chorus')
  const voice: Voice = {
    ...{ id: 'own-calls', stretch: eight, recording: 'own-calls-of-e2e' },
    exact: true,
    // Each clap of the recording on a count; its stress is where the clap begins.
    pieces: Array.from({ length: 8 }, (_, i) => {
      const stress = 0.6 * (i + 1)
      return { at: eight.from + i * TICKS_PER_COUNT, from: stress - 0.05, stress, to: stress + 0.3 }
    }),
  }
  const saved = await azalea.request.put(`/api/routines/${id}`, {
    data: { revision, writer: 'e2e-own-voice', save: 1, routine: { ...routine, voices: [voice] } },
  })
  expect(saved.ok()).toBe(true)
  await azalea.evaluate(() => localStorage.setItem('azalea-own-voice', 'yes'))
  await azalea.reload()
  await toThePage(azalea)
  await expect(azalea.getByText('Numbers are counted in your own voice')).toBeVisible()
  const at = await savedPage(azalea)
  try {
    const { page, troubles, context } = await opened(browser, {}, at)
    const chorus = page.getByRole('region', { name: 'Chorus, eight 1' })
    await chorus.getByRole('button', { name: /^eight 1/i }).press('Enter')
    await page.getByText('Calls, sides, loudness').click()
    await page.getByLabel('Called').selectOption({ label: 'my instructor’s voice' })
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Play' }).press('Enter')
    const called = async () => (await put(page)).filter((s) => Math.abs(s.seconds - 0.35) < 0.002)
    // The ninth is put after the click of the eighth.
    await expect.poll(async () => (await called()).length, { timeout: 30_000 }).toBeGreaterThanOrEqual(9)
    const clicks = (await put(page)).filter((s) => s.seconds < 0.075)
    for (const c of (await called()).slice(0, 8)) {
      expect(c.peak).toBeGreaterThan(0.2)
      // Not only where it is put: what is heard in it begins on the click.
      for (const heard of [c.when + 0.05, c.when + c.attack])
        expect(Math.min(...clicks.map((x) => Math.abs(heard - x.when)))).toBeLessThan(0.003)
    }
    // Counted in with one's own counts: eight of them, each as long as it was recorded.
    const length = readWav(Uint8Array.from(Buffer.from(own[0]?.wav ?? '', 'base64'))).channels[0]?.length ?? 0
    const counted = (await put(page)).filter((s) => Math.abs(s.seconds - length / 44_100) < 0.003)
    expect(counted.length).toBeGreaterThanOrEqual(8)
    expect(troubles).toEqual([])
    await context.close()
  } finally {
    rmSync(path.dirname(at), { recursive: true, force: true })
  }
})
