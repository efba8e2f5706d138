import FFT from 'fft.js'
import type { Ratio, Seconds } from '../time'
import { edge, harmonyOf, SHORTEST, type Take } from './match'
import { BANDS, TRACE_RATE, type Trace } from './trace'

/*
 * Where in a film a song plays that is slowed for a lesson: at any speed from 0.4 to 1.11, pitch kept, under talk that may be
 * louder than it. First on a coarse picture of the sound all windows at all speeds; then each stretch whose windows agree on a speed
 * and go on in the song is placed on the fine one.
 */

/** Speeds that are looked for, so far apart: half a step moves the end of a window by 40 ms, one frame of the coarse picture. */
const [SLOWEST, FASTEST, STEP]: [Ratio, Ratio, Ratio] = [0.4, 1.11, 0.01]
/** What is looked up is this long in the film, and begins so often. */
const [WINDOW, HOP]: [Seconds, Seconds] = [8, 4]
/** Frames of the fine picture in one of the coarse, and bands in one. */
const [FRAMES_IN, BANDS_IN] = [4, 2]
const RATE = TRACE_RATE / FRAMES_IN
const WIDE = BANDS / BANDS_IN

/** The coarse picture: RATE frames a second of WIDE bands. */
interface Coarse {
  frames: number
  data: Float32Array
}

function coarse({ frames, data }: Trace): Coarse {
  const n = Math.floor(frames / FRAMES_IN)
  const out = new Float32Array(n * WIDE)
  for (let f = 0; f < n * FRAMES_IN; f++)
    for (let b = 0; b < BANDS; b++) {
      const i = Math.floor(f / FRAMES_IN) * WIDE + Math.floor(b / BANDS_IN)
      out[i] = (out[i] as number) + (data[f * BANDS + b] as number)
    }
  return { frames: n, data: out }
}

/** Where a window of a film may lie in the song, at a speed. */
interface Guess {
  /** In the film. */
  time: Seconds
  rate: Ratio
  /** In the song, where the window begins. */
  at: Seconds
  like: number
}

const RATES: readonly Ratio[] = Array.from(
  { length: Math.round((FASTEST - SLOWEST) / STEP) + 1 },
  (_, i) => Math.round((SLOWEST + i * STEP) * 100) / 100,
)

/** Where the song is much quieter than the window, or only begins in it, that counts against it. */
const FULL = 0.4
/** Guesses that are followed from each window. */
const FOLLOWED = 12

/** Looks windows of a film up in a song, by correlation over all bands at once (two bands are one complex signal). */
class Lookup {
  private readonly lead = Math.round(WINDOW * FASTEST * RATE)
  private readonly fft: FFT
  private readonly pairs: number[][]
  /** Sums of squares of the song up to each frame, silence before and after it. */
  private readonly squares: Float64Array
  private readonly input: number[]
  private readonly part: number[]
  private readonly sum: number[]
  private readonly answer: number[]

  constructor(
    private readonly song: Coarse,
    private readonly film: Coarse,
  ) {
    const size = 2 ** Math.ceil(Math.log2(song.frames + 2 * this.lead))
    this.fft = new FFT(size)
    const complex = () => this.fft.createComplexArray() as number[]
    this.input = complex()
    this.part = complex()
    this.sum = complex()
    this.answer = complex()
    this.pairs = Array.from({ length: WIDE / 2 }, (_, p) => {
      this.input.fill(0)
      for (let i = 0; i < song.frames; i++)
        for (const h of [0, 1])
          this.input[2 * (this.lead + i) + h] = song.data[i * WIDE + 2 * p + h] as number
      const out = complex()
      this.fft.transform(out, this.input)
      return out
    })
    this.squares = new Float64Array(size + 1)
    for (let i = 0; i < size; i++) {
      let e = 0
      for (let b = 0; b < WIDE; b++) e += (song.data[(i - this.lead) * WIDE + b] ?? 0) ** 2
      this.squares[i + 1] = (this.squares[i] as number) + e
    }
  }

  /** The likeliest places of a window at a speed. */
  places(time: Seconds, rate: Ratio): Guess[] {
    const n = Math.round(WINDOW * rate * RATE)
    const own = this.correlate(time, rate, n)
    if (own < 1e-6) return []
    const { answer, squares, lead } = this
    const like = (i: number) =>
      (answer[2 * i] as number) /
      Math.sqrt(own * Math.max(FULL * own, (squares[i + n] ?? squares.at(-1) ?? 0) - (squares[i] as number)))
    // The likeliest, and the likeliest that is not beside it.
    const tops: [number, number][] = []
    for (let i = lead - n + 1; i < lead + this.song.frames - 1; i++) {
      const l = like(i)
      const worst = tops.at(-1)
      if (tops.length === 2 && worst && l <= worst[1]) continue
      const near = tops.findIndex(([j]) => Math.abs(i - j) < RATE / 2)
      if (near >= 0) {
        if (l > (tops[near] as [number, number])[1]) tops[near] = [i, l]
      } else tops.push([i, l])
      tops.sort((x, y) => y[1] - x[1])
      tops.length = Math.min(2, tops.length)
    }
    return tops.map(([i, l]) => ({ time, rate, at: (i - lead) / RATE, like: l }))
  }

  /** Correlates a window with all of the song. @returns its own sum of squares */
  private correlate(time: Seconds, rate: Ratio, n: number): number {
    const { fft, input, part, sum } = this
    const { data } = this.film
    let own = 0
    sum.fill(0)
    for (let p = 0; p < WIDE / 2; p++) {
      input.fill(0)
      for (let i = 0; i < n; i++) {
        // Between frames by straight lines.
        const x = time * RATE + i / rate
        const [k, between] = [Math.floor(x), x - Math.floor(x)]
        for (let h = 0; h < 2; h++) {
          const b = 2 * p + h
          const v = (data[k * WIDE + b] ?? 0) * (1 - between) + (data[(k + 1) * WIDE + b] ?? 0) * between
          input[2 * i + h] = v
          own += v * v
        }
      }
      fft.transform(part, input)
      const song = this.pairs[p] as number[]
      for (let i = 0; i < sum.length; i += 2) {
        const [a, b, c, d] = [
          song[i] as number,
          song[i + 1] as number,
          part[i] as number,
          part[i + 1] as number,
        ]
        sum[i] = (sum[i] as number) + a * c + b * d
        sum[i + 1] = (sum[i + 1] as number) + b * c - a * d
      }
    }
    fft.inverseTransform(this.answer, sum)
    return own
  }
}

/** A speed and a place: the song goes on from there as long as it is heard. */
interface Line {
  rate: Ratio
  /** The time of the song that is heard where the film begins. */
  zero: Seconds
}

/** How alike a piece of a film is to the song along a line, -1..1. @param per frames of both a second @param wide bands */
function likeAlong(
  { song, film, per, wide }: { song: Coarse; film: Coarse; per: number; wide: number },
  { rate, zero }: Line,
  from: Seconds,
  seconds: Seconds,
): number {
  let [dot, x2, y2] = [0, 0, 0]
  const n = Math.round(seconds * per)
  const first = Math.round(from * per)
  for (let i = 0; i < n; i++) {
    const f = first + i
    const s = (zero + (f / per) * rate) * per
    const [k, between] = [Math.floor(s), s - Math.floor(s)]
    for (let b = 0; b < wide; b++) {
      const x = film.data[f * wide + b] ?? 0
      const y =
        (song.data[k * wide + b] ?? 0) * (1 - between) + (song.data[(k + 1) * wide + b] ?? 0) * between
      dot += x * y
      x2 += x * x
      y2 += y * y
    }
  }
  return x2 > 1e-6 && y2 > 1e-6 ? dot / Math.sqrt(x2 * Math.max(y2, FULL * x2)) : 0
}

/** Pieces along which a line is followed, and how alike one must be to be worth something. */
const [PIECE, WORTH]: [Seconds, number] = [4, 0.15]
/** So many pieces in a row may speak against it: a word over the song does not end it. */
const PATIENCE = 2
/** A take must have so much in all: of other songs and of talk nearly none has. From the bench. */
const ENOUGH = 0.5

/** Places nearer to one another are one, in seconds. */
const APART: Seconds = 0.3

interface Found extends Line {
  from: Seconds
  to: Seconds
  score: number
}

/** A line as far as the song is heard along it, both ways from a window. */
function followed(seen: Parameters<typeof likeAlong>[0], line: Line, time: Seconds, end: Seconds): Found {
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
function bent(seen: Parameters<typeof likeAlong>[0], found: Found): Line {
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
function fitted(seen: Parameters<typeof likeAlong>[0], { from, to, ...line }: Found): Line {
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
    takes.push(withOwnEdges(song, film, likeliest(rivalsOf(rough, free), fine), takes))
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
function worthOf(seen: Parameters<typeof likeAlong>[0], { from, to, ...line }: Found): number {
  let sum = 0
  for (let t = from; t + PIECE / 2 <= to; t += PIECE)
    sum += likeAlong(seen, line, t, Math.min(PIECE, to - t)) - WORTH
  return sum
}

/** Places of the song at which a stretch of a film may lie at its speed, the likeliest first: music repeats itself. */
function rivalsOf(seen: Parameters<typeof likeAlong>[0], found: Found): Found[] {
  const { from, to, rate } = found
  const length = to - from
  const first = -from * rate
  const n = Math.max(1, Math.floor((seen.song.frames / seen.per - length * rate) * seen.per))
  // The place that was found stays in it, also where the song is shorter than the stretch.
  const places = [
    { ...found, like: likeAlong(seen, found, from, length) },
    ...Array.from({ length: n }, (_, i) => {
      const line = { rate, zero: first + i / seen.per }
      return { ...found, ...line, like: likeAlong(seen, line, from, length) }
    }),
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
function likeliest(
  rivals: readonly Found[],
  fine: { song: Trace; film: Trace; per: number; wide: number },
): Take {
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
