import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { loopTrack } from '../../e2e/sounds'
import { type Pcm, readWav, writeWav } from '../core/formats/wav'
import { decoded } from './decode'
import { sourceOf } from './source.test-tools'

/** All of a sound, and in how many pieces it came. */
async function whole(bytes: Uint8Array, piece?: number): Promise<Pcm & { pieces: number }> {
  const pieces: Pcm[] = []
  for await (const pcm of decoded(sourceOf(bytes), piece)) pieces.push(pcm)
  const [first] = pieces
  if (!first) throw new Error('nothing came')
  return {
    sampleRate: first.sampleRate,
    channels: first.channels.map((_, c) =>
      Float32Array.from(pieces.flatMap((p) => Array.from(p.channels[c] as Float32Array))),
    ),
    pieces: pieces.length,
  }
}

describe('a sound that is decoded piece by piece', () => {
  it.each(['mp3', 'flac', 'ogg', 'opus'])(
    'is the same in small pieces and in large ones: %s',
    async (kind) => {
      const bytes = new Uint8Array(readFileSync(`e2e/fixtures/short.${kind}`))
      const [small, large] = [await whole(bytes, 3001), await whole(bytes, 1e9)]
      expect(small.pieces).toBeGreaterThan(5)
      expect(small.sampleRate).toBe(large.sampleRate)
      for (const [c, channel] of large.channels.entries()) {
        const other = small.channels[c] as Float32Array
        expect(other.length).toBe(channel.length)
        let most = 0
        channel.forEach((x, i) => {
          most = Math.max(most, Math.abs(x - (other[i] as number)))
        })
        expect(most).toBeLessThan(1e-4)
      }
    },
  )
  it('is what is read of a WAV file at once, also where much is told before its sound, or it is cut short', async () => {
    const bytes = new Uint8Array(loopTrack(120, 3))
    const { sampleRate, channels } = readWav(bytes)
    expect(await whole(bytes, 1000)).toMatchObject({ sampleRate, channels })
    const told = new Uint8Array(bytes.length + 308 + 400_000)
    told.set(bytes.subarray(0, 36))
    told.set(
      [...'LIST'].map((x) => x.charCodeAt(0)),
      36,
    )
    new DataView(told.buffer).setUint32(40, 400_300, true)
    told.set(bytes.subarray(36), 36 + 8 + 400_300)
    expect((await whole(told)).channels).toEqual(channels)
    const cut = await whole(bytes.subarray(0, 5003), 777)
    expect(cut.channels[0]).toEqual(channels[0]?.subarray(0, (5003 - 44) >> 1))
    const two = writeWav({
      sampleRate: 8000,
      channels: [Float32Array.of(0.1, 0.2, 0.3), Float32Array.of(1, 0, -1)],
    })
    expect((await whole(two, 1)).channels).toEqual(readWav(two).channels)
  })
})
