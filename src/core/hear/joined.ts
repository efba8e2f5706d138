/* Countings of pieces that follow each other, as one of all. */
import { median, type Seconds } from '../time'
import { type Counted, round } from './count-song'

/** Two that follow each other as one: what lies between is counted on, and the later begins with a phrase of its own. */
export function joined(before: Counted, after: Counted): Counted {
  const beats = countedOn(before.beats, after.beats)
  const first = beats.length - after.beats.length
  const bar = before.metres.at(-1)?.bar ?? before.bar
  const carried: number[] = []
  // A phrase of a single count is none: it belongs to the one before.
  const starts = before.starts.filter((k) => k < first - 1)
  for (let k = (starts.at(-1) ?? 0) + 2 * bar; k < first - 1; k += 2 * bar) carried.push(k)
  // What comes before its first 1 is a phrase too: a longer last one of the song before would hide where it ends.
  const own = [...((after.starts[0] ?? 0) > 1 ? [0] : []), ...after.starts]
  const sure = (list: readonly number[], many: number, at: 0 | -1) => Array(many).fill(list.at(at) ?? 0)
  const sures = (of: 'beats' | 'ones') => [
    ...before.sure[of].slice(0, starts.length),
    ...sure(before.sure[of], carried.length, -1),
    ...sure(after.sure[of], own.length - after.starts.length, 0),
    ...after.sure[of],
  ]
  const [n, m] = [first, after.beats.length]
  const mean = (of: 'beats' | 'one') => (before.confidence[of] * n + after.confidence[of] * m) / (n + m)
  return {
    ...{ beats, steady: false, bar: n < m ? after.bar : before.bar },
    metres: [
      ...before.metres,
      ...after.metres.map((x) => ({ ...x, from: x.from + first })).filter((x, i) => i > 0 || x.bar !== bar),
    ],
    starts: [...starts, ...carried, ...own.map((k) => k + first)],
    sure: { beats: sures('beats'), ones: sures('ones') },
    confidence: { beats: round(mean('beats')), one: round(mean('one')) },
    // Each of these would be done to all of it.
    others: { tempi: [], bars: [], ones: [] },
  }
}

/** Beats of both; those of the earlier end where the later begin, and are counted on up to there. */
function countedOn(before: readonly Seconds[], after: readonly Seconds[]): Seconds[] {
  const next = after[0] as number
  const period = median(before.slice(1).map((t, i) => t - (before[i] as number)))
  const kept = before.filter((t) => t < next - 0.6 * period)
  const last = kept.at(-1) as number
  const steps = Math.max(1, Math.round((next - last) / period))
  const between = Array.from({ length: steps - 1 }, (_, i) => last + ((next - last) * (i + 1)) / steps)
  return [...kept, ...between, ...after]
}
