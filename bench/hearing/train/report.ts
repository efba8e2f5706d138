/* How good a rule is on songs it never saw: right, by source and by tempo, and whether it knows how sure it may be. */
import type { Table } from './learn'
import type { Trial } from './trials'

/** What a rule says of one trial. */
export interface Told {
  trial: Trial
  weight: number
  scores: number[]
  right: boolean[]
}

export function toldOf(table: Table, i: number, score: Float64Array): Told {
  const [a, b] = [table.first[i] as number, table.first[i + 1] as number]
  return {
    trial: table.trials[i] as Trial,
    weight: table.weight[i] as number,
    scores: Array.from(score.subarray(a, b)),
    right: Array.from(table.right.subarray(a, b), Boolean),
  }
}

/** Shares of certainty of some ways. */
export function shares(scores: readonly number[], sharpness: number): number[] {
  const top = Math.max(...scores)
  const odds = scores.map((s) => Math.exp(sharpness * (s - top)))
  const sum = odds.reduce((a, b) => a + b, 0)
  return odds.map((x) => x / sum)
}

const topOf = (t: Told) => t.scores.indexOf(Math.max(...t.scores))
const isRight = (t: Told) => t.right[topOf(t)] === true

/** Share of weight that is right. */
function rightOf(told: readonly Told[]): string {
  const all = told.reduce((n, t) => n + t.weight, 0)
  const good = told.reduce((n, t) => n + (isRight(t) ? t.weight : 0), 0)
  return all ? (good / all).toFixed(3) : '–'
}

const TEMPI = [0, 75, 100, 120, 150, 300]
const BINS = [0, 0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 1.0001]

/** The whole report as text; expected calibration error after Naeini, Cooper & Hauskrecht 2015 (from memory). */
export function reliability(told: readonly Told[], sharpness: number): string {
  const lines = [`right ${rightOf(told)} of ${told.length}`]
  const sources = [...new Set(told.map((t) => t.trial.source))]
  lines.push(sources.map((s) => `${s} ${rightOf(told.filter((t) => t.trial.source === s))}`).join(', '))
  lines.push(
    TEMPI.slice(1)
      .map((high, i) => {
        const low = TEMPI[i] as number
        return `${low} to ${high} BPM ${rightOf(told.filter((t) => t.trial.tempo > low && t.trial.tempo <= high))}`
      })
      .join(', '),
  )
  const sure = told.map((t) => ({
    p: shares(t.scores, sharpness)[topOf(t)] as number,
    right: isRight(t),
    weight: t.weight,
  }))
  const total = sure.reduce((n, s) => n + s.weight, 0)
  let error = 0
  for (const [i, high] of BINS.slice(1).entries()) {
    const bin = sure.filter((s) => s.p >= (BINS[i] as number) && s.p < high)
    const weight = bin.reduce((n, s) => n + s.weight, 0)
    const right = bin.reduce((n, s) => n + (s.right ? s.weight : 0), 0) / (weight || 1)
    const said = bin.reduce((n, s) => n + s.p * s.weight, 0) / (weight || 1)
    error += (weight / total) * Math.abs(right - said)
    lines.push(
      `called ${BINS[i]} to ${Math.min(1, high)}: ${bin.filter((s) => s.right).length} of ${bin.length} right`,
    )
  }
  lines.push(`expected calibration error ${error.toFixed(3)}`)
  const wrong = told.filter((t) => !isRight(t))
  const families = [...new Set(wrong.map((t) => t.trial.family))]
    .map((f) => [f, wrong.filter((t) => t.trial.family === f).length] as const)
    .sort((a, b) => b[1] - a[1])
  lines.push(
    `wrong: ${families
      .slice(0, 30)
      .map(([f, n]) => `${f} ${n}`)
      .join(', ')}`,
  )
  lines.push(`no right way among those weighed: ${told.filter((t) => !t.right.some(Boolean)).length}`)
  return lines.join('\n')
}
