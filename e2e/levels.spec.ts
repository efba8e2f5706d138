import { readWav, toMono, writeWav } from '../src/core/formats/wav'
import { packPeaks } from '../src/core/hear'
import { listen } from '../src/core/hear/listen'
import { loudnessOf, truePeakOf } from '../src/core/loudness'
import { loopTrack } from './sounds'
import { expect, test } from './test'
import { programsRunInWorklets, putSong, soundHeard } from './ways'

const RATE = 44_100
const SECONDS = 3
/** A drum loop that is clipped, as loud masters are, and one as quiet as an old tape. */
const SONGS = { loud: (x: number) => Math.max(-1, Math.min(1, 6 * x)), quiet: (x: number) => x / 30 }

const wav = loopTrack(120, 48, 0.45)
const pcm = readWav(wav)
const { hearing, peaks } = listen(toMono(pcm), pcm.sampleRate)

test('a loud song and a quiet one are as loud against their counts, nothing clips, nor do counts alone', async ({
  page,
}) => {
  const heard = await soundHeard(page)
  /** What is heard from the beginning on. */
  const played = async () => {
    await page.getByTestId('sheet').focus()
    await page.keyboard.press('Home')
    await page.keyboard.press('Space')
    const before = await heard.seconds()
    await expect.poll(heard.seconds, { timeout: 60_000 }).toBeGreaterThan(before + SECONDS + 1)
    const sound = await heard.last(SECONDS)
    await page.keyboard.press('Space')
    return sound
  }
  for (const [kind, as] of Object.entries(SONGS)) {
    const channels = pcm.channels.map((c) => c.map(as))
    const file = Buffer.from(writeWav({ sampleRate: RATE, channels }))
    const { routine, song } = await putSong(page.request, `A ${kind} song`, file, hearing, packPeaks(peaks))
    const kept = page.waitForResponse(
      (r) => r.url().includes(`${song}/measure`) && r.request().method() === 'PUT',
    )
    await page.goto(`/r/${routine}/cue`)
    expect(await programsRunInWorklets(page)).toBe(true)
    await page.getByTestId('sheet').focus()
    await page.keyboard.press('Space')
    await kept
    await page.keyboard.press('Space')
    const sounds = [await played()]
    if (kind === 'loud') {
      await page.getByRole('button', { name: 'What sounds' }).click()
      await page.getByRole('slider', { name: 'Music', exact: true }).focus()
      await page.keyboard.press('Home')
      await page.keyboard.press('Escape')
      sounds.push(await played())
      // The next page has the music again: the slider is kept.
      await page.getByRole('button', { name: 'What sounds' }).click()
      await page.getByRole('slider', { name: 'Music', exact: true }).focus()
      for (let i = 0; i < 14; i++) await page.keyboard.press('ArrowRight')
    }
    for (const sound of sounds) {
      // EBU R 128 and ITU-R BS.1770-5, by ours; tested beside another program.
      expect(Math.abs((loudnessOf(sound, RATE) as number) + 15)).toBeLessThan(1)
      expect(truePeakOf(sound)).toBeLessThan(-0.9)
    }
  }
})
