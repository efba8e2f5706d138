/*
 * npm run bench:fit-ones: keeps what the training songs' true beats sound like, judges a rule for pairs of bars on sources
 * left out of its fit, learns it from all of them, and writes src/core/hear/pair-rule.json. Conditional logit: of the
 * eight places the 1 can have, the true one should be the likeliest; ridge penalty; every song weighs the same, songs
 * that somebody composed twice. `-- --as-made` takes what is kept, `-- --judge` writes nothing.
 */
import { spawnSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { clues } from '../../../src/core/hear/clues'
import { PAIR_RULE } from '../../../src/core/hear/ones'
import { pairClues } from '../../../src/core/hear/pair-clues'
import { inParts } from './in-parts'
import { readBack, type Sung, sungs } from './ones'

const RIDGE = 0.005
const ROUNDS = 250
const PLACES = 8

/** Eight rows of features a song: each clue over bars, each over phrases, and whether the music sets in there. */
interface Trial {
  sung: Sung
  rows: Float64Array
  right: boolean[]
  weight: number
}

function trialOf(sung: Sung): { names: string[]; trial: Trial } {
  const f = readBack(sung)
  const all = { ...clues(f), ...pairClues(f) }
  const names = Object.keys(all)
  const width = 2 * names.length + 2
  const rows = new Float64Array(PLACES * width)
  const mean = (curve: Float32Array, first: number, step: number) => {
    let sum = 0
    for (let k = first; k < curve.length; k += step) sum += curve[k] as number
    return (sum * step) / f.beats
  }
  for (let place = 0; place < PLACES; place++) {
    Object.values(all).forEach((curve, i) => {
      rows[place * width + i] = mean(curve, place % 4, 4)
      rows[place * width + names.length + i] = mean(curve, place, 8)
    })
    if (sung.opening === null) continue
    rows[place * width + width - 2] = Number(sung.opening % 4 === place % 4)
    rows[place * width + width - 1] = Number(sung.opening === place)
  }
  const right = Array.from({ length: PLACES }, (_, place) =>
    sung.eight === null ? place % 4 === sung.bar : place === sung.eight,
  )
  return { names, trial: { sung, rows, right, weight: 1 } }
}

/** The score of each place. */
function scored({ rows }: Trial, w: Float64Array): number[] {
  return Array.from({ length: PLACES }, (_, place) => {
    let sum = 0
    for (let d = 0; d < w.length; d++) sum += (rows[place * w.length + d] as number) * (w[d] as number)
    return sum
  })
}

function shares(scores: readonly number[]): number[] {
  const top = Math.max(...scores)
  const odds = scores.map((s) => Math.exp(s - top))
  const all = odds.reduce((a, b) => a + b, 0)
  return odds.map((x) => x / all)
}

/** Steps along the gradient, each weight's by its past (Kingma & Ba 2015, "Adam"). */
function fitted(trials: readonly Trial[], width: number): Float64Array {
  const [w, m, v] = [new Float64Array(width), new Float64Array(width), new Float64Array(width)]
  const total = trials.reduce((a, t) => a + t.weight, 0)
  for (let round = 1; round <= ROUNDS; round++) {
    const g = new Float64Array(width)
    for (const t of trials) {
      const share = shares(scored(t, w))
      const good = share.reduce((s, x, i) => s + (t.right[i] ? x : 0), 1e-12)
      share.forEach((x, place) => {
        const k = t.weight * ((t.right[place] ? x / good : 0) - x)
        for (let d = 0; d < width; d++) g[d] = (g[d] as number) + k * (t.rows[place * width + d] as number)
      })
    }
    const rate = round < 0.7 * ROUNDS ? 0.05 : 0.015
    for (let d = 0; d < width; d++) {
      const step = (g[d] as number) / total - RIDGE * (w[d] as number)
      m[d] = 0.9 * (m[d] as number) + 0.1 * step
      v[d] = 0.99 * (v[d] as number) + 0.01 * step * step
      w[d] =
        (w[d] as number) +
        (rate * (m[d] as number)) /
          (1 - 0.9 ** round) /
          (Math.sqrt((v[d] as number) / (1 - 0.99 ** round)) + 1e-6)
    }
  }
  return w
}

const BINS = [0, 0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 1.0001]

/** Right bars and right pairs by source, and whether what is called so sure is right as often. */
function report(judged: readonly { trial: Trial; scores: number[] }[]) {
  for (const source of [null, ...new Set(judged.map((j) => j.trial.sung.source))]) {
    const some = judged.filter((j) => source === null || j.trial.sung.source === source)
    const place = (j: (typeof some)[number]) => j.scores.indexOf(Math.max(...j.scores))
    const bars = some.filter((j) => place(j) % 4 === j.trial.sung.bar).length
    const paired = some.filter((j) => j.trial.sung.eight !== null)
    const pairs = paired.filter((j) => place(j) === j.trial.sung.eight).length
    console.log(
      `${source ?? 'all'}: bars ${(bars / some.length).toFixed(3)} of ${some.length}, pairs ${(pairs / paired.length).toFixed(3)} of ${paired.length}`,
    )
  }
  const sure = judged
    .filter((j) => j.trial.sung.eight !== null)
    .map((j) => {
      const share = shares(j.scores)
      const at = share.indexOf(Math.max(...share))
      return { p: share[at] as number, right: at === j.trial.sung.eight }
    })
  BINS.slice(1).forEach((high, i) => {
    const bin = sure.filter((s) => s.p >= (BINS[i] as number) && s.p < high)
    if (bin.length)
      console.log(
        `called ${BINS[i]} to ${Math.min(1, high)}: ${bin.filter((s) => s.right).length} of ${bin.length}`,
      )
  })
}

async function main() {
  if (!process.argv.includes('--as-made')) await inParts('bench/hearing/train/make-ones.ts')
  const made = sungs().map(trialOf)
  const trials = made.map((m) => m.trial)
  const names = made[0]?.names ?? []
  const width = 2 * names.length + 2
  const versions = new Map<string, number>()
  for (const t of trials) versions.set(t.sung.base, (versions.get(t.sung.base) ?? 0) + 1)
  const WEIGHTS: Record<string, number> = { open: 2, loops: 0.5 }
  for (const t of trials) t.weight = (WEIGHTS[t.sung.source] ?? 1) / (versions.get(t.sung.base) ?? 1)
  const judged = [...new Set(trials.map((t) => t.sung.source))].flatMap((source) => {
    const w = fitted(
      trials.filter((t) => t.sung.source !== source),
      width,
    )
    process.stderr.write(`\r${source}              `)
    return trials
      .filter((t) => t.sung.source === source)
      .map((trial) => ({ trial, scores: scored(trial, w) }))
  })
  console.log('\nEach source left out of the fit:')
  report(judged)
  if (process.argv.includes('--judge')) return
  const w = fitted(trials, width)
  const two = (x: number | undefined) => Math.round(100 * (x ?? 0)) / 100
  const rule = {
    opening: [two(w[width - 2]), two((w[width - 2] as number) + (w[width - 1] as number))],
    ...{ beats: PAIR_RULE.beats, sharpness: 1, rare: PAIR_RULE.rare, odd: PAIR_RULE.odd },
    clues: Object.fromEntries(names.map((name, i) => [name, [two(w[i]), two(w[names.length + i])]])),
  }
  const file = 'src/core/hear/pair-rule.json'
  writeFileSync(file, JSON.stringify(rule))
  spawnSync('npx', ['biome', 'format', '--write', file], { stdio: 'ignore' })
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
