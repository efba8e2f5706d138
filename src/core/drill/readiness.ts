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
  /** Per pass: for each pair, at each speed, how many clean in a row up to now. */
  private readonly streaks = new Map<Pass, Uint8Array>()
  /** The same for a last count that leads into a first one, and for drills of a single count. */
  private readonly leaps = new Map<string, Uint8Array>()

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
    for (const pass of PASSES) this.streaks.set(pass, new Uint8Array(this.pairs * this.speeds.length))
    for (const row of rows) this.add(row)
  }

  private add({ row, stretch, slips }: CountedRow): void {
    if (!stretch || row.mark === 'unmarked') return
    const [a, b] = countsOf(stretch)
    const speed = this.speeds.indexOf(percent(row.speed))
    const streaks = this.streaks.get(row.pass) as Uint8Array
    const rest = (slips.length && row.mark === 'missed' ? 'clean' : row.mark) === 'clean'
    const slipped = slips.length ? new Set(slips.map(countOf)) : null
    const clean = (x: number, y: number) => rest && !slipped?.has(x) && !slipped?.has(y)
    for (let c = a; c < b; c++)
      this.note(streaks, (c - this.first) * this.speeds.length, speed, slipped ? clean(c, c + 1) : rest)
    if (row.looped || a === b) {
      const key = `${row.pass} ${b} ${a}`
      let leap = this.leaps.get(key)
      if (!leap) {
        leap = new Uint8Array(this.speeds.length)
        this.leaps.set(key, leap)
      }
      this.note(leap, 0, speed, clean(b, a))
    }
  }

  /** Clean speaks for its speed and all lower ones; anything else for its own. */
  private note(streaks: Uint8Array, at: number, speed: number, clean: boolean): void {
    if (!clean) {
      streaks[at + speed] = 0
      return
    }
    for (let s = at; s <= at + speed; s++) {
      const streak = streaks[s] as number
      if (streak < CLEAN_IN_A_ROW) streaks[s] = streak + 1
    }
  }

  private best(streaks: Uint8Array | undefined, at: number): Ratio {
    if (!streaks) return 0
    for (let s = this.speeds.length - 1; s >= 0; s--)
      if (streaks[at + s] === CLEAN_IN_A_ROW) return (this.speeds[s] as number) / 100
    return 0
  }

  /** The speed at which a count leads into the next one; 0 for none. @param tick any place in the first of the two */
  pair(tick: Ticks, pass: Pass = 'all'): Ratio {
    const at = countOf(tick) - this.first
    if (at < 0 || at >= this.pairs) return 0
    return this.best(this.streaks.get(pass), at * this.speeds.length)
  }

  /**
   * The speed at which a stretch sits: the least of its pairs.
   * @param looped danced in a loop, its last count leads into its first, and that must sit too
   */
  of(stretch: Stretch, pass: Pass = 'all', looped = false): Ratio {
    const [a, b] = countsOf(stretch)
    const leap = () => this.best(this.leaps.get(`${pass} ${b} ${a}`), 0)
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
