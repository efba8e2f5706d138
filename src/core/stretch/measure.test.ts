import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { loudnessOf, PIECE } from '../loudness'
import { findStrokes, measureSong, packMeasure, unpackMeasure } from '.'
import { beat, RATE } from './sounds.test-tools'

describe('what is kept of a song', () => {
  it('is where its strokes lie and how loud it is', () => {
    const { sound: song } = beat(4)
    const measure = unpackMeasure(measureSong([song], RATE))
    const strokes = findStrokes(song, RATE)
    expect(strokes.length).toBeGreaterThan(10)
    expect(measure?.strokes).toHaveLength(strokes.length)
    strokes.forEach((t, i) => {
      expect(measure?.strokes[i]).toBeCloseTo(t, 6)
    })
    expect(Math.abs((measure?.loudness as number) - (loudnessOf([song], RATE) as number))).toBeLessThan(0.1)
  })
  it('comes back as it was packed, near enough', () => {
    const times = fc
      .uniqueArray(fc.double({ min: 0, max: 1200, noNaN: true }), { maxLength: 50 })
      .map((list) => list.sort((a, b) => a - b))
    const energy = fc.array(
      fc.oneof(
        fc.constant(0),
        fc.double({ min: -80, max: 10, noNaN: true }).map((d) => PIECE * 10 ** (d / 10)),
      ),
    )
    fc.assert(
      fc.property(times, energy, (strokes, pieces) => {
        const back = unpackMeasure(packMeasure(strokes, pieces))
        expect(back?.strokes.length).toBe(strokes.length)
        strokes.forEach((t, i) => {
          expect(Math.abs((back?.strokes[i] as number) - t)).toBeLessThan(1e-6)
        })
        pieces.forEach((e, i) => {
          const kept = back?.pieces[i] as number
          if (e === 0) expect(kept).toBe(0)
          else expect(Math.abs(10 * Math.log10(kept / e))).toBeLessThan(0.2501)
        })
      }),
    )
  })
  it('is nothing where it cannot be read, or is of another version', () => {
    const packed = packMeasure([1, 2], [0.1])
    expect(unpackMeasure(packed)).not.toBeNull()
    for (const n of [0, 1, 4, 9]) expect(unpackMeasure(packed.subarray(0, n))).toBeNull()
    expect(unpackMeasure(packed.map((x, i) => (i === 0 ? 0 : x)))).toBeNull()
    // Strokes that go back.
    expect(unpackMeasure(packMeasure([2, 1], []))).toBeNull()
    // A part of something longer.
    const within = new Uint8Array(packed.length + 3)
    within.set(packed, 3)
    expect(unpackMeasure(within.subarray(3))?.strokes).toEqual(Float64Array.of(1, 2))
  })
})
