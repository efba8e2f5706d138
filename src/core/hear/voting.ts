/* What the later stages make of a way to count: bars and phrases found under the right beat stand out more. */
import type { Bpm, Seconds } from '../time'
import { clues } from './clues'
import { beatFeatures } from './features'
import type { Named } from './folds'
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

/**
 * Bars and phrases found under these beats, and the clues to them folded onto what was found.
 * @returns the features, and the time of the first 1
 */
export function barFeatures(
  s: Spectrum,
  o: Onsets,
  likeness: Likeness,
  beats: readonly Seconds[],
): { features: Named; one: Seconds } {
  const list = clues(beatFeatures(s, o, beats))
  const found = findEights(list, BAR_RULE, null, 4)
  const threes = likeness.threes(beats)
  const { starts } = found
  const start = starts[0] ?? 0
  const out: Named = {
    'bars ahead': found.ahead,
    'bars best': found.best,
    'bars sure of the pair': found.ends[0] ?? 0,
    'bars sure of each': found.sure.reduce((a, b) => a + b, 0) / Math.max(1, starts.length),
    'bars odd':
      starts.slice(1).filter((k, i) => k - (starts[i] as number) !== 8).length / Math.max(1, starts.length),
    'bars of three ahead': threes,
  }
  for (const [name, clue] of Object.entries(list)) {
    const mean = Array.from({ length: 8 }, (_, r) => {
      let [sum, n] = [0, 0]
      for (let k = (start + r) % 8; k < clue.length; k += 8) {
        sum += clue[k] as number
        n++
      }
      return n ? sum / n : 0
    })
    const [one, , three, , five, , seven] = mean as [number, number, number, number, number, number, number]
    out[`${name} on bars`] = (one + five) / 2
    out[`${name} on phrases`] = one - five
    out[`${name} on threes`] = (three + seven) / 2
  }
  return { features: out, one: beats[start] as Seconds }
}
