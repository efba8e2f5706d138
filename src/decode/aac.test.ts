/* AAC without a browser, beside what other decoders read of the same sound. */
import { readFileSync } from 'node:fs'
import { describe, expect, it, vi } from 'vitest'
import { writeWav } from '@/core/formats/wav'
import { configOf, decodedAac } from './aac'
import type { Source } from './decode'
import { aacIn } from './film.test-tools'
import { soundIn } from './film-sound'

const FIXTURE = 'e2e/fixtures/short.m4a'
const sourceOf = (bytes: Uint8Array): Source => ({
  size: bytes.length,
  read: async (from, length) => bytes.subarray(from, from + length),
})

async function* each<T>(list: readonly T[]) {
  yield* list
}

const fixture = () => aacIn(FIXTURE)

function joined(pieces: readonly Float32Array[]): Float32Array {
  const all = new Float32Array(pieces.reduce((n, p) => n + p.length, 0))
  let at = 0
  for (const p of pieces) {
    all.set(p, at)
    at += p.length
  }
  return all
}
async function heard(frames: readonly Uint8Array[], description: Uint8Array | null) {
  const pieces: Float32Array[] = []
  for await (const { channels } of decodedAac(each(frames), description))
    pieces.push(channels[0] as Float32Array)
  return joined(pieces)
}
async function whole(source: Source) {
  const pieces: Float32Array[] = []
  const shares: number[] = []
  let [at, rate] = [Number.NaN, 0]
  for await (const piece of soundIn(source)) {
    if (Number.isNaN(at)) at = piece.at
    rate = piece.rate
    pieces.push(piece.samples)
    shares.push(piece.share)
  }
  return { at, rate, samples: joined(pieces), shares }
}

/** How alike two sounds are, 0..1, the second begun so many samples later. */
function alike(a: Float32Array, b: Float32Array, later = 0): number {
  let [ab, aa, bb] = [0, 0, 0]
  for (let i = 2000; i < Math.min(a.length, b.length) - 2000; i++) {
    const [x, y] = [a[i] as number, b[i + later] as number]
    ab += x * y
    aa += x * x
    bb += y * y
  }
  return ab / Math.sqrt(aa * bb)
}

describe('how it is coded', () => {
  it.each([
    ['two channels, 44.1 kHz', [0x12, 0x10], { rateIndex: 4, channels: 2 }],
    ['one channel, 48 kHz', [0x11, 0x88, 0x56, 0xe5, 0], { rateIndex: 3, channels: 1 }],
    // Kind 5, 22.05 kHz, two channels, 44.1 kHz on top of kind 2.
    ['bands made anew on top', [0x2b, 0x92, 0x08, 0], { rateIndex: 7, channels: 2 }],
    // Index 15, and the rate itself.
    ['a rate by its number', [0x17, 0x80, 0x56, 0x22, 0x10], { rateIndex: 4, channels: 2 }],
  ])('%s', (_, bytes, config) => {
    expect(configOf(Uint8Array.from(bytes))).toEqual(config)
  })
  it.each([
    ['the main profile', [0x0a, 0x10]],
    ['six channels', [0x12, 0x30]],
    ['channels it does not number', [0x12, 0x00]],
    ['a rate nobody has', [0x16, 0x90]],
    ['nothing', []],
    ['a kind that was thought of later', [0xf9, 0x44, 0x20]],
  ])('%s is said not to be decoded', (_, bytes) => {
    expect(() => configOf(Uint8Array.from(bytes))).toThrow('AAC of a kind that is not decoded here')
  })
})

describe('its frames', () => {
  it('are the sound of the MP3 and the Ogg of the same, at the same place', async () => {
    const aac = await whole(sourceOf(readFileSync(FIXTURE)))
    const ogg = await whole(sourceOf(readFileSync('e2e/fixtures/short.ogg')))
    expect([aac.rate, ogg.rate]).toEqual([44_100, 44_100])
    // The first frame lies before the beginning, as the file says; the last one ends with the sound.
    const sound = aac.samples.subarray(Math.round(-aac.at * aac.rate))
    expect(Math.abs(sound.length - ogg.samples.length)).toBeLessThan(20)
    expect(alike(ogg.samples, sound)).toBeGreaterThan(0.97)
    for (const later of [-40, -20, 20, 40]) expect(alike(ogg.samples, sound, later)).toBeLessThan(0.9)
    expect(aac.shares.at(-1)).toBe(1)
    expect([...aac.shares].sort((a, b) => a - b)).toEqual(aac.shares)
  })
  it('that are broken move nothing else', async () => {
    const { frames, description } = await fixture()
    const [good, bad] = [frames.slice(0, 900), frames.slice(0, 900)]
    bad[400] = Uint8Array.from({ length: 300 }, () => 0xff)
    bad[850] = new Uint8Array(0)
    const [was, is] = [await heard(good, description), await heard(bad, description)]
    expect(is).toHaveLength(900 * 1024)
    // What is left out of the coding is filled with noise, another one each time.
    for (const [from, to] of [
      [0, 400],
      [403, 850],
      [853, 900],
    ] as const) {
      const part = (sound: Float32Array) => sound.subarray(from * 1024, to * 1024)
      expect(alike(part(was), part(is))).toBeGreaterThan(0.95)
    }
  })
  it('are the same as a stream of their own', async () => {
    const { frames, description } = await fixture()
    const some = frames.slice(0, 120)
    const stream = Buffer.concat(
      some.map((f) => {
        const n = f.length + 7
        return Buffer.concat([
          Buffer.from([0xff, 0xf1, 0x50, 0x40 | (n >> 11), (n >> 3) & 255, ((n & 7) << 5) | 31, 0xfc]),
          f,
        ])
      }),
    )
    const { samples, at } = await whole(sourceOf(stream))
    expect(at).toBe(0)
    expect(samples).toEqual((await heard(some, description)).subarray(0, samples.length))
    expect(samples.length).toBeGreaterThan(119 * 1024)
  })
  it('of no kind that is decoded are told so', async () => {
    const { frames } = await fixture()
    await expect(heard(frames, Uint8Array.from([0x0a, 0x10]))).rejects.toThrow(
      'of a kind that is not decoded',
    )
    await expect(heard([Uint8Array.from([0xff, 0xf1, 0x10, 0x40])], null)).rejects.toThrow('of a kind')
    expect(await heard([], null)).toHaveLength(0)
  })
  it('are told not to be decoded where that does not run', async () => {
    vi.doMock('node-web-audio-api', () => {
      throw new Error('libasound.so.2: cannot open shared object file')
    })
    const { frames, description } = await fixture()
    await expect(heard(frames, description)).rejects.toThrow('on Linux it asks for libasound2')
    vi.doUnmock('node-web-audio-api')
  })
})

describe('another sound', () => {
  it('is read as it always was, and says how much of it is read', async () => {
    const samples = Float32Array.from({ length: 300_000 }, (_, i) => Math.sin(i / 20) / 2)
    const read = await whole(sourceOf(writeWav({ sampleRate: 8000, channels: [samples] })))
    expect([read.at, read.rate, read.samples.length]).toEqual([0, 8000, 300_000])
    expect(read.shares.length).toBeGreaterThan(1)
    expect(read.shares.every((s) => s >= 0 && s <= 1)).toBe(true)
    expect(alike(samples, read.samples)).toBeGreaterThan(0.9999)
  })
  it('that is none says so', async () => {
    await expect(whole(sourceOf(new Uint8Array(0)))).rejects.toThrow('the file is empty')
    await expect(whole(sourceOf(Buffer.from('la la la')))).rejects.toThrow('not a WAV, MP3')
    const broken = readFileSync(FIXTURE).subarray(0, 3000)
    await expect(whole(sourceOf(broken))).rejects.toThrow(/^(no sound in this file|this file is broken)$/)
    const film = readFileSync(FIXTURE)
    const away: Source = {
      ...sourceOf(film),
      read: (from, length) =>
        from > 40_000
          ? Promise.reject(new Error('its store answered 503'))
          : sourceOf(film).read(from, length),
    }
    await expect(whole(away)).rejects.toThrow('this file is broken')
  })
})
