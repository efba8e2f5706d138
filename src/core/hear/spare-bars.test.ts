import { describe, expect, it } from 'vitest'
import { beatsOf } from './chords.test-tools'
import { findEights, type OnesRule } from './ones'
import { spareBars } from './spare-bars'

/** Numbers that are the same each time (Park & Miller 1988). */
function numbers(seed: number): () => number {
  let x = seed
  return () => {
    x = (x * 48_271) % 2_147_483_647
    return x / 2_147_483_647
  }
}

/** Eight bars of four, a chord on each half of a bar, no two of them alike. */
function section(seed: number): number[] {
  const next = numbers(seed)
  const chords = Array.from({ length: 16 }, () => Math.floor(12 * next()))
  return chords.flatMap((c) => [c, c])
}

/** A song of sections by their letters: "ABAB". */
const songOf = (form: string) => [...form].flatMap((letter) => section(letter.charCodeAt(0) * 7919))
const without = (chords: readonly number[], from: number, beats: number) => [
  ...chords.slice(0, from),
  ...chords.slice(from + beats),
]
const found = (chords: readonly number[]) => spareBars(beatsOf(chords))

describe('a bar that is left over', () => {
  it('is found where one was cut out of music that comes again, as a place that holds the cut', () => {
    const one = found(without(songOf('ABABAB'), 100, 4))
    expect(one).toHaveLength(1)
    expect(one[0]?.from).toBeLessThanOrEqual(100)
    expect(one[0]?.to).toBeGreaterThanOrEqual(100)
    // Not in the whole of the song.
    expect((one[0]?.to ?? 0) - (one[0]?.from ?? 0)).toBeLessThanOrEqual(40)
  })

  it('is told by music that comes again much changed, not by what is hardly the same', () => {
    const song = without(songOf('ABABABAB'), 100, 4)
    for (const seed of [1, 2, 3, 4, 5]) {
      /** So many of the chords are any. */
      const changed = (share: number) => {
        const next = numbers(seed * 109_703)
        return song.map((c) => (next() < share ? Math.floor(12 * next()) : c))
      }
      expect(found(changed(0.4))).toEqual([expect.toSatisfy(({ from, to }) => from <= 100 && to >= 100)])
      expect(found(changed(0.6))).toEqual([])
    }
  })

  it('is none where two were cut out, or nothing', () => {
    expect(found(songOf('ABABAB'))).toEqual([])
    expect(found(without(songOf('ABABAB'), 100, 8))).toEqual([])
  })

  it('is not looked for where nothing tells: one bar all the time, music that never comes again, a short sound', () => {
    expect(found(Array.from({ length: 200 }, (_, k) => [0, 5, 7, 5][k % 4] as number))).toEqual([])
    expect(found(songOf('ABCDEFG'))).toEqual([])
    expect(found(without(songOf('AA'), 16, 4).slice(0, 40))).toEqual([])
    expect(found([])).toEqual([])
  })

  it('is found in two places, in order', () => {
    const twice = found(without(without(songOf('ABABABAB'), 170, 4), 70, 4))
    expect(twice).toHaveLength(2)
    const [first, second] = twice as [(typeof twice)[0], (typeof twice)[0]]
    expect([first.from <= 70, first.to >= 68, second.from <= 168, second.to >= 164]).toEqual([
      true,
      true,
      true,
      true,
    ])
    expect(first.to).toBeLessThan(second.from)
  })

  it('is found in three places', () => {
    const song = [260, 170, 70].reduce((chords, at) => without(chords, at, 4), songOf('ABABABABAB'))
    expect(found(song).map(({ from, to }) => [from, to])).toEqual([
      [expect.toSatisfy((from) => from <= 70), expect.toSatisfy((to) => to >= 68)],
      [expect.toSatisfy((from) => from <= 166), expect.toSatisfy((to) => to >= 164)],
      [expect.toSatisfy((from) => from <= 252), expect.toSatisfy((to) => to >= 250)],
    ])
  })

  it('is not looked for in the last eight bars, nor in more music than can be held against itself', () => {
    expect(found(without(songOf('ABABAB'), 4 * 43, 4))).toEqual([])
    expect(found(without(songOf('ABABABAB'.repeat(10)), 400, 4))).toEqual([])
  })

  it('does not lie within what comes again whole', () => {
    const [intro, verse, before, chorus] = ['I', 'V', 'P', 'C'].map(songOf) as [
      number[],
      number[],
      number[],
      number[],
    ]
    const half = before.slice(0, 16)
    // Like the demo's song: the second time there is a bar more before the chorus.
    const song = [
      intro.slice(0, 16),
      verse,
      half,
      chorus,
      verse,
      half,
      intro.slice(0, 4),
      chorus,
      intro,
    ].flat()
    const list = found(song)
    expect(list).toHaveLength(1)
    expect([(list[0]?.from ?? 0) >= 128, (list[0]?.to ?? 0) <= 156]).toEqual([true, true])
  })

  it('is found wherever a bar goes, and never where an even number does', () => {
    const wrong: [form: string, many: number, bar: number][] = []
    for (const form of ['ABABAB', 'AABAAB', 'ABCABCABC'])
      for (const many of [1, 2, 3, 4])
        for (let bar = 10; bar <= 37; bar++) {
          const spare = found(without(songOf(form), 4 * bar, 4 * many))
          const isRight =
            many % 2 ? spare.some(({ from, to }) => from <= 4 * bar && to >= 4 * bar) : !spare.length
          if (!isRight) wrong.push([form, many, bar])
        }
    // Of A and B only six and seven bars are left at their seam: two other places, around that B, tell as much.
    expect(wrong).toEqual([
      ['AABAAB', 3, 14],
      ['AABAAB', 3, 15],
    ])
  })
})

/** A rule of one clue, which speaks for phrases alone, and lets no other be of another length. */
const RULE: OnesRule = {
  clues: { told: [0, 1] },
  opening: [0, 0],
  odd: { 2: [], 3: [], 4: [], 5: [], 6: [], 7: [] } as unknown as OnesRule['odd'],
  beats: 0,
  sharpness: 100,
  rare: 1,
}

describe('eights with a spare bar', () => {
  /** Eights from beat 0, from 44 on a bar later. */
  const told = Float32Array.from({ length: 96 }, (_, k) => Number(k < 44 ? k % 8 === 0 : k % 8 === 4))
  const eights = (...spare: { from: number; to: number }[]) => findEights({ told }, RULE, null, 4, spare)

  it('go on a bar later, on the beat that the clues tell', () => {
    const { starts, sure } = eights({ from: 32, to: 56 })
    expect(starts).toEqual([0, 8, 16, 24, 32, 40, 44, 52, 60, 68, 76, 84, 92])
    expect(sure.every((x) => x > 0.9 && x <= 1 + 1e-9)).toBe(true)
  })

  it('pass it for certain, also where no clue tells: it is not a song without one', () => {
    const nothing = findEights({ told: new Float32Array(96) }, RULE, null, 4, [{ from: 40, to: 40 }])
    expect(nothing.starts).toContain(40)
    expect(nothing.sure[nothing.starts.indexOf(40)]).toBeCloseTo(1)
  })

  it('are each eight long without one, and pass each of several once', () => {
    const lengths = (list: readonly number[]) => list.slice(1).map((k, i) => k - (list[i] as number))
    expect(new Set(lengths(eights().starts))).toEqual(new Set([8]))
    const short = (list: readonly number[]) => lengths(list).flatMap((n, i) => (n === 4 ? [list[i + 1]] : []))
    const twice = short(eights({ from: 40, to: 48 }, { from: 60, to: 72 }).starts) as number[]
    expect(twice).toHaveLength(2)
    expect([twice[0], (twice[1] as number) >= 60, (twice[1] as number) <= 72]).toEqual([44, true, true])
  })
})
