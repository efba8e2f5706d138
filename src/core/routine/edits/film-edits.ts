import type { Ratio, Seconds, Ticks } from '../../time'
import type { Film, FilmNote, FilmTake } from '../document/film-schema'
import { LIMITS } from '../document/limits'
import type { Routine } from '../document/schema'
import { Refused } from '../gate/refused'

/** Takes shorter than this are none: nothing can be seen in them. */
export const SHORTEST_TAKE: Seconds = 0.5

const change = (routine: Routine, id: string, to: (film: Film) => Film): Routine => ({
  ...routine,
  films: routine.films.map((f) => (f.id === id ? to(f) : f)),
})

/** Adds a film to the dance. */
export const addFilm = (routine: Routine, film: Film): Routine => ({
  ...routine,
  films: [...routine.films, film],
})

/** With films of the same dance that are not in it yet. */
export function withFilmsOf(routine: Routine, others: readonly Film[]): Routine {
  const fresh = others.filter((o) => !routine.films.some((f) => f.id === o.id))
  return fresh.length ? { ...routine, films: [...routine.films, ...fresh].slice(0, LIMITS.films) } : routine
}

/** Takes a film out of the dance; its file stays for a while, for those who undo. */
export const removeFilm = (routine: Routine, id: string): Routine => ({
  ...routine,
  films: routine.films.filter((f) => f.id !== id),
})

export type FilmFacts = Pick<Film, 'name' | 'whose' | 'side' | 'mirrored' | 'filmed'>

/** Says what a film is of. */
export const changeFilm = (routine: Routine, id: string, facts: Partial<FilmFacts>): Routine =>
  change(routine, id, (f) => ({ ...f, ...facts }))

const inOrder = (takes: readonly FilmTake[]) => [...takes].sort((a, b) => a.from - b.from)

/** A take cut to a piece of the film; null where too little of it is left. */
export function cutTake(take: FilmTake, from: Seconds, to: Seconds): FilmTake | null {
  const [a, b] = [Math.max(take.from, from), Math.min(take.to, to)]
  if (b - a < SHORTEST_TAKE) return null
  return { ...take, from: a, to: b, at: take.at + (a - take.from) * take.rate }
}

/** Takes without a piece of the film; a take around it becomes two. */
const clearOf = (takes: readonly FilmTake[], { from, to }: { from: Seconds; to: Seconds }): FilmTake[] =>
  takes.flatMap((t) => [cutTake(t, 0, from), cutTake(t, to, LIMITS.filmSeconds)].filter((x) => x !== null))

/** What a search found in a film; takes placed by hand stay, and nothing found lies over them. */
export const foundTakes = (routine: Routine, id: string, found: readonly FilmTake[]): Routine =>
  change(routine, id, (f) => {
    const kept = f.takes.filter((t) => t.by === 'hand')
    const free = kept.reduce<FilmTake[]>((list, k) => clearOf(list, k), [...found])
    return {
      ...f,
      searched: true,
      takes: inOrder([...kept, ...free]).flatMap((t) => cutTake(t, 0, f.seconds) ?? []),
    }
  })

/** Puts a take into a film; what it lies over gives way to it. @throws Refused where it is too short */
export function putTake(routine: Routine, id: string, take: FilmTake): Routine {
  return change(routine, id, (f) => {
    const cut = cutTake(take, 0, f.seconds)
    if (!cut) throw new Refused('A take this short shows nothing.')
    return { ...f, takes: inOrder([...clearOf(f.takes, cut), cut]) }
  })
}

/**
 * Moves the ends of a take, as far as those beside it and the film let it; what is moved is by hand from then on.
 * @param index of the take in the film
 * @throws Refused where nothing would be left of it
 */
export function moveTakeEnds(
  routine: Routine,
  id: string,
  index: number,
  { from, to }: { from?: Seconds; to?: Seconds },
): Routine {
  return change(routine, id, (f) => {
    const take = f.takes[index]
    if (!take) return f
    const first = Math.max(f.takes[index - 1]?.to ?? 0, from ?? take.from)
    const last = Math.min(f.takes[index + 1]?.from ?? f.seconds, to ?? take.to)
    if (last - first < SHORTEST_TAKE) throw new Refused('A take this short shows nothing.')
    const moved: FilmTake = {
      ...take,
      from: first,
      to: last,
      at: take.at + (first - take.from) * take.rate,
      by: 'hand',
    }
    return { ...f, takes: f.takes.map((t, i) => (i === index ? moved : t)) }
  })
}

/** Takes a take out: the song does not play there, or not so. */
export const removeTake = (routine: Routine, id: string, index: number): Routine =>
  change(routine, id, (f) => ({ ...f, takes: f.takes.filter((_, i) => i !== index) }))

/** A moment of a film, and the time of the song danced in it. */
export interface Pinned {
  film: Seconds
  song: Seconds
}

/**
 * A take through two moments that somebody named: from end to end of what is between the takes beside it, as far as the song goes.
 * @param song how long it is, in seconds
 * @throws Refused where no speed leads from one to the other
 */
export function takeThrough(
  film: Pick<Film, 'seconds' | 'takes'>,
  a: Pinned,
  b: Pinned,
  song: Seconds,
): FilmTake {
  const [first, second] = a.film <= b.film ? [a, b] : [b, a]
  const apart = second.film - first.film
  const rate: Ratio = (second.song - first.song) / apart
  if (apart < 0.2) throw new Refused('The two pictures are too near to one another to tell a speed.')
  if (!(rate >= LIMITS.filmRate.min && rate <= LIMITS.filmRate.max))
    throw new Refused(
      rate > 0
        ? `Between these two pictures the dance would go at ${Math.round(rate * 100)} % of the song, which is none it is danced at.`
        : 'The later picture shows an earlier count.',
    )
  const others = film.takes.filter((t) => t.to <= first.film || t.from >= second.film)
  const before = Math.max(0, ...others.filter((t) => t.to <= first.film).map((t) => t.to))
  const after = Math.min(film.seconds, ...others.filter((t) => t.from >= second.film).map((t) => t.from))
  const from = Math.max(before, first.film - first.song / rate)
  const to = Math.min(after, first.film + (song - first.song) / rate)
  return { from, to, at: first.song + (from - first.film) * rate, rate, sure: 1, by: 'hand' }
}

/** Writes a note on a picture of a film, or another one in its place; an empty one is taken out. */
export const writeFilmNote = (routine: Routine, id: string, note: FilmNote): Routine =>
  change(routine, id, (f) => {
    const others = f.notes.filter((n) => n.id !== note.id)
    const all = note.text.trim() ? [...others, note] : others
    return { ...f, notes: all.sort((a, b) => a.at - b.at) }
  })

/** Notes on a count, of all films. */
export const filmNotesAt = (films: readonly Film[], from: Ticks, to: Ticks) =>
  films.flatMap((film) => film.notes.filter((n) => n.at >= from && n.at < to).map((note) => ({ film, note })))
