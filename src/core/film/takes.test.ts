import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Film, FilmTake } from '../routine'
import {
  filmFor,
  filmTimeIn,
  placeInFilm,
  songEndOf,
  songTimeIn,
  takeAt,
  takeFor,
  talkIn,
  wholeTakes,
} from '.'

const take = (from: number, to: number, at: number, rate = 1): FilmTake => ({
  ...{ from, to, at, rate, sure: 0.4, by: 'sound' },
})

describe('where in a film the dance is', () => {
  it('goes from song to film and back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 2, noNaN: true }),
        fc.double({ min: 0, max: 300, noNaN: true }),
        fc.double({ min: 0, max: 300, noNaN: true }),
        (rate, at, song) => {
          const t = take(7, 30, at, rate)
          expect(songTimeIn(t, filmTimeIn(t, song))).toBeCloseTo(song, 6)
          expect(filmTimeIn(t, songEndOf(t))).toBeCloseTo(30, 6)
        },
      ),
    )
  })

  it('is the take that counts: whole, near the speed, the last of those danced alike', () => {
    const [slipped, again, slow, part] = [
      take(0, 20, 10),
      take(30, 51, 10),
      take(60, 110, 10, 0.5),
      take(120, 128, 10),
    ]
    const takes = [slipped, again, slow, part]
    const chorus = { from: 10, to: 29.8 }
    expect(wholeTakes(takes, chorus, 1)).toEqual([again, slipped, slow])
    expect(takeFor(takes, chorus, 1)).toBe(again)
    expect(takeFor(takes, chorus, 0.6)).toBe(slow)
    // The slip was made after this: only a part of it counts for nothing against a whole one.
    expect(takeFor([part, slipped], chorus, 1)).toBe(slipped)
    // Where none is whole, the one that shows most.
    expect(takeFor([part, take(0, 5, 10)], chorus, 1)).toBe(part)
    expect(takeFor(takes, { from: 200, to: 210 }, 1)).toBeNull()
  })

  it('stays with one take of a piece, and takes what it does not show from another', () => {
    const [first, second] = [take(0, 20, 10), take(30, 60, 10)]
    const film = { takes: [first, second] }
    expect(placeInFilm(film, 15)).toEqual({ take: second, at: 35 })
    const piece = { from: 11, to: 28 }
    expect(placeInFilm({ takes: [first, take(50, 53, 10)] }, 12, 1, piece)).toEqual({ take: first, at: 2 })
    expect(placeInFilm({ takes: [take(50, 53, 10), take(60, 70, 13)] }, 22, 1, piece)?.at).toBe(69)
    expect(placeInFilm(film, 41)).toBeNull()
    // At its very end a take is over.
    expect(placeInFilm({ takes: [first] }, 30)).toBeNull()
  })

  it('leaves what is between as talk', () => {
    const film = { seconds: 100, takes: [take(12, 30, 0), take(30.4, 50, 0)] }
    expect(talkIn(film)).toEqual([
      { from: 0, to: 12 },
      { from: 50, to: 100 },
    ])
    expect(takeAt(film, 30.2)).toBeNull()
    expect(takeAt(film, 30)).toBeNull()
    expect(takeAt(film, 12)?.from).toBe(12)
  })

  it('is seen in the film that was chosen, else in one that shows it, the instructor before others', () => {
    const film = (id: string, whose: string, ...takes: FilmTake[]) => ({ id, whose, takes }) as Film
    const films = [
      film('ann', 'Ann', take(0, 40, 0)),
      film('front', '', take(0, 10, 0)),
      film('back', '', take(0, 30, 0)),
    ]
    const of = (chosen: string | null, from: number, to: number) =>
      filmFor(films, chosen, { from, to }, 1)?.id
    expect(of('ann', 2, 8)).toBe('ann')
    expect(of('front', 12, 20)).toBe('back')
    expect(of(null, 2, 25)).toBe('back')
    expect(of('front', 33, 38)).toBe('ann')
    expect(of('front', 50, 60)).toBeUndefined()
  })
})
