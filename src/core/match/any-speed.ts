import type { Ratio, Seconds } from '../time'
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

/** A line of so much is followed, and its windows are not looked up: of takes that were found, all but the shortest have more. */
const SURE = 1.5

/** Places nearer to one another are one, in seconds. */
const APART: Seconds = 0.3

/** Of what looks for a song in films: one more where it finds others than before. */
export const MATCH_VERSION = 2

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
    // What goes on along a line that is sure of itself is not looked up once more.
    if (lines.some((l) => l.score >= SURE && l.from <= time && l.to >= time + WINDOW)) continue
    const list = RATES.flatMap((rate) => look.places(time, rate)).sort((a, b) => b.like - a.like)
    for (const g of list.slice(0, FOLLOWED)) {
      if (lines.some((l) => isOn(l, g))) continue
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
    const heard = { ...free, ...soundingPiece(free, song, film) }
    takes.push(withOwnEdges(song, film, likeliest(rivalsOf(rough, heard, { song, film }), fine), takes))
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

/** True where a guess is what a line that was followed says of its window. */
const isOn = ({ from, to, rate, zero }: Found, g: { time: Seconds; rate: Ratio; at: Seconds }): boolean =>
  from <= g.time &&
  to >= g.time + WINDOW &&
  Math.abs(rate - g.rate) < 0.012 &&
  Math.abs(zero + g.time * rate - g.at) < 0.2

/** A stretch of a film without the silence around it, where there is enough of it left. */
function soundingPiece({ from, to, zero, rate }: Found, song: Trace, film: Trace) {
  const piece = withoutSilence({ from, to, at: zero + from * rate, rate, sure: 0 }, song, film)
  return piece.to - piece.from >= SHORTEST ? { from: piece.from, to: piece.to } : { from, to }
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
    const like =
      known.get(step) ?? (isSilentIn(take, whole.song) ? 0 : harmonyOf(take, whole.song, whole.film))
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
 * What a take must have: how much more alike its strokes are than at nine of ten other places of the song, and its harmony than at half of
 * them, the two together. Other songs of the same style have as much of each as a take that is hard to hear, but nowhere more than elsewhere.
 * Set on films of twenty songs, with a voice up to 6 dB louder: but for two of 0.38 and 0.49 takes had 0.56 and more, what was found in films of
 * the other songs and in talk 0.46 at most. A film of the song's own drums alone is still taken for it.
 */
const OWN = 0.51
/** Its harmony is this much of its strokes, at least: of the same takes 0.53 and more, of a film of the demo's song a fourth higher 0.43. */
const HARMONY = 0.48
/** Other places it is held against, so far apart, and at least so far away. */
const [ELSEWHERE, AWAY]: [Seconds, Seconds] = [0.37, 2]

/** True where the song is silent for most of a take: nothing begins there, and what is silent is as alike to anything. */
function isSilentIn({ from, to, at, rate }: Take, song: Trace): boolean {
  const [first, last] = [at, at + (to - from) * rate].map((t) => Math.round(t * TRACE_RATE)) as [
    number,
    number,
  ]
  const before = soundingBefore(song)
  const upTo = (frame: number) => before[Math.min(song.frames, Math.max(0, frame))] ?? 0
  return upTo(last) - upTo(first) < (last - first) / 2
}

const soundings = new WeakMap<Trace, Uint32Array>()

/** How many frames of a song sound before each of them; worked out once a song. */
function soundingBefore(song: Trace): Uint32Array {
  const known = soundings.get(song)
  if (known) return known
  const before = new Uint32Array(song.frames + 1)
  for (let f = 0; f < song.frames; f++) {
    let sounds = 0
    for (let b = f * BANDS; b < (f + 1) * BANDS && !sounds; b++)
      if (Math.abs(song.data[b] as number) > SILENT) sounds = 1
    before[f + 1] = (before[f] as number) + sounds
  }
  soundings.set(song, before)
  return before
}

/** So little of a trace is silence. */
const SILENT = 0.05

/** How much more a take is alike at its place than elsewhere in the song, in strokes and in harmony; nothing where a song of some seconds has no other place. */
function moreThanElsewhere(take: Take, { song, film }: Fine, here: { strokes: number; harmony: number }) {
  const length = take.to - take.from
  // Most of the take has to lie in the song there.
  const last = song.frames / TRACE_RATE - 0.6 * length * take.rate
  const strokes: number[] = []
  const harmonies: number[] = []
  for (let at = 0; at < last; at += ELSEWHERE) {
    if (Math.abs(at - take.at) <= AWAY) continue
    strokes.push(strokesOf({ ...take, at }, { song, film }))
    harmonies.push(harmonyOf({ ...take, at }, song, film))
  }
  if (!strokes.length) return 0
  return here.strokes - shareOf(strokes, 0.9) + here.harmony - shareOf(harmonies, 0.5)
}

/** The value that so much of a list lies below. */
const shareOf = (list: number[], share: number): number =>
  list.sort((a, b) => a - b)[Math.floor(share * list.length)] ?? 0

interface Fine {
  song: Trace
  film: Trace
}

/** How alike the strokes of a take are, on the fine picture. */
const strokesOf = (take: Take, { song, film }: Fine): number =>
  likeAlong(
    { song, film, per: TRACE_RATE, wide: BANDS },
    { rate: take.rate, zero: take.at - take.from * take.rate },
    take.from,
    take.to - take.from,
  )

/** A take is of the song at its place, and not only of songs like it. */
function isThisSong(take: Take, song: Trace, film: Trace): boolean {
  if (isSilentIn(take, song)) return false
  const here = { strokes: strokesOf(take, { song, film }), harmony: harmonyOf(take, song, film) }
  // What is heard as clearly as its strokes are has the song's chords as clearly.
  if (here.harmony < HARMONY * here.strokes) return false
  return moreThanElsewhere(take, { song, film }, here) >= OWN
}

/**
 * Places that differ by no more sound the same: of two choruses that are played alike the first is meant. What lies between two frames
 * of the picture is up to 0.07 less alike than what lies on one.
 */
const SAME = 0.09

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
  return to > from
    ? withoutSilence({ ...take, from, to, at: take.at + (from - take.from) * take.rate }, song, film)
    : take
}

/** Silence is looked for this far into a take, and is no pause of the song from so long on. */
const [SILENCE, LEAST_SILENCE]: [Seconds, Seconds] = [4, 0.8]
/** Of the song so much has a harmony while the film has none. */
const HEARD = 0.3

/**
 * A take without the silence before and after it: between its strokes a song is as quiet as silence is, but where it has a harmony,
 * silence has none.
 */
function withoutSilence(take: Take, song: Trace, film: Trace): Take {
  const has = ({ chroma }: Trace, row: number) => {
    for (let c = 0; c < 12; c++) if (chroma[row * 12 + c]) return true
    return false
  }
  const songRow = (at: Seconds) => Math.floor((take.at + (at - take.from) * take.rate) * CHROMA_RATE)
  /** How far from an end of the take inwards the last silence near it reaches: what is before it is another take's. */
  const silence = (end: Seconds, way: 1 | -1): Seconds => {
    let [silent, heard, reaches] = [0, 0, 0]
    for (let n = 0; n < SILENCE * CHROMA_RATE; n++) {
      const at = end + (way * (n + 0.5)) / CHROMA_RATE
      if (has(film, Math.floor(at * CHROMA_RATE))) {
        silent = 0
        heard = 0
        continue
      }
      silent++
      if (has(song, songRow(at))) heard++
      if (silent >= LEAST_SILENCE * CHROMA_RATE && heard >= HEARD * silent) reaches = (n + 1) / CHROMA_RATE
    }
    return reaches
  }
  const from = take.from + silence(take.from, 1)
  const to = take.to - silence(take.to, -1)
  return to > from ? { ...take, from, to, at: take.at + (from - take.from) * take.rate } : take
}
