/* What leaves the house: made, saved, read back by readers we did not write, opened elsewhere. */
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import type { Download, Page } from '@playwright/test'
import ICAL from 'ical.js'
import { parseBuffer } from 'music-metadata'
import NodeID3 from 'node-id3'
import { extractText, getDocumentProxy } from 'unpdf'
import { readWav, writeWav } from '../src/core/formats/wav'
import { joined, quiet, resampled, shaped } from '../src/core/match/match.test-tools'
import { demoSong } from './heard-songs'
import { loopTrack } from './sounds'
import { expect, Server, test } from './test'
import { goTo, heldBack, openDemo, ownSong } from './ways'

const bytesOf = async (d: Download) => readFileSync(await d.path())
const saved = async (page: Page, press: () => Promise<unknown>) => {
  const download = page.waitForEvent('download', { timeout: 60_000 })
  await press()
  return download
}
const handOut = async (page: Page) => {
  await openDemo(page)
  await toHandOut(page)
}
const toHandOut = async (page: Page) => {
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: 'Hand out' }).focus()
  await page.keyboard.press('Enter')
  await page.waitForURL('**/hand-out')
}
const choose = async (page: Page, name: string) => {
  await page.getByRole('radio', { name, exact: true }).focus()
  await page.keyboard.press('Space')
}
const kind = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).press('Enter')

test('the cue sheet is shown as it will be, and saved as a PDF whose text is all there', {
  tag: '@fast',
}, async ({ page }) => {
  // What was written last is in it: until that is saved, nothing is made.
  const release = await heldBack(page, 'PUT', '**/api/routines/*')
  await openDemo(page)
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('w')
  await page.keyboard.type('hum along 손뼉')
  await page.keyboard.press('Enter')
  await toHandOut(page)
  await expect(page.getByText('What you did last is still being saved.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Save as PDF' })).toBeDisabled()
  release()
  await expect(page.getByRole('button', { name: 'Save as PDF' })).toBeEnabled()
  const sheet = page.getByTestId('sheet-preview')
  await expect(sheet.getByText('cross behind R').first()).toBeVisible()
  await page.getByText('Where the steps lead').click()
  const [leads] = await sheet.getByText(/^ends .* of where you began/).allTextContents()
  const pdf = await saved(page, () => page.getByRole('button', { name: 'Save as PDF' }).press('Enter'))
  expect(pdf.suggestedFilename()).toBe('Marmalade Weather Thursday beginners.pdf')
  const { text } = await extractText(await getDocumentProxy(new Uint8Array(await bytesOf(pdf))), {
    mergePages: true,
  })
  for (const words of [
    'hum along 손뼉',
    'cross behind',
    'hand to hip',
    'as Chorus, eight 1; new on 8',
    `${leads}`,
  ])
    expect(text.replace(/\s+/g, ' ')).toContain(words)
  // As in a mirror, of fewer counts, and written out.
  await page.getByRole('radio', { name: 'as in a mirror' }).focus()
  await page.keyboard.press('Space')
  await expect(sheet.getByText('cross behind L').first()).toBeVisible()
  await page.getByLabel('Which counts').fill('chorus, eight 2')
  await page.keyboard.press('Enter')
  await expect(sheet.getByRole('region')).toHaveCount(1)
  await page.getByRole('button', { name: 'The whole dance' }).press('Enter')
  // On paper there is only the sheet.
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeHidden()
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden()
  await expect(sheet).toBeVisible()
  // Words of another script are set with letters that ship with the app, here and in what is handed out.
  const loaded = () => [...document.fonts].filter((f) => f.status === 'loaded').map((f) => f.family)
  await expect.poll(() => page.evaluate(loaded)).toContainEqual(expect.stringContaining('Noto Sans KR'))
  await page.emulateMedia({ media: 'screen' })
  await kind(page, 'Practice page')
  const learners = page.frameLocator('iframe').locator('body')
  await expect(learners).toContainText('hum along 손뼉')
  await expect.poll(() => learners.evaluate(loaded)).toContain('Letters')
})

test('text, captions, tables and counts are saved; captions run in the browser’s own player', async ({
  page,
}) => {
  await handOut(page)
  await kind(page, 'Text to paste')
  await expect(page.getByTestId('paste')).toContainText('0:36 Chorus')
  await expect(page.getByTestId('paste')).toContainText('To know first:')
  await page.getByRole('slider', { name: 'The film begins before the song by' }).press('PageUp')
  await expect(page.getByTestId('paste')).toContainText('0:00 Before the song')
  await expect(page.getByTestId('paste')).not.toContainText('0:36 Chorus')
  await page.getByRole('checkbox', { name: 'With the moves of every phrase' }).press('Space')
  await expect(page.getByTestId('paste')).toContainText('Chorus, eight 1: 1 step R')
  await kind(page, 'Captions and lyric')
  const vtt = await saved(page, () => page.getByRole('button', { name: 'Save as WebVTT' }).press('Enter'))
  const shown = await page.evaluate(
    async (text) => {
      const video = document.createElement('video')
      const track = document.createElement('track')
      track.kind = 'captions'
      track.src = URL.createObjectURL(new Blob([text], { type: 'text/vtt' }))
      video.append(track)
      document.body.append(video)
      track.track.mode = 'hidden'
      await new Promise((done, failed) => {
        track.onload = done
        track.onerror = failed
      })
      const cues = [...(track.track.cues ?? [])] as VTTCue[]
      video.remove()
      return cues.map((c) => [c.startTime, c.text] as const)
    },
    (await bytesOf(vtt)).toString('utf8'),
  )
  expect(shown.length).toBeGreaterThan(60)
  expect(shown[0]?.[1]).toBe('8')
  expect(shown[1]).toEqual([expect.closeTo(36.178, 2), '1'])
  await choose(page, 'Assistants')
  await kind(page, 'Spreadsheet')
  const cells = page.getByTestId('table').getByRole('cell', { name: 'easier', exact: true })
  await expect(cells).toHaveCount(0)
  await page.getByRole('radio', { name: 'all roles and versions' }).press('Space')
  await expect(cells.first()).toBeVisible()
  await page.getByRole('radio', { name: 'what is chosen' }).press('Space')
  const xlsx = await saved(page, () => page.getByRole('button', { name: 'Save all as XLSX' }).press('Enter'))
  const { read, utils } = await import('@e965/xlsx')
  const book = read(await bytesOf(xlsx))
  const rows = utils.sheet_to_json<Record<string, string>>(book.Sheets.Cues as never)
  expect(rows[0]).toMatchObject({ Place: 'Pre-chorus, eight 2', Count: '8' })
  await choose(page, 'Myself')
  await kind(page, 'Counts for other programs')
  const midi = await saved(page, () =>
    page.getByRole('button', { name: 'Save MIDI tempo map' }).press('Enter'),
  )
  const { default: tone } = await import('@tonejs/midi')
  const notes = new tone.Midi(new Uint8Array(await bytesOf(midi))).tracks.flatMap((t) => t.notes)
  expect(notes.length).toBeGreaterThan(190)
  expect(notes.filter((n) => n.midi === 76).length).toBeGreaterThan(20)
})

test('a practice sound has its clicks on the grid in every file, is cancelled, and says how long it lasts', async ({
  page,
}) => {
  await handOut(page)
  await kind(page, 'Practice sound')
  const captions = await saved(page, () =>
    page.getByRole('button', { name: 'Captions for it, SRT' }).press('Enter'),
  )
  expect((await bytesOf(captions)).toString('utf8')).toMatch(/60 percent.*\n5\n.*\n8\n.*step R/s)
  await page.getByLabel('Which counts').fill('chorus, eight 1')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: /^Called|Called$/ }).click()
  await page.getByRole('option', { name: 'nothing', exact: true }).click()
  await page.getByRole('button', { name: /Speeds/ }).click()
  await page.getByRole('option', { name: '75, 100 %' }).click()
  await page.getByRole('checkbox', { name: 'Each speed is said before it' }).press('Space')
  await expect(page.getByTestId('rungs').getByRole('listitem')).toHaveCount(2)
  const uncoded: number[] = []
  for (const file of ['WAV', 'MP3', 'Opus'] as const) {
    await choose(page, file)
    const sound = await saved(page, () => page.getByRole('button', { name: 'Make the sound' }).press('Enter'))
    const bytes = await bytesOf(sound)
    if (file === 'WAV') expect(readWav(new Uint8Array(bytes)).sampleRate).toBe(44_100)
    // Decoded by the browser. In the WAV clicks are where sound begins after quiet; in the others they are moved by as
    // much as makes each most alike.
    const clicks = await page.evaluate(
      async ({ data, of }) => {
        const context = new OfflineAudioContext(1, 1, 44_100)
        const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0))
        const sound = (await context.decodeAudioData(bytes.buffer)).getChannelData(0)
        const kept = window as unknown as { uncoded: Float32Array }
        if (!of) {
          kept.uncoded = sound
          const out: number[] = []
          let quiet = 44_100
          sound.forEach((x, i) => {
            if (Math.abs(x) < 0.06) quiet++
            else {
              if (quiet > 0.08 * 44_100) out.push(i / 44_100)
              quiet = 0
            }
          })
          return out
        }
        return of.map((t) => {
          const at = Math.round(t * 44_100)
          let best = [Number.NEGATIVE_INFINITY, 0] as [number, number]
          for (let late = -441; late <= 1764; late++) {
            let alike = 0
            for (let i = at - 60; i < at + 1200; i++)
              alike += (kept.uncoded[i] as number) * (sound[i + late] as number)
            if (alike > best[0]) best = [alike, late]
          }
          return (at + best[1]) / 44_100
        })
      },
      { data: bytes.toString('base64'), of: file === 'WAV' ? null : uncoded },
    )
    // Two repetitions at each of two speeds: four counts in and eight danced, at 108 a minute.
    expect(clicks.length).toBe(48)
    // Coding moves none. What is counted in with is said too, and speech is like itself a wave later: the eight that follow.
    if (file === 'WAV') uncoded.push(...clicks)
    for (const [i, t] of clicks.entries())
      if (i % 12 >= 4) expect(Math.abs(t - (uncoded[i] as number))).toBeLessThan(0.001)
    const { common, native } = await parseBuffer(new Uint8Array(bytes))
    expect(common.title).toMatch(/^Marmalade Weather/)
    const chapters = {
      // The reader of cue points takes no file with a title too (its lists have no end): here the labels themselves.
      WAV: () =>
        [
          ...bytes
            .subarray(-60)
            .toString('latin1')
            .matchAll(/labl.{8}(.*?)\0/gs),
        ].map(([, l]) => l),
      MP3: () => NodeID3.read(bytes).chapter?.map((c) => c.tags?.title),
      Opus: () => native.vorbis?.filter((t) => /^CHAPTER\d+NAME$/.test(t.id)).map((t) => t.value),
    }
    expect(chapters[file]()).toEqual(['75 %', '100 %'])
    const beat = 60 / 108
    const apart = clicks.slice(1).map((t, i) => t - (clicks[i] as number))
    // What is counted in with lies in the song before, whose tempo is its own there.
    const slow = apart.slice(4, 11)
    const fast = apart.slice(40, 47)
    for (const [gaps, speed] of [
      [slow, 0.75],
      [fast, 1],
    ] as const)
      for (const gap of gaps) expect(Math.abs(gap - beat / speed)).toBeLessThan(0.002)
    await expect(page.getByText(/of sound/)).toBeVisible()
  }
  // A long one is stopped, and leaves nothing.
  await page.getByRole('button', { name: 'The whole dance' }).press('Enter')
  await page.getByRole('checkbox', { name: 'With the song' }).press('Space')
  await page.getByRole('button', { name: 'Make the sound' }).press('Enter')
  await page.getByRole('button', { name: 'Cancel' }).press('Enter')
  await expect(page.getByRole('button', { name: 'Make the sound' })).toBeVisible()
  await expect(page.getByTestId('preview').getByRole('alert')).toHaveCount(0)
})

test('a routine with its song is opened on another machine; a second time it asks; everything is backed up and brought back', async ({
  page,
}) => {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-elsewhere-'))
  await handOut(page)
  await choose(page, 'Assistants')
  await kind(page, 'The routine itself')
  await page.getByRole('checkbox', { name: /With the song itself/ }).press('Space')
  await expect(page.getByText('can need a licence')).toBeVisible()
  const zip = await saved(page, () => page.getByRole('button', { name: 'Save the routine' }).press('Enter'))
  expect(zip.suggestedFilename()).toMatch(/\.azalea\.zip$/)
  // By their paths: handed over as bytes, 36 MB take the browser's driver seconds.
  const zipped = path.join(dir, 'Thursday.azalea.zip')
  await zip.saveAs(zipped)
  await page.goto('/')
  const backup = await saved(page, () => page.getByRole('link', { name: /Save a backup/ }).press('Enter'))
  const whole = path.join(dir, 'backup.zip')
  await backup.saveAs(whole)

  const other = await Server.start(path.join(dir, 'data'))
  try {
    await page.goto(other.url)
    const bring = async (file: string | { name: string; mimeType: string; buffer: Buffer }) => {
      const chooser = page.waitForEvent('filechooser')
      await page.getByRole('button', { name: 'Choose a file' }).press('Enter')
      await (await chooser).setFiles(file)
    }
    await bring(zipped)
    await page.waitForURL('**/cue')
    await expect(page.getByTestId('cue').first()).toBeVisible()
    await goTo(page, 'Log')
    await expect(page.getByText('Nothing', { exact: false }).first()).toBeVisible()
    await page.goto(other.url)
    await bring(zipped)
    await expect(page.getByRole('alertdialog')).toContainText('It is here already, as “Marmalade Weather')
    await page.getByRole('button', { name: 'Open it as another' }).press('Enter')
    await page.waitForURL('**/cue')
    await page.goto(other.url)
    await expect(page.getByRole('link', { name: /Marmalade Weather/ })).toHaveCount(2)
    await bring(whole)
    await page.getByRole('button', { name: 'Bring it' }).press('Enter')
    await expect(page.getByTestId('brought')).toContainText(/Added: 0 songs, 0 routines, \d+ rows of the log/)
    // What is none of these is refused in words.
    await bring({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('PK nothing') })
    await expect(page.getByTestId('brought')).toContainText('broken, or no zip')
  } finally {
    await other.kill()
    rmSync(dir, { recursive: true, force: true })
  }
})

test('a routine is opened on another copy of its song, found in it by its sound; another song is refused', async ({
  page,
}) => {
  await handOut(page)
  await choose(page, 'Assistants')
  await kind(page, 'The routine itself')
  const json = await saved(page, () => page.getByRole('button', { name: 'Save the routine' }).press('Enter'))
  expect(json.suggestedFilename()).toMatch(/\.azalea\.json$/)
  const file = { name: 'Thursday.azalea.json', mimeType: 'application/json', buffer: await bytesOf(json) }
  const sent = JSON.parse(file.buffer.toString('utf8'))
  expect(sent.sound.length).toBeGreaterThan(10_000)
  // Another copy: begun 2.5 s later, softer, at another rate.
  const { sampleRate, channels } = demoSong()
  const [left] = channels as [Float32Array]
  const copy = resampled(
    joined(
      quiet(sampleRate, 2.5),
      shaped({ rate: sampleRate, samples: left }, () => 0.5),
    ),
    48_000,
  )
  const wav = (samples: Float32Array, rate: number) =>
    Buffer.from(writeWav({ sampleRate: rate, channels: [samples] }))
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-elsewhere-'))
  const other = await Server.start(dir)
  try {
    await page.goto(other.url)
    const bring = async (button: string, what: { name: string; mimeType: string; buffer: Buffer }) => {
      const chooser = page.waitForEvent('filechooser')
      await page.getByRole('button', { name: button }).press('Enter')
      await (await chooser).setFiles(what)
    }
    await bring('Choose a file', file)
    await expect(page.getByTestId('brought')).toContainText('Choose your copy of it')
    const wrong = { name: 'wrong.wav', mimeType: 'audio/wav', buffer: loopTrack(108, 40) }
    await bring('Choose your copy of the song', wrong)
    await expect(page.getByTestId('brought')).toContainText('is another song', { timeout: 100_000 })
    const right = { name: 'my copy.wav', mimeType: 'audio/wav', buffer: wav(copy.samples, copy.rate) }
    await bring('Choose your copy of the song', right)
    await page.waitForURL('**/cue', { timeout: 200_000 })
    await expect(page.getByTestId('cue').first()).toBeVisible()
    const id = /\/r\/([^/]+)/.exec(page.url())?.[1]
    const there = await (await page.request.get(`${other.url}/api/routines/${id}/file`)).json()
    expect(there.routine.cues).toEqual(sent.routine.cues)
    // Each count lies 2.5 s later, to a hundredth.
    for (const [i, b] of (there.beats as number[]).entries())
      expect(Math.abs(b - sent.beats[i] - 2.5)).toBeLessThan(0.01)
    // The shelf has this routine alone.
    await page.goto(other.url)
    await expect(page.getByRole('button', { name: /^Remove / })).toHaveCount(1)
  } finally {
    await other.kill()
    rmSync(dir, { recursive: true, force: true })
  }
})

test('a song without cues says why there is nothing to hand out', async ({ page }) => {
  await ownSong(page, 'Nothing yet')
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: 'Hand out' }).click()
  await expect(page.getByText('Nothing is written in these counts')).toBeVisible()
  await choose(page, 'Myself')
  await kind(page, 'The routine itself')
  await expect(page.getByRole('button', { name: 'Save the routine' })).toBeVisible()
  await kind(page, 'Dates of a course')
  await expect(page.getByText('No class has a course yet')).toBeVisible()
  await page.getByTestId('preview').getByRole('link', { name: 'Teach' }).press('Enter')
  await page.waitForURL('**/teach')
})

test('the dates of a course are shown and saved for any calendar', async ({ page }) => {
  // What is new in which lesson follows from the log: before it is read, and where it cannot be, nothing is said of it.
  await page.route('**/repetitions', (route) => route.abort())
  await handOut(page)
  await kind(page, 'Dates of a course')
  const save = page.getByRole('button', { name: 'Save the dates' })
  const lessons = page.getByTestId('dates').getByRole('listitem')
  await expect(page.getByText('Without it, what is new in which lesson cannot be said.')).toBeVisible()
  await expect(save).toBeDisabled()
  await expect(lessons).toHaveCount(0)
  await page.unroute('**/repetitions')
  await page.getByRole('button', { name: 'Try again' }).press('Enter')
  await expect(save).toBeEnabled()
  await expect(lessons).toHaveCount(4)
  await expect(lessons.first()).toContainText('18:30')
  const ics = await saved(page, () => save.press('Enter'))
  expect(ics.suggestedFilename()).toBe('Thursday beginners.ics')
  const calendar = new ICAL.Component(ICAL.parse((await bytesOf(ics)).toString('utf8')))
  const events = calendar.getAllSubcomponents('vevent').map((e) => new ICAL.Event(e))
  expect(events).toHaveLength(4)
  for (const [i, e] of events.entries()) {
    expect([e.startDate.hour, e.startDate.minute, e.duration.toSeconds()]).toEqual([18, 30, 3600])
    // What the calendar says is what the page says.
    const [, ...words] = e.description.split('\n')
    for (const line of words) await expect(lessons.nth(i)).toContainText(line)
  }
})
