/* How soon the floor sounds and falls silent, and what it costs while it drills. */
import type { Browser } from '@playwright/test'

interface Traces {
  pressed: number
  started: number[]
  stopped: number[]
}

/**
 * Measures a drill on the floor of a routine.
 * @returns rows: what, measured, aim
 */
export async function floorRows(b: Browser, url: string): Promise<[string, string, string][]> {
  const page = await b.newPage({ viewport: { width: 1280, height: 800 } })
  await page.addInitScript({ content: 'globalThis.__name = (f) => f' })
  await page.addInitScript(() => {
    const w = window as unknown as { traces: Traces }
    w.traces = { pressed: 0, started: [], stopped: [] }
    window.addEventListener(
      'keydown',
      () => {
        w.traces = { pressed: performance.now(), started: [], stopped: [] }
      },
      true,
    )
    const { start, stop } = AudioBufferSourceNode.prototype
    AudioBufferSourceNode.prototype.start = function (when = 0, ...rest: number[]) {
      const wait = Math.max(0, when - this.context.currentTime) * 1000
      w.traces.started.push(performance.now() + wait - w.traces.pressed)
      return start.call(this, when, ...rest)
    }
    AudioBufferSourceNode.prototype.stop = function (when = 0) {
      w.traces.stopped.push(performance.now() - w.traces.pressed)
      return stop.call(this, when)
    }
  })
  const traces = () => page.evaluate(() => (window as unknown as { traces: Traces }).traces)
  const wait = (ms: number) => new Promise((done) => setTimeout(done, ms))
  await page.goto(url)
  await page.waitForLoadState('networkidle')
  // Once, so that the song is there and the device open, as after the first drill of a lesson.
  await page.keyboard.press('Space')
  await page.getByTestId('count').waitFor()
  await wait(12_000)
  await page.keyboard.press('Space')
  await wait(500)
  const first: number[] = []
  const silent: number[] = []
  for (let i = 0; i < 7; i++) {
    await page.keyboard.press('Space')
    await wait(1500)
    first.push(Math.min(...(await traces()).started))
    await page.keyboard.press('Space')
    await wait(400)
    silent.push(Math.max(...(await traces()).stopped))
  }
  await page.keyboard.press('Space')
  await wait(2000)
  const cdp = await b.newBrowserCDPSession()
  const cpu = async () => {
    const { processInfo } = await cdp.send('SystemInfo.getProcessInfo')
    return processInfo.filter((p) => p.type === 'renderer').reduce((n, p) => n + p.cpuTime, 0)
  }
  const before = await cpu()
  const from = performance.now()
  await wait(15_000)
  const share = ((await cpu()) - before) / ((performance.now() - from) / 1000)
  await page.close()
  const worst = (xs: number[]) => Math.max(...xs).toFixed(0)
  const middle = (xs: number[]) => [...xs].sort((x, y) => x - y)[xs.length >> 1]?.toFixed(0)
  return [
    [
      'floor: from the key to the first sound, beside the device',
      `median ${middle(first)} ms, worst ${worst(first)} ms`,
      '300 ms',
    ],
    ['floor: from the key to silence', `median ${middle(silent)} ms, worst ${worst(silent)} ms`, '100 ms'],
    [
      'floor: share of a core while drilling at 75 %, page and sound',
      `${(100 * share).toFixed(0)} %`,
      '25 %',
    ],
  ]
}
