/* What the later stages make of a way to count: bars and phrases found under the right beat stand out more. */
import type { Bpm, Seconds } from '../time'
import { clues } from './clues'
import { beatFeatures } from './features'
import type { Named } from './folds'
import { BARS, type Bar } from './hearing'
import { BAR_RULE, findEights } from './ones'
import type { Onsets } from './onsets'
import type { Spectrum } from './spectrum'
import type { Likeness } from './tempo'

/** How much later the song is compared with itself, in beats. */
const LAGS = [1 / 4, 1 / 2, 3 / 4, 1, 3 / 2, 2, 3, 4, 6, 8] as const
/** Which of them against which. */
const AGAINST = [
  [1, 1 / 2],
  [2, 1],
  [4, 2],
  [8, 4],
  [1, 3 / 2],
  [4, 3],
  [8, 6],
  [2, 3 / 2],
] as const
/** Tempi from which on a tempo counts as so much faster: together they bend a line at each. */
const KNOTS: readonly Bpm[] = [60, 72, 84, 96, 110, 125, 140, 155, 170, 190]

/** The tempo of a way by itself. */
export function tempoFeatures(bpm: Bpm, stride: number): Named {
  const octaves = Math.log2(bpm / 125)
  return {
    'tempo in octaves': octaves,
    'tempo from the middle': Math.abs(octaves),
    ...Object.fromEntries(KNOTS.map((k) => [`tempo over ${k}`, Math.max(0, Math.log2(bpm / k))])),
    ...Object.fromEntries([1, 2, 3, 4].map((n) => [`beats of ${n}`, Number(stride === n)])),
  }
}

/** How like itself the song is at beats of a tempo later. */
export function likenessFeatures(likeness: Likeness, bpm: Bpm): Named {
  const at = new Map(LAGS.map((n) => [n as number, likeness.later(bpm, n)]))
  return {
    ...Object.fromEntries([...at].map(([n, x]) => [`like ${n} later`, x])),
    ...Object.fromEntries(
      AGAINST.map(([a, b]) => [`like ${a} over ${b}`, (at.get(a) ?? 0) - (at.get(b) ?? 0)]),
    ),
  }
}

/** What is known of beats when they are counted in bars of a size, and the time of the first 1. */
type Barred = { features: Named; one: Seconds }

/**
 * Bars and phrases found under these beats, and the clues to them folded onto what was found.
 * @returns what is known of bars of a size
 */
export function barFeatures(
  s: Spectrum,
  o: Onsets,
  likeness: Likeness,
  beats: readonly Seconds[],
): (bar: Bar) => Barred {
  const list = clues(beatFeatures(s, o, beats))
  const like = likeness.bars(beats)
  return (bar) => {
    const found = findEights(list, BAR_RULE, null, bar)
    const length = 2 * bar
    const { starts } = found
    const start = starts[0] ?? 0
    const short = starts.slice(1).filter((k, i) => k - (starts[i] as number) !== length).length
    const out: Named = {
      'bars ahead': found.ahead,
      'bars best': found.best,
      'bars sure of the pair': found.ends[0] ?? 0,
      'bars sure of each': found.sure.reduce((a, b) => a + b, 0) / Math.max(1, starts.length),
      'bars odd': short / Math.max(1, starts.length),
      'bars alike': like[bar],
      'bars alike ahead': like[bar] - Math.max(...BARS.filter((b) => b !== bar).map((b) => like[b])),
      ...Object.fromEntries(BARS.map((b) => [`bars of ${b}`, Number(b === bar)])),
    }
    for (const [name, clue] of Object.entries(list)) {
      const mean = meansFrom(clue, start, length)
      const at = (place: number) => mean[place] as number
      const middle = bar >> 1
      out[`${name} on bars`] = (at(0) + at(bar)) / 2
      out[`${name} on phrases`] = at(0) - at(bar)
      out[`${name} on middles`] = (at(middle) + at(bar + middle)) / 2
    }
    return { features: out, one: beats[start] as Seconds }
  }
}

/** Means of a curve by the place in rounds of `n` that begin at a beat. */
const meansFrom = (clue: Float32Array, start: number, n: number) =>
  Array.from({ length: n }, (_, place) => {
    let [sum, m] = [0, 0]
    for (let k = (start + place) % n; k < clue.length; k += n) {
      sum += clue[k] as number
      m++
    }
    return m ? sum / m : 0
  })

/** How like itself the song is a bar and two bars later, and how much more than a beat earlier and later. */
export function barLikenessFeatures(likeness: Likeness, bpm: Bpm): (bar: Bar) => Named {
  const kept = new Map<number, number>()
  const later = (n: number) => {
    const known = kept.get(n) ?? likeness.later(bpm, n)
    kept.set(n, known)
    return known
  }
  return (bar) => ({
    'like a bar later': later(bar),
    'like two bars later': later(2 * bar),
    'like a bar over its neighbours': later(bar) - (later(bar - 1) + later(bar + 1)) / 2,
    'like two bars over their neighbours': later(2 * bar) - (later(2 * bar - 1) + later(2 * bar + 1)) / 2,
  })
}
