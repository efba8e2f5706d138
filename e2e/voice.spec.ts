/* What comes in by microphone and camera: claps, the instructor's own counts, the mirror. */
import { expect, test } from '@playwright/test'
import { readWav } from '../src/core/formats/wav'
import { goTo, ownSong } from './ways'

test('timing: claps in the microphone are measured, and kept in the log', async ({ page }) => {
  await ownSong(page, 'Clapped', 100)
  await goTo(page, 'Cue')
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Home')
  if (await page.getByText('pick-up').count()) await page.keyboard.press('PageDown')
  await page.keyboard.press('l')
  // Somewhere within half a half count of each clap there is a cue, whenever the microphone began.
  await page.keyboard.type(
    [1, 2, 3, 4, 5, 6, 7, 8].map((n) => `${n} step ${n % 2 ? 'R' : 'L'}; ${n}& clap`).join('; '),
  )
  await page.keyboard.press('Enter')
  await goTo(page, 'Floor')
  if (await page.getByText('pick-up', { exact: false }).count())
    await page
      .getByRole('button', { name: /^Eight 1/ })
      .first()
      .click()
  for (let i = 0; i < 5; i++) await page.keyboard.press('=')
  await page.keyboard.press('t')
  await page.getByRole('radio', { name: 'Clap' }).click()
  const said = page.getByTestId('timing')
  await page.getByRole('button', { name: 'With headphones: clap 16 clicks' }).press('Enter')
  await expect(said).toContainText(/Loudspeaker and microphone are -?\d+ ms late \(± \d+\)/, {
    timeout: 40_000,
  })
  const delay = /are (-?\d+) ms/.exec((await said.textContent()) ?? '')?.[1]
  await expect(page.getByTestId('delay')).toContainText(`${delay} ms`)
  await page.getByRole('button', { name: 'Begin', exact: true }).click()
  await expect(page.getByText(/Clap on every move · ([5-9]|\d\d) heard/)).toBeVisible({ timeout: 30_000 })
  await expect(said).toContainText(/on average, spread \d+ ms/, { timeout: 40_000 })
  await page.getByRole('button', { name: 'Stop' }).click()
  await page.getByRole('button', { name: 'Back to the floor' }).click()
  await page.keyboard.press('Escape')
  await page.waitForURL('**/cue')
  await goTo(page, 'Log')
  await expect(page.getByTestId('timed')).toContainText(/100 %.*\d+ claps/)
  // Where they lie beside the counts is chance, since the simulated microphone begins when it likes: between two cues at most.
  const [mean, spread] = await page
    .getByTestId('timed')
    .locator('td')
    .evaluateAll((cells) => cells.slice(3, 5).map((c) => Number(/^\d+/.exec(c.textContent ?? '')?.[0] ?? 0)))
  expect(mean).toBeLessThanOrEqual(150)
  expect(spread).toBeLessThanOrEqual(170)
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
  await ownSong(page, 'Own voice')
  await goTo(page, 'Floor')
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
  await expect(page.getByTestId('repetition')).toContainText('repetition 2', { timeout: 30_000 })
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
  await page.keyboard.press('v')
  await expect(page.getByTestId('beside')).toBeHidden()
  await page.keyboard.press('v')
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
  await page.keyboard.press('d')
  await expect(mirror).toBeHidden()
  await expect(page.getByText('The last repetition is shown here')).toBeVisible()
  await expect(page.getByTestId('replay')).toBeVisible({ timeout: 40_000 })
  await moving('The last repetition')
  await page.keyboard.press('d')
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
  await ownSong(page, 'No camera')
  await goTo(page, 'Floor')
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
