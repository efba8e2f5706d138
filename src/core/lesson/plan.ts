import {
  type Dance,
  type LessonSettings,
  type LessonStep,
  madeAs,
  type PlacedPhrase,
  plainStep,
  type Routine,
  withRunUp,
} from '../routine'
import { covered, type Seconds, type Stretch, TICKS_PER_COUNT, type Times, timeOfTick } from '../time'
import {
  checkpoint,
  type Draft,
  fadingCalls,
  placeOf,
  putTogether,
  spanned,
  type Teaching,
  type Thinning,
  teach,
  WORD,
} from './chunk-steps'
import { chunksOf, type Material } from './material'
import { drillSeconds } from './time'

/** Common practice, no published source: a rest after so much drilling, ends of a lesson. */
const REST_AFTER: Seconds = 12 * 60
const REST: Seconds = 90
const WARM_UP: Seconds = 5 * 60
const COOL_DOWN: Seconds = 3 * 60
/** New counts between two checkpoints. */
const CHECK_AFTER = 16

export const FULL: Thinning = { slow: 3, fast: 2, rungs: 4, runs: 2 }

interface Context extends Teaching {
  routine: Routine
  times: Times
  /** Steps after the warm-up, before anything new. */
  steps?: readonly LessonStep[]
  /** Where what the learners know already is written. */
  known?: readonly Stretch[]
}

/** True for material nobody has learned yet: some of what it is made of is new. */
const isFresh = (m: Material, known: readonly Stretch[]) =>
  !m.empty && m.roots.some((s) => !covered(s, known))

/** Steps of a lesson, and the new material in it. */
export interface Laid {
  steps: LessonStep[]
  fresh: Material[]
}

/** Lays steps out for some chunks; what repeats is taught once, where it comes first. */
export function stepsFor(context: Context, chunks: readonly Material[][]): Laid {
  const { settings, thin } = context
  const out: LessonStep[] = []
  const add = (d: Draft) => out.push(called(plainStep({ view: settings.view, ...d }), context))
  add({ made: madeAs('warm-up'), kind: 'warm-up', talk: Math.min(WARM_UP, settings.minutes * 60 * 0.15) })
  out.push(...(context.steps ?? []))
  const learned: Material[][] = []
  const known: Stretch[] = [...(context.known ?? [])]
  const all: Material[] = []
  const shown = new Set<PlacedPhrase>()
  let sinceCheck = 0
  let drilled = 0
  // Where nothing is danced there is nothing to teach, and nothing that is known.
  const taught = chunks.map((c) => c.filter((m) => !m.empty)).filter((c) => c.length > 0)
  const order = settings.backward ? taught.reverse() : taught
  order.forEach((chunk, i) => {
    const from = out.length
    const fresh = chunk.filter((m) => isFresh(m, known))
    teach(context, chunk, fresh, shown, add)
    for (const m of chunk) known.push(...m.roots)
    all.push(...fresh)
    const before = order[i - 1]
    if (before) putTogether(context, settings.backward ? [chunk, before] : [before, chunk], add)
    learned.push(chunk)
    sinceCheck += fresh.reduce((n, m) => n + m.counts, 0)
    const next = order[i + 1]
    // In the middle of a phrase it is its own counts that are added up.
    const whole = next?.[0]?.placed !== chunk.at(-1)?.placed
    const due =
      (settings.review === 'top' && whole) ||
      (settings.review === 'checkpoints' && ((sinceCheck >= CHECK_AFTER && whole) || !next))
    if (due && learned.length > 1) {
      checkpoint(learned, context, add)
      sinceCheck = 0
    }
    drilled += out.slice(from).reduce((n, s) => n + secondsOf(s, context), 0)
    if (drilled > REST_AFTER && next) {
      add({
        made: madeAs('rest', placeOf(chunk)),
        kind: 'rest',
        talk: REST,
        why: 'Water, and the head rests too.',
      })
      drilled = 0
    }
  })
  if (learned.length)
    add({
      made: madeAs('run'),
      kind: 'run',
      stretch: spanned(learned.flat()),
      sound: 'music',
      how: 'full out',
      repetitions: thin.runs,
      talk: WORD,
      why: 'The whole of it with the song, without stopping.',
    })
  add({
    made: madeAs('cool-down'),
    kind: 'cool-down',
    talk: Math.min(COOL_DOWN, settings.minutes * 60 * 0.08),
  })
  return { steps: out, fresh: all }
}

/** A step with what is called in it. @param sits it sat already */
export function called(
  step: LessonStep,
  { routine, times, settings }: Pick<Context, 'routine' | 'times' | 'settings'>,
  sits = false,
): LessonStep {
  const { stretch } = step
  if (settings.calling !== 'fading' || !stretch) return step
  const [from, to] =
    times.length > 1 ? [timeOfTick(times, stretch.from), timeOfTick(times, stretch.to)] : [0, 0]
  const sung = routine.marks.some((m) => m.kind === 'lyric' && m.at >= from && m.at < to)
  return { ...step, calls: fadingCalls(step, sits, sung) }
}

/** Chunks of a dance by its settings. */
export function chunksFor(
  routine: Routine,
  list: readonly Material[],
  settings: LessonSettings,
): Material[][] {
  return chunksOf(list, routine, settings.chunk)
}

/** How long a step takes. */
export function secondsOf(
  step: LessonStep,
  { routine, times, settings }: Pick<Context, 'routine' | 'times' | 'settings'>,
): Seconds {
  if (!step.stretch || step.repetitions === 0 || times.length < 2) return step.talk
  const span = spanOf(step, routine)
  if (!span) return step.talk
  const body = timeOfTick(times, span.to) - timeOfTick(times, span.from)
  const counts = (span.to - span.from) / TICKS_PER_COUNT
  const countIn = (settings.countIn * body) / Math.max(1, counts)
  return step.talk + drillSeconds(step.repetitions, countIn, body, step.speed, settings.pause)
}

/** The ticks a step dances: its stretch, with the run-up before it as far as it lies in the dance. */
export const spanOf = (
  { stretch, runUp }: Pick<LessonStep, 'stretch' | 'runUp'>,
  routine: Dance,
): Stretch | null => stretch && withRunUp(routine, stretch, runUp)
