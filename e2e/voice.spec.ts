/* What comes in by microphone and camera: claps, the instructor's own counts, the mirror. */
import type { Page } from '@playwright/test'
import { readWav } from '../src/core/formats/wav'
import { expect, test } from './test'
import { drillOfSteps, goTo, ownFloor, ownSheet, ownSong, repetitionFrom } from './ways'

/**
 * Instead of a microphone: each click put on the clock comes in as a clap so many milliseconds later, as loud as asked.
 * What the browser adds on the way in is the same each time, and measured as a loudspeaker's would be.
 */
async function loopback(page: Page) {
  await page.addInitScript(() => {
    const w = window as unknown as { lateMs: number; loud: number; made: number }
    w.made = 0
    w.lateMs = 120
    w.loud = 0.1
    let into: MediaStreamAudioDestinationNode | null = null
    let context: AudioContext | null = null
    const Real = window.AudioContext
    window.AudioContext = class extends Real {
      constructor(options?: AudioContextOptions) {
        super(options)
        context = this
      }
    }
    navigator.mediaDevices.getUserMedia = async () => {
      if (!context) throw new Error('no sound yet')
      into = context.createMediaStreamDestination()
      return into.stream
    }
    const { start } = AudioBufferSourceNode.prototype
    AudioBufferSourceNode.prototype.start = function (when = 0, ...rest: number[]) {
      const length = this.buffer?.duration ?? 0
      // The clicks of counts last 50 and 70 ms.
      if (into && context && (Math.abs(length - 0.05) < 0.001 || Math.abs(length - 0.07) < 0.001)) {
        const clap = context.createBufferSource()
        clap.buffer = context.createBuffer(1, 2000, context.sampleRate)
        const out = clap.buffer.getChannelData(0)
        for (let i = 0; i < out.length; i++) out[i] = w.loud * (Math.random() * 2 - 1) * Math.exp(-i / 500)
        clap.connect(into)
        w.made++
        start.call(clap, when + w.lateMs / 1000)
      }
      return start.call(this, when, ...rest)
    }
  })
}

test('timing: the way through the microphone is measured and taken away; claps are as late as they are, and logged', async ({
  page,
}) => {
  await loopback(page)
  await drillOfSteps(page, 'Clapped')
  await page.keyboard.press('t')
  await page.getByRole('radio', { name: 'Clap' }).click()
  const said = page.getByTestId('timing')
  await page.getByRole('button', { name: 'it hears its own clicks' }).press('Enter')
  await expect(said).toContainText(/Loudspeaker and microphone are \d+ ms late \(± \d+\)/, {
    timeout: 40_000,
  })
  const delay = Number(/are (\d+) ms/.exec((await said.textContent()) ?? '')?.[1])
  // The browser's own way in comes on top; what it says of its way out is taken away already.
  expect(Math.abs(delay - 120)).toBeLessThan(60)
  await expect(page.getByTestId('delay')).toContainText(`${delay} ms`)
  const set = (what: { lateMs?: number; loud?: number }) =>
    page.evaluate((s) => void Object.assign(window, s), what)
  const made = () => page.evaluate(() => (window as unknown as { made: number }).made)
  const go = async () => {
    await page.getByRole('button', { name: 'Begin', exact: true }).click()
    // What was said of the time before is gone.
    await expect(page.getByText('Clap on every move')).toBeVisible()
    await expect(said).toContainText(/on average, spread \d+ ms/, { timeout: 40_000 })
    await page.getByRole('button', { name: 'Stop' }).click()
  }
  // As quiet as its own clicks were, nothing is taken for a clap.
  await page.getByRole('button', { name: 'Begin', exact: true }).click()
  const before = await made()
  // A dozen are on the clock, and half of them have sounded.
  await expect.poll(made, { timeout: 30_000 }).toBeGreaterThan(before + 14)
  await expect(page.getByText('Clap on every move · 0 heard')).toBeVisible()
  await page.getByRole('button', { name: 'Stop' }).click()
  await set({ loud: 0.7 })
  await go()
  await set({ lateMs: 180 })
  await go()
  await page.getByRole('button', { name: 'Back to the floor' }).click()
  await page.keyboard.press('Escape')
  await page.waitForURL('**/cue')
  await goTo(page, 'Log')
  await expect(page.getByTestId('timed')).toHaveCount(2)
  const rows = await page.getByTestId('timed').evaluateAll((all) =>
    all.map((row) => {
      const [average, spread] = [...row.querySelectorAll('td')].slice(3, 5).map((c) => c.textContent ?? '')
      const ms = Number(/^\d+/.exec(average ?? '')?.[0] ?? 0)
      return { ms: average?.includes('early') ? -ms : ms, spread: Number.parseInt(spread ?? '', 10), average }
    }),
  )
  // The last one first: 60 ms later than when it was measured.
  expect(Math.abs((rows[0]?.ms ?? 0) - 60)).toBeLessThanOrEqual(20)
  expect(Math.abs(rows[1]?.ms ?? 99)).toBeLessThanOrEqual(20)
  for (const r of rows) {
    expect(r.average).toContain('claps')
    expect(r.spread).toBeLessThanOrEqual(15)
  }
})

test('the counts are recorded in one’s own voice, played instead, and taken away again', async ({
  page,
  request,
}) => {
  await page.addInitScript(() => {
    const w = window as unknown as { played: number[] }
    w.played = []
    const { start } = AudioBufferSourceNode.prototype
    AudioBufferSourceNode.prototype.start = function (...rest: [number?]) {
      w.played.push(this.buffer?.duration ?? 0)
      return start.apply(this, rest)
    }
  })
  await ownFloor(page, 'Own voice')
  await page.getByRole('button', { name: 'Count in your own voice' }).press('Enter')
  await page.getByRole('button', { name: 'Record all nine' }).press('Enter')
  await expect(page.getByTestId('prompt')).toContainText('Say: ')
  // Nothing recorded is lost by closing.
  await expect(page.getByRole('button', { name: 'Keep all 9' })).toBeVisible({ timeout: 30_000 })
  await page.keyboard.press('Escape')
  await expect(page.getByRole('heading', { name: 'Keep what was recorded?' })).toBeVisible()
  await page.getByRole('button', { name: 'Go on recording' }).press('Enter')
  await page.getByRole('button', { name: 'Record two', exact: true }).press('Enter')
  await expect(page.getByTestId('prompt')).toContainText('Say: two')
  await expect(page.getByRole('button', { name: 'Keep all 9' })).toBeEnabled({ timeout: 30_000 })
  await page.getByRole('button', { name: 'Keep all 9' }).press('Enter')
  const own = page.getByRole('switch', { name: 'Counted in my own voice' })
  await expect(own).toBeChecked()
  const kept: { call: string; wav: string; stressMs: number }[] = await (
    await request.get('/api/voice/own')
  ).json()
  expect(kept.map((k) => k.call).join(' ')).toBe('1 2 3 4 5 6 7 8 &')
  const lengths = kept.map((k) => {
    const { channels, sampleRate } = readWav(new Uint8Array(Buffer.from(k.wav, 'base64')))
    return (channels[0] as Float32Array).length / sampleRate
  })
  const played = async () => {
    const all = await page.evaluate(() => (window as unknown as { played: number[] }).played)
    return lengths.slice(0, 8).filter((l) => all.some((p) => Math.abs(p - l) < 0.0005)).length
  }
  await page.reload()
  await expect(own).toBeChecked()
  await page.keyboard.press('Space')
  await repetitionFrom(page, 2)
  expect(await played()).toBe(8)
  await page.keyboard.press('Space')
  await page.getByRole('button', { name: 'Your recorded counts' }).press('Enter')
  await page.getByRole('button', { name: 'Remove my recordings' }).press('Enter')
  await page.getByRole('button', { name: 'Remove them' }).press('Enter')
  await page.getByRole('button', { name: 'Close' }).press('Enter')
  await expect(own).toBeHidden()
  expect(await (await request.get('/api/voice/own')).json()).toEqual([])
})

test('a whole song puts only what comes soon on the clock, and goes on', async ({ page }) => {
  await page.addInitScript(() => {
    const w = window as unknown as { starts: number; atOnce: number }
    w.starts = 0
    w.atOnce = 0
    const { start } = AudioBufferSourceNode.prototype
    AudioBufferSourceNode.prototype.start = function (...rest: [number?]) {
      if (w.starts === 0) queueMicrotask(() => (w.atOnce = w.starts))
      w.starts++
      return start.apply(this, rest)
    }
  })
  const starts = () => page.evaluate(() => (window as unknown as { starts: number }).starts)
  await ownSong(page, 'Soon', 120)
  await page.keyboard.press('Home')
  await page.keyboard.press('Space')
  // 48 s of two counts a second, each clicked and called, would be 190 sounds; of three seconds it is a dozen.
  await expect.poll(starts).toBeGreaterThan(6)
  expect(await page.evaluate(() => (window as unknown as { atOnce: number }).atOnce)).toBeLessThan(30)
  await expect.poll(starts, { timeout: 30_000 }).toBeGreaterThan(36)
  await page.keyboard.press('Space')
})

test('the camera stands beside the counts, shows the repetition before, and saves it only when asked', async ({
  page,
}) => {
  await ownSong(page, 'Mirrored', 160)
  await goTo(page, 'Floor')
  // A figure is drawn where no camera is wanted.
  await page.getByRole('radio', { name: 'Figure' }).click()
  await page.keyboard.press('Space')
  await expect(page.getByTestId('figure')).toBeVisible()
  await page.keyboard.press('Shift+V')
  await expect(page.getByTestId('beside')).toBeHidden()
  await page.keyboard.press('Shift+V')
  // The page of the desk may open no camera: the floor is loaded as a page of its own, and breaks nothing off for it.
  await expect(page.getByText('The camera opens as soon as this is over.')).toBeVisible()
  await expect(page.getByTestId('figure')).toBeVisible()
  const loaded = page.waitForEvent('load')
  await page.keyboard.press('Space')
  await loaded
  await expect(page.getByRole('radio', { name: 'Camera' })).toBeChecked()
  await page.keyboard.press('Space')
  const mirror = page.getByLabel('Mirror', { exact: true })
  await expect(mirror).toBeVisible()
  const moving = (label: string) =>
    expect
      .poll(() =>
        page
          .getByLabel(label, { exact: true })
          .evaluate((v: HTMLVideoElement) => (v.videoWidth > 0 ? v.currentTime : 0)),
      )
      .toBeGreaterThan(0.2)
  await moving('Mirror')
  await page.keyboard.press('Alt+v')
  await expect(mirror).toBeHidden()
  await expect(page.getByText('The last repetition is shown here')).toBeVisible()
  await expect(page.getByTestId('replay')).toBeVisible({ timeout: 40_000 })
  await moving('The last repetition')
  await page.keyboard.press('Alt+v')
  await expect(mirror).toBeVisible()
  await expect(page.getByTestId('replay')).toBeVisible()
  const [film] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the last one' }).click(),
  ])
  expect(film.suggestedFilename()).toMatch(/^Mirrored, .*75 percent\.(webm|mp4)$/)
  await page.keyboard.press('Space')
  await expect(page.getByText('It is kept nowhere unless you save it')).toBeVisible()
  await page.getByRole('button', { name: 'Forget it' }).press('Enter')
  await page.getByRole('alertdialog').getByRole('button', { name: 'Forget it' }).press('Enter')
  await expect(page.getByText('It is kept nowhere unless you save it')).toBeHidden()
  await page.getByRole('radio', { name: 'Nothing' }).click()
})

test('where the camera is refused, it is said why, and a figure stands in', async ({ page }) => {
  await page.addInitScript(() => {
    navigator.mediaDevices.getUserMedia = () =>
      Promise.reject(new DOMException('Permission denied', 'NotAllowedError'))
  })
  await ownFloor(page, 'No camera')
  await page.getByRole('radio', { name: 'Camera' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'not allowed to use the camera' })).toBeVisible()
  await page.keyboard.press('Space')
  await expect(page.getByTestId('figure')).toBeVisible()
  await page.keyboard.press('Space')
  // The microphone the same.
  await page.getByRole('button', { name: 'Count in your own voice' }).press('Enter')
  await page.getByRole('button', { name: 'Record all nine' }).press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: 'not allowed to use the microphone' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('heading', { name: 'Count in your own voice' })).toBeHidden()
})

test('only pages of the floor may ask for a camera; loading one for it loses neither undo nor what was chosen', async ({
  page,
  request,
}) => {
  await ownSheet(page, 'Allowed')
  const id = /\/r\/([^/]+)/.exec(page.url())?.[1] as string
  const allowed = async (path: string) => {
    const answer = await request.get(path)
    return /camera=\((self)?\), microphone=\((self)?\)/.exec(
      answer.headers()['permissions-policy'] ?? '',
    )?.[0]
  }
  for (const path of [
    '/',
    `/r/${id}/count`,
    `/r/${id}/cue`,
    `/r/${id}/teach`,
    '/nothing',
    `/api/routines/${id}`,
  ])
    expect(await allowed(path)).toBe('camera=(), microphone=()')
  expect(await allowed(`/r/${id}/floor`)).toBe('camera=(self), microphone=(self)')
  const refused = await page.evaluate(() =>
    navigator.mediaDevices.getUserMedia({ audio: true }).then(
      () => 'opened',
      (e: Error) => e.name,
    ),
  )
  expect(refused).toBe('NotAllowedError')
  const cues = page.getByTestId('cue')
  for (const n of [1, 2]) {
    await page.keyboard.press('l')
    await page.keyboard.type('1 step R')
    await page.keyboard.press('Enter')
    await page.getByTestId('sheet').focus()
    await expect(cues).toHaveCount(n)
    await page.keyboard.press('PageDown')
  }
  await goTo(page, 'Floor')
  await page.getByRole('slider', { name: 'Speed' }).press('ArrowRight')
  await page.getByRole('radio', { name: 'Music' }).click()
  const speed = await page.getByRole('slider', { name: 'Speed' }).inputValue()
  const loaded = page.waitForEvent('load')
  await page.getByRole('radio', { name: 'Camera' }).click()
  await loaded
  await expect(page.getByRole('radio', { name: 'Camera' })).toBeChecked()
  await expect(page.getByRole('radio', { name: 'Music' })).toBeChecked()
  expect(await page.getByRole('slider', { name: 'Speed' }).inputValue()).toBe(speed)
  await page.getByRole('radio', { name: 'Nothing' }).click()
  await page.getByRole('link', { name: 'Back to the desk' }).click()
  await expect(cues).toHaveCount(2)
  await page.keyboard.press('Control+z')
  await expect(cues).toHaveCount(1)
  await page.reload()
  await expect(cues).toHaveCount(1)
  await page.keyboard.press('Control+z')
  await expect(cues).toHaveCount(0)
  await page.keyboard.press('Control+Shift+z')
  await page.keyboard.press('Control+Shift+z')
  await expect(cues).toHaveCount(2)
})

/** Instead of a microphone: along with each click after the count-in a count is spoken, so many seconds later. */
async function spokenAlong(page: Page, late: number) {
  await page.addInitScript((late) => {
    const w = window as unknown as { clicks: number[]; words: { when: number; seconds: number }[] }
    w.clicks = []
    w.words = []
    let into: MediaStreamAudioDestinationNode | null = null
    let context: AudioContext | null = null
    let words: AudioBuffer[] = []
    let heard = 0
    const Real = window.AudioContext
    window.AudioContext = class extends Real {
      constructor(options?: AudioContextOptions) {
        super(options)
        context = this
      }
    }
    navigator.mediaDevices.getUserMedia = async () => {
      const c = context as AudioContext
      const load = async (n: number) =>
        c.decodeAudioData(await (await fetch(`/voice/${n}.wav`)).arrayBuffer())
      words = await Promise.all([1, 2, 3, 4, 5, 6, 7, 8].map(load))
      heard = 0
      into = c.createMediaStreamDestination()
      return into.stream
    }
    const { start } = AudioBufferSourceNode.prototype
    AudioBufferSourceNode.prototype.start = function (when = 0, ...rest: number[]) {
      const length = this.buffer?.duration ?? 0
      if (Math.abs(length - 0.05) < 0.001 || Math.abs(length - 0.07) < 0.001) {
        w.clicks.push(when)
        if (into && context && heard >= 4) {
          const word = context.createBufferSource()
          word.buffer = words[(heard - 4) % 8] as AudioBuffer
          word.connect(into)
          start.call(word, when + late)
        }
        heard++
      } else w.words.push({ when, seconds: length })
      return start.call(this, when, ...rest)
    }
  }, late)
}

test('an eight is called in one’s own voice, recorded slowly, and sounds at full tempo on its counts', async ({
  page,
  request,
}) => {
  await spokenAlong(page, 0.1)
  await ownSong(page, 'Called by me')
  const id = /\/r\/([^/]+)/.exec(page.url())?.[1] as string
  const routine = async () => (await (await request.get(`/api/routines/${id}`)).json()).routine
  await page.keyboard.press('Home')
  if (await page.getByText('pick-up').count()) await page.keyboard.press('PageDown')
  await page.keyboard.press('q')
  await page.keyboard.press('ArrowRight')
  const marked = page.getByTestId('marked-part')
  await marked.getByLabel('Which counts').fill('1 to 8')
  await marked.getByLabel('Which counts').press('Enter')
  // It is recorded on the floor, whose page is loaded for it; not while nothing could be loaded.
  const say = marked.getByRole('button', { name: 'Call them in your own voice' })
  await page.route('**/icon.svg', (route) => route.abort())
  await say.press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: 'the server does not answer' })).toBeVisible()
  await page.unroute('**/icon.svg')
  await say.press('Enter')
  await expect(page).toHaveURL(/\/floor$/)
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('button', { name: 'Record', exact: true }).press('Enter')
  await expect(dialog.getByText('After four counts')).toBeVisible()
  await expect(dialog.getByRole('button', { name: 'Keep it' })).toBeVisible({ timeout: 30_000 })
  // Nothing recorded is lost by closing.
  await page.keyboard.press('Escape')
  await page.getByRole('alertdialog').getByRole('button', { name: 'Go on' }).press('Enter')
  await dialog.getByRole('button', { name: 'Keep it' }).press('Enter')
  await expect(dialog.getByTestId('kept-voice')).toBeVisible()
  await expect.poll(async () => (await routine()).voices.length).toBe(1)
  const kept = await routine()
  expect(kept.called).toBe('own')
  const [voice] = kept.voices
  // Each count has a piece; the way through the microphone is taken away. (These words are
  // stressed 20 to 35 ms after they begin, which is a tick.)
  for (let count = 0; count < 8; count++) {
    const off = Math.min(
      ...voice.pieces.map((p: { at: number }) => Math.abs(p.at - voice.stretch.from - 24 * count)),
    )
    expect(off).toBeLessThan(1.6)
  }
  const sound = await request.get(`/api/voice/recordings/${voice.recording}`)
  expect(readWav(new Uint8Array(await sound.body())).sampleRate).toBe(22_050)
  // At full tempo every piece begins so long before its count as its stress lies in it.
  await page.evaluate(() => Object.assign(window, { clicks: [], words: [] }))
  await dialog.getByRole('button', { name: 'Hear it at full tempo' }).press('Enter')
  const played = () =>
    page.evaluate(() => {
      const w = window as unknown as { clicks: number[]; words: { when: number; seconds: number }[] }
      return { clicks: w.clicks, words: w.words }
    })
  await expect.poll(async () => (await played()).clicks.length, { timeout: 20_000 }).toBe(8)
  const { clicks, words } = await played()
  for (let count = 0; count < 8; count++) {
    const piece = voice.pieces.find(
      (p: { at: number }) => Math.abs(p.at - voice.stretch.from - 24 * count) < 1.6,
    )
    const begins = (clicks[count] as number) - (piece.stress - piece.from)
    expect(Math.min(...words.map((x) => Math.abs(x.when - begins)))).toBeLessThan(0.003)
  }
  // Later, exactly as said, undone, taken out and back.
  const first = voice.pieces[0].at
  await dialog.getByRole('button', { name: 'Later' }).press('Enter')
  await expect.poll(async () => (await routine()).voices[0].pieces[0].at).toBeCloseTo(first + 2, 5)
  await dialog.getByRole('radio', { name: 'exactly as said' }).focus()
  await page.keyboard.press('Space')
  await expect.poll(async () => (await routine()).voices[0].exact).toBe(true)
  await dialog.getByRole('button', { name: 'Take it out' }).press('Enter')
  await expect(dialog.getByTestId('kept-voice')).toBeHidden()
  await dialog.getByRole('button', { name: 'Back to the desk' }).press('Enter')
  // Back where it was asked, at the same counts; what was recorded on the floor is undone at the desk.
  await expect(page).toHaveURL(/\/count$/)
  await expect(marked.getByLabel('Which counts')).toHaveValue(/eight 1$/)
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('button', { name: 'Your recorded calls' })).toBeVisible()
  // A later window has them too, and the floor calls them.
  await page.reload()
  await expect.poll(async () => (await routine()).voices.length).toBe(1)
})
