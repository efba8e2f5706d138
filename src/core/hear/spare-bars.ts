/* Where a bar is left over between eights, told by music that comes again an odd number of bars later. */
import { alike, timbreScale } from './clues'
import type { BeatFeatures } from './features'

const BAR = 4
/** Bars that are compared with as many others at a time. */
const RUN = 4
/** How much more alike they must be than a bar earlier or later; set on songs with a bar cut out, as all here (docs/hearing.md). */
const MORE = 0.1
/** The same music is so much alike, and nearly as alike as anything in the song is to either of them. */
const ALIKE = 0.5
const SAME = 0.7
/** What each must be worth in the mean: about what a section of eight bars tells that comes again once. */
const LEAST = 1
/** One more must tell so much more than is told without it. */
const DEAR = 0.15
/** What is told for it less what is told against it, of all that is told. */
const LEAST_SHARE = 0.6
/** Music with more of them is not counted in eights. */
const MOST = 4
/** Bars between two of them, and before the first and after the last. */
const APART = 8
/** What comes again whole tells so much against a spare bar in its midst. */
const BROKEN = 2
/** In longer music, twenty minutes of it, all bars are not held against all others. */
const LONGEST = 600
/** What is worth nearly as much as the best place is as good. */
const AS_GOOD = 0.9

/** Beats between which the first eight begins that goes on a bar later; both may be it. */
export interface SpareBar {
  from: number
  to: number
}

/** Sums over rectangles of a square, each in a few steps. */
class Sums {
  private readonly to: Float64Array
  constructor(
    private readonly side: number,
    at: (row: number, column: number) => number,
  ) {
    const wide = side + 1
    this.to = new Float64Array(wide * wide)
    for (let i = 0; i < side; i++)
      for (let j = 0; j < side; j++)
        this.to[(i + 1) * wide + j + 1] =
          at(i, j) + this.upTo(i, j + 1) + this.upTo(i + 1, j) - this.upTo(i, j)
  }

  private upTo(row: number, column: number): number {
    return this.to[row * (this.side + 1) + column] as number
  }

  /** @returns the sum of rows `top` to before `bottom`, columns `left` to before `right` */
  within(top: number, bottom: number, left: number, right: number): number {
    if (bottom <= top || right <= left) return 0
    return this.upTo(bottom, right) - this.upTo(top, right) - this.upTo(bottom, left) + this.upTo(top, left)
  }
}

/** How alike so many bars on end are to those from another bar on, 0..1, as rows: where both begin, in bars. */
function likenessOfBars(f: BeatFeatures, bars: number): (i: number, j: number) => number {
  const scale = timbreScale(f)
  const out = new Float32Array(bars * bars)
  for (let lag = 1; lag < bars; lag++) {
    const beats = (bars - lag + RUN - 1) * BAR
    const row = Float32Array.from({ length: beats }, (_, k) => alike(f, scale, k, k + lag * BAR))
    for (let i = 0; i + lag < bars; i++) {
      let sum = 0
      for (let k = i * BAR; k < (i + RUN) * BAR; k++) sum += row[k] as number
      out[i * bars + i + lag] = sum / (RUN * BAR)
    }
  }
  return (i, j) => (i < 0 || j >= bars || j <= i ? 0 : (out[i * bars + j] as number))
}

/** What music that comes again tells of spare bars between. */
class Returns {
  private readonly told: Sums
  private readonly all: Sums
  constructor(
    f: BeatFeatures,
    readonly bars: number,
  ) {
    const like = likenessOfBars(f, bars)
    const most = new Float32Array(bars)
    for (let i = 0; i < bars; i++)
      for (let j = i + RUN; j < bars; j++) {
        most[i] = Math.max(most[i] as number, like(i, j))
        most[j] = Math.max(most[j] as number, like(i, j))
      }
    /** Above 0 where they come again an odd number of bars later, below where an even one. */
    const says = (i: number, j: number) => {
      if (j - i < RUN) return 0
      const beside = Math.max(like(i, j - 1), like(i, j + 1), like(i - 1, j), like(i + 1, j))
      const more = like(i, j) - beside
      if (more < MORE || like(i, j) < Math.max(ALIKE, SAME * (most[i] as number), SAME * (most[j] as number)))
        return 0
      return (j - i) % 2 ? more : -more
    }
    this.told = new Sums(bars, says)
    this.all = new Sums(bars, (i, j) => Math.abs(says(i, j)))
  }

  /** Sum over all bars whose eights lie otherwise with spare bars there. @param at bars, ascending */
  private sum(sums: Sums, at: readonly number[]): number {
    const ends = [0, ...at, this.bars + RUN - 1]
    let out = 0
    for (let a = 0; a + 1 < ends.length; a++)
      for (let b = a + 1; b + 1 < ends.length; b += 2) {
        const [top, below, left, right] = [ends[a], ends[a + 1], ends[b], ends[b + 1]] as [
          number,
          number,
          number,
          number,
        ]
        out += sums.within(top, below - RUN + 1, left, right - RUN + 1)
      }
    return out
  }

  /** What comes again whole with a spare bar in its midst: so there is none in it. */
  private broken(at: readonly number[]): number {
    const around = (t: number) => {
      const i = t - RUN / 2
      return this.all.within(i, i + 1, 0, this.bars) + this.all.within(0, this.bars, i, i + 1)
    }
    return BROKEN * at.reduce((sum, t) => sum + around(t), 0)
  }

  worth = (at: readonly number[]) => this.sum(this.told, at) - this.broken(at)
  /** How much of what is told of spare bars there speaks for them, up to 1. */
  share = (at: readonly number[]) => this.worth(at) / Math.max(1e-9, this.sum(this.all, at) + this.broken(at))
}

const inOrder = (list: readonly number[]) => [...list].sort((a, b) => a - b)

/** Places with so many more spare bars that are worth most. */
function withMore(returns: Returns, at: readonly number[], more: 1 | 2): number[] {
  let [best, most] = [[...at], Number.NEGATIVE_INFINITY]
  const look = (places: readonly number[]) => {
    const now = inOrder([...at, ...places])
    if (now.some((t, i) => i > 0 && t - (now[i - 1] as number) < APART)) return
    const worth = returns.worth(now)
    if (worth > most) [best, most] = [now, worth]
  }
  const last = returns.bars + RUN - 1 - APART
  for (let t = APART; t <= last; t++)
    if (more === 1) look([t])
    else for (let u = t + APART; u <= last; u++) look([t, u])
  return best
}

/**
 * Where a song in bars of four goes on with its eights a bar later than they lay: a bar was cut out of it, or it has one more. What
 * comes again there lies an odd number of bars later than before, and an even number everywhere else.
 * @returns where, in order; none where nothing that comes again tells
 */
export function spareBars(f: BeatFeatures): SpareBar[] {
  const bars = Math.floor(f.beats / BAR) - RUN + 1
  if (bars < 2 * APART || bars > LONGEST) return []
  const returns = new Returns(f, bars)
  const found = placesOf(returns)
  return found.map((t, i) => placesAround(returns, found, t, i))
}

/** The bars on which it goes on otherwise; of two ways that tell as much, the one with fewer. */
function placesOf(returns: Returns): number[] {
  // One of two may tell nothing without the other.
  const ways = [withMore(returns, [], 1), withMore(returns, [], 2)]
  while (ways.length < MOST) ways.push(withMore(returns, ways.at(-1) as number[], 1))
  const isTold = (at: readonly number[]) =>
    returns.worth(at) >= LEAST * at.length && returns.share(at) >= LEAST_SHARE
  const good = (at: readonly number[]) => returns.worth(at) * returns.share(at) * (1 - DEAR * (at.length - 1))
  return ways.filter(isTold).reduce<number[]>((a, b) => (a.length && good(a) >= good(b) ? a : b), [])
}

/** Beats between which it is worth nearly as much, a bar on either side with them. */
function placesAround(returns: Returns, all: readonly number[], t: number, i: number): SpareBar {
  const enough = AS_GOOD * returns.worth(all)
  const isAsGood = (u: number) => returns.worth(all.map((x, k) => (k === i ? u : x))) >= enough
  const after = all[i - 1] === undefined ? 0 : ((all[i - 1] as number) + t) / 2
  const before = all[i + 1] === undefined ? returns.bars + RUN - 2 : (t + (all[i + 1] as number)) / 2
  let [from, to] = [t, t]
  while (from - 1 > after && isAsGood(from - 1)) from--
  while (to + 1 < before && isAsGood(to + 1)) to++
  return { from: Math.max(1, from - 1) * BAR, to: (to + 1) * BAR }
}
