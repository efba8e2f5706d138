import { describe, expect, it } from 'vitest'
import { busiestBeat } from './busiest'

const song = (loud: (k: number) => number, low: (k: number) => number, n = 100) => ({
  beats: Array.from({ length: n }, (_, k) => k / 2),
  pictures: {
    loudness: Array.from({ length: n }, (_, k) => loud(k)),
    low: Array.from({ length: n }, (_, k) => low(k)),
    brightness: [],
  },
})

describe('the busiest part of a song', () => {
  it('is where sixteen beats are loudest together', () => {
    expect(
      busiestBeat(
        song(
          (k) => (k >= 40 && k < 56 ? 200 : 100),
          () => 0,
        ),
      ),
    ).toBe(40)
  })
  it('counts the low end too, and one loud beat is no part', () => {
    expect(
      busiestBeat(
        song(
          (k) => (k === 5 ? 255 : 100),
          (k) => (k >= 60 && k < 76 ? 90 : 0),
        ),
      ),
    ).toBe(60)
  })
  it('is the beginning where nothing tells, and where the song is shorter', () => {
    const even = (n: number) => busiestBeat(song(...([() => 1, () => 1] as const), n))
    expect([even(100), even(7)]).toEqual([0, 0])
  })
})
