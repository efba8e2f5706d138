import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { decoded, hasSound } from './decode'
import { firstFrame, id3Length, kindOf, textTag } from './kinds'
import { sourceOf } from './source.test-tools'

const fixture = (kind: string) => new Uint8Array(readFileSync(`e2e/fixtures/short.${kind}`))
const ascii = (s: string) => [...s].map((c) => c.charCodeAt(0))
const sevens = (n: number) => [21, 14, 7, 0].map((by) => (n >> by) & 127)
const plain = (n: number) => [24, 16, 8, 0].map((by) => (n >> by) & 255)
/** An MP3 without its tag. */
const bare = () => {
  const all = fixture('mp3')
  return all.subarray(id3Length(all))
}
/** A tag with a picture before its title, and padding. */
function tagged(version: 3 | 4, picture: number, padding: number): Uint8Array {
  const size = version === 3 ? plain : sevens
  const frame = (id: string, body: number[] | Uint8Array) => [
    ...ascii(id),
    ...size(body.length),
    0,
    0,
    ...body,
  ]
  const body = [
    ...frame('APIC', new Uint8Array(picture).fill(0xff)),
    ...frame('TIT2', [0, ...ascii('Largo')]),
    ...new Uint8Array(padding),
  ]
  return Uint8Array.from([...ascii('ID3'), version, 0, 0, ...sevens(body.length), ...body])
}
const reader = (bytes: Uint8Array) => async (from: number, n: number) => bytes.slice(from, from + n)
async function* whole(bytes: Uint8Array) {
  for (let at = 0; at < bytes.length; at += 4096) yield bytes.subarray(at, at + 4096)
}

describe('what a file is', () => {
  it.each([
    ['mp3', 'mp3'],
    ['flac', 'flac'],
    ['ogg', 'vorbis'],
    ['opus', 'opus'],
    ['m4a', 'mp4'],
  ] as const)('a .%s is %s, and has sound', async (name, kind) => {
    const bytes = name === 'mp3' ? bare() : fixture(name)
    expect(kindOf(bytes)).toBe(kind)
    expect(await hasSound(kind, whole(bytes))).toBe(true)
  })
  it('noise, ones, zeros and a lone header are nothing, and no sound is found in what only begins like some', async () => {
    for (const bytes of [new Uint8Array(300_000).fill(255), new Uint8Array(300_000)])
      expect(kindOf(bytes)).toBeNull()
    const lone = Uint8Array.of(255, 251, 144, 0, 1, 2, 3, 4)
    expect(await hasSound('mp3', whole(lone))).toBe(false)
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 4, maxLength: 60 }), (noise) => {
        expect(kindOf(Uint8Array.from([...noise, ...noise]))).not.toBe('wav')
      }),
    )
    const opus = Uint8Array.from([
      ...ascii('OggS'),
      ...new Uint8Array(24),
      ...ascii('OpusHead'),
      ...new Uint8Array(9000),
    ])
    expect(kindOf(opus)).toBe('opus')
    expect(await hasSound('opus', whole(opus))).toBe(false)
    expect(await hasSound('flac', whole(Uint8Array.from([...ascii('fLaC'), ...new Uint8Array(9000)])))).toBe(
      false,
    )
  })
  it('bare AAC is two frames in a row', () => {
    const frame = [0xff, 0xf1, 0x50, 0x80, 0x01, 0x40, 0, 1, 2, 3]
    expect(kindOf(Uint8Array.from([...frame, ...frame]))).toBe('aac')
    expect(kindOf(Uint8Array.from([...frame, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10]))).toBeNull()
  })
  it('an MP3 is found behind what is no frame, and behind tags', async () => {
    const sound = bare()
    const junk = Uint8Array.from([0xff, 0xfb, 0x90, ...new Uint8Array(500), ...sound])
    expect(firstFrame(junk)).toBe(503)
    const both = Uint8Array.from([...tagged(4, 10, 20), ...tagged(3, 10, 20), ...sound])
    const { value } = await decoded(sourceOf(both)).next()
    expect(value?.sampleRate).toBe(44_100)
  })
})

describe('a tag', () => {
  it('is as long as it says, its footer included', () => {
    expect(id3Length(Uint8Array.of(73, 68, 51, 4, 0, 0, 0, 0, 2, 1))).toBe(10 + 257)
    expect(id3Length(Uint8Array.of(73, 68, 51, 4, 0, 0x10, 0, 0, 2, 1))).toBe(20 + 257)
    expect(id3Length(Uint8Array.of(73, 68, 50, 4, 0, 0, 0, 0, 2, 1))).toBe(0)
  })
  it.each([3, 4] as const)(
    'of version 2.%d keeps its words, without its picture and padding',
    async (version) => {
      const small = await textTag(reader(tagged(version, 5000, 70_000)))
      expect(small.length).toBe(10 + 10 + 6)
      expect(id3Length(small)).toBe(small.length)
      expect(new TextDecoder('latin1').decode(small)).toContain('Largo')
    },
  )
  it('that ends too early, or is written otherwise, is passed over', async () => {
    const cut = tagged(3, 5000, 0).subarray(0, 4000)
    expect((await textTag(reader(cut))).length).toBe(10)
    const other = tagged(3, 0, 0)
    other[5] = 0x80
    expect((await textTag(reader(other))).length).toBe(10)
  })
})
