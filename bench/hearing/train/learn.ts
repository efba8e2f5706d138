/*
 * Rules that choose among the ways to count a song: the score of a way is a sum over its features, with a layer of hidden
 * units beside it; the shares of a song's ways are the softmax of their scores; the logarithm of the right ways' share is
 * made as large as it gets (conditional logit, McFadden 1974, from memory), by Adam (Kingma & Ba 2015) on a part of the
 * trials at a time, with decay and with inputs left out at random (Srivastava et al. 2014, "Dropout"). Deterministic.
 */
import { FURTHEST, type RuleData } from '../../../src/core/hear/rule'
import type { Trial } from './trials'

/** Trials as matrices. */
export interface Table {
  trials: readonly Trial[]
  names: readonly string[]
  /** Rows × features. */
  x: Float32Array
  right: Uint8Array
  /** First row of each trial, and one past the last. */
  first: Int32Array
  /** Weight of each trial: versions of a song share one. */
  weight: Float64Array
}

/** @param share weight of a song, by its source */
export function tableOf(trials: readonly Trial[], share: (t: Trial) => number): Table {
  const names = trials[0]?.names ?? []
  const odd = trials.find((t) => t.names.join() !== names.join())
  if (odd) throw new Error(`${odd.id} was made with other features: remove its trial and make it again`)
  const versions = new Map<string, number>()
  for (const t of trials) versions.set(t.base, (versions.get(t.base) ?? 0) + 1)
  const first = new Int32Array(trials.length + 1)
  trials.forEach((t, i) => {
    first[i + 1] = (first[i] as number) + t.ways.length
  })
  const rows = trials.flatMap((t) => t.ways)
  const x = new Float32Array(rows.length * names.length)
  rows.forEach((r, i) => {
    x.set(r.features, i * names.length)
  })
  return {
    trials,
    names,
    x,
    right: Uint8Array.from(rows, (r) => Number(r.right)),
    first,
    weight: Float64Array.from(trials, (t) => share(t) / (versions.get(t.base) ?? 1)),
  }
}

export interface Settings {
  units: number
  decay: number
  /** Share of the inputs left out at each step. */
  drop: number
  /** In how many parts the trials are gone through; a step looks at one of them. */
  parts: number
  steps: number
  rate: number
}

/** A repeatable stream of numbers 0..1 (a linear congruential generator; Knuth's constants for 64 bits, cut to 32). */
function dice(seed: number) {
  let x = seed >>> 0
  return () => {
    x = (Math.imul(x, 1_664_525) + 1_013_904_223) >>> 0
    return x / 4_294_967_296
  }
}

interface Spread {
  mean: Float64Array
  deviation: Float64Array
}

function spreadOf({ x, names }: Table): Spread {
  const d = names.length
  const n = x.length / d
  const mean = new Float64Array(d)
  const square = new Float64Array(d)
  for (let i = 0; i < n; i++)
    for (let k = 0; k < d; k++) mean[k] = (mean[k] as number) + (x[i * d + k] as number) / n
  for (let i = 0; i < n; i++)
    for (let k = 0; k < d; k++)
      square[k] = (square[k] as number) + ((x[i * d + k] as number) - (mean[k] as number)) ** 2 / n
  return { mean, deviation: square.map((v) => Math.sqrt(v) + 1e-6) }
}

function standardised({ x, names }: Table, { mean, deviation }: Spread): Float32Array {
  const d = names.length
  return x.map((v, i) => {
    const k = i % d
    return Math.max(-FURTHEST, Math.min(FURTHEST, (v - (mean[k] as number)) / (deviation[k] as number)))
  })
}

/** How each score should move: the gradient of the mean log share of right ways. Trials without a right way say nothing. */
export function pull(table: Table, score: Float64Array): { loss: number; g: Float64Array } {
  const g = new Float64Array(score.length)
  let loss = 0
  let total = 1e-12
  for (let t = 0; t + 1 < table.first.length; t++) {
    const [a, b] = [table.first[t] as number, table.first[t + 1] as number]
    let top = Number.NEGATIVE_INFINITY
    for (let i = a; i < b; i++) top = Math.max(top, score[i] as number)
    let [all, good] = [0, 0]
    for (let i = a; i < b; i++) {
      const e = Math.exp((score[i] as number) - top)
      all += e
      if (table.right[i]) good += e
    }
    if (good === 0) continue
    const w = table.weight[t] as number
    total += w
    loss -= w * Math.log(good / all)
    for (let i = a; i < b; i++) {
      const e = Math.exp((score[i] as number) - top)
      g[i] = w * ((table.right[i] ? e / good : 0) - e / all)
    }
  }
  return { loss: loss / total, g: g.map((v) => v / total) }
}

/** A rule: weights of the inputs in the score and in each unit, and of the units. */
export interface Fitted {
  settings: Settings
  spread: Spread
  direct: Float64Array
  hidden: Float64Array
  bias: Float64Array
  out: Float64Array
}

/** Rows of inputs beside the weights that meet them, both without the inputs that are left out. */
interface Layer {
  /** Rows × inputs. */
  z: Float32Array
  inputs: number
  units: number
  direct: Float64Array
  /** Units × inputs. */
  hidden: Float64Array
  bias: Float64Array
  out: Float64Array
}

/** Scores of every row, and what each of its units says. */
function forward(
  { z, inputs: d, units: h, direct, hidden, bias, out }: Layer,
  score: Float64Array,
  active: Float64Array,
) {
  for (let i = 0; i < score.length; i++) {
    const row = i * d
    let s = 0
    for (let k = 0; k < d; k++) s += (direct[k] as number) * (z[row + k] as number)
    for (let u = 0; u < h; u++) {
      const at = u * d
      let a = bias[u] as number
      for (let k = 0; k < d; k++) a += (hidden[at + k] as number) * (z[row + k] as number)
      const t = Math.tanh(a)
      active[i * h + u] = t
      s += t * (out[u] as number)
    }
    score[i] = s
  }
}

/** How each weight should move, given how each score should. */
function backward({ z, inputs: d, units: h, out }: Layer, g: Float64Array, active: Float64Array) {
  const direct = new Float64Array(d)
  const hidden = new Float64Array(h * d)
  const [bias, outs] = [new Float64Array(h), new Float64Array(h)]
  for (let i = 0; i < g.length; i++) {
    const gi = g[i] as number
    if (Math.abs(gi) < 1e-12) continue
    const row = i * d
    for (let k = 0; k < d; k++) direct[k] = (direct[k] as number) + gi * (z[row + k] as number)
    for (let u = 0; u < h; u++) {
      const t = active[i * h + u] as number
      outs[u] = (outs[u] as number) + gi * t
      const back = gi * (out[u] as number) * (1 - t * t)
      bias[u] = (bias[u] as number) + back
      const at = u * d
      for (let k = 0; k < d; k++) hidden[at + k] = (hidden[at + k] as number) + back * (z[row + k] as number)
    }
  }
  return { direct, hidden, bias, out: outs }
}

/** Some columns of a matrix, each value times `scale`. */
function columns(z: Float32Array, d: number, kept: readonly number[], scale: number): Float32Array {
  const n = z.length / d
  const out = new Float32Array(n * kept.length)
  for (let i = 0; i < n; i++)
    for (let k = 0; k < kept.length; k++)
      out[i * kept.length + k] = scale * (z[i * d + (kept[k] as number)] as number)
  return out
}

/** The part of a table that some trials make. */
export function partOf(table: Table, within: readonly number[]): Table {
  const d = table.names.length
  const some = within.map((t) => [table.first[t] as number, table.first[t + 1] as number] as const)
  const first = new Int32Array(within.length + 1)
  some.forEach(([a, b], i) => {
    first[i + 1] = (first[i] as number) + b - a
  })
  const rows = first.at(-1) as number
  const x = new Float32Array(rows * d)
  const right = new Uint8Array(rows)
  some.forEach(([a, b], i) => {
    x.set(table.x.subarray(a * d, b * d), (first[i] as number) * d)
    right.set(table.right.subarray(a, b), first[i] as number)
  })
  return {
    trials: within.map((t) => table.trials[t] as Trial),
    names: table.names,
    x,
    right,
    first,
    weight: Float64Array.from(within, (t) => table.weight[t] as number),
  }
}

/** Gives one part of a table after another, mixed anew each time all were given. */
function partsOf(table: Table, parts: number, random: () => number): () => Table {
  const n = table.trials.length
  const order = Array.from({ length: n }, (_, i) => i)
  let next = parts
  return () => {
    if (parts === 1) return table
    if (next === parts) {
      // Fisher and Yates.
      for (let i = n - 1; i > 0; i--) {
        const k = Math.floor(random() * (i + 1))
        ;[order[i], order[k]] = [order[k] as number, order[i] as number]
      }
      next = 0
    }
    const [from, to] = [Math.floor((next * n) / parts), Math.floor((++next * n) / parts)]
    return partOf(table, order.slice(from, to))
  }
}

/** Learns a rule from a table. */
export function learned(table: Table, settings: Settings): Fitted {
  const d = table.names.length
  const h = settings.units
  const spread = spreadOf(table)
  const random = dice(1)
  const part = partsOf({ ...table, x: standardised(table, spread) }, settings.parts, random)
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())
  const weights = {
    direct: new Float64Array(d),
    hidden: Float64Array.from({ length: h * d }, () => normal() / Math.sqrt(d)),
    bias: new Float64Array(h),
    out: Float64Array.from({ length: h }, () => 0.3 * normal()),
  }
  const parts = ['direct', 'hidden', 'bias', 'out'] as const
  const zeros = () => parts.map((p) => new Float64Array(weights[p].length))
  const [m, v] = [zeros(), zeros()]
  for (let step = 1; step <= settings.steps; step++) {
    const some = part()
    const score = new Float64Array(some.right.length)
    const active = new Float64Array(some.right.length * h)
    const kept: number[] = []
    for (let k = 0; k < d; k++) if (random() >= settings.drop) kept.push(k)
    const layer: Layer = {
      z: columns(some.x, d, kept, 1 / (1 - settings.drop)),
      inputs: kept.length,
      units: h,
      direct: Float64Array.from(kept, (k) => weights.direct[k] as number),
      hidden: Float64Array.from({ length: h * kept.length }, (_, i) => {
        const u = Math.floor(i / kept.length)
        return weights.hidden[u * d + (kept[i % kept.length] as number)] as number
      }),
      bias: weights.bias,
      out: weights.out,
    }
    forward(layer, score, active)
    const slopes = backward(layer, pull(some, score).g, active)
    const whole = { ...slopes, direct: new Float64Array(d), hidden: new Float64Array(h * d) }
    kept.forEach((k, i) => {
      whole.direct[k] = slopes.direct[i] as number
      for (let u = 0; u < h; u++) whole.hidden[u * d + k] = slopes.hidden[u * kept.length + i] as number
    })
    const rate = settings.rate * Math.min(1, 2 * (1 - step / settings.steps) + 0.05)
    parts.forEach((part, n) => {
      const [p, g, mean, square] = [weights[part], whole[part], m[n] as Float64Array, v[n] as Float64Array]
      for (let i = 0; i < p.length; i++) {
        const slope = (g[i] as number) - (part === 'bias' ? 0 : settings.decay * (p[i] as number))
        mean[i] = 0.9 * (mean[i] as number) + 0.1 * slope
        square[i] = 0.999 * (square[i] as number) + 0.001 * slope * slope
        p[i] =
          (p[i] as number) +
          (rate * ((mean[i] as number) / (1 - 0.9 ** step))) /
            (Math.sqrt((square[i] as number) / (1 - 0.999 ** step)) + 1e-8)
      }
    })
  }
  return { settings, spread, ...weights }
}

/** Scores of every row of a table. */
export function scores(table: Table, rule: Fitted): Float64Array {
  const score = new Float64Array(table.right.length)
  const z = standardised(table, rule.spread)
  const units = rule.settings.units
  forward({ ...rule, z, inputs: table.names.length, units }, score, new Float64Array(score.length * units))
  return score
}

/** The rule as the data that `rule.ts` reads. */
export function dataOf(names: readonly string[], rule: Fitted, sharpness: number): RuleData {
  const d = names.length
  const fine = (x: number) => Number(x.toPrecision(5))
  return {
    features: names.map((name, k) => ({
      name,
      mean: fine(rule.spread.mean[k] as number),
      deviation: fine(rule.spread.deviation[k] as number),
      direct: fine(rule.direct[k] as number),
      hidden: Array.from(rule.out, (_, u) => Math.round(1000 * (rule.hidden[u * d + k] as number))).join(' '),
    })),
    units: Array.from(rule.out, (out, u) => ({ bias: fine(rule.bias[u] as number), out: fine(out) })),
    sharpness: fine(sharpness),
  }
}
