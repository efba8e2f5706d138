import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readWav, writeWav } from '@/core/formats/wav'
import { loopTrack } from '../../e2e/sounds'
import { allOwnCounts, keepOwnCounts, removeOwnCounts } from './own-counts'
import { ownData } from './own-data.test-tools'
import { takeIn } from './songs'
import { logTiming, timingLog } from './timings'

ownData()

const index = JSON.parse(readFileSync('public/voice/index.json', 'utf8')) as Record<
  string,
  { file: string; stress: number }
>

/** A count of the shipped voice as a recording: quieter, with half a second of room before and after it. */
function recording(call: string): string {
  const { sampleRate, channels } = readWav(new Uint8Array(readFileSync(`public/voice/${index[call]?.file}`)))
  const word = channels[0] as Float32Array
  const half = sampleRate >> 1
  const out = new Float32Array(word.length + 2 * half)
  out.set(
    word.map((x) => x * 0.3),
    half,
  )
  return Buffer.from(writeWav({ sampleRate, channels: [out] })).toString('base64')
}

describe('own counts', () => {
  it('may be as long as a word is at most, at any rate a voice is recorded at', async () => {
    for (const rate of [8000, 48_000, 192_000]) {
      const samples = Float32Array.from({ length: Math.floor(rate * 2.9) }, (_, i) => Math.sin(i / 9) * 0.5)
      const wav = Buffer.from(writeWav({ sampleRate: rate, channels: [samples] })).toString('base64')
      await keepOwnCounts([{ call: '1', wav }])
    }
    const once = Buffer.from(writeWav({ sampleRate: 1, channels: [new Float32Array(2)] })).toString('base64')
    await expect(keepOwnCounts([{ call: '1', wav: once }])).rejects.toMatchObject({ status: 422 })
    await removeOwnCounts()
  })
  it('are cut to their sound, with the stress where the shipped voice has it', async () => {
    await keepOwnCounts([
      { call: '7', wav: recording('7') },
      { call: '2', wav: recording('2') },
    ])
    const kept = await allOwnCounts()
    expect(kept.map((k) => k.call)).toEqual(['2', '7'])
    for (const k of kept) {
      expect(Math.abs(k.stressMs / 1000 - (index[k.call]?.stress as number))).toBeLessThan(0.011)
      const { channels, sampleRate } = readWav(new Uint8Array(Buffer.from(k.wav, 'base64')))
      const samples = channels[0] as Float32Array
      expect(samples.length / sampleRate).toBeLessThan(0.8)
      // As loud as all others, however quietly it was said.
      expect(Math.max(...samples.map(Math.abs))).toBeCloseTo(0.9, 2)
    }
  })

  it('are replaced one by one; a silent or broken one changes nothing', async () => {
    const silent = Buffer.from(writeWav({ sampleRate: 8000, channels: [new Float32Array(4000)] }))
    for (const wav of [silent.toString('base64'), Buffer.from('no sound').toString('base64')])
      await expect(
        keepOwnCounts([
          { call: '1', wav: recording('1') },
          { call: '2', wav },
        ]),
      ).rejects.toMatchObject({ status: 422 })
    expect((await allOwnCounts()).map((k) => k.call)).toEqual(['2', '7'])
    const [two] = await allOwnCounts()
    await keepOwnCounts([{ call: '2', wav: recording('8') }])
    const after = await allOwnCounts()
    expect(after.map((k) => k.call)).toEqual(['2', '7'])
    expect(after[0]?.wav).not.toBe(two?.wav)
    await removeOwnCounts()
    expect(await allOwnCounts()).toEqual([])
  })
})

describe('timings', () => {
  it('are added to the log of their routine, oldest first', async () => {
    async function* bytes() {
      yield loopTrack(97, 6)
    }
    const { routines } = await takeIn(bytes(), 'Timed.wav')
    const id = routines[0]?.id as string
    const go = {
      id: 'timing-number-1',
      doneAt: Date.UTC(2026, 10, 1),
      from: 0,
      to: 4,
      label: 'Eight 1',
      speed: 0.75,
      by: 'tap' as const,
      n: 12,
      mean: -8.2,
      spread: 21.5,
      worst: '4&',
      worstMs: 61,
    }
    await logTiming(id, go)
    await logTiming(id, { ...go, id: 'timing-number-2', doneAt: go.doneAt + 1, by: 'clap', mean: 4 })
    expect((await timingLog(id)).map((t) => [t.by, t.mean])).toEqual([
      ['tap', -8.2],
      ['clap', 4],
    ])
    await expect(logTiming('there-is-none', go)).rejects.toMatchObject({ status: 404 })
  })
})
