import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { registerMp3Encoder } from '@mediabunny/mp3-encoder'
import * as bunny from 'mediabunny'
import { afterAll, describe, expect, it } from 'vitest'
import { renderDemoSong } from '../demo/song'
import { writeWav } from '../src/core/formats/wav'
import { filmed } from '../src/core/match/film.test-tools'
import { piece } from '../src/core/match/match.test-tools'
import { asWritten, bundled } from './bundled.test-tools'

const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-takes-'))
afterAll(() => rmSync(dir, { recursive: true }))
const takes = bundled('takes')
const file = (name: string, bytes: Uint8Array | string) => {
  const place = path.join(dir, name)
  writeFileSync(place, bytes)
  return place
}

/** A sound in MP4, coded as MP3. */
async function mp4Of({ rate, samples }: { rate: number; samples: Float32Array }): Promise<Uint8Array> {
  registerMp3Encoder()
  const target = new bunny.BufferTarget()
  const output = new bunny.Output({ format: new bunny.Mp4OutputFormat(), target })
  const voice = new bunny.AudioSampleSource({ codec: 'mp3', bitrate: 96_000 })
  output.addAudioTrack(voice)
  await output.start()
  const sample = new bunny.AudioSample({
    ...{ data: new Float32Array(samples), format: 'f32-planar', numberOfChannels: 1 },
    ...{ sampleRate: rate, timestamp: 0 },
  })
  await voice.add(sample)
  sample.close()
  await output.finalize()
  return new Uint8Array(target.buffer as ArrayBuffer)
}

describe('takes', () => {
  it('prints where a song plays in a film, and at which speed, as one JSON object', async () => {
    const { left, sampleRate } = renderDemoSong()
    const song = piece({ rate: sampleRate, samples: left }, 30, 52)
    const { sound } = filmed(song, [{ talk: 5 }, { from: 4, to: 14, speed: 0.8 }, { talk: 3 }], {
      louder: 0,
      beat: 60 / 108,
    })
    const wav = ({ rate, samples }: typeof song) => writeWav({ sampleRate: rate, channels: [samples] })
    const { status, stdout } = takes(file('film.wav', wav(sound)), file('song.wav', wav(song)))
    expect(status).toBe(0)
    const [take, ...more] = JSON.parse(stdout).takes
    expect(more).toEqual([])
    expect(Object.keys(take)).toEqual(['filmFrom', 'filmTo', 'songAt', 'rate', 'sure'])
    expect(take.rate).toBeCloseTo(0.8, 2)
    expect(take.songAt - 4 - (take.filmFrom - 5) * 0.8).toBeCloseTo(0, 1)
    // The same in MP4, its sound coded as MP3.
    const coded = takes(file('film.mp4', await mp4Of(sound)), file('song.wav', wav(song)))
    const [same] = JSON.parse(coded.stdout).takes
    expect(same.rate).toBeCloseTo(0.8, 2)
    expect(same.songAt - 4 - (same.filmFrom - 5) * 0.8).toBeCloseTo(0, 1)
  })
  it.each([
    ['an empty file', () => file('empty.wav', ''), /empty\.wav: the file is empty$/],
    ['text', () => file('text.mp4', 'la la la'), /text\.mp4: not a WAV, MP3/],
    ['a file that is not there', () => path.join(dir, 'none.webm'), /none\.webm: ENOENT/],
    [
      'a film of no kind',
      () => file('half.m4a', readFileSync('e2e/fixtures/short.m4a').subarray(0, 3000)),
      /half\.m4a: /,
    ],
  ])('says in one line what is wrong with %s', (_, film, why) => {
    const { status, stdout, stderr } = takes(film(), 'e2e/fixtures/short.flac')
    expect([status, stdout]).toEqual([1, ''])
    expect(stderr.trim()).toMatch(why)
    expect(stderr.trim().split('\n')).toHaveLength(1)
  })
  it('reads AAC, as films of phones have it', () => {
    const { stdout } = asWritten('takes', 'e2e/fixtures/short.m4a', 'e2e/fixtures/short.ogg')
    const [take] = JSON.parse(stdout).takes
    expect(take.filmTo - take.filmFrom).toBeGreaterThan(20)
    expect([take.rate, take.songAt - take.filmFrom]).toEqual([expect.closeTo(1, 3), expect.closeTo(0, 1)])
  })
  it('says how it is used', () => {
    expect(asWritten('takes', 'one').stderr).toContain('usage: npm run -s takes -- FILM SONG')
  })
})
