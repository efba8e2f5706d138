import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { build } from 'esbuild'
import { SoundLine } from '../src/core/match'
import { soundIn } from '../src/decode/film-sound'
import { sourceOf } from '../src/decode/source.test-tools'
import { expect, test } from './test'

const SPEEDS = [0.4, 0.75, 1, 1.1]

/** One page for all of them: each renders on a clock of its own, and nothing of the page is looked at. */
let page: Page

test.beforeAll(async ({ browser, servers }, { file }) => {
  const { outputFiles } = await build({
    entryPoints: ['e2e/audio-harness.ts'],
    bundle: true,
    write: false,
    format: 'iife',
    alias: { '@': './src' },
  })
  const { url } = await servers.of(file)
  page = await browser.newPage({ baseURL: url })
  await page.goto('/')
  await page.addScriptTag({ content: outputFiles[0]?.text ?? '' })
})
test.afterAll(() => page.close())

const milliseconds = (planned: number[], heard: number[]) =>
  planned.map((t, i) => ((heard[i] ?? Number.NaN) - t) * 1000)
const middle = (xs: number[]) => [...xs].sort((a, b) => a - b)[xs.length >> 1] as number

for (const speed of SPEEDS) {
  test(`every click of ten loops lies within 2 ms of the grid at ${Math.round(speed * 100)} %`, async () => {
    for (const each of [false, true]) {
      const { planned, heard, stress } = await page.evaluate(
        ([s, e]) => window.harness.renderCounts(s as number, e as boolean, 10),
        [speed, each] as const,
      )
      expect(heard).toHaveLength(each ? 120 : 84)
      expect(stress.length).toBeGreaterThan(10)
      for (const late of stress) expect(Math.abs(late)).toBeLessThan(0.002)
      for (const late of milliseconds(planned, heard)) expect(Math.abs(late)).toBeLessThan(2)
    }
  })

  test(`the music of ten loops stays with the counts at ${Math.round(speed * 100)} %`, async () => {
    const { planned, heard, weights } = await page.evaluate((s) => window.harness.renderMusic(s, 10), speed)
    const late = milliseconds(planned, heard)
    console.warn(
      `    ${Math.round(speed * 100)} %: median ${middle(late).toFixed(2)} ms, first loops ${middle(late.slice(1, 40)).toFixed(2)}, last ${middle(late.slice(40)).toFixed(2)}, worst ${Math.max(...late.map(Math.abs)).toFixed(2)}`,
    )
    // The last five loops are where the first five were: nothing drifts.
    const centres = milliseconds(planned, weights)
    expect(Math.abs(middle(centres.slice(1, 40)) - middle(centres.slice(40)))).toBeLessThan(0.1)
    expect(Math.abs(middle(late))).toBeLessThan(0.5)
    for (const ms of late) expect(Math.abs(ms)).toBeLessThan(2)
  })
}

for (const speed of [0.4, 0.6, 0.9])
  test(`fifty loops over phrases of 6, 8 and 4 counts of a song that drifts: clicks and called counts within 2 ms at ${Math.round(speed * 100)} %`, async () => {
    const { planned, heard, stress } = await page.evaluate(
      (s) => window.harness.renderCounts(s, false, 50, 'uneven'),
      speed,
    )
    // Four counts are counted in, then 18 a loop: none is lost or doubled at a join.
    expect(heard).toHaveLength(4 + 50 * 18)
    for (const late of milliseconds(planned, heard)) expect(Math.abs(late)).toBeLessThan(2)
    for (const late of stress) expect(Math.abs(late)).toBeLessThan(0.002)
  })

// What is off by a little each time is seen in fifty of them, what a speed does in ten.
for (const [speed, loops] of [
  [0.5, 10],
  [0.6, 10],
  [0.75, 50],
] as const)
  test(`the music of ${loops} loops over a phrase of 6 of it stays with the counts at ${Math.round(speed * 100)} %`, async () => {
    const { planned, heard, weights } = await page.evaluate(
      ([s, l]) => window.harness.renderMusic(s, l, 'six'),
      [speed, loops] as const,
    )
    const late = milliseconds(planned, heard)
    const centres = milliseconds(planned, weights)
    console.warn(
      `    ${Math.round(speed * 100)} %, ${loops} loops: median ${middle(late).toFixed(2)} ms, first loops ${middle(centres.slice(1, 30)).toFixed(2)}, last ${middle(centres.slice(-30)).toFixed(2)}`,
    )
    expect(Math.abs(middle(late))).toBeLessThan(0.5)
    expect(Math.abs(middle(centres.slice(1, 30)) - middle(centres.slice(-30)))).toBeLessThan(0.1)
  })

for (const speed of [0.4, 0.6, 0.75, 1.1]) {
  test(`pitch is kept within 10 cents and 20 s last 20 s within 5 ms at ${Math.round(speed * 100)} %`, async () => {
    const { pitch, between } = await page.evaluate((s) => window.harness.renderTone(s), speed)
    console.warn(
      `    ${Math.round(speed * 100)} %: ${(1200 * Math.log2(pitch / 440)).toFixed(2)} cents, ${((between - 20) * 1000).toFixed(2)} ms over 20 s`,
    )
    expect(Math.abs(1200 * Math.log2(pitch / 440))).toBeLessThan(10)
    expect(Math.abs(between - 20)).toBeLessThan(0.005)
  })
}

test('the low end and the high end of a song are heard alone', async () => {
  const [low, high] = await page.evaluate(async () => [
    await window.harness.renderBand('low'),
    await window.harness.renderBand('high'),
  ])
  expect(Math.abs(low?.[0] ?? 99)).toBeLessThan(1)
  expect(low?.[1]).toBeLessThan(-40)
  expect(low?.[2]).toBeLessThan(-60)
  expect(high?.[0]).toBeLessThan(-60)
  expect(high?.[1]).toBeLessThan(-40)
  expect(Math.abs(high?.[2] ?? 99)).toBeLessThan(1)
})

/** When a sound first passes shares of its peak, in seconds: where it begins. */
const risesOf = (samples: ArrayLike<number>, rate: number): number[] => {
  let peak = 0
  for (let i = 0; i < samples.length; i++) peak = Math.max(peak, Math.abs(samples[i] as number))
  return [0.1, 0.3, 0.5, 0.7].map((share) => {
    let i = 0
    while (Math.abs(samples[i] as number) < share * peak) i++
    return i / rate
  })
}

// A song that a school's server heard is played by a browser: its counts lie where they were heard.
test('what a server decodes begins where it begins in a browser, whatever it is packed in', async () => {
  for (const kind of ['mp3', 'flac', 'ogg', 'opus', 'm4a']) {
    const bytes = new Uint8Array(readFileSync(`e2e/fixtures/short.${kind}`))
    const parts: number[][] = []
    let rate = 0
    let line: SoundLine | null = null
    for await (const piece of soundIn(sourceOf(bytes))) {
      rate = piece.rate
      line ??= new SoundLine((samples) => parts.push(Array.from(samples)), rate)
      line.lay(piece)
    }
    const all = parts.flat()
    const packed = Buffer.from(bytes).toString('base64')
    const browser = await page.evaluate(async (text) => {
      const sound = Uint8Array.from(atob(text), (c) => c.charCodeAt(0))
      const decodedThere = await new OfflineAudioContext(2, 1, 44_100).decodeAudioData(sound.buffer)
      const head = new Uint8Array(decodedThere.getChannelData(0).slice(0, 3 * 44_100).buffer)
      return {
        length: decodedThere.length,
        head: btoa(Array.from(head, (b) => String.fromCharCode(b)).join('')),
      }
    }, packed)
    const head = new Float32Array(new Uint8Array(Buffer.from(browser.head, 'base64')).buffer)
    const [here, there] = [risesOf(all.slice(0, 3 * rate), rate), risesOf(head, 44_100)]
    for (const [i, t] of here.entries()) expect(Math.abs(t - (there[i] as number)), kind).toBeLessThan(0.0005)
    expect(Math.abs(all.length / rate - browser.length / 44_100), kind).toBeLessThan(0.001)
  }
})
