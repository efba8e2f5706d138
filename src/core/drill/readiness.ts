import { PASSES, type Pass } from '../routine'
import { type Ratio, type Stretch, TICKS_PER_COUNT, type Ticks } from '../time'
import type { CountedRow } from './log'

/** This many clean in a row, and it sits. The one place that says so. */
export const CLEAN_IN_A_ROW = 2

const countOf = (tick: Ticks) => Math.floor(tick / TICKS_PER_COUNT)
/** Speeds are told apart by whole percent. */
const percent = (speed: Ratio) => Math.round(speed * 100)

/** The counts a stretch touches, first and last. */
const countsOf = ({ from, to }: Stretch): readonly [number, number] => [countOf(from), countOf(to - 1)]

const always = () => true
const never = () => false

/**
 * Pairs of counts side by side, and at each speed how many clean in a row there were up to now. Filled from the latest row
 * back: once a pair is decided at a speed, older rows do not matter to it and are stepped over, so that a log of years is
 * read in the time of its rows, not of all their counts.
 */
class Streaks {
  /** By speed, then pair. */
  private readonly clean: Uint8Array
  /** The next pair that is not decided, from each on; followed and shortened. By speed. */
  private readonly open: Int32Array[]

  constructor(
    private readonly pairs: number,
    speeds: number,
  ) {
    this.clean = new Uint8Array(pairs * speeds)
    this.open = Array.from({ length: speeds }, () => Int32Array.from({ length: pairs + 1 }, (_, i) => i))
  }

  private openFrom(next: Int32Array, pair: number): number {
    let at = pair
    while (next[at] !== at) {
      next[at] = next[next[at] as number] as number
      at = next[at] as number
    }
    return at
  }

  /** An older attempt at pairs from one up to another. Clean speaks for its speed and all lower ones; anything else for its own. */
  before(from: number, to: number, speed: number, isClean: (pair: number) => boolean): void {
    for (let s = isClean === never ? speed : 0; s <= speed; s++) {
      const next = this.open[s] as Int32Array
      for (let p = this.openFrom(next, from); p < to; p = this.openFrom(next, p + 1)) {
        const at = s * this.pairs + p
        if (isClean(p)) {
          const streak = (this.clean[at] as number) + 1
          this.clean[at] = streak
          if (streak < CLEAN_IN_A_ROW) continue
        } else if (s < speed) continue
        next[p] = p + 1
      }
    }
  }

  /** The highest of the speeds at which a pair sits, by its index; -1 for none. */
  best(pair: number): number {
    for (let s = this.open.length - 1; s >= 0; s--)
      if (this.clean[s * this.pairs + pair] === CLEAN_IN_A_ROW) return s
    return -1
  }
}

/**
 * What sits, judged where dancing is learned: between a count and the next. A row of the log speaks for every pair of
 * neighbouring counts in its stretch; where it names slips, a pair at a slip is missed, and the others are as the row was
 * marked, or clean where the row was missed for the slips alone. A pair sits at the highest speed at which it was danced
 * clean twice in a row, the latest attempts counting; clean at a speed is clean at every lower one.
 */
export class Readiness {
  private readonly speeds: number[]
  private readonly first: number
  private readonly pairs: number
  private readonly streaks = new Map<Pass, Streaks>()
  /** The same for a last count that leads into a first one, and for drills of a single count. */
  private readonly leaps = new Map<string, Streaks>()

  /** @param rows oldest first */
  constructor(rows: readonly CountedRow[]) {
    let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
    const speeds = new Set<number>()
    for (const { row, stretch } of rows) {
      if (!stretch || row.mark === 'unmarked') continue
      const [a, b] = countsOf(stretch)
      low = Math.min(low, a)
      high = Math.max(high, b)
      speeds.add(percent(row.speed))
    }
    this.speeds = [...speeds].sort((a, b) => a - b)
    this.first = speeds.size ? low : 0
    this.pairs = speeds.size ? high - low : 0
    for (const pass of PASSES) this.streaks.set(pass, new Streaks(this.pairs, this.speeds.length))
    for (let i = rows.length - 1; i >= 0; i--) this.before(rows[i] as CountedRow)
  }

  private before({ row, stretch, slips }: CountedRow): void {
    if (!stretch || row.mark === 'unmarked') return
    const [a, b] = countsOf(stretch)
    const speed = this.speeds.indexOf(percent(row.speed))
    const rest = row.mark === 'clean' || (slips.length > 0 && row.mark === 'missed')
    const slipped = slips.length ? new Set(slips.map((t) => countOf(t) - this.first)) : null
    const clean = !rest ? never : slipped ? (p: number) => !slipped.has(p) && !slipped.has(p + 1) : always
    this.streaks.get(row.pass)?.before(a - this.first, b - this.first, speed, clean)
    if (!row.looped && a !== b) return
    const key = `${row.pass} ${b} ${a}`
    let leap = this.leaps.get(key)
    if (!leap) {
      leap = new Streaks(1, this.speeds.length)
      this.leaps.set(key, leap)
    }
    const leapt = rest && !slipped?.has(b - this.first) && !slipped?.has(a - this.first)
    leap.before(0, 1, speed, leapt ? always : never)
  }

  private speedOf(best: number): Ratio {
    return best < 0 ? 0 : (this.speeds[best] as number) / 100
  }

  /** The speed at which a count leads into the next one; 0 for none. @param tick any place in the first of the two */
  pair(tick: Ticks, pass: Pass = 'all'): Ratio {
    const at = countOf(tick) - this.first
    if (at < 0 || at >= this.pairs) return 0
    return this.speedOf(this.streaks.get(pass)?.best(at) ?? -1)
  }

  /**
   * The speed at which a stretch sits: the least of its pairs.
   * @param looped danced in a loop, its last count leads into its first, and that must sit too
   */
  of(stretch: Stretch, pass: Pass = 'all', looped = false): Ratio {
    const [a, b] = countsOf(stretch)
    const leap = () => this.speedOf(this.leaps.get(`${pass} ${b} ${a}`)?.best(0) ?? -1)
    // A single count sits by itself, or because what leads into it or out of it does.
    if (a === b)
      return Math.max(
        leap(),
        this.pair((a - 1) * TICKS_PER_COUNT, pass),
        this.pair(a * TICKS_PER_COUNT, pass),
      )
    let least = looped ? leap() : Number.POSITIVE_INFINITY
    for (let c = a; c < b && least > 0; c++) least = Math.min(least, this.pair(c * TICKS_PER_COUNT, pass))
    return least
  }
}
