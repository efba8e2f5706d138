import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Correlator } from './correlator'

const WIDE = 4
const value = fc.float({ min: -4, max: 4, noNaN: true })
const rows = (least: number, most: number) =>
  fc
    .integer({ min: least, max: most })
    .chain((n) => fc.array(value, { minLength: n * WIDE, maxLength: n * WIDE }))
    .map((list) => Float32Array.from(list))

/** The sum of products of a window and what it lies on, worked out one by one. */
function alike(song: Float32Array, window: Float32Array, place: number): number {
  return window.reduce((sum, x, i) => sum + x * (song[place * WIDE + i] ?? 0), 0)
}

describe('windows of any length, in a song of any length,', () => {
  it('are as alike at each place as sums of products say, over several blocks, partly before the song and after it', () => {
    fc.assert(
      fc.property(rows(1, 90), rows(1, 6), fc.integer({ min: 0, max: 7 }), (song, window, lead) => {
        const n = window.length / WIDE
        const correlator = new Correlator({ frames: song.length / WIDE, data: song }, WIDE, lead, 6)
        // What was looked up before leaves nothing behind.
        correlator.look(new Float32Array(6 * WIDE).fill(3), 0, 6)
        correlator.look(window, 0, n)
        expect(correlator.answer).toHaveLength(song.length / WIDE + lead)
        const wrong = [...correlator.answer].filter(
          (x, i) => !(Math.abs(x - alike(song, window, i - lead)) < 1e-3),
        )
        expect(wrong).toEqual([])
      }),
    )
  })
  it('may be taken from the middle of a recording, and run over its end', () => {
    const song = Float32Array.from({ length: 40 * WIDE }, (_, i) => Math.sin(i * i))
    const correlator = new Correlator({ frames: 40, data: song }, WIDE, 3, 8)
    correlator.look(song, 36, 8)
    const last = song.subarray(36 * WIDE)
    const truly = [...correlator.answer.keys()].map((i) => alike(song, last, i - 3))
    expect(Math.max(...correlator.answer.map((x, i) => Math.abs(x - (truly[i] as number))))).toBeLessThan(
      1e-6,
    )
    expect(correlator.answer.indexOf(Math.max(...correlator.answer))).toBe(39)
  })
})
