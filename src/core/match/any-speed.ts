import type { Seconds } from '../time'
import { coarse, HOP, Lookup, RATE, RATES, WIDE, WINDOW } from './coarse'
import { bent, type Found, fitted, followed, likeAlong, PIECE, type Pictures, WORTH } from './lines'
import { edge, harmonyOf, SHORTEST, type Take } from './match'
import { BANDS, CHROMA_RATE, TRACE_RATE, type Trace } from './trace'

/*
 * Where in a film a song plays that is slowed for a lesson: at any speed from 0.4 to 1.11, pitch kept, under talk that may be
 * louder than it. First on a coarse picture of the sound all windows at all speeds; then each stretch whose windows agree on a speed
 * and go on in the song is placed on the fine one.
 */

/** Guesses that are followed from each window. */
const FOLLOWED = 12

/** A take must have so much in all. Set on films of the demo's song; other songs with its beat have as much, and are told apart below. */
const ENOUGH = 0.5

/** Places nearer to one another are one, in seconds. */
const APART: Seconds = 0.3

/**
 * Finds where a song plays in a film at any speed from 0.4 to 1.11 of its own, its pitch kept, also under a voice that is louder;
 * none where it does not play.
 * @param tick called now and then with the share done; may throw to cancel
 */
export function findTakesAtAnySpeed(
  song: Trace,
  film: Trace,
  tick: (share: number) => void = () => {},
): Take[] {
  const rough = { song: coarse(song), film: coarse(film), per: RATE, wide: WIDE }
  const end = film.frames / TRACE_RATE
  const look = new Lookup(rough.song, rough.film)
  const lines: Found[] = []
  for (let time = 0; time + WINDOW <= end; time += HOP) {
    const list = RATES.flatMap((rate) => look.places(time, rate)).sort((a, b) => b.like - a.like)
    for (const g of list.slice(0, FOLLOWED)) {
      const first = followed(rough, { rate: g.rate, zero: g.at - g.time * g.rate }, g.time, end)
      if (first.score < ENOUGH / 2 || first.to - first.from < SHORTEST) continue
      lines.push(followed(rough, bent(rough, first), g.time, end))
    }
    tick((0.9 * time) / Math.max(1, end))
  }
  const fine = { song, film, per: TRACE_RATE, wide: BANDS }
  const takes: Take[] = []
  for (const found of lines.sort((a, b) => b.score - a.score)) {
    if (found.score < ENOUGH) break
    // What is better found already is not claimed twice.
    const free = withoutTaken(found, takes)
    if (!free || worthOf(rough, free) < ENOUGH) continue
    takes.push(withOwnEdges(song, film, likeliest(rivalsOf(rough, free, { song, film }), fine), takes))
    takes.sort((a, b) => a.from - b.from)
  }
  tick(1)
  return takes
    .map((t) => ({
      ...t,
      sure: likeAlong(rough, { rate: t.rate, zero: t.at - t.from * t.rate }, t.from, t.to - t.from),
    }))
    .filter((t) => t.to - t.from >= SHORTEST && isThisSong(t, song, film))
}

/** What the pieces of a stretch are worth along its line. */
function worthOf(seen: Pictures, { from, to, ...line }: Found): number {
  let sum = 0
  for (let t = from; t + PIECE / 2 <= to; t += PIECE)
    sum += likeAlong(seen, line, t, Math.min(PIECE, to - t)) - WORTH
  return sum
}

/**
 * Places of the song at which a stretch of a film may lie at its speed, the likeliest first: music repeats itself. By its harmony
 * too, which does not care where between two frames of the coarse picture a stroke falls.
 */
function rivalsOf(seen: Pictures, found: Found, whole: { song: Trace; film: Trace }): Found[] {
  const { from, to, rate } = found
  const length = to - from
  const first = -from * rate
  const n = Math.max(1, Math.floor((seen.song.frames / seen.per - length * rate) * seen.per))
  const known = new Map<number, number>()
  /** Harmony is known in coarser steps than strokes are. */
  const harmonyNear = (at: Seconds) => {
    const step = Math.round(at * CHROMA_RATE)
    const take = { from, to, at: step / CHROMA_RATE, rate, sure: 0 }
    const like = known.get(step) ?? harmonyOf(take, whole.song, whole.film)
    known.set(step, like)
    return like
  }
  const placed = (zero: Seconds) => ({
    ...{ ...found, zero },
    like: likeAlong(seen, { rate, zero }, from, length) + harmonyNear(zero + from * rate),
  })
  // The place that was found stays in it, also where the song is shorter than the stretch.
  const places = [
    placed(found.zero),
    ...Array.from({ length: n }, (_, i) => placed(first + i / seen.per)),
  ].sort((x, y) => y.like - x.like)
  const out: Found[] = []
  for (const place of places) {
    if (out.length === FOLLOWED) break
    if (out.every((o) => Math.abs(o.zero - place.zero) > APART)) out.push(place)
  }
  return out
}

/**
 * So alike its harmony must be, and so much more than at other places of the song: the beat of another song, at the right speed, is
 * as alike as its own. Of films made of five songs, with a voice 6 dB louder, takes had 0.56 to 0.78 and 0.23 to 0.37 more than
 * elsewhere; what was claimed in another song's film 0.21 to 0.36 and at most 0.07 more. A film of the song's own drums alone is
 * still taken for it.
 */
const [HARMONY, MORE] = [0.45, 0.15]
/** Other places it is held against, so far apart, and at least so far away. */
const [ELSEWHERE, AWAY]: [Seconds, Seconds] = [1.37, 2]

/** The harmony of a take is that of the song at its place, and not only of songs like it. */
function isThisSong(take: Take, song: Trace, film: Trace): boolean {
  const here = harmonyOf(take, song, film)
  if (here < HARMONY) return false
  const others: number[] = []
  // Most of the take has to lie in the song there.
  const last = song.frames / TRACE_RATE - 0.6 * (take.to - take.from) * take.rate
  for (let at = 0; at < last; at += ELSEWHERE)
    if (Math.abs(at - take.at) > AWAY) others.push(harmonyOf({ ...take, at }, song, film))
  others.sort((a, b) => a - b)
  const usual = others[Math.floor(others.length / 2)]
  return usual === undefined || here - usual >= MORE
}

/** Places that differ by no more sound the same: of two choruses that are played alike the first is meant. */
const SAME = 0.05

/** Of the places at which a stretch may lie, the one that is most alike on the fine picture and in its harmony. */
function likeliest(rivals: readonly Found[], fine: Pictures & { song: Trace; film: Trace }): Take {
  const taken = rivals.map((found): { take: Take; like: number } => {
    const line = fitted(fine, found)
    const { from, to } = found
    const take = { from, to, at: line.zero + from * line.rate, rate: line.rate, sure: 0 }
    return { take, like: likeAlong(fine, line, from, to - from) + harmonyOf(take, fine.song, fine.film) }
  })
  const most = Math.max(...taken.map((t) => t.like))
  return taken.filter((t) => t.like >= most - SAME).reduce((a, b) => (b.take.at < a.take.at ? b : a)).take
}

/** What of a stretch is no take yet; null where too little is. */
function withoutTaken(found: Found, takes: readonly Take[]): Found | null {
  let { from, to } = found
  for (const t of takes) {
    if (t.to <= from || t.from >= to) continue
    if (t.from - from > to - t.to) to = t.from
    else from = t.to
  }
  return to - from >= SHORTEST ? { ...found, from, to } : null
}

/** A take as far as it is heard, up to those beside it and to the ends of the song. */
function withOwnEdges(song: Trace, film: Trace, take: Take, others: readonly Take[]): Take {
  const end = film.frames / TRACE_RATE
  const songEnd = song.frames / TRACE_RATE
  const before = Math.max(0, ...others.filter((t) => t.to <= take.from + 1e-6).map((t) => t.to))
  const after = Math.min(end, ...others.filter((t) => t.from >= take.to - 1e-6).map((t) => t.from))
  const first = Math.max(before, take.from - take.at / take.rate)
  const from = edge(song, film, take, take.from, first, -1)
  const to = edge(song, film, take, take.to, Math.min(after, take.from + (songEnd - take.at) / take.rate), 1)
  return to > from ? { ...take, from, to, at: take.at + (from - take.from) * take.rate } : take
}
