import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addFilm,
  commit,
  cutTake,
  emptyRoutine,
  type Film,
  type FilmTake,
  filmNotesAt,
  foundTakes,
  moveTakeEnds,
  putTake,
  type Routine,
  removeTake,
  takeThrough,
  writeFilmNote,
} from '..'

const film = (takes: FilmTake[] = [], seconds = 100): Film => ({
  ...{ id: 'f', file: 'film-file', name: 'Studio', whose: '', side: 'front', mirrored: false, filmed: null },
  ...{ seconds, frameRate: 30, searched: false, takes, notes: [] },
})
const take = (from: number, to: number, more: Partial<FilmTake> = {}): FilmTake => ({
  ...{ from, to, at: 10, rate: 0.5, sure: 0.4, by: 'sound' },
  ...more,
})
const withTakes = (...takes: FilmTake[]): Routine => addFilm(emptyRoutine('x'), film(takes))
const takesOf = (r: Routine) => r.films[0]?.takes ?? []

describe('takes of a film', () => {
  it('keep their place in the song when they are cut', () => {
    expect(cutTake(take(10, 30), 14, 22)).toMatchObject({ from: 14, to: 22, at: 12 })
    expect(cutTake(take(10, 30), 29.8, 40)).toBeNull()
  })

  it('that are found leave those placed by hand alone', () => {
    const r = withTakes(take(0, 9), take(20, 30, { by: 'hand', at: 3 }))
    const after = takesOf(foundTakes(r, 'f', [take(15, 40), take(60, 120)]))
    expect(after.map((t) => [t.from, t.to, t.at, t.by])).toEqual([
      [15, 20, 10, 'sound'],
      [20, 30, 3, 'hand'],
      [30, 40, 17.5, 'sound'],
      [60, 100, 10, 'sound'],
    ])
  })

  it('that are put make room for themselves', () => {
    const after = takesOf(putTake(withTakes(take(0, 50)), 'f', take(20, 30, { at: 0, rate: 1 })))
    expect(after.map((t) => [t.from, t.to, t.at])).toEqual([
      [0, 20, 10],
      [20, 30, 0],
      [30, 50, 25],
    ])
    expect(commit(withTakes(), (r) => putTake(r, 'f', take(99.8, 150)))).toMatchObject({ done: false })
  })

  it('have ends that stop at what is beside them', () => {
    const r = withTakes(take(0, 10), take(20, 30), take(40, 50))
    expect(takesOf(moveTakeEnds(r, 'f', 1, { from: 4, to: 45 }))[1]).toMatchObject({
      ...{ from: 10, to: 40, at: 5, by: 'hand' },
    })
    expect(commit(r, (x) => moveTakeEnds(x, 'f', 1, { from: 29.9 }))).toMatchObject({ done: false })
    expect(takesOf(removeTake(r, 'f', 1)).map((t) => t.from)).toEqual([0, 40])
  })

  it('lead through two pictures that were named, as far as film and song go', () => {
    const t = takeThrough(film([take(0, 5)]), { film: 20, song: 30 }, { film: 12, song: 24 }, 40)
    // 6 seconds of the song in 8 of the film; the song ends 13.3 s after the later picture.
    expect(t).toMatchObject({ from: 5, rate: 0.75, by: 'hand' })
    expect(t.at).toBeCloseTo(24 - 7 * 0.75)
    expect(t.to).toBeCloseTo(20 + 10 / 0.75)
    expect(takeThrough(film([], 22), { film: 12, song: 24 }, { film: 20, song: 30 }, 40).to).toBe(22)
    const through = (a: number, b: number) => () =>
      takeThrough(film(), { film: 10, song: a }, { film: 12, song: b }, 60)
    expect(through(8, 2)).toThrow('The later picture shows an earlier count.')
    expect(through(0, 50)).toThrow('2500 %')
    expect(() => takeThrough(film(), { film: 1, song: 1 }, { film: 1.1, song: 2 }, 9)).toThrow('too near')
  })

  it('never lie over one another, whatever is put, found and moved', () => {
    const second = fc.double({ min: 0, max: 100, noNaN: true })
    const any = fc
      .tuple(second, second, fc.boolean())
      .map(([a, b, hand]) => take(Math.min(a, b), Math.max(a, b) + 0.6, { by: hand ? 'hand' : 'sound' }))
    fc.assert(
      fc.property(fc.array(any, { maxLength: 6 }), second, second, fc.nat(6), (list, from, to, index) => {
        let r = withTakes()
        const apart = list.filter((t, i) => list.every((o, k) => k >= i || o.to <= t.from || o.from >= t.to))
        for (const edit of [
          (x: Routine) => foundTakes(x, 'f', apart),
          ...list.map((t) => (x: Routine) => putTake(x, 'f', t)),
          (x: Routine) => moveTakeEnds(x, 'f', index, { from, to }),
          (x: Routine) => foundTakes(x, 'f', apart),
        ]) {
          const done = commit(r, edit)
          if (done.done) r = done.routine
          else expect(done.why).toContain('shows nothing')
        }
        takesOf(r).forEach((t, i) => {
          expect(t.from).toBeGreaterThanOrEqual((takesOf(r)[i - 1]?.to ?? 0) - 1e-6)
          expect(t.to).toBeLessThanOrEqual(100)
        })
      }),
    )
  })
})

describe('notes on a film', () => {
  it('are written on a count, changed, and taken out by emptying them', () => {
    const note = { id: 'n', at: 48, seconds: 12.4, text: 'wrist' }
    const r = writeFilmNote(withTakes(), 'f', note)
    expect(filmNotesAt(r.films, 24, 72).map((x) => x.note)).toEqual([note])
    expect(filmNotesAt(r.films, 72, 96)).toEqual([])
    const changed = writeFilmNote(r, 'f', { ...note, text: 'hip' })
    expect(changed.films[0]?.notes).toEqual([{ ...note, text: 'hip' }])
    expect(writeFilmNote(changed, 'f', { ...note, text: ' ' }).films[0]?.notes).toEqual([])
  })
})
