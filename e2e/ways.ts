import AxeBuilder from '@axe-core/playwright'
import { type APIRequestContext, expect, type Page } from '@playwright/test'
import { DEMO_TITLE } from '../demo/routine'
import type { Hearing } from '../src/core/hear'
import type { ShelfPart } from '../src/server/shelf'
import { heardSong } from './heard-songs'
import { loopTrack, silence } from './sounds'

type Station = 'Count' | 'Cue' | 'Teach' | 'Floor' | 'Log'

let demo: Promise<string> | null = null

/** The demo's routine: the same on every server of a run, whose data are copies. */
function demoRoutine(request: APIRequestContext): Promise<string> {
  demo ??= request
    .get(`/api/shelf?search=${encodeURIComponent(DEMO_TITLE)}`)
    .then((answer) => answer.json())
    .then(({ items }: ShelfPart) => {
      const found = items.find((i) => i.title === DEMO_TITLE)
      if (!found) throw new Error('the demo is not on the shelf')
      return found.id
    })
  return demo
}

/** Opens a station of the demo. */
export async function openDemo(page: Page, station: Station = 'Cue') {
  await page.goto(`/r/${await demoRoutine(page.request)}/${station.toLowerCase()}`)
  if (station === 'Cue') await expect(page.getByTestId('cue').first()).toBeVisible()
}

export async function goTo(page: Page, station: string) {
  await page
    .getByRole('navigation', { name: 'Stations' })
    .getByRole('link', { name: new RegExp(`^${station}`) })
    .focus()
  await page.keyboard.press('Enter')
  await page.waitForURL(`**/${station.toLowerCase()}`)
}

/** Writes all that is danced in the first eight, as one line. */
export async function writeFirstEight(page: Page, words: string) {
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Home')
  await page.keyboard.press('l')
  await page.keyboard.press('Control+a')
  await page.keyboard.type(words)
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
}

/** Only the rows of a lesson that are in sight are there: a very high window shows all of them. */
export const seeAllSteps = (page: Page) => page.setViewportSize({ width: 1280, height: 4000 })

let songs = 0

/**
 * Puts a song on the server together with what is heard in it, as a page does that heard it.
 * @returns the song's routine and the song
 */
export async function putSong(
  request: APIRequestContext,
  name: string,
  wav: Buffer,
  hearing: Hearing,
  peaks: Uint8Array,
): Promise<{ routine: string; song: string }> {
  // A few more samples of silence make each a song of its own.
  const own = Buffer.concat([wav, silence(0.01 + songs++ / 1000).subarray(44)])
  own.writeUInt32LE(own.length - 8, 4)
  own.writeUInt32LE(own.length - 44, 40)
  const put = await request.put('/api/songs', {
    headers: { 'x-file-name': encodeURIComponent(`${name}.wav`) },
    data: own,
  })
  const { songId, routines } = await put.json()
  const kept = await request.put(`/api/songs/${songId}/hearing`, {
    data: { hearing, peaks: Buffer.from(peaks).toString('base64') },
  })
  expect(kept.ok()).toBe(true)
  return { routine: routines[0].id, song: songId }
}

/** A drum loop and what is heard in it, worked out once; it may begin with seconds of silence. */
const track = (bpm: number, silent: number) =>
  heardSong(`loop ${bpm} ${silent}`, () => loopTrack(bpm, silent + 48, silent + 0.45))

/**
 * Which accessibility rules the page fails, by axe, each with the first element that does.
 * @param without a part that was looked at before
 */
export async function accessibilityFaults(page: Page, without?: string): Promise<string[]> {
  // There are no frames here: without them the rules run in the page itself, in a fraction of the time. What passes is
  // not told: its elements come over as hundreds of kilobytes.
  const axe = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] })
  const { violations } = await (without ? axe.exclude(without) : axe).analyze()
  return violations.map((v) => `${v.id} ${v.nodes[0]?.html}`)
}

/** A routine of one's own on a fresh song that was heard before. */
async function openOwn(
  page: Page,
  station: Station,
  [name, bpm = 120, silent = 0, confidence]: OwnSong,
): Promise<void> {
  const { wav, hearing, peaks } = track(bpm, silent)
  const heard = confidence ? { ...hearing, confidence } : hearing
  const { routine } = await putSong(page.request, name, wav, heard, peaks)
  await page.goto(`/r/${routine}/${station.toLowerCase()}`)
}

/** Its name, how fast it is, how many seconds of silence it begins with, and how sure it is said to be heard. */
type OwnSong = [name: string, bpm?: number, silent?: number, confidence?: Hearing['confidence']]

/** A song of one's own on the Count station. */
export async function ownSong(page: Page, ...song: OwnSong) {
  await openOwn(page, 'Count', song)
  await expect(page.getByText('BPM, steady')).toBeVisible()
  await page.getByTestId('sheet').focus()
}

/** A song of one's own on the floor, which lays it out and proposes its first eight. */
export async function ownFloor(page: Page, ...song: OwnSong) {
  await openOwn(page, 'Floor', song)
  await expect(page.getByRole('textbox', { name: 'Which counts' })).toHaveValue(/eight 1$/)
}

/** The same from the shelf on: a file is chosen, uploaded, and heard by the page. */
export async function uploadedSong(page: Page, name: string, bpm = 120) {
  await page.goto('/')
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Choose a file' }).focus()
  await page.keyboard.press('Enter')
  await (await chooser).setFiles({
    name: `${name}.wav`,
    mimeType: 'audio/wav',
    buffer: loopTrack(bpm, 48, 0.47),
  })
  await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 30_000 })
  await page.getByTestId('sheet').focus()
}

/**
 * Keeps each text that an element shows from now on until the page is loaded anew, however short it stands: a busy
 * machine comes to look when it is over.
 * @param testid the element's; it need not be there yet
 * @returns what was shown so far, in order, nothing twice in a row
 */
export async function shownIn(page: Page, testid: string): Promise<() => Promise<string[]>> {
  await page.evaluate((id) => {
    const w = window as unknown as { shown?: Record<string, string[]> }
    const texts: string[] = []
    w.shown = { ...w.shown, [id]: texts }
    const look = () => {
      const now = document.querySelector(`[data-testid=${id}]`)?.textContent
      if (now && now !== texts.at(-1)) texts.push(now)
    }
    look()
    new MutationObserver(look).observe(document.body, { subtree: true, childList: true, characterData: true })
  }, testid)
  return () =>
    page.evaluate((id) => (window as unknown as { shown: Record<string, string[]> }).shown[id] ?? [], testid)
}

/**
 * Begins a drill and compares the counts it shows first, each of them. A page that is kept waiting leaves some out, as it
 * should: then the drill is begun once more.
 * @param begin presses what begins it
 */
export async function drillShows(page: Page, begin: () => Promise<void>, ...counts: string[]) {
  const shown = await shownIn(page, 'count')
  await expect(async () => {
    const setting = page.getByRole('heading', { name: 'What do we drill?' })
    if (!(await setting.isVisible())) await page.locator('body').press('Space')
    await expect(setting).toBeVisible()
    await page.evaluate(() => {
      for (const texts of Object.values((window as unknown as { shown: Record<string, string[]> }).shown))
        texts.length = 0
    })
    await begin()
    await repetitionFrom(page, 3)
    expect((await shown()).filter((n) => n !== '·').slice(0, counts.length)).toEqual(counts)
  }).toPass({ timeout: 120_000 })
}

/** Holds back what the page sends by a method. @returns lets it go on */
export async function heldBack(page: Page, method: string, url: string): Promise<() => void> {
  let release = () => {}
  const released = new Promise<void>((done) => {
    release = done
  })
  await page.route(url, async (route) => {
    if (route.request().method() === method) await released
    await route.continue()
  })
  return () => release()
}

/** Waits until a drill has come to its nth repetition, or past it. */
export const repetitionFrom = (page: Page, n: number) =>
  expect
    .poll(
      async () =>
        Number(/repetition (\d+)/.exec((await page.getByTestId('repetition').textContent()) ?? '')?.[1] ?? 0),
      { timeout: 30_000 },
    )
    .toBeGreaterThanOrEqual(n)

/** A song of one's own on the Cue station, at its first whole phrase. @returns the number of that row */
export async function ownSheet(page: Page, ...song: OwnSong): Promise<number> {
  await openOwn(page, 'Cue', song)
  await expect(page.locator('[data-row]').first()).toBeVisible()
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Home')
  const pickUp = await page.getByText('pick-up').count()
  if (pickUp) await page.keyboard.press('PageDown')
  return pickUp ? 1 : 0
}

/** A song of one's own with a step on every other count of its first eight, chosen on the floor. */
export async function drillOfSteps(page: Page, name: string) {
  const pickUp = await ownSheet(page, name, 150)
  await page.keyboard.press('l')
  await page.keyboard.type('1 step R; 3 step L; 5 step R; 7 step L')
  await page.keyboard.press('Enter')
  await goTo(page, 'Floor')
  if (pickUp)
    await page
      .getByRole('button', { name: /^Eight 1/ })
      .first()
      .click()
}

/** A part of the song as its worklet is told of it: at which sample of the clock, from which second of the song, how fast. */
interface PlayedPart {
  at: number
  from: number
  speed: number
}

/** Writes down each part of the song that is played from the next load of the page on. @returns what was so far */
export async function partsPlayed(page: Page): Promise<() => Promise<PlayedPart[]>> {
  await page.addInitScript(() => {
    const parts: unknown[] = []
    Object.assign(window, { parts })
    const { postMessage } = MessagePort.prototype
    MessagePort.prototype.postMessage = function (message, ...rest: never[]) {
      if (message?.kind === 'play') parts.push(message.play)
      return postMessage.call(this, message, ...rest)
    }
  })
  return () => page.evaluate(() => (window as unknown as { parts: PlayedPart[] }).parts)
}

/** What a page gave to the sound device. */
interface HeardSound {
  /** Seconds of it so far. */
  seconds: () => Promise<number>
  /** The last seconds of it, two channels at 44.1 kHz. */
  last: (seconds: number) => Promise<Float32Array[]>
}

/** Keeps what the page gives to the sound device, from the next load of the page on. */
export async function soundHeard(page: Page): Promise<HeardSound> {
  await page.addInitScript(() => {
    const heard: Float32Array[][] = []
    Object.assign(window, { heard })
    const connect = AudioNode.prototype.connect as (
      this: AudioNode,
      to: AudioNode,
      ...rest: number[]
    ) => AudioNode
    const program = `registerProcessor('heard', class extends AudioWorkletProcessor {
      process([x]) { if (x.length) this.port.postMessage(x.map((c) => c.slice())); return true }
    })`
    const listened = async (node: AudioNode, context: AudioContext) => {
      await context.audioWorklet.addModule(
        URL.createObjectURL(new Blob([program], { type: 'text/javascript' })),
      )
      const ear = new AudioWorkletNode(context, 'heard', { channelCount: 2, channelCountMode: 'explicit' })
      ear.port.onmessage = (e) => heard.push(e.data)
      connect.call(node, ear)
    }
    AudioNode.prototype.connect = function (this: AudioNode, to: AudioNode, ...rest: number[]) {
      const { context } = this
      if (to === context.destination && context instanceof AudioContext) listened(this, context)
      return connect.call(this, to, ...rest)
    } as typeof AudioNode.prototype.connect
  })
  const BLOCK = 128 / 44_100
  return {
    seconds: async () =>
      BLOCK * (await page.evaluate(() => (window as unknown as { heard: unknown[] }).heard.length)),
    last: async (seconds) => {
      const parts = await page.evaluate(
        (blocks) => {
          const { heard } = window as unknown as { heard: Float32Array[][] }
          return [0, 1].map((c) => {
            const all = heard
              .slice(-blocks)
              .map((h) => new Uint8Array((h[c] as Float32Array).buffer as ArrayBuffer))
            return all.map((bytes) => btoa(String.fromCharCode(...bytes))).join(' ')
          })
        },
        Math.ceil(seconds / BLOCK),
      )
      return parts.map((text) => {
        const bytes = Buffer.concat(text.split(' ').map((block) => Buffer.from(block, 'base64')))
        return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
      })
    },
  }
}

/** To the practice page on Hand out, by keys. */
export async function toThePage(page: Page) {
  await page
    .getByRole('navigation', { name: 'Stations' })
    .getByRole('link', { name: 'Hand out' })
    .press('Enter')
  await page.waitForURL('**/hand-out')
  await page.getByRole('button', { name: 'Practice page', exact: true }).press('Enter')
}

/** Whether a worklet of this page may run a program, as that of the music does to slow faster. */
export const programsRunInWorklets = (page: Page): Promise<boolean> =>
  page.evaluate(async () => {
    const context = new OfflineAudioContext(1, 128, 44_100)
    const module = `registerProcessor('probe', class extends AudioWorkletProcessor {
      constructor() {
        super()
        let runs = true
        try { new WebAssembly.Instance(new WebAssembly.Module(new Uint8Array([0, 97, 115, 109, 1, 0, 0, 0]))) } catch { runs = false }
        this.port.postMessage(runs)
      }
      process() { return false }
    })`
    await context.audioWorklet.addModule(`data:text/javascript,${encodeURIComponent(module)}`)
    return new Promise<boolean>((done) => {
      new AudioWorkletNode(context, 'probe').port.onmessage = ({ data }) => done(data === true)
    })
  })
