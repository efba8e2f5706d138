/* npm run bench:page: a 10-minute song of 150 phrases and 3,000 cues, in Chromium and in the core. */
import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { type Browser, chromium, type Page } from '@playwright/test'
import { drumLoop } from '../../e2e/sounds'
import { findings, followBody, moveBook, STARTING_MOVES } from '../../src/core/choreo'
import { writeWav } from '../../src/core/formats/wav'
import { packPeaks } from '../../src/core/hear'
import { listen } from '../../src/core/hear/listen'
import { type Cue, danced, emptyRoutine, everyEight, layOut, type Routine } from '../../src/core/routine'
import { floorRows } from './floor'

const RATE = 22_050
const SECONDS = 600
const PORT = 3428
const BASE = `http://localhost:${PORT}`
const MOVES = [
  'step',
  'touch',
  'walk',
  'kick',
  'cross behind',
  'clap',
  'ball-change',
  'sway',
  'reach',
  'hold',
]

const row = (name: string, value: string, aim: string) => `| ${name} | ${value} | ${aim} |`

/** 150 eights; every fifth is danced as an earlier one, the others hold 25 cues in three layers. */
function large(counts: number): Routine {
  let n = 0
  const id = () => `b${n++}`
  const r = layOut(emptyRoutine('Ten minutes'), { counts, starts: everyEight(0, counts), sections: [] }, id)
  const cues: Cue[] = []
  r.phrases.forEach((p, i) => {
    if (i % 5 === 4) {
      const to = { from: i * 192, to: i * 192 + p.length * 24 }
      r.repeats.push({ id: id(), to, from: (i - 4) * 192, mirrored: i % 2 === 0 })
      return
    }
    for (let k = 0; k < 25; k++) {
      const layer = (['feet', 'arms', 'body'] as const)[k % 3] as Cue['layer']
      const at = i * 192 + Math.floor(k / 3) * 24 + (k >= 24 ? 12 : 0)
      const side = k % 2 ? 'left' : 'right'
      cues.push({
        id: id(),
        at,
        length: 24,
        layer,
        move: MOVES[(i + k) % MOVES.length] as string,
        side,
        call: '',
      })
    }
  })
  return { ...r, cues }
}

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] ?? 0

function milliseconds(work: () => void, times = 25): number {
  work()
  return median(
    Array.from({ length: times }, () => {
      const from = performance.now()
      work()
      return performance.now() - from
    }),
  )
}

function core(routine: Routine, times: number[]): string[] {
  const book = moveBook(STARTING_MOVES)
  const copy = milliseconds(() => JSON.parse(JSON.stringify(routine)))
  const resolve = milliseconds(() => danced({ ...routine, cues: [...routine.cues] }))
  const all = milliseconds(() => {
    // A new document, as after an edit.
    const edited = { ...routine }
    followBody(danced(edited), book)
    findings(edited, times, book)
  })
  const times1 = (x: number) => `${x.toFixed(1)} ms (${(x / copy).toFixed(1)} × copying the document as JSON)`
  return [
    row(
      `repeats worked out, ${routine.cues.length} cues and ${routine.repeats.length} repeats`,
      times1(resolve),
      '30 ms',
    ),
    row('the same, the body followed, and every check', times1(all), '30 ms'),
  ]
}

async function put(
  url: string,
  body: BodyInit,
  headers: Record<string, string>,
  method = 'PUT',
): Promise<unknown> {
  const answer = await fetch(`${BASE}${url}`, { method, body, headers })
  if (!answer.ok) throw new Error(`${url}: ${answer.status} ${await answer.text()}`)
  return answer.json()
}

/** Collects the time between frames while something happens. @returns share of frames missed, and the longest gap */
async function frames(
  page: Page,
  during: () => Promise<unknown>,
): Promise<{ missed: number; longest: number }> {
  await page.evaluate(() => {
    const w = window as unknown as { gaps: number[]; on: boolean }
    w.gaps = []
    w.on = true
    let last = performance.now()
    const step = (now: number) => {
      w.gaps.push(now - last)
      last = now
      if (w.on) requestAnimationFrame(step)
    }
    requestAnimationFrame(step)
  })
  await during()
  const gaps = await page.evaluate(() => {
    const w = window as unknown as { gaps: number[]; on: boolean }
    w.on = false
    return w.gaps.slice(2)
  })
  const frame = 1000 / 60
  const missed = gaps.reduce((n, g) => n + Math.max(0, Math.round(g / frame) - 1), 0)
  return { missed: missed / (missed + gaps.length), longest: Math.max(...gaps) }
}

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms))

/** From each key to the paint after it, by the browser's Event Timing; what it leaves out took under 16 ms. */
async function keys(
  page: Page,
  press: () => Promise<void>,
  count: number,
): Promise<{ median: number; worst: number; script: number }> {
  await page.evaluate(() => {
    const w = window as unknown as { events: number[]; script: number[] }
    w.events = []
    w.script = []
    new PerformanceObserver((list) => {
      for (const e of list.getEntries() as PerformanceEventTiming[]) {
        if (e.name !== 'keydown') continue
        w.events.push(e.duration)
        w.script.push(e.processingEnd - e.processingStart)
      }
    }).observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit)
  })
  for (let i = 0; i < count; i++) {
    await press()
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))))
  }
  await wait(300)
  const { events, script } = await page.evaluate(() => {
    const { events, script } = window as unknown as { events: number[]; script: number[] }
    return { events, script }
  })
  const all = [...events, ...Array.from({ length: Math.max(0, count - events.length) }, () => 16)]
  return { median: median(all), worst: Math.max(...all), script: median(script) }
}

/** Loads a station and tells how long after its data the first row is painted. */
async function opened(page: Page, url: string): Promise<number> {
  await page.goto(url)
  await page.waitForSelector('[data-row] canvas')
  return page.evaluate(() => (window as unknown as { painted: Promise<number> }).painted)
}

/** Waits until a page has read its sound. */
async function settled(page: Page) {
  await page.waitForLoadState('networkidle')
  await page.getByText('reading the sound').waitFor({ state: 'hidden', timeout: 120_000 })
}

async function browser(b: Browser, routineId: string): Promise<string[]> {
  const page = await b.newPage({ viewport: { width: 1280, height: 800 } })
  // The runner names functions by a helper that pages do not have.
  await page.addInitScript({ content: 'globalThis.__name = (f) => f' })
  await page.addInitScript(() => {
    const w = window as unknown as { painted: Promise<number> }
    w.painted = new Promise((tell) => {
      const look = () => {
        if (!document.querySelector('[data-row] canvas')) return requestAnimationFrame(look)
        requestAnimationFrame(() => {
          const [nav] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[]
          tell(performance.now() - (nav?.responseEnd ?? 0))
        })
      }
      requestAnimationFrame(look)
    })
  })
  const scroll = async () => {
    await page.mouse.move(500, 400)
    for (let i = 0; i < 60; i++) {
      await page.mouse.wheel(0, 160)
      await wait(50)
    }
  }
  await page.goto('about:blank')
  const still = await frames(page, () => wait(3000))
  // What a moving line alone costs where the picture is put together without a graphics card.
  await page.setContent('<i style="position:fixed;top:0;left:0;width:3px;height:90px;background:red"></i>')
  const moving = await frames(page, async () => {
    await page.evaluate(() =>
      document
        .querySelector('i')
        ?.animate([{ transform: 'none' }, { transform: 'translateX(900px)' }], { duration: 5000 }),
    )
    await wait(3000)
  })
  const out: string[] = []
  const share = (f: { missed: number; longest: number }) =>
    `${(100 * f.missed).toFixed(1)} %, longest ${f.longest.toFixed(0)} ms`
  for (const station of ['count', 'cue']) {
    const url = `${BASE}/r/${routineId}/${station}`
    const first = await opened(page, url)
    const later: number[] = []
    for (let i = 0; i < 5; i++) {
      // What the page before still did would be measured too.
      await settled(page)
      later.push(await opened(page, url))
    }
    out.push(
      row(
        `${station}: from the data to the first paint of the sheet`,
        `${median(later).toFixed(0)} ms; ${first.toFixed(0)} ms the first time in a fresh browser`,
        '1000 ms',
      ),
    )
    await settled(page)
    out.push(
      row(`${station}: frames missed while scrolling`, share(await frames(page, scroll)), share(still)),
    )
    await page.getByTestId('sheet').focus()
    await page.keyboard.press('Home')
    await page.keyboard.press('Space')
    await wait(2500)
    out.push(
      row(
        `${station}: frames missed while playing`,
        share(await frames(page, () => wait(4000))),
        `${share(moving)} (a line moving on an empty page)`,
      ),
    )
    await page.keyboard.press('Space')
    if (station === 'count') {
      let n = 0
      const k = await keys(page, () => page.keyboard.press(n++ % 2 ? '[' : ']'), 30)
      out.push(
        row(
          'count: an edit of all phrases repainted',
          `median ${k.median} ms, of it ${k.script.toFixed(0)} ms script; worst ${k.worst} ms`,
          '50 ms',
        ),
      )
    } else {
      await page.keyboard.press('l')
      let i = 0
      const text = '1 step R; 2 touch L; 3 step L; 4 touch R; '
      await page.keyboard.press('Control+a')
      const k = await keys(page, () => page.keyboard.press(text[i++] as string), text.length)
      out.push(
        row(
          'cue: a key typed into a line, lanes and footing redrawn',
          `median ${k.median} ms, of it ${k.script.toFixed(0)} ms script; worst ${k.worst} ms`,
          '50 ms',
        ),
      )
    }
  }
  return out
}

async function main() {
  const samples = drumLoop(120, SECONDS, 0.5, RATE)
  const wav = Buffer.from(writeWav({ sampleRate: RATE, channels: [samples] }))
  const { hearing, peaks } = listen(samples, RATE)
  const routine = large(hearing.beats.length)
  const lines = core(routine, hearing.beats)
  const data = mkdtempSync(path.join(os.tmpdir(), 'azalea-bench-'))
  const server = spawn('npx', ['next', 'start', '-H', '127.0.0.1', '-p', String(PORT)], {
    env: { ...process.env, AZALEA_DATA: data },
    stdio: 'ignore',
    detached: true,
  })
  try {
    for (let i = 0; i < 120; i++) {
      if (
        await fetch(BASE).then(
          () => true,
          () => false,
        )
      )
        break
      await wait(500)
    }
    const taken = (await put('/api/songs', wav, { 'x-file-name': 'Ten minutes.wav' })) as {
      songId: string
      routines: { id: string }[]
    }
    const id = taken.routines[0]?.id as string
    const json = { 'content-type': 'application/json' }
    const packed = Buffer.from(packPeaks(peaks)).toString('base64')
    await put(`/api/songs/${taken.songId}/hearing`, JSON.stringify({ hearing, peaks: packed }), json)
    await put(`/api/routines/${id}`, JSON.stringify({ revision: 0, routine }), json)
    const b = await chromium.launch({
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--autoplay-policy=no-user-gesture-required'],
    })
    lines.push(...(await browser(b, id)))
    for (const r of await floorRows(b, `${BASE}/r/${id}/floor`)) lines.push(row(...r))
    await b.close()
  } finally {
    if (server.pid) process.kill(-server.pid)
    rmSync(data, { recursive: true, force: true })
  }
  const cpu = os.cpus()
  const text = [
    '<!-- page -->',
    `${new Date().toISOString().slice(0, 10)}, ${cpu.length} × ${cpu[0]?.model.trim()}, Chromium without a graphics card, 1280 x 800. A song of 10 minutes, ${routine.phrases.length} phrases, ${routine.cues.length} cues. The last column is the aim, or for frames an empty page in the same run.`,
    '',
    '| | measured | beside |',
    '| --- | --- | --- |',
    ...lines,
    '<!-- /page -->',
  ].join('\n')
  console.log(text)
  const file = 'docs/benchmarks.md'
  const old = readFileSync(file, 'utf8')
  writeFileSync(
    file,
    old.includes('<!-- page -->')
      ? old.replace(/<!-- page -->[\s\S]*<!-- \/page -->/, text)
      : `${old}\n## A large page\n\n\`npm run bench:page\` (after a build).\n\n${text}\n`,
  )
}

await main()
