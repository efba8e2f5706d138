import { describe, expect, it } from 'vitest'
import type { FilmTake } from '../routine'
import { countStills, pictureAt } from '.'

const take = (from: number, to: number, at: number, rate = 1): FilmTake => ({
  ...{ from, to, at, rate, sure: 0.4, by: 'sound' },
})
const times = Array.from({ length: 40 }, (_, i) => 10 + i * 0.5)

describe('a still a count', () => {
  it('is of one take where that shows all of an eight, and of nothing where the film shows none', () => {
    const film = { frameRate: 25, takes: [take(0, 4, 9), take(20, 40, 5), take(50, 52, 10)] }
    // The count at 10 s of the song is 5 s into the second take, the last of them that shows the whole eight; half a picture on.
    expect(countStills(film, times, { from: 0, to: 192 }).map((s) => s.film)).toEqual(
      [25, 25.5, 26, 26.5, 27, 27.5, 28, 28.5].map((x) => expect.closeTo(x + 0.02, 5)),
    )
    expect(countStills(film, times, { from: 32 * 24, to: 34 * 24 })).toEqual([
      { at: 768, film: null },
      { at: 792, film: null },
    ])
    expect(countStills(film, [], { from: 0, to: 192 })).toEqual([])
  })

  it('is where a slow take has it', () => {
    const slow = { frameRate: 50, takes: [take(10, 30, 10, 0.5)] }
    expect(countStills(slow, times, { from: 0, to: 72 }).map((s) => s.film)).toEqual([10.01, 11.01, 12.01])
  })

  it('is the picture nearest to it, of whatever a player shows where it is put', () => {
    for (const frameRate of [15, 24, 25, 29.97, 30, 59.94, 240])
      for (let at = 0; at < 0.4; at += 0.0037) {
        const shown = Math.floor(pictureAt({ frameRate }, at) * frameRate) / frameRate
        expect(Math.abs(shown - at)).toBeLessThanOrEqual(0.5 / frameRate + 1e-9)
      }
  })
})
