import { describe, expect, it } from 'vitest'
import { comparedFilms, FILM_DESK, type FilmEvent, filmStep, shownFilm } from '.'

const deskAfter = (...events: FilmEvent[]) => events.reduce(filmStep, FILM_DESK)
const pin = { kind: 'pin', pin: { film: 3, song: 4 } } as const

describe('the film that is looked at', () => {
  it('follows the cursor until somebody looks at a picture of it, and again once the cursor goes on', () => {
    expect(deskAfter({ kind: 'look', at: 12 }).free).toBe(12)
    expect(deskAfter({ kind: 'look', at: -1 }).free).toBe(0)
    expect(deskAfter({ kind: 'look', at: 12 }, { kind: 'moved' }).free).toBeNull()
    // Nothing is drawn anew where nothing changes.
    expect(filmStep(FILM_DESK, { kind: 'moved' })).toBe(FILM_DESK)
  })

  it('stays where it is while its counts are named', () => {
    const placing = deskAfter({ kind: 'look', at: 12 }, { kind: 'place' }, { kind: 'moved' }, pin)
    expect(placing).toMatchObject({ free: 12, pins: [{ film: 3, song: 4 }] })
    expect(filmStep(placing, { kind: 'give up' })).toEqual(FILM_DESK)
    expect(deskAfter(pin).pins).toBeNull()
    expect(deskAfter({ kind: 'place' }).free).toBe(0)
  })

  it('is another one once that is chosen', () => {
    const chosen = deskAfter({ kind: 'look', at: 2 }, { kind: 'place' }, { kind: 'choose', film: 'b' })
    expect(chosen).toEqual({ ...FILM_DESK, chosen: 'b' })
    expect(filmStep(chosen, { kind: 'choose', film: 'b' })).toBe(chosen)
    const films = [{ id: 'a' }, { id: 'b' }] as never
    expect([
      shownFilm(films, chosen)?.id,
      shownFilm(films, { chosen: 'gone' })?.id,
      shownFilm([], chosen),
    ]).toEqual(['b', 'a', null])
  })

  it('is held against another one, which is never itself', () => {
    const films = [
      { id: 'a', takes: [] },
      { id: 'b', takes: [] },
      { id: 'c', takes: [{}] },
    ] as never
    const two = deskAfter({ kind: 'compare', what: { way: 'wipe' } })
    expect(two.compare).toEqual({ other: null, way: 'wipe', share: 0.5 })
    const ids = (desk: typeof two) => comparedFilms(films, desk)?.map((f) => f.id)
    expect(ids(two)).toEqual(['a', 'c'])
    const named = filmStep(two, { kind: 'compare', what: { other: 'b' } })
    expect(ids(named)).toEqual(['a', 'b'])
    expect(named.compare?.way).toBe('wipe')
    // The other one was chosen to be the first: something else stands beside it.
    expect(ids(filmStep(named, { kind: 'choose', film: 'b' }))).toEqual(['b', 'c'])
    expect(comparedFilms([], two)).toBeNull()
    expect(filmStep(named, { kind: 'compare no more' }).compare).toBeNull()
  })
})
