import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { Window } from 'happy-dom'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { writeWav } from '@/core/formats/wav'
import { Device } from './device.test-tools'
import { decodeSong, fetchSong, SONG_RATE } from './song'

const ended: (() => Promise<unknown> | unknown)[] = []
afterEach(async () => {
  for (const end of ended.splice(0)) await end()
  vi.unstubAllGlobals()
})

interface Sent {
  /** So many pieces of a hundred bytes. */
  pieces?: number
  /** What the song is said to have. */
  size?: number
  status?: number
  /** Sent instead of the pieces. */
  body?: string
  end?: 'whole' | 'broken'
}

/** A server of a song, and the browser that asks it. */
async function serve({ pieces = 0, size = pieces * 100, status = 200, body, end = 'whole' }: Sent) {
  const server = createServer((_, response) => {
    response.writeHead(status, { 'x-size': size })
    const send = (i: number): void => {
      if (i < pieces) response.write(new Uint8Array(100).fill(i), () => setImmediate(send, i + 1))
      else if (end === 'broken') response.destroy()
      else response.end(body)
    }
    send(0)
  })
  await new Promise<void>((up) => server.listen(0, '127.0.0.1', up))
  const window = new Window({ url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/` })
  vi.stubGlobal('XMLHttpRequest', window.XMLHttpRequest)
  ended.push(
    () => window.happyDOM.close(),
    () => server.closeAllConnections(),
    () => server.close(),
  )
}

describe('a song from the server', () => {
  it('comes whole; how far it is, is told in steps and at the end, however many pieces it has', async () => {
    await serve({ pieces: 300 })
    const shares: number[] = []
    const bytes = new Uint8Array(await fetchSong('/song', (share) => shares.push(share)))
    expect(bytes).toHaveLength(30_000)
    expect([bytes[0], bytes[100], bytes[29_999]]).toEqual([0, 1, 299 % 256])
    expect(shares.at(-1)).toBe(1)
    expect(shares.length).toBeGreaterThan(15)
    expect(shares.length).toBeLessThan(30)
    expect(shares).toEqual([...new Set(shares)].sort((a, b) => a - b))
  })
  it.each<[string, Sent, string]>([
    ['is shorter than it was', { pieces: 3, size: 400 }, 'The connection broke'],
    ['is cut off', { pieces: 3, size: 400, end: 'broken' }, 'The connection broke'],
    ['is longer than it was', { pieces: 3, size: 200 }, 'changed while it was read'],
    ['is not there', { status: 404, body: '{"error":{"message":"It is not here."}}' }, 'It is not here.'],
    ['is somebody else’s page', { status: 502, body: '<html>' }, 'could not be fetched'],
    ['is refused without a word', { status: 500, body: '{}' }, 'could not be fetched'],
  ])('is told in words where it %s', async (_, sent, words) => {
    await serve(sent)
    const shares: number[] = []
    await expect(fetchSong('/song', (share) => shares.push(share))).rejects.toThrow(words)
    expect(shares).not.toContain(1)
  })
})

describe('the sound of a song', () => {
  /** A browser that decodes what begins as a WAV file does, if it can. */
  function browser(can = true) {
    const rendered: { channels: number; length: number }[] = []
    class Decoder extends Device {
      constructor(
        private readonly channels: number,
        private readonly length: number,
      ) {
        super()
      }
      override async decodeAudioData(bytes: ArrayBuffer) {
        if (!can) throw new DOMException('no', 'EncodingError')
        return super.decodeAudioData(bytes)
      }
      async startRendering() {
        const { channels, length } = this
        rendered.push({ channels, length })
        return this.sources[0]?.buffer
      }
    }
    vi.stubGlobal('OfflineAudioContext', Decoder)
    return rendered
  }
  const wav = () => writeWav({ sampleRate: 8000, channels: [new Float32Array(80).fill(0.5)] })

  it('is decoded by the browser; what that cannot read is told in words', async () => {
    const rendered = browser()
    const bytes = wav().slice().buffer
    expect((await decodeSong(bytes)).length).toBe(bytes.byteLength)
    expect(rendered).toEqual([])
    browser(false)
    await expect(decodeSong(bytes)).rejects.toThrow('Save it as WAV, MP3 or FLAC')
  })
  it('in a WAV of 64-bit samples, which no browser reads, is read here, at the rate of all songs', async () => {
    const rendered = browser(false)
    const bytes = wav()
    const samples = new Float64Array(8000).fill(0.25)
    const file = new Uint8Array(44 + samples.byteLength)
    file.set(bytes.subarray(0, 44))
    file.set(new Uint8Array(samples.buffer), 44)
    const view = new DataView(file.buffer)
    view.setUint32(4, file.length - 8, true)
    view.setUint16(20, 3, true)
    view.setUint32(28, 8000 * 8, true)
    view.setUint16(32, 8, true)
    view.setUint16(34, 64, true)
    view.setUint32(40, samples.byteLength, true)
    const buffer = await decodeSong(file.buffer)
    expect(rendered).toEqual([{ channels: 1, length: SONG_RATE }])
    expect([buffer.length, buffer.getChannelData(0)[4000]]).toEqual([8000, 0.25])
  })
})
