/* npm run bench:picture: how far the picture of a film is from the song it follows, on the floor, at five speeds and over the joins
   of a loop; read from its pixels, against what was put on the audio clock. Beside it: a seek by a count, stills of an eight. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { chromium, type Page } from '@playwright/test'
import { BIT, BITS, FRAMES, makeFilm } from '../../e2e/films'
import { readWav, toMono, writeWav } from '../../src/core/formats/wav'
import { limiterDelay } from '../../src/core/loudness'
import { Attacked } from '../attack/server'

/** The film shows this of the song, at full tempo, after so much silence. */
const [TALK, FROM, TO] = [3, 30, 66]
const SPEEDS = [0.4, 0.6, 0.75, 1, 1.1]
const WATCHED = 20_000

interface Seen {
  /** Seconds of the film: shown, and as the song wants it. */
  off: number[]
  /** Where a repetition had just begun. */
  joins: number[]
}

/** What is put on the audio clock, noted before the page is there. */
async function watch(page: Page): Promise<void> {
  await page.addInitScript({ content: 'globalThis.__name = (f) => f' })
  await page.addInitScript(() => {
    const w = window as unknown as { plays: unknown[]; clock: AudioContext | null }
    w.plays = []
    w.clock = null
    const { postMessage } = MessagePort.prototype
    MessagePort.prototype.postMessage = function (
      message: { kind?: string; play?: object },
      ...rest: never[]
    ) {
      if (message?.kind === 'stop' || message?.kind === 'cut') w.plays = []
      if (message?.kind === 'play') w.plays.push(message.play)
      return postMessage.call(this, message, ...rest)
    }
    const Context = window.AudioContext
    window.AudioContext = class extends Context {
      constructor(options?: AudioContextOptions) {
        super(options)
        w.clock = this
      }
    }
  })
}

const seen = (page: Page, ms: number): Promise<Seen> =>
  page.evaluate(
    ({ ms, bits, bit, frames, talk, from, delay }) => {
      const w = window as unknown as {
        plays: { at: number; samples: number; from: number; speed: number }[]
        clock: AudioContext
      }
      const canvas = new OffscreenCanvas(bits * bit, bit)
      const pen = canvas.getContext('2d', { willReadFrequently: true }) as OffscreenCanvasRenderingContext2D
      const out: { off: number[]; joins: number[] } = { off: [], joins: [] }
      // The clock of the device stands still between its buffers: the most it was ahead of the page's own.
      let ahead = Number.NEGATIVE_INFINITY
      const end = performance.now() + ms
      return new Promise<typeof out>((done) => {
        const look = () => {
          const now = performance.now() / 1000
          ahead = Math.max(ahead, w.clock.currentTime - now)
          const heard = now + ahead - (w.clock.outputLatency || 0) - delay
          const sample = heard * w.clock.sampleRate
          const play = w.plays.find((p) => sample >= p.at && sample < p.at + p.samples)
          const video = [...document.querySelectorAll('[data-testid=film] video')].find(
            (v) => (v as HTMLVideoElement).style.visibility !== 'hidden',
          ) as HTMLVideoElement | undefined
          if (play && video?.videoWidth) {
            pen.drawImage(video, 0, 0, bits * bit, bit, 0, 0, bits * bit, bit)
            let n = 0
            for (let i = 0; i < bits; i++)
              if ((pen.getImageData(i * bit + (bit >> 1), bit >> 1, 1, 1).data[0] ?? 0) > 128) n |= 1 << i
            const into = (sample - play.at) / w.clock.sampleRate
            const wanted = talk + play.from + into * play.speed - from
            // A picture stands for the time until the next.
            const off = (n + 0.5) / frames - wanted
            out.off.push(off)
            if (into < 0.25) out.joins.push(off)
          }
          if (performance.now() < end) requestAnimationFrame(look)
          else done(out)
        }
        look()
      })
    },
    {
      ms,
      bits: BITS,
      bit: BIT,
      frames: FRAMES,
      talk: TALK,
      from: FROM,
      delay: limiterDelay(44_100) / 44_100,
    },
  )

const at = (list: number[], share: number) =>
  (
    1000 *
    ([...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(share * list.length))] ??
      Number.NaN)
  ).toFixed(0)

async function main() {
  const data = mkdtempSync(path.join(os.tmpdir(), 'azalea-film-'))
  const server = new Attacked(data).withDemo()
  await server.start()
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
    args: ['--no-sandbox', '--autoplay-policy=no-user-gesture-required'],
  })
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await watch(page)
    await page.goto(server.url)
    const song = readWav(readFileSync(path.join(data, 'demo/Marmalade Weather.wav')))
    const mono = toMono(song)
    const sound = new Float32Array(Math.round((TO - FROM + TALK) * song.sampleRate))
    sound.set(mono.subarray(FROM * song.sampleRate, TO * song.sampleRate), TALK * song.sampleRate)
    const film = await makeFilm(page, {
      sound: writeWav({ sampleRate: song.sampleRate, channels: [sound] }),
      width: 640,
      height: 360,
    })
    writeFileSync(path.join(data, 'film.webm'), film)
    await page
      .getByRole('link', { name: /Marmalade/ })
      .first()
      .click()
    await page.getByRole('link', { name: /^Cue/ }).click()
    await page.getByTestId('sheet').waitFor()
    await page.keyboard.press('Shift+F')
    const part = page.getByRole('region', { name: 'Film', exact: true })
    await part.locator('input[type=file]').setInputFiles(path.join(data, 'film.webm'))
    await part.getByText('one take', { exact: true }).waitFor({ timeout: 120_000 })
    await stillsAndSeeks(page)
    await page.getByRole('link', { name: /^Floor/ }).click()
    await page.getByRole('radio', { name: 'Film' }).click()
    console.log(
      '| speed | median, ms | 5 to 95 %, ms | first quarter of a second of a repetition, 5 to 95 % | looks |\n| --- | --- | --- | --- | --- |',
    )
    for (const speed of SPEEDS) {
      await page.getByRole('slider', { name: /Speed/ }).first().fill(String(speed))
      await page.locator('body').click({ position: { x: 5, y: 5 } })
      await page.keyboard.press('Space')
      await page.getByTestId('film').waitFor()
      await page.waitForTimeout(4000)
      const { off, joins } = await seen(page, WATCHED)
      const shown = await page.getByTestId('speed').textContent()
      await page.keyboard.press('Space')
      await page.waitForTimeout(500)
      await page.waitForTimeout(800)
      console.log(
        `| ${shown} | ${at(off, 0.5)} | ${at(off, 0.05)} to ${at(off, 0.95)} | ${at(joins, 0.05)} to ${at(joins, 0.95)} | ${off.length} |`,
      )
    }
  } finally {
    await browser.close()
    await server.kill()
    rmSync(data, { recursive: true, force: true })
  }
}

/** How long a seek by a count and the stills of an eight take. */
async function stillsAndSeeks(page: Page): Promise<void> {
  const times = await page.evaluate(async () => {
    const sheet = document.querySelector('[data-testid=sheet]') as HTMLElement
    sheet.focus()
    const video = () =>
      [...document.querySelectorAll('[data-testid=film] video')].find(
        (v) => (v as HTMLVideoElement).style.visibility !== 'hidden',
      ) as HTMLVideoElement
    const out: number[] = []
    for (let i = 0; i < 15; i++) {
      const from = performance.now()
      const sought = new Promise((done) => video().addEventListener('seeked', done, { once: true }))
      sheet.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }))
      await sought
      await new Promise(requestAnimationFrame)
      out.push(performance.now() - from)
      await new Promise((done) => setTimeout(done, 150))
    }
    return out
  })
  console.log(
    `a seek by a count: median ${at(
      times.map((t) => t / 1000),
      0.5,
    )} ms, worst ${at(
      times.map((t) => t / 1000),
      1,
    )} ms (aim 150)`,
  )
  const stills = await page.evaluate(async () => {
    const from = performance.now()
    ;(
      [...document.querySelectorAll('button')].find((b) => b.textContent === 'A still a count') as HTMLElement
    ).click()
    const full = () =>
      [...document.querySelectorAll('[data-testid=stills]')].find(
        (s) => s.querySelectorAll('img').length >= 8,
      )
    while (!full()) await new Promise(requestAnimationFrame)
    return performance.now() - from
  })
  console.log(`stills of the first whole eight, of all rows in sight: ${stills.toFixed(0)} ms (aim 1000)\n`)
}

main().catch((error: unknown) => {
  console.error(error)
  process.exitCode = 1
})
