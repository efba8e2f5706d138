import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { hourOfSilence, loopTrack } from '../../e2e/sounds'
import { LOOKED_THROUGH } from '../decode/kinds'
import { LONGEST_TAG, soundSoFar } from './first-bytes'
import { Problem } from './problem'

const refused = {
  notSound: () => new Problem(415, 'not a sound'),
  longTag: (bytes: number) => new Problem(415, `a tag of ${bytes}`),
}
const tag = (bytes: number, filled = true) =>
  Buffer.concat([
    Buffer.from('ID3\x04\0\0', 'latin1'),
    Buffer.from([21, 14, 7, 0].map((by) => (bytes >> by) & 0x7f)),
    Buffer.alloc(filled ? bytes : 0),
  ])

/** Sends bytes in pieces. @returns what came through, how many pieces were taken, and what was said where it was refused */
async function sent(bytes: Uint8Array, piece: number) {
  let taken = 0
  async function* pieces() {
    for (let at = 0; at < bytes.length; at += piece) {
      taken++
      yield bytes.subarray(at, at + piece)
    }
  }
  const out: Uint8Array[] = []
  try {
    for await (const chunk of soundSoFar(pieces(), refused)) out.push(chunk)
    return { out: Buffer.concat(out), taken, said: '' }
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    return { out: Buffer.concat(out), taken, said: error.message }
  }
}

const SONG = hourOfSilence().subarray(0, 900_000)

describe('the first bytes of a file', () => {
  it('let a sound through as it is, however it comes, tagged or not', async () => {
    const files = [
      SONG,
      loopTrack(120, 8),
      Buffer.concat([tag(100_000), SONG]),
      Buffer.concat([tag(20), tag(3000), SONG]),
    ]
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...files),
        fc.integer({ min: 900, max: 400_000 }),
        async (file, piece) => {
          const { out, said } = await sent(file, piece)
          expect(said).toBe('')
          expect(Buffer.compare(out, file)).toBe(0)
        },
      ),
      { numRuns: 30 },
    )
  })

  it('refuse what is no sound once enough of it is seen, and keep nothing back of what is short', async () => {
    for (const [name, file] of [
      ['zeros', Buffer.alloc(3_000_000)],
      ['ones', Buffer.alloc(3_000_000, 0xff)],
      ['text', Buffer.from('la la '.repeat(500_000))],
      ['tag and zeros', Buffer.concat([tag(5000), Buffer.alloc(3_000_000)])],
    ] as const) {
      const { said, taken, out } = await sent(file, 64 * 1024)
      expect([name, said]).toEqual([name, 'not a sound'])
      expect(taken).toBeLessThanOrEqual((LOOKED_THROUGH + 5010) / 65_536 + 1)
      expect(out).toHaveLength(0)
    }
    for (const n of [0, 1, 9, 10, 11, 2000])
      expect((await sent(Buffer.alloc(n, 0x49), 7)).out).toHaveLength(n)
    expect((await sent(tag(100, false), 3)).out).toHaveLength(10)
  })

  it('refuse a tag nobody’s picture fills by its first ten bytes, and take one that may be a picture', async () => {
    const long = await sent(Buffer.concat([tag(150e6, false), SONG]), 1000)
    expect(long).toMatchObject({ said: `a tag of ${150e6 + 10}`, taken: 1 })
    // One behind another as well.
    const second = await sent(Buffer.concat([tag(50), tag(LONGEST_TAG, false), SONG]), 1000)
    expect(second.said).toContain('a tag of')
    const picture = Buffer.concat([tag(9e6), SONG])
    expect((await sent(picture, 65_536)).out.length).toBe(picture.length)
  })
})
