import type { Ratio, Seconds } from '../time'
import { type Coarse, FULL } from './coarse'

/* Lines through a film and a song: a speed, and a place from which the song goes on. */

/** A speed and a place: the song goes on from there as long as it is heard. */
export interface Line {
  rate: Ratio
  /** The time of the song that is heard where the film begins. */
  zero: Seconds
}

/** A song and a film as they are compared: frames of both a second, and bands. */
export interface Pictures {
  song: Coarse
  film: Coarse
  per: number
  wide: number
}

/** How alike a piece of a film is to the song along a line, -1..1. */
export function likeAlong(
  { song, film, per, wide }: Pictures,
  { rate, zero }: Line,
  from: Seconds,
  seconds: Seconds,
): number {
  let dot = 0
  let x2 = 0
  let y2 = 0
  const heard = film.data
  const sought = song.data
  const n = Math.round(seconds * per)
  const first = Math.round(from * per)
  for (let i = 0; i < n; i++) {
    const f = first + i
    const s = (zero + (f / per) * rate) * per
    const k = Math.floor(s)
    const between = s - k
    const own = f * wide
    const here = k * wide
    const next = here + wide
    // Within both recordings nothing is asked: this is what finding takes its time for.
    if (own >= 0 && own < heard.length && here >= 0 && next < sought.length) {
      for (let b = 0; b < wide; b++) {
        const x = heard[own + b] as number
        const y = (sought[here + b] as number) * (1 - between) + (sought[next + b] as number) * between
        dot += x * y
        x2 += x * x
        y2 += y * y
      }
      continue
    }
    // Before and after a recording there is silence.
    for (let b = 0; b < wide; b++) {
      const x = heard[own + b] ?? 0
      const y = (sought[here + b] ?? 0) * (1 - between) + (sought[next + b] ?? 0) * between
      dot += x * y
      x2 += x * x
      y2 += y * y
    }
  }
  return x2 > 1e-6 && y2 > 1e-6 ? dot / Math.sqrt(x2 * Math.max(y2, FULL * x2)) : 0
}

/** Pieces along which a line is followed, and how alike one must be to be worth something. */
export const [PIECE, WORTH]: [Seconds, number] = [4, 0.15]
/** So many pieces in a row may speak against it: a word over the song does not end it. */
const PATIENCE = 2
export interface Found extends Line {
  from: Seconds
  to: Seconds
  score: number
}

/** A line as far as the song is heard along it, both ways from a window. */
export function followed(seen: Pictures, line: Line, time: Seconds, end: Seconds): Found {
  const way = (step: 1 | -1): [Seconds, number] => {
    let [far, best, sum, against] = [step > 0 ? time : time, 0, 0, 0]
    for (let t = step > 0 ? time : time - PIECE; t >= 0 && t + PIECE <= end; t += step * PIECE) {
      const at = line.zero + t * line.rate
      if (at < -PIECE || at > seen.song.frames / seen.per) break
      sum += likeAlong(seen, line, t, PIECE) - WORTH
      if (sum > best) {
        best = sum
        far = step > 0 ? t + PIECE : t
        against = 0
      } else if (++against > PATIENCE) break
    }
    return [far, best]
  }
  const [[from, before], [to, after]] = [way(-1), way(1)]
  return { ...line, from, to, score: before + after }
}

/** Steps in which a line is bent to what lies along it: of its speed, and of its place, on the coarse picture. */
export function bent(seen: Pictures, found: Found): Line {
  const middle = (found.from + found.to) / 2
  const length = found.to - found.from
  let best = { line: found as Line, like: -1 }
  for (let r = -4; r <= 4; r++)
    for (let d = -3; d <= 3; d++) {
      const rate = found.rate + (r * 0.06) / length
      const zero = found.zero + (found.rate - rate) * middle + d * 0.02
      const like = likeAlong(seen, { rate, zero }, found.from, length)
      if (like > best.like) best = { line: { rate, zero }, like }
    }
  return best.line
}

/** How far off the line each piece of it lies on the fine picture, and a line through that. */
export function fitted(seen: Pictures, { from, to, ...line }: Found): Line {
  const points: { t: Seconds; off: Seconds; weight: number }[] = []
  for (let t = from; t + PIECE / 2 <= to; t += 1) {
    const likes = Array.from({ length: 25 }, (_, i) =>
      likeAlong(seen, { ...line, zero: line.zero + (i - 12) / seen.per }, t, Math.min(PIECE, to - t)),
    )
    const i = likes.reduce((a, l, k) => (l > (likes[a] as number) ? k : a), 0)
    const [l, m, r] = [likes[i - 1] ?? -1, likes[i] as number, likes[i + 1] ?? -1]
    const bend = l - 2 * m + r
    const between = i > 0 && i < 24 && bend < 0 ? (0.5 * (l - r)) / bend : 0
    // At the border it lies elsewhere.
    if (m > 0.1 && i > 0 && i < 24)
      points.push({ t: t + PIECE / 2, off: (i - 12 + between) / seen.per, weight: m * m })
  }
  return throughMost(line, points)
}

/** A straight line through most of some points: those far from it are left out, again and again. */
function throughMost(line: Line, points: readonly { t: Seconds; off: Seconds; weight: number }[]): Line {
  let left = points
  let [slope, start] = [0, 0]
  for (let round = 0; round < 4 && left.length > 2; round++) {
    const w = left.reduce((n, p) => n + p.weight, 0)
    const [mt, mo] = [
      left.reduce((n, p) => n + p.weight * p.t, 0) / w,
      left.reduce((n, p) => n + p.weight * p.off, 0) / w,
    ]
    const spread = left.reduce((n, p) => n + p.weight * (p.t - mt) ** 2, 0)
    // A short take tells little of its speed: it stays as it was found.
    slope = left.length > 4 ? left.reduce((n, p) => n + p.weight * (p.t - mt) * (p.off - mo), 0) / spread : 0
    start = mo - slope * mt
    const away = left.map((p) => Math.abs(p.off - start - slope * p.t)).sort((a, b) => a - b)
    const most = Math.max(0.012, 2.5 * (away[Math.floor(away.length / 2)] ?? 0))
    left = left.filter((p) => Math.abs(p.off - start - slope * p.t) <= most)
  }
  return { rate: line.rate + slope, zero: line.zero + start }
}
