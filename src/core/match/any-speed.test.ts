import { describe, expect, it } from 'vitest'
import { renderDemoSong } from '../../../demo/song'
import { findTakesAtAnySpeed } from './any-speed'
import { dice, filmed, inRoom, slowed, talk, throughPhone } from './film.test-tools'
import { joined, piece, resampled, type Sound } from './match.test-tools'
import { type Trace, traceOf } from './trace'

const { left, right, sampleRate } = renderDemoSong()
/** The first minute of it has an intro, a verse and a chorus: nothing in it is played twice. */
const song: Sound = piece(
  { rate: sampleRate, samples: left.map((x, i) => (x + (right[i] as number)) / 2) },
  0,
  58,
)
const BEAT = 60 / 108
const trace = ({ samples, rate }: Sound): Trace => traceOf(samples, rate)
const known = trace(song)

describe('takes of a film', () => {
  it('are found at their speeds and places, under a voice that counts 6 dB louder, in a room', () => {
    const { sound, truth, roll } = filmed(
      song,
      [
        { talk: 9 },
        { from: 30, to: 44, speed: 0.75 },
        { talk: 7 },
        { from: 12, to: 24, speed: 1 },
        { talk: 6 },
      ],
      { louder: 6, beat: BEAT, seed: 3 },
    )
    const shares: number[] = []
    const takes = findTakesAtAnySpeed(known, trace(inRoom(sound, roll)), (share) => shares.push(share))
    expect(takes).toHaveLength(truth.length)
    takes.forEach((take, i) => {
      const { filmFrom, filmTo, songAt, rate } = truth[i] as (typeof truth)[0]
      expect(Math.abs(take.rate / rate - 1)).toBeLessThan(0.002)
      // Where the middle of the take lies in the song.
      const middle = (filmFrom + filmTo) / 2
      const heard = take.at + (middle - take.from) * take.rate
      expect(Math.abs(heard - (songAt + (middle - filmFrom) * rate))).toBeLessThan(0.03)
      expect(Math.abs(take.from - filmFrom)).toBeLessThan(2)
      expect(Math.abs(take.to - filmTo)).toBeLessThan(2)
    })
    expect(shares.length).toBeGreaterThan(5)
    expect(shares.every((s, i) => s >= (shares[i - 1] ?? 0))).toBe(true)
    expect(shares.at(-1)).toBe(1)
  })
  it('begin and end with the sound, where there is silence around them', () => {
    const still = (seconds: number): Sound => ({
      rate: song.rate,
      samples: new Float32Array(seconds * song.rate),
    })
    const [first, second] = [slowed(song, 36.1, 45, 0.75), slowed(song, 36.1, 53, 1)]
    const takes = findTakesAtAnySpeed(known, trace(joined(still(3), first, still(2.5), second, still(1.5))))
    const begins = 3 + (45 - 36.1) / 0.75 + 2.5
    const ends = [
      [3, begins - 2.5],
      [begins, begins + 53 - 36.1],
    ] as const
    expect(takes).toHaveLength(2)
    takes.forEach((t, i) => {
      expect(Math.abs(t.from - (ends[i]?.[0] as number))).toBeLessThan(0.3)
      expect(Math.abs(t.to - (ends[i]?.[1] as number))).toBeLessThan(0.3)
      expect(Math.abs(t.at - t.from * t.rate - (36.1 - (ends[i]?.[0] as number) * t.rate))).toBeLessThan(0.02)
    })
  })

  it('are never put into the silence a song ends with', () => {
    const tail = { rate: song.rate, samples: new Float32Array(30 * song.rate) }
    const long = trace(joined(song, tail))
    const { sound, roll } = filmed(song, [{ talk: 6 }, { from: 30, to: 38, speed: 0.75 }, { talk: 6 }], {
      louder: 9,
      beat: BEAT,
      seed: 4,
    })
    const takes = findTakesAtAnySpeed(long, trace(inRoom(sound, roll)))
    expect(takes.map((t) => Math.round(t.at - (t.from - 6) * t.rate))).toEqual([30])
  })

  it('are found through a phone, at the slowest speeds', () => {
    const { sound, truth } = filmed(song, [{ talk: 4 }, { from: 34, to: 46, speed: 0.5 }], {
      louder: 0,
      beat: BEAT,
      seed: 5,
    })
    const [take, ...more] = findTakesAtAnySpeed(known, trace(throughPhone(sound)))
    expect(more).toEqual([])
    expect(Math.abs((take?.rate ?? 0) / 0.5 - 1)).toBeLessThan(0.002)
    const middle = ((truth[0]?.filmFrom ?? 0) + (truth[0]?.filmTo ?? 0)) / 2
    expect((take?.at ?? 0) + (middle - (take?.from ?? 0)) * 0.5).toBeCloseTo(40, 1)
  })
  it('are none where somebody only talks, or music plays that only sounds like it', () => {
    const backwards = { rate: song.rate, samples: song.samples.slice().reverse() }
    expect(findTakesAtAnySpeed(known, trace(talk(45, dice(8))))).toEqual([])
    expect(findTakesAtAnySpeed(known, trace(backwards))).toEqual([])
    expect(findTakesAtAnySpeed(known, trace(piece(song, 0, 3)))).toEqual([])
  })
  it('are none where a song has the same beat in another key', () => {
    // Slowed with its pitch kept, then played as much faster: a fourth higher at its own tempo.
    const fourth = 2 ** (5 / 12)
    const higher = resampled(slowed(song, 20, 50, 1 / fourth), song.rate, fourth)
    expect(higher.samples.length / higher.rate).toBeCloseTo(30, 1)
    expect(findTakesAtAnySpeed(known, trace(higher))).toEqual([])
  })
})
