import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  balanceOf,
  energyPieces,
  factorsOf,
  joinSaid,
  LOUD,
  levelAlong,
  levelSaid,
  loudnessOf,
  loudnessOfMix,
  stepBackLevel,
  stepsBack,
  USUAL_VOLUMES,
} from '.'

const RATE = 44_100
/** Noise of a kind that is the same each time. */
function noise(seconds: number, level: number, seed = 1) {
  let s = seed
  return Float32Array.from({ length: Math.round(seconds * RATE) }, () => {
    s = (Math.imul(s, 1664525) + 1013904223) | 0
    return (level * s) / 2 ** 31
  })
}
const decibels = (x: number) => 20 * Math.log10(x)

describe('levels', () => {
  it('bring quiet and loud songs to the same loudness, and as loud as they are set', () => {
    const heard = (level: number, music: number) => {
      const song = [noise(3, level)]
      const by = factorsOf({ ...USUAL_VOLUMES, music }, loudnessOf(song, RATE)).music
      return loudnessOf([(song[0] as Float32Array).map((x) => x * by)], RATE) as number
    }
    expect(heard(0.9, 0.7)).toBeCloseTo(heard(0.06, 0.7), 3)
    expect(heard(0.9, 0.7)).toBeCloseTo(-17.5, 3)
    expect(heard(0.9, 0.35)).toBeCloseTo(-17.5 - decibels(2), 3)
    expect(factorsOf({ ...USUAL_VOLUMES, music: 0 }, -9).music).toBe(0)
    // A song nobody measured yet, and one that is hardly there.
    expect(decibels(factorsOf(USUAL_VOLUMES, null).music)).toBeCloseTo(-7.5)
    expect(decibels(factorsOf(USUAL_VOLUMES, -60).music)).toBeCloseTo(20)
  })

  it('make words alike loud, and leave silence alone', () => {
    const words = [noise(0.3, 0.8), noise(0.22, 0.1), noise(2, 0.02)]
    for (const w of words) {
      levelSaid(w, RATE)
      expect(loudnessOf([w], RATE)).toBeCloseTo(-15.5, 2)
    }
    const silence = new Float32Array(9000)
    levelSaid(silence, RATE)
    expect(silence.every((x) => x === 0)).toBe(true)
  })

  it('foretell how loud a mix will be: a song with words on it, slowed, stepping back under them', () => {
    const song = noise(8, 0.2, 5)
    // Louder in its second half.
    for (let i = 4 * RATE; i < song.length; i++) song[i] = 2.5 * (song[i] as number)
    const word = noise(0.3, 0.3, 9)
    const back = stepsBack(
      joinSaid([2, 3, 3.5, 6].map((at) => ({ from: at, to: at + 0.3 }))),
      stepBackLevel(9),
    )
    // Of second 2 to 6 of the song at half its speed: eight seconds, from 1 on. Noise stays noise when it is slowed.
    const out = new Float32Array(9.5 * RATE)
    const level = levelAlong(back)
    for (let i = 0; i < 8 * RATE; i++)
      out[RATE + i] = 0.7 * level(1 + i / RATE) * (song[Math.floor(2 * RATE + i / 2)] as number)
    // Not the same sample twice: that would be other noise.
    for (let i = RATE; i < out.length; i += 2) out[i] = -(out[i] as number)
    for (const at of [2, 3, 3.5, 6])
      word.forEach((x, i) => {
        const k = Math.round(at * RATE) + i
        out[k] = (out[k] as number) + 0.8 * x
      })
    const foretold = loudnessOfMix(
      [2, 3, 3.5, 6].map((at) => ({ at, pieces: energyPieces([word], RATE), by: 0.8 })),
      [{ at: 1, seconds: 8, from: 2, speed: 0.5, by: 0.7 }],
      energyPieces([song], RATE),
      back,
    )
    expect(Math.abs((foretold as number) - (loudnessOf([out], RATE) as number))).toBeLessThan(1)
    expect(loudnessOfMix([], [], [], [])).toBeNull()
    expect(loudnessOfMix([], [{ at: 0, seconds: 3, from: 50, speed: 1, by: 1 }], [1], [])).toBeNull()
  })

  it('bring what is heard to where it should be, and make hardly anything much louder', () => {
    expect(decibels(balanceOf(-20))).toBeCloseTo(LOUD + 20)
    expect(decibels(balanceOf(-8))).toBeCloseTo(LOUD + 8)
    expect(balanceOf(-40)).toBe(2)
    expect(balanceOf(null)).toBe(1)
  })
})

describe('a song that steps back', () => {
  const spans = fc.array(
    fc
      .tuple(fc.double({ min: 0, max: 20, noNaN: true }), fc.double({ min: 0.05, max: 1, noNaN: true }))
      .map(([from, length]) => ({ from, to: from + length })),
    { maxLength: 12 },
  )
  it('is back while something is said, whole where nothing is, and never anywhere else', () => {
    fc.assert(
      fc.property(spans, fc.constantFrom(3, 6, 9, 12), (said, depth) => {
        const low = stepBackLevel(depth)
        const level = levelAlong(stepsBack(joinSaid(said), low))
        const wrong: [number, number][] = []
        for (let t = -1; t < 24; t += 0.01) {
          const now = level(t)
          const spoken = said.some((s) => t >= s.from + 0.02 && t <= s.to)
          const quiet = said.every((s) => t < s.from - 0.05 || t > s.to + 0.7)
          const right =
            now >= low - 1e-9 &&
            now <= 1 + 1e-9 &&
            (!spoken || decibels(now) < -depth + 1) &&
            (!quiet || decibels(now) > -0.5)
          if (!right) wrong.push([t, now])
        }
        expect(wrong).toEqual([])
      }),
      { numRuns: 60 },
    )
  })
  it('stays back between words that are near one another, and joins what lies in one another', () => {
    const said = [
      { from: 2, to: 2.3 },
      { from: 1, to: 1.3 },
      { from: 1.6, to: 1.7 },
      { from: 2.1, to: 2.2 },
    ]
    expect(joinSaid(said)).toEqual([{ from: 1, to: 2.3 }])
    expect(joinSaid([...said, { from: 2.7, to: 3 }])).toHaveLength(2)
    expect(joinSaid([])).toEqual([])
  })
})
