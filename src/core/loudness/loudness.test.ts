import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { energyPieces, loudnessOf, loudnessOfPieces, truePeakOf, weightingAt } from '.'
import { measuredElsewhere } from './reference.test-tools'

/** A tone in steps of so many seconds at so many decibels of full scale, both sides alike. */
function steps(
  rate: number,
  list: readonly (readonly [seconds: number, db: number])[],
  hz = 1000,
  phase = 0,
) {
  const length = list.reduce((a, [s]) => a + Math.round(s * rate), 0)
  const one = new Float32Array(length)
  let at = 0
  for (const [s, db] of list)
    for (const end = at + Math.round(s * rate); at < end; at++)
      one[at] = 10 ** (db / 20) * Math.sin((2 * Math.PI * hz * at) / rate + phase)
  return [one, one]
}

/** Music of a kind: noise that comes and goes over two tones, another on each side. */
function music(rate: number, seconds: number, seed: number) {
  let s = seed >>> 0
  const noise = () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0
    return s / 2 ** 31 - 1
  }
  return [0, 1].map((side) =>
    Float32Array.from({ length: seconds * rate }, (_, i) => {
      const t = i / rate
      const swell = 0.5 + 0.5 * Math.sin(t * (0.7 + (seed % 5)))
      return (
        swell * (0.3 * noise() * Math.exp(-8 * (t % 0.5)) + 0.2 * Math.sin(t * (seed + 300) * (side + 2)))
      )
    }),
  )
}

describe('loudness', () => {
  it('weighs as the recommendation lists it for 48 kHz', () => {
    // ITU-R BS.1770-5, annex 1, tables 1 and 2, from memory.
    const [shelf, high] = weightingAt(48_000)
    const close = (list: readonly number[], table: readonly number[]) =>
      table.forEach((x, i) => {
        expect(list[i]).toBeCloseTo(x, 9)
      })
    close(shelf.b, [1.53512485958697, -2.69169618940638, 1.19839281085285])
    close(shelf.a, [-1.69065929318241, 0.73248077421585])
    close(high.b, [1, -2, 1])
    close(high.a, [-1.99004745483398, 0.99007225036621])
  })

  // EBU Tech 3341, table 1, cases 1 to 5, in which all that is asked is within 0.1 LU.
  it.each([
    ['1', [[20, -23]], -23],
    ['2', [[20, -33]], -33],
    ['3', [[10, -36], [60, -23], [10, -36]], -23], // biome-ignore format: a table
    ['4', [[10, -72], [10, -36], [60, -23], [10, -36], [10, -72]], -23], // biome-ignore format: a table
    ['5', [[20, -26], [20.1, -20], [20, -26]], -23], // biome-ignore format: a table
  ] as const)('measures test signal %s of EBU Tech 3341 at 44.1 and 48 kHz', (_, list, asked) => {
    for (const rate of [44_100, 48_000])
      expect(Math.abs((loudnessOf(steps(rate, list), rate) as number) - asked)).toBeLessThan(0.1)
  })

  // The same, cases 15 to 19: between 0.2 dB above and 0.4 dB below. The tones begin softly there; here ends are left out.
  it.each([
    ['15', 4, 0, -6.02, -6],
    ['16', 4, 45, -6.02, -6],
    ['17', 6, 60, -6.02, -6],
    ['18', 8, 67.5, -6.02, -6],
    ['19', 4, 45, 2.98, 3],
  ])('finds the peaks between samples of test signal %s', (_, part, degrees, db, asked) => {
    const rate = 48_000
    const [tone] = steps(rate, [[0.1, db]], rate / part, (degrees * Math.PI) / 180)
    const swell = tone?.map((x, i) => x * Math.min(1, i / 480, (4799 - i) / 480)) as Float32Array
    expect(truePeakOf([swell]) - asked).toBeGreaterThan(-0.4)
    expect(truePeakOf([swell]) - asked).toBeLessThan(0.2)
  })

  it('is what another program measures, in music on one side and on two, its peaks too', () => {
    for (const [seed, rate] of [
      [1, 44_100],
      [7, 48_000],
      [23, 44_100],
    ] as const) {
      const sound = music(rate, 9.7, seed)
      const other = measuredElsewhere(sound, rate)
      expect(Math.abs((loudnessOf(sound, rate) as number) - other.lufs)).toBeLessThan(0.1)
      expect(Math.abs(truePeakOf(sound) - other.peak)).toBeLessThan(0.4)
      // There a sound of one channel is heard from one side; a player sounds it from both.
      const one = sound.slice(1)
      const alone = measuredElsewhere(one, rate).lufs
      expect(Math.abs((loudnessOf(one, rate) as number) - alone - 10 * Math.log10(2))).toBeLessThan(0.1)
    }
  })

  it('rises by as much as the sound is made louder, and is nobody’s in silence', () => {
    const pieces = energyPieces(music(44_100, 3, 5), 44_100)
    fc.assert(
      fc.property(fc.double({ min: -20, max: 20, noNaN: true }), (db) => {
        const louder = pieces.map((e) => e * 10 ** (db / 10))
        const [a, b] = [loudnessOfPieces(pieces), loudnessOfPieces(louder)]
        expect((b as number) - (a as number)).toBeCloseTo(db, 6)
      }),
    )
    expect(loudnessOf([new Float32Array(44_100)], 44_100)).toBeNull()
    expect(loudnessOf([], 44_100)).toBeNull()
    expect(truePeakOf([new Float32Array(9)])).toBe(Number.NEGATIVE_INFINITY)
  })

  it('of a word shorter than a block is as if silence followed', () => {
    const [tone] = steps(44_100, [[0.2, -20]])
    const followed = new Float32Array(0.4 * 44_100)
    followed.set(tone as Float32Array)
    expect(loudnessOf([tone as Float32Array], 44_100)).toBeCloseTo(
      loudnessOf([followed], 44_100) as number,
      2,
    )
  })
})
