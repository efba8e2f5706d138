import { describe, expect, it } from 'vitest'
import { emptyRoutine, type Film, type FilmTake, placePhrases } from '../routine'
import { beganAt, captionsOnFilm, stampLines, stepStamps, takeStamps, takesThatCount } from '.'

const take = (from: number, to: number, at: number, rate = 1): FilmTake => ({
  ...{ from, to, at, rate, sure: 0.4, by: 'sound' },
})
const film = (...takes: FilmTake[]): Pick<Film, 'takes' | 'seconds'> => ({ takes, seconds: 600 })
const times = Array.from({ length: 65 }, (_, i) => 2 + i * 0.5)
const placed = placePhrases({
  ...emptyRoutine('x'),
  phrases: Array.from({ length: 8 }, () => ({ length: 8, feel: 'straight' as const, pickUp: false })),
})

describe('the takes that count', () => {
  it('are the last whole ones; what was danced again after a slip is listed apart', () => {
    const [slip, whole, slow, other] = [
      take(5, 9, 2),
      take(12, 20, 2.1),
      take(30, 46, 2, 0.5),
      take(60, 68, 10),
    ]
    const { count, again } = takesThatCount([slip, whole, slow, other])
    expect(count).toEqual([whole, slow, other])
    expect(again).toEqual([slip])
    // A later one that breaks off sooner takes nothing's place.
    expect(takesThatCount([whole, take(70, 73, 2)]).again).toEqual([])
  })

  it('are the chapters of their film, by what is danced and how fast', () => {
    const stamps = takeStamps(film(take(5, 9, 2), take(12, 20, 2.04), take(30, 46, 2, 0.5)), placed, times)
    expect(stamps.map((s) => s.at)).toEqual([12, 30])
    expect(stamps[0]?.name).not.toContain('%')
    expect(stamps[1]?.name).toBe(`${stamps[0]?.name.replace(/, \d.*/, '')}, 50 %`)
  })
})

describe('a film and the log of the floor', () => {
  // The film began at 1,000,000 ms; three repetitions, logged a little after they ended.
  const began = 1_000_000
  const takes = [take(60, 76, 2, 0.5), take(80, 96, 2, 0.5), take(200, 208, 10)]
  const danced = [
    { doneAt: began + 76_050, from: 2, to: 10, speed: 0.5 },
    { doneAt: began + 96_080, from: 2, to: 10, speed: 0.5 },
    { doneAt: began + 208_060, from: 10, to: 18, speed: 1 },
    // Of another evening.
    { doneAt: began - 90_000_000, from: 2, to: 10, speed: 0.5 },
    { doneAt: began + 500_000, from: null, to: null, speed: 1 },
  ]

  it('are tied by what was danced', () => {
    expect(Math.abs((beganAt(film(...takes), danced) as number) - began)).toBeLessThan(100)
    expect(beganAt(film(...takes), danced.slice(0, 1))).toBeNull()
    expect(beganAt(film(), danced)).toBeNull()
  })

  it('give the steps of the lesson their times in the film', () => {
    const steps = [
      { doneAt: began + 40_000, seconds: 40, kind: 'watch', label: '' },
      { doneAt: began + 100_000, seconds: 60, kind: 'drill', label: 'Chorus, 1 to 4' },
      { doneAt: began + 100_000, seconds: 0, kind: 'note', label: 'late' },
      { doneAt: began - 100_000, seconds: 10, kind: 'drill', label: 'before it' },
      { doneAt: began + 900_000, seconds: 10, kind: 'drill', label: 'after it' },
    ]
    expect(stepStamps(film(), steps, began)).toEqual([
      { at: 0, name: 'watch' },
      { at: 40, name: 'drill: Chorus, 1 to 4' },
    ])
  })

  it('are written as lines of a description, one a second, from 0:00 on', () => {
    const lines = stampLines([
      { at: 12.2, name: 'b' },
      { at: 12.9, name: 'c' },
      { at: 3907, name: 'd' },
    ])
    expect(lines).toEqual(['0:00 Beginning', '0:12 b, c', '1:05:07 d'])
    expect(stampLines([])).toEqual([])
  })
})

describe('captions of a film', () => {
  it('lie over its takes, at their speeds, and leave the talk alone', () => {
    const list = [
      { start: 2, end: 4, text: 'step' },
      { start: 4, end: 6, text: 'touch' },
    ]
    expect(captionsOnFilm(list, film(take(10, 18, 2, 0.5), take(30, 31, 4)))).toEqual([
      { start: 10, end: 14, text: 'step' },
      { start: 14, end: 18, text: 'touch' },
      { start: 30, end: 31, text: 'touch' },
    ])
  })
})
