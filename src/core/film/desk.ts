import type { Film, Pinned } from '../routine'
import type { Seconds } from '../time'

/** What is looked at of the films of a dance, and how. */
export interface FilmDesk {
  /** The film that is shown; the first one where it is none of them. */
  chosen: string | null
  /** The picture somebody looks at for itself; null while the film follows the cursor and what plays. */
  free: Seconds | null
  /** Pictures whose count was named, while a take is placed by hand; null while none is. */
  pins: readonly Pinned[] | null
  /** Two films held against each other; null while they are not. */
  compare: Comparing | null
}

/** How two films are held against each other. */
export const WAYS = ['beside', 'over', 'wipe'] as const
export type Way = (typeof WAYS)[number]

export interface Comparing {
  /** The film beside, over or behind the one that is shown; another one than that where it is none of them. */
  other: string | null
  way: Way
  /** How much of the other is seen, 0 to 1: how thick it lies over, how far it is wiped. */
  share: number
}

export const FILM_DESK: FilmDesk = { chosen: null, free: null, pins: null, compare: null }

export type FilmEvent =
  | { kind: 'choose'; film: string }
  /** A picture was gone to in the film itself. */
  | { kind: 'look'; at: Seconds }
  /** The cursor went somewhere, or something plays. */
  | { kind: 'moved' }
  | { kind: 'place' }
  | { kind: 'pin'; pin: Pinned }
  | { kind: 'give up' }
  | { kind: 'compare'; what: Partial<Comparing> }
  | { kind: 'compare no more' }

/** What a press or a move means for the film that is shown. While a take is placed the picture stays, wherever the cursor goes. */
export function filmStep<D extends FilmDesk>(desk: D, event: FilmEvent): D {
  switch (event.kind) {
    case 'choose':
      return event.film === desk.chosen ? desk : { ...desk, chosen: event.film, free: null, pins: null }
    case 'look':
      return { ...desk, free: Math.max(0, event.at) }
    case 'moved':
      return desk.free === null || desk.pins ? desk : { ...desk, free: null }
    case 'place':
      return { ...desk, free: desk.free ?? 0, pins: [] }
    case 'pin':
      return desk.pins ? { ...desk, pins: [...desk.pins, event.pin].slice(-2) } : desk
    case 'give up':
      return { ...desk, pins: null, free: null }
    case 'compare':
      return { ...desk, pins: null, free: null, compare: { ...(desk.compare ?? COMPARED), ...event.what } }
    case 'compare no more':
      return { ...desk, compare: null }
  }
}

const COMPARED: Comparing = { other: null, way: 'beside', share: 0.5 }

/** The two films that are held against each other; null where there are not two. */
export function comparedFilms(films: readonly Film[], desk: FilmDesk): [Film, Film] | null {
  const one = shownFilm(films, desk)
  const other =
    films.find((f) => f.id === desk.compare?.other && f !== one) ??
    films.find((f) => f !== one && f.takes.length > 0) ??
    films.find((f) => f !== one)
  return one && other ? [one, other] : null
}

/** The film that is shown of those there are; null where there are none. */
export const shownFilm = (films: readonly Film[], { chosen }: Pick<FilmDesk, 'chosen'>): Film | null =>
  films.find((f) => f.id === chosen) ?? films[0] ?? null
