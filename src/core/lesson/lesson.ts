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
import { hardestFirst, mostThat, thinnings, thinWords } from './minutes'
import { chunksFor, isFresh, type Laid, secondsOf, spanOf, stepsFor } from './plan'

/** A lesson laid out for its minutes, with what had to give way. */
export interface Lesson {
  steps: LessonStep[]
  seconds: Seconds
  /** What was thinned out to fit, in words. */
  cut: string[]
  /** What there is no time for, phrase by phrase; empty where all fit. */
  left: Stretch[]
  /** How many phrases of new material fit, and how many eights they are. */
  fits: number
  eights: number
}

/** What a lesson begins with, and what its learners know. */
export interface Before {
  steps: readonly LessonStep[]
  taught: readonly Stretch[]
}
const NOTHING: Before = { steps: [], taught: [] }

/** Dancing all of it at the end: once, and once more where everything got all there is. */
const RUNS = { least: 1, most: 2 }

/** What is to be taught, in chunks, and what lies between. */
interface Matter {
  list: Material[]
  chunks: Material[][]
  /** Where what was taught before is written. */
  known: Stretch[]
  taught: Stretch[]
  empty: Stretch[]
}

function matterOf(
  routine: Routine,
  times: Times,
  book: MoveBook,
  settings: LessonSettings,
  ready: (stretch: Stretch) => number,
  before: Before,
): Matter {
  const found = findings(routine, times, book).filter((f) => f.kind !== 'empty' && f.kind !== 'outside')
  const list = materialOf(routine, times, book, settings.gap, ready, found, cutFor(settings, book))
  const taught = joined(before.taught)
  const fresh = list.filter((m) => !covered(m.stretch, taught))
  return {
    list,
    taught,
    chunks: chunksFor(routine, fresh, settings),
    // What is made of nothing but what was taught is known, wherever it stands.
    known: list.filter((m) => covered(m.stretch, taught)).flatMap((m) => m.roots),
    empty: list.flatMap((m) => (m.empty ? [m.stretch] : [])),
  }
}

/** How many eights of a dance are new to learners who know nothing of it: what is danced again counts once. */
export function newEights(routine: Routine, times: Times, book: MoveBook, settings: LessonSettings): number {
  const { list } = matterOf(routine, times, book, settings, () => 0, NOTHING)
  const known: Stretch[] = []
  let counts = 0
  for (const m of list) {
    if (isFresh(m, known)) counts += m.counts
    if (!m.empty) known.push(...m.roots)
  }
  return counts / 8
}

/**
 * Lays a lesson out for its minutes. First everything new is seen, explained, danced once slow and once at tempo, and joined;
 * where that is not enough time, what comes last is left for another day, and named. Then the minutes that are left go to
 * more talk, passes, repetitions and rungs, the hardest first, until they are used. Repeats are taught once.
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
  const { list, chunks, known, taught, empty } = matterOf(routine, times, book, settings, ready, before)
  const placed = placePhrases(routine)
  const budget = settings.minutes * 60
  const total = (steps: readonly LessonStep[]) =>
    steps.reduce((n, s) => n + secondsOf(s, { routine, times, settings }), 0)
  const levels = thinnings(settings)
  const lay = (some: readonly Material[][], given: readonly number[], runs = RUNS.least) =>
    stepsFor(
      { routine, placed, times, settings, ...before, known, empty },
      some.map((chunk, i) => ({ chunk, thin: levels[given[i] ?? 0] as Thinning })),
      runs,
    )
  const inTime = (laid: Laid) => total(laid.steps) <= budget
  // From the end, or with backward chaining from the beginning: what is learned last is left out first.
  const first = (n: number) => (settings.backward ? chunks.slice(chunks.length - n) : chunks.slice(0, n))
  const kept = first(mostThat(chunks.length, (n) => inTime(lay(first(n), []))))
  const given = shareOut(kept, levels.length, (to) => inTime(lay(kept, to)))
  const full = given.every((g) => g === levels.length - 1)
  const twice = lay(kept, given, RUNS.most)
  const laid = full && inTime(twice) ? twice : lay(kept, given)
  const inside = new Set(kept.flat())
  const left = list.filter((m) => !m.empty && !inside.has(m) && !covered(m.stretch, taught))
  const steps = full || settings.talk !== null ? laid.steps : talked(laid.steps, budget - total(laid.steps))
  return {
    steps,
    seconds: total(steps),
    cut: cutWords(given, levels),
    left: left.map((m) => m.stretch),
    fits: laid.fresh.length,
    eights: laid.fresh.reduce((n, m) => n + m.counts, 0) / 8,
  }
}

/** How much goes to each chunk, by level: all are raised together, the hardest first, as far as there is time. */
function shareOut(
  chunks: readonly Material[][],
  levels: number,
  inTime: (given: readonly number[]) => boolean,
): number[] {
  const order = hardestFirst(chunks)
  let given = chunks.map(() => 0)
  for (let level = 1; level < levels; level++) {
    const raised = (n: number) => {
      const next = [...given]
      for (const i of order.slice(0, n)) next[i] = level
      return next
    }
    const n = mostThat(chunks.length, (k) => inTime(raised(k)))
    given = raised(n)
    if (n < chunks.length) break
  }
  return given
}

/** The seconds that are left go to explaining, the same to each. */
function talked(steps: readonly LessonStep[], left: Seconds): LessonStep[] {
  const explained = steps.filter((s) => s.kind === 'break down').length
  if (!explained || left <= 0) return [...steps]
  // In tenths of a second, never over the minutes there are.
  const more = Math.floor((10 * left) / explained) / 10
  return steps.map((s) => (s.kind === 'break down' ? { ...s, talk: s.talk + more } : s))
}

/** What had to give way: how many chunks get how much, the least first; empty where all get all. */
function cutWords(given: readonly number[], levels: readonly Thinning[]): string[] {
  return levels.slice(0, -1).flatMap((thin, level) => {
    const n = given.filter((g) => g === level).length
    return n ? [`${n} of ${given.length}: ${thinWords(thin)}`] : []
  })
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
