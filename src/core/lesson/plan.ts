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
  SLOW,
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

interface Context extends Omit<Teaching, 'thin'> {
  routine: Routine
  times: Times
  /** Steps after the warm-up, before anything new. */
  steps?: readonly LessonStep[]
  /** Where what the learners know already is written. */
  known?: readonly Stretch[]
  /** Where nothing is danced. */
  empty: readonly Stretch[]
}

/** True for material nobody has learned yet: some of what it is made of is new. */
export const isFresh = (m: Material, known: readonly Stretch[]) =>
  !m.empty && m.roots.some((s) => !covered(s, known))

/** A chunk, and how much of the minutes goes to it. */
export interface PlannedChunk {
  chunk: readonly Material[]
  thin: Thinning
}

/** Steps of a lesson, and the new material in it. */
export interface Laid {
  steps: LessonStep[]
  fresh: Material[]
}

/** Lays steps out for some chunks, none of them empty; what repeats is taught once, where it comes first. */
export function stepsFor(context: Context, chunks: readonly PlannedChunk[], runs: number): Laid {
  const { settings } = context
  const out: LessonStep[] = []
  const add = (d: Draft) => out.push(called(plainStep({ view: settings.view, ...d }), context))
  add({ made: madeAs('warm-up'), kind: 'warm-up', talk: Math.min(WARM_UP, settings.minutes * 60 * 0.15) })
  out.push(...(context.steps ?? []))
  if (settings.preview && chunks.length) add(preview(chunks))
  const learned: (readonly Material[])[] = []
  const known: Stretch[] = [...(context.known ?? [])]
  const all: Material[] = []
  const shown = new Set<PlacedPhrase>()
  let sinceCheck = 0
  let drilled = 0
  const order = settings.backward ? [...chunks].reverse() : chunks
  order.forEach(({ chunk, thin }, i) => {
    const from = out.length
    const fresh = chunk.filter((m) => isFresh(m, known))
    const teaching = { ...context, thin }
    teach(teaching, chunk, fresh, shown, add)
    for (const m of chunk) known.push(...m.roots)
    all.push(...fresh)
    const before = order[i - 1]?.chunk
    const pair = before && (settings.backward ? ([chunk, before] as const) : ([before, chunk] as const))
    if (pair && !apart(pair, context.empty)) putTogether(teaching, pair, add)
    learned.push(chunk)
    sinceCheck += fresh.reduce((n, m) => n + m.counts, 0)
    const next = order[i + 1]?.chunk
    // In the middle of a phrase it is its own counts that are added up.
    const whole = next?.[0]?.placed !== chunk.at(-1)?.placed
    const due =
      (settings.review === 'top' && whole) ||
      (settings.review === 'checkpoints' && ((sinceCheck >= CHECK_AFTER && whole) || !next))
    if (due && learned.length > 1) {
      checkpoint(learned, teaching, add)
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
  closing(learned.flat(), settings, runs).forEach(add)
  add({
    made: madeAs('cool-down'),
    kind: 'cool-down',
    talk: Math.min(COOL_DOWN, settings.minutes * 60 * 0.08),
  })
  return { steps: out, fresh: all }
}

/** Everything that will be taught, seen once. */
const preview = (chunks: readonly PlannedChunk[]): Draft => ({
  ...{ made: madeAs('preview'), kind: 'show', how: 'watch', sound: 'music', repetitions: 1, talk: WORD },
  stretch: spanned(chunks.flatMap(({ chunk }) => chunk)),
  why: 'The whole of it first.',
})

/** What a lesson ends with: all that was learned at its speeds, with the song, and to the back. */
function closing(learned: readonly Material[], { closing: speeds }: LessonSettings, runs: number): Draft[] {
  const stretch = spanned(learned)
  if (!stretch) return []
  const run: Draft = {
    ...{
      made: madeAs('run'),
      kind: 'run',
      stretch,
      sound: 'music',
      how: 'full out',
      repetitions: runs,
      talk: WORD,
    },
    why: 'The whole of it with the song, without stopping.',
  }
  if (!speeds.length) return [run]
  return [
    ...[...new Set(speeds)]
      .sort((a, b) => a - b)
      .map(
        (speed): Draft => ({
          ...{
            made: madeAs(`closing ${Math.round(speed * 100)}`),
            kind: 'checkpoint',
            stretch,
            speed,
            repetitions: 1,
          },
          ...{
            sound: speed < SLOW ? 'counts' : 'both',
            talk: 0,
            why: 'All of it, once more from slow to the song.',
          },
        }),
      ),
    run,
    {
      ...run,
      made: madeAs('run back'),
      how: 'to the back',
      repetitions: 1,
      talk: 0,
      why: 'To the back, without a mirror.',
    },
  ]
}

/** True where something that is not cued, held or open lies between two chunks. @param pair by place */
const apart = (
  pair: readonly [readonly Material[], readonly Material[]],
  empty: readonly Stretch[],
): boolean => {
  const [end, begin] = [spanned(pair[0])?.to ?? 0, spanned(pair[1])?.from ?? 0]
  return empty.some((s) => s.from >= end && s.to <= begin)
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

/** Chunks of a dance by its settings. Where nothing is danced there is nothing to teach, and no chunk goes over it. */
export function chunksFor(
  routine: Routine,
  list: readonly Material[],
  settings: LessonSettings,
): Material[][] {
  return chunksOf(list, routine, settings.chunk).flatMap((chunk) => {
    const parts: Material[][] = [[]]
    for (const m of chunk) {
      if (m.empty) parts.push([])
      else parts.at(-1)?.push(m)
    }
    return parts.filter((part) => part.length > 0)
  })
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
  const start = Math.max(0, timeOfTick(times, span.from))
  const led = step.leadIn === 'beginning' ? start : ((Number(step.leadIn) || 0) * body) / Math.max(1, counts)
  // The song leads into the first repetition alone.
  const before = Math.max(0, Math.min(start, led) - countIn) / step.speed
  return step.talk + before + drillSeconds(step.repetitions, countIn, body, step.speed, settings.pause)
}

/** The ticks a step dances: its stretch, with the run-up before it as far as it lies in the dance. */
export const spanOf = (
  { stretch, runUp }: Pick<LessonStep, 'stretch' | 'runUp'>,
  routine: Dance,
): Stretch | null => stretch && withRunUp(routine, stretch, runUp)
