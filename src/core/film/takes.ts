import type { Film, FilmTake } from '../routine'
import type { Ratio, Seconds } from '../time'

/** So much may be missing at either end of a stretch that a take still shows whole. */
const MISSING: Seconds = 0.4
/** Speeds that differ by less are one. */
const SAME_SPEED = 0.05

/** The time of the song a take ends at. */
export const songEndOf = (take: FilmTake): Seconds => take.at + (take.to - take.from) * take.rate

/** Where in the film a time of the song is danced, as a take goes on. */
export const filmTimeIn = (take: FilmTake, song: Seconds): Seconds => take.from + (song - take.at) / take.rate

/** The time of the song danced at a moment of a film, as a take goes on. */
export const songTimeIn = (take: FilmTake, film: Seconds): Seconds => take.at + (film - take.from) * take.rate

/** The take at a moment of a film; null where the song does not play. */
export const takeAt = (film: Pick<Film, 'takes'>, at: Seconds): FilmTake | null =>
  film.takes.find((t) => at >= t.from && at < t.to) ?? null

/** A piece of the song, in seconds. */
export interface SongPiece {
  from: Seconds
  to: Seconds
}

const covers = (take: FilmTake, { from, to }: SongPiece) =>
  take.at <= from + MISSING && songEndOf(take) >= to - MISSING

/** How much of a piece of the song a take shows. */
const shown = (take: FilmTake, { from, to }: SongPiece): Seconds =>
  Math.max(0, Math.min(to, songEndOf(take)) - Math.max(from, take.at))

/**
 * Takes that show a piece of the song whole, the one that counts first: at the speed nearest to what is wanted, and of those
 * danced alike the last, since what slipped is danced again.
 */
export function wholeTakes(takes: readonly FilmTake[], piece: SongPiece, speed: Ratio): FilmTake[] {
  const far = (t: FilmTake) => Math.round(Math.abs(Math.log(t.rate / speed)) / SAME_SPEED)
  return takes.filter((t) => covers(t, piece)).sort((a, b) => far(a) - far(b) || b.from - a.from)
}

/** The take that shows most of a piece of the song, one that shows it whole if there is any; null where none shows any of it. */
export function takeFor(takes: readonly FilmTake[], piece: SongPiece, speed: Ratio): FilmTake | null {
  const [whole] = wholeTakes(takes, piece, speed)
  if (whole) return whole
  const best = takes.reduce<FilmTake | null>(
    (a, t) => (shown(t, piece) > (a ? shown(a, piece) : 0) + 1e-6 ? t : a),
    null,
  )
  return best
}

/** A place in a film. */
export interface FilmPlace {
  take: FilmTake
  /** In the film. */
  at: Seconds
}

/** Where a player is put to show the picture nearest to a moment of a film: it shows the one before where it is put. */
export const pictureAt = ({ frameRate }: Pick<Film, 'frameRate'>, at: Seconds): Seconds =>
  at + 0.5 / frameRate

/**
 * Where in a film a time of the song is seen.
 * @param piece what is drilled, so that one take is stayed with; the very time where nothing is
 */
export function placeInFilm(
  film: Pick<Film, 'takes'>,
  song: Seconds,
  speed: Ratio = 1,
  piece: SongPiece = { from: song, to: song },
): FilmPlace | null {
  const take = takeFor(film.takes, piece, speed)
  const inside = (t: FilmTake) => song >= t.at - 1e-6 && song < songEndOf(t)
  // What the take of the piece does not show is taken from another one.
  const chosen = take && inside(take) ? take : film.takes.filter(inside).at(-1)
  return chosen ? { take: chosen, at: filmTimeIn(chosen, song) } : null
}

/** Pieces of a film in which the song does not play: talk. Shorter ones are breath. */
export function talkIn(
  film: Pick<Film, 'takes' | 'seconds'>,
  shortest: Seconds = 1,
): { from: Seconds; to: Seconds }[] {
  const ends = [{ from: 0, to: 0 }, ...film.takes, { from: film.seconds, to: film.seconds }]
  return ends
    .slice(1)
    .map((t, i) => ({ from: (ends[i] as { to: Seconds }).to, to: t.from }))
    .filter((g) => g.to - g.from >= shortest)
}

/**
 * The film a piece of the song is seen in: the one that was chosen, where it shows any of it; else one that shows most of it, of
 * the instructor before others. Null where none does.
 */
export function filmFor(
  films: readonly Film[],
  chosen: string | null,
  piece: SongPiece,
  speed: Ratio,
): Film | null {
  const shows = (f: Film) => {
    const take = takeFor(f.takes, piece, speed)
    return take ? shown(take, piece) : 0
  }
  const wanted = films.find((f) => f.id === chosen)
  if (wanted && shows(wanted) > 0) return wanted
  const rated = films.map((film) => ({ film, shows: shows(film), own: film.whose ? 0 : 1 }))
  const [best] = rated.filter((r) => r.shows > 0).sort((a, b) => b.own - a.own || b.shows - a.shows)
  return best?.film ?? null
}
