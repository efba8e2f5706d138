/* A rule that was learned, as data: scores ways by their named features. */
import type { Named } from './folds'

/** One feature of a rule: how it was spread over the ways it was learned from, and its weight in each hidden unit. */
interface RuleFeature {
  name: string
  mean: number
  deviation: number
  /** Straight to the score. */
  direct: number
  /** To each hidden unit, separated by spaces, in thousandths. */
  hidden: string
}

/** A linear rule with one layer of hidden units beside it. */
export interface RuleData {
  features: readonly RuleFeature[]
  /** Of each hidden unit: what is added to it, and its weight in the score. */
  units: readonly { bias: number; out: number }[]
  /** Scores are multiplied by this before they become shares of certainty: fitted on songs left out of the fit. */
  sharpness: number
}

export interface Rule {
  score: (way: Named) => number
  sharpness: number
}

/** No feature counts as further from its mean than this many deviations. */
export const FURTHEST = 4

/** Makes a rule of its data. @throws when the score of a way that lacks one of its features is asked for */
export function ruleOf({ features, units, sharpness }: RuleData): Rule {
  const n = units.length
  const hidden = Float64Array.from(
    features.flatMap((f) => {
      const weights = f.hidden === '' ? [] : f.hidden.split(' ').map((x) => Number(x) / 1000)
      if (weights.length !== n) throw new Error(`“${f.name}” has ${weights.length} weights for ${n} units`)
      return weights
    }),
  )
  return {
    sharpness,
    score: (way) => {
      const sums = Float64Array.from(units, (u) => u.bias)
      let score = 0
      features.forEach((f, i) => {
        const x = way[f.name]
        if (x === undefined) throw new Error(`A way to count has no feature “${f.name}”`)
        const z = Math.max(-FURTHEST, Math.min(FURTHEST, (x - f.mean) / f.deviation))
        // What is not a number says nothing.
        if (!Number.isFinite(z)) return
        score += z * f.direct
        for (let u = 0; u < n; u++) sums[u] = (sums[u] as number) + z * (hidden[i * n + u] as number)
      })
      units.forEach((u, i) => {
        score += u.out * Math.tanh(sums[i] as number)
      })
      return score
    },
  }
}
