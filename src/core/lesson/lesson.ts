import { findings, type MoveBook } from '../choreo'
import {
  danced,
  type LessonPlan,
  type LessonSettings,
  type LessonStep,
  ofPass,
  placePhrases,
  type Routine,
  stepKey,
} from '../routine'
import { covered, holds, joined, type Seconds, type Stretch, type Times } from '../time'
import { cutFor } from './chunk'
import type { Thinning } from './chunk-steps'
import { type Material, materialOf, strainOf } from './material'
import { chunksFor, FULL, type Laid, secondsOf, spanOf, stepsFor } from './plan'

/** A lesson laid out for its minutes, with what had to give way. */
export interface Lesson {
  steps: LessonStep[]
  seconds: Seconds
  /** What was thinned out to fit, in words. */
  cut: string[]
  /** What there is no time for, phrase by phrase; empty where all fit. */
  left: Stretch[]
  /** How many phrases of new material fit. */
  fits: number
}

/** What a lesson begins with, and what its learners know. */
export interface Before {
  steps: readonly LessonStep[]
  taught: readonly Stretch[]
}
const NOTHING: Before = { steps: [], taught: [] }

/** Ways to thin a plan out, mildest first: repetitions, then rungs; never under two slow and one at tempo. */
const THINNINGS: readonly [Thinning, string][] = [
  [FULL, ''],
  [{ ...FULL, slow: 2 }, 'two slow repetitions instead of three'],
  [{ ...FULL, slow: 2, fast: 1 }, 'one repetition at tempo instead of two'],
  [{ ...FULL, slow: 2, fast: 1, rungs: 3 }, 'three rungs instead of four'],
  [{ ...FULL, slow: 2, fast: 1, rungs: 2 }, 'two rungs, slow and tempo'],
  [{ slow: 2, fast: 1, rungs: 2, runs: 1 }, 'one full run at the end'],
]

/**
 * Lays a lesson out: everything new is shown, broken down, drilled up a ladder and joined; repeats are taught once. It is
 * thinned out until it fits, and where that is not enough phrases at the end are left for another day, and named.
 * @param ready speed at which a stretch sits, 0 where it was never drilled
 * @param before what comes after the warm-up, and what is not taught again
 */
export function layLesson(
  routine: Routine,
  times: Times,
  book: MoveBook,
  settings: LessonSettings,
  ready: (stretch: Stretch) => number,
  before: Before = NOTHING,
): Lesson {
  const found = findings(routine, times, book).filter((f) => f.kind !== 'empty' && f.kind !== 'outside')
  const cut = cutFor(settings, book)
  const list = materialOf(routine, times, book, settings.gap, ready, found, cut)
  const placed = placePhrases(routine)
  const taught = joined(before.taught)
  // What is made of nothing but what was taught is known, wherever it stands.
  const known = list.filter((m) => covered(m.stretch, taught)).flatMap((m) => m.roots)
  const budget = settings.minutes * 60
  const total = (steps: readonly LessonStep[]) =>
    steps.reduce((n, s) => n + secondsOf(s, { routine, times, settings }), 0)
  const lay = (chunks: readonly Material[][], thin: Thinning) =>
    stepsFor({ routine, placed, times, settings, thin, ...before, known }, chunks)
  const chunks = chunksFor(
    routine,
    list.filter((m) => !covered(m.stretch, taught)),
    settings,
  )
  const result = ({ steps, fresh }: Laid, thinned: number, kept: readonly Material[][]): Lesson => {
    const inside = new Set(kept.flat())
    return {
      steps,
      seconds: total(steps),
      cut: THINNINGS.slice(1, thinned + 1).map(([, said]) => said),
      left: list
        .filter((m) => !m.empty && !inside.has(m) && !covered(m.stretch, taught))
        .map((m) => m.stretch),
      fits: fresh.length,
    }
  }
  for (const [i, [thin]] of THINNINGS.entries()) {
    const laid = lay(chunks, thin)
    if (total(laid.steps) <= budget) return result(laid, i, chunks)
  }
  const last = THINNINGS.length - 1
  const thin = (THINNINGS[last] as [Thinning, string])[0]
  // From the end, or with backward chaining from the beginning: what is learned last is left out first.
  const first = (n: number) => (settings.backward ? chunks.slice(chunks.length - n) : chunks.slice(0, n))
  let [fits, over] = [0, chunks.length]
  // More chunks take longer: the most that fit are found by halving.
  while (over - fits > 1) {
    const n = (fits + over) >> 1
    if (total(lay(first(n), thin).steps) <= budget) fits = n
    else over = n
  }
  return result(lay(first(fits), thin), last, first(fits))
}

/**
 * A plan made anew that keeps what was done by hand: steps changed, moved or added stay as they are, after the step they
 * stood after; steps taken out stay out.
 */
export function keepByHand(
  plan: Pick<LessonPlan, 'steps' | 'gone'>,
  fresh: readonly LessonStep[],
): LessonStep[] {
  const own = new Set(plan.steps.filter((s) => s.own).map(stepKey))
  const gone = new Set(plan.gone.map((made) => stepKey({ made })))
  const out = fresh.filter((s) => !gone.has(stepKey(s)) && !own.has(stepKey(s)))
  plan.steps.forEach((s, i) => {
    if (!s.own) return
    const places = new Map(out.map((o, at) => [stepKey(o), at]))
    const before = plan.steps.slice(0, i).findLast((b) => places.has(stepKey(b)))
    out.splice(before ? (places.get(stepKey(before)) as number) + 1 : 0, 0, s)
  })
  return out
}

/** What all repetitions of a plan together ask of the joints. */
export function loadOf(
  steps: readonly LessonStep[],
  routine: Routine,
  book: MoveBook,
): Record<'jumps' | 'kicks' | 'knees', number> {
  const all = danced(routine)
  const load = { jumps: 0, kicks: 0, knees: 0 }
  for (const s of steps) {
    const span = spanOf(s, routine)
    if (!span || !s.repetitions) continue
    const inside = all.filter((c) => holds(span, c.at))
    const strain = strainOf(ofPass(inside, s.pass), book)
    for (const key of ['jumps', 'kicks', 'knees'] as const) load[key] += s.repetitions * strain[key]
  }
  return load
}

/** True when laying the plan out now would bring steps that it neither has nor was told to leave out. */
export function isOutdated(plan: LessonPlan, fresh: readonly LessonStep[]): boolean {
  const known = new Set([...plan.steps, ...plan.gone.map((made) => ({ made }))].map(stepKey))
  return fresh.some((s) => !known.has(stepKey(s)))
}
