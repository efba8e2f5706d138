import { describe, expect, it } from 'vitest'
import { renderDemoSong } from '../../../demo/song'
import { drumLoop } from '../../../e2e/sounds'
import { findTakes, findTakesNear, packTrace, placeIn, type Take, type Trace, traceOf, unpackTrace } from '.'
import { joined, piece, poor, quiet, resampled, type Sound, shaped } from './match.test-tools'

const { left, right, sampleRate } = renderDemoSong()
/** The first 66 seconds of it are enough to be known by. */
const song: Sound = piece(
  { rate: sampleRate, samples: left.map((x, i) => (x + (right[i] as number)) / 2) },
  0,
  66,
)
const trace = ({ samples, rate }: Sound) => traceOf(samples, rate)
/** As it is kept: packed, and opened again. */
const kept = unpackTrace(packTrace(trace(song))) as Trace
const takes = (s: Sound) => findTakes(kept, trace(s))
const one = (s: Sound): Take => {
  const list = takes(s)
  expect(list).toHaveLength(1)
  return list[0] as Take
}
/** How far a time of the song is from where it truly lies in a copy, in milliseconds. */
const off = (list: readonly Take[], at: number, truly: number) =>
  Math.abs((placeIn(list, at) ?? Number.NaN) - truly) * 1000

describe('another copy of a song is found, each place to 4 ms', () => {
  const copies: [string, Sound, (at: number) => number][] = [
    ['the same file', song, (t) => t],
    ['another lead-in', joined(quiet(song.rate, 3.217), song), (t) => t + 3.217],
    ['begun later, and cut off', piece(song, 5.5, 60), (t) => t - 5.5],
    ['narrow and coarse', poor(joined(quiet(song.rate, 1.234), song)), (t) => t + 1.234],
    ['another sampling rate', resampled(song, 48_000), (t) => t],
    ['softer, and faded out', shaped(song, (x) => 0.4 * Math.min(1, (1 - x) / 0.3)), (t) => t],
    ['two thousandths faster', resampled(song, song.rate, 1.002), (t) => t / 1.002],
  ]
  it.each(copies)('%s', (_, copy, truly) => {
    const take = one(copy)
    for (const at of [10, 36.178, 53]) expect(off([take], at, truly(at))).toBeLessThan(4)
    expect(take.sure).toBeGreaterThan(0.6)
  })
  it('with a part left out, and one played twice', () => {
    const out = takes(joined(piece(song, 0, 30), piece(song, 47.77, 66)))
    expect(out).toHaveLength(2)
    expect(off(out, 20, 20)).toBeLessThan(10)
    expect(off(out, 60, 60 - 17.77)).toBeLessThan(10)
    expect(placeIn(out, 40)).toBeNull()
    expect(Math.abs((out[1]?.from ?? 0) - 30)).toBeLessThan(0.6)
    const twice = takes(joined(piece(song, 0, 53), piece(song, 36, 66)))
    expect(twice.map((t) => Math.round(t.at - t.from) + 0)).toEqual([0, -17])
  })
  it('between other things', () => {
    const [take] = takes(joined(quiet(song.rate, 20, 0.1), piece(song, 20, 60), quiet(song.rate, 20, 0.1)))
    expect(Math.abs((take?.from ?? 0) - 20)).toBeLessThan(0.5)
    expect(Math.abs((take?.to ?? 0) - 60)).toBeLessThan(0.5)
  })
})

describe('a copy at another speed is found', () => {
  it.each([0.96, 1.04])('%f times as fast, and as high, each place to 15 ms', (speed) => {
    const list = findTakesNear(
      kept,
      trace(joined(quiet(song.rate, 2.5), resampled(piece(song, 0, 45), song.rate, speed))),
    )
    expect(list).toHaveLength(1)
    for (const at of [10, 36.178, 42]) expect(off(list, at, 2.5 + at / speed)).toBeLessThan(15)
    expect((list[0] as Take).rate).toBeCloseTo(speed, 2)
  })
  it('at its own it is found as before, and what is no copy is none at any speed', () => {
    const own = trace(joined(quiet(song.rate, 3.217), song))
    const found = findTakes(kept, own)
    expect(found).toHaveLength(1)
    expect(findTakesNear(kept, own)).toEqual(found)
    const drums = { rate: 44_100, samples: drumLoop(112, 60, 0.5, 44_100) }
    expect(findTakesNear(kept, trace(drums))).toEqual([])
  })
})

describe('what is no copy is refused', () => {
  const loop = (bpm: number): Sound => ({ rate: 44_100, samples: drumLoop(bpm, 60, 0.5, 44_100) })
  it.each<[string, Sound]>([
    ['drums of the same tempo', loop(108)],
    ['drums of another', loop(124)],
    ['a hiss', quiet(44_100, 40, 0.3)],
    ['silence', { rate: 44_100, samples: new Float32Array(44_100 * 20) }],
    ['shorter than a window', piece(song, 10, 14)],
    ['the song backwards', { rate: song.rate, samples: song.samples.slice().reverse() }],
  ])('%s', (_, other) => expect(takes(other)).toEqual([]))
})

describe('a trace', () => {
  it('is small, comes back, and one of another form is known as such', () => {
    const packed = packTrace(kept)
    expect(packed.length).toBeLessThan(700 * (song.samples.length / song.rate))
    expect(unpackTrace(packed)).toEqual(kept)
    expect(unpackTrace(packed.subarray(0, 100))).toBeNull()
    expect(unpackTrace(Uint8Array.of(50, 12, 0, 0, 0, 0))).toBeNull()
    expect(unpackTrace(new Uint8Array(0))).toBeNull()
  })
})
