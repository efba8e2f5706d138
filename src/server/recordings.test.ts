import { readFileSync } from 'node:fs'
import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { readWav, writeWav } from '@/core/formats/wav'
import { emptyRoutine } from '@/core/routine'
import { loopTrack } from '../../e2e/sounds'
import { database } from './database'
import { ownData } from './own-data.test-tools'
import { keepRecording, RecordingSchema, recordingFile } from './recordings'
import { routines } from './schema'
import { takeIn } from './songs'
import { sweepRecordings } from './sweep'

ownData()

const word = () => Buffer.from(readFileSync('public/voice/5.wav')).toString('base64')
const wav = (sampleRate: number, samples: Float32Array) =>
  Buffer.from(writeWav({ sampleRate, channels: [samples] })).toString('base64')
const MONTH = 31 * 24 * 3600 * 1000

describe('recordings of calls', () => {
  it('are kept once, whatever is sent again under their id', async () => {
    await keepRecording('recording-one', { wav: word() })
    const first = await recordingFile('recording-one')
    expect(readWav(new Uint8Array(first)).sampleRate).toBe(16_000)
    const other = Buffer.from(readFileSync('public/voice/8.wav')).toString('base64')
    await keepRecording('recording-one', { wav: other })
    expect((await recordingFile('recording-one')).equals(first)).toBe(true)
    await expect(recordingFile('there-is-none')).rejects.toMatchObject({ status: 404 })
  })
  it.each([
    ['no sound', Buffer.from('no sound').toString('base64')],
    ['silence', wav(16_000, new Float32Array(16_000))],
    ['one sample a second', wav(1, new Float32Array(20).fill(0.5))],
    ['a rate no voice has', wav(192_000, new Float32Array(1920).fill(0.5))],
    ['too long', wav(8000, new Float32Array(96 * 8000).fill(0.1))],
  ])('refused in words, and not kept: %s', async (_, bytes) => {
    await expect(keepRecording('recording-bad', { wav: bytes })).rejects.toMatchObject({ status: 422 })
    await expect(recordingFile('recording-bad')).rejects.toMatchObject({ status: 404 })
  })
  it('of the longest there may be are checked and kept', async () => {
    const rate = 24_000
    const said = new Float32Array(90 * rate)
    const one = readWav(new Uint8Array(readFileSync('public/voice/5.wav'))).channels[0] as Float32Array
    for (let at = 0; at + one.length < said.length; at += rate) said.set(one, at)
    const text = wav(rate, said)
    expect(text.length).toBeGreaterThan(5_700_000)
    await keepRecording('recording-long', v.parse(RecordingSchema, { wav: text }))
    expect((await recordingFile('recording-long')).toString('base64')).toBe(text)
  })
  it('are let go a month after they were recorded where no routine names them', async () => {
    async function* bytes() {
      yield loopTrack(97, 6)
    }
    const { routines: made } = await takeIn(bytes(), 'Said.wav')
    await keepRecording('recording-used', { wav: word() })
    const document = JSON.stringify({ ...emptyRoutine('R'), note: 'recording-used' })
    await (await database()).update(routines).set({ document })
    expect(made.length).toBe(1)
    await sweepRecordings(await database())
    expect((await recordingFile('recording-one')).length).toBeGreaterThan(0)
    await sweepRecordings(await database(), Date.now() + MONTH)
    await expect(recordingFile('recording-one')).rejects.toMatchObject({ status: 404 })
    expect((await recordingFile('recording-used')).length).toBeGreaterThan(0)
  })
})
