import { danceOf, type LessonSettings, type LessonStep, placeName, type Routine, TALK } from '../routine'
import {
  common,
  covered,
  type Ratio,
  type Seconds,
  type Stretch,
  TICKS_PER_COUNT,
  type Times,
  timeOfTick,
} from '../time'
import { chunksOf, type Material } from './material'
import { drillSeconds, ladder } from './time'

/** Common practice, no published source: a run-up before a join, a rest after so much drilling, ends of a lesson. */
const RUN_UP = 4
const REST_AFTER: Seconds = 12 * 60
const REST: Seconds = 90
const WARM_UP: Seconds = 5 * 60
const COOL_DOWN: Seconds = 3 * 60
/** Talk before a join or a run. */
const WORD: Seconds = 15
/** New chunks between two checkpoints. */
const CHECK_AFTER = 2

/** How much a plan is thinned out to fit its minutes. */
export interface Thinning {
  /** Repetitions of a slow rung, and of one at tempo. */
  slow: number
  fast: number
  rungs: number
  runs: number
}

export const FULL: Thinning = { slow: 3, fast: 2, rungs: 4, runs: 2 }

interface Context {
  routine: Routine
  times: Times
  settings: LessonSettings
  thin: Thinning
}

type Draft = Partial<LessonStep> & Pick<LessonStep, 'id' | 'kind'>

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
  const add = (d: Draft) =>
    out.push({
      stretch: null,
      runUp: 0,
      pass: 'all',
      speed: 1,
      sound: 'both',
      view: settings.view,
      repetitions: 0,
      talk: 0,
      why: '',
      own: false,
      ...d,
    })
  add({ id: 'warm-up', kind: 'warm-up', talk: Math.min(WARM_UP, settings.minutes * 60 * 0.15) })
  const learned: Material[][] = []
  const known: Stretch[] = []
  const all: Material[] = []
  let sinceCheck = 0
  let drilled = 0
  // Where nothing is danced there is nothing to teach, and nothing that is known.
  const taught = chunks.map((c) => c.filter((m) => !m.empty)).filter((c) => c.length > 0)
  const order = settings.backward ? taught.reverse() : taught
  for (const chunk of order) {
    const from = out.length
    const fresh = chunk.filter((m) => isFresh(m, known))
    teach(context, chunk, fresh, add)
    for (const m of chunk) known.push(...m.roots)
    all.push(...fresh)
    const before = learned.at(-1)
    if (before) join(context, settings.backward ? [chunk, before] : [before, chunk], add)
    learned.push(chunk)
    if (fresh.length) sinceCheck++
    const isLast = chunk === order.at(-1)
    const due =
      settings.review === 'top' ||
      (settings.review === 'checkpoints' && (sinceCheck >= CHECK_AFTER || isLast))
    if (due && learned.length > 1) {
      checkpoint(learned, settings, add)
      sinceCheck = 0
    }
    drilled += out.slice(from).reduce((n, s) => n + secondsOf(s, context), 0)
    if (drilled > REST_AFTER && !isLast) {
      add({ id: `rest ${idOf(chunk)}`, kind: 'rest', talk: REST, why: 'Water, and the head rests too.' })
      drilled = 0
    }
  }
  if (learned.length)
    add({
      id: 'run',
      kind: 'run',
      stretch: spanned(learned.flat()),
      sound: 'music',
      repetitions: thin.runs,
      talk: WORD,
      why: 'The whole of it with the song, without stopping.',
    })
  add({ id: 'cool-down', kind: 'cool-down', talk: Math.min(COOL_DOWN, settings.minutes * 60 * 0.08) })
  return { steps: out, fresh: all }
}

/** Ids name the place they are about; only moving the counts moves them (core/routine/rebase). */
const idOf = (chunk: readonly Material[]) => `@${chunk[0]?.placed.start ?? 0}`

/** From the first to the last of some material, by place. */
function spanned(list: readonly Material[]): Stretch | null {
  const sorted = [...list].sort((a, b) => a.stretch.from - b.stretch.from)
  const [first, last] = [sorted[0], sorted.at(-1)]
  return first && last ? { from: first.stretch.from, to: last.stretch.to } : null
}

const nameOf = (list: readonly Material[]) => list.map((m) => placeName(m.placed)).join(' and ')

function teach(
  { settings, thin }: Context,
  chunk: readonly Material[],
  fresh: readonly Material[],
  add: (d: Draft) => void,
) {
  const id = idOf(chunk)
  const stretch = spanned(chunk)
  if (!fresh.length) {
    if (!chunk.some((m) => m.mirrored)) {
      // Each is known, their order is not.
      const why = `${nameOf(chunk)} are known; here they follow one another.`
      if (chunk.length > 1) add({ id: `again ${id}`, kind: 'drill', stretch, repetitions: 1, why })
      return
    }
    // Known to one side: short, once slow and once at tempo.
    const why = `${nameOf(chunk)} is known from the other side.`
    add({
      id: `other ${id}`,
      kind: 'drill',
      stretch,
      speed: 0.75,
      sound: 'counts',
      repetitions: 1,
      talk: 30,
      why,
    })
    add({ id: `other ${id} tempo`, kind: 'drill', stretch, sound: 'music', repetitions: 1, why })
    return
  }
  const hard = [...new Set(fresh.flatMap((m) => m.hard))]
  const start = Math.max(0.4, Math.min(0.75, ...fresh.map((m) => m.first)))
  const rungs = ladder(start, 1, Math.max(2, thin.rungs + (hard.length ? 1 : 0) - (start >= 0.75 ? 1 : 0)))
  const talk = (settings.talk ?? TALK[settings.grade]) * 60 * fresh.reduce((n, m) => n + m.counts / 8, 0)
  add({ id: `show ${id}`, kind: 'show', stretch, sound: 'music', repetitions: 1, talk: WORD })
  add({
    id: `break ${id}`,
    kind: 'break down',
    stretch,
    speed: rungs[0] as Ratio,
    sound: 'counts',
    talk,
    why: hard.length ? `Hard: ${hard.join(', ')}.` : '',
  })
  const both = fresh.some((m) => m.hasFeet) && fresh.some((m) => m.hasArms)
  const layers = settings.order === 'whole body' || !both ? [] : (['feet', 'arms'] as const)
  for (const layer of settings.order === 'arms first' ? [...layers].reverse() : layers)
    add({
      id: `${layer} ${id}`,
      kind: 'drill',
      stretch,
      pass: layer,
      speed: rungs[0] as Ratio,
      sound: 'counts',
      repetitions: thin.slow,
      why: hard.length ? 'Slow, because it is hard.' : '',
    })
  rungs.forEach((speed, i) => {
    const tempo = i === rungs.length - 1
    // Slow with counts; music from where the school brings it in; tempo is always danced to the song.
    const sound =
      settings.ladder === 'music'
        ? 'both'
        : tempo && settings.ladder === 'counts'
          ? 'counts'
          : tempo
            ? 'both'
            : settings.ladder === 'both' && i > 0
              ? 'both'
              : 'counts'
    add({
      id: `rung ${id} ${Math.round(speed * 100)}`,
      kind: 'drill',
      stretch,
      speed,
      sound,
      repetitions: tempo ? thin.fast : thin.slow,
      why: hard.length && i > 0 && !tempo ? 'One rung more, because it is hard.' : '',
    })
  })
  if (settings.ladder === 'counts')
    add({ id: `song ${id}`, kind: 'drill', stretch, sound: 'music', repetitions: thin.fast })
}

/** A join at tempo, from a few counts before it. */
function join({ thin }: Context, [before, after]: readonly Material[][], add: (d: Draft) => void) {
  if (!before || !after) return
  add({
    id: `join ${idOf(before)} ${idOf(after)}`,
    kind: 'join',
    stretch: after[0]?.stretch ?? null,
    runUp: RUN_UP,
    repetitions: thin.fast,
    talk: WORD,
    why: `Out of ${placeName((before.at(-1) as Material).placed)} into ${placeName((after[0] as Material).placed)}.`,
  })
}

function checkpoint(learned: readonly Material[][], settings: LessonSettings, add: (d: Draft) => void) {
  const all = learned.flat().sort((a, b) => a.placed.start - b.placed.start)
  add({
    id: `check ${idOf(all)} ${idOf(all.slice(-1))}`,
    kind: 'checkpoint',
    stretch: spanned(all),
    sound: 'music',
    repetitions: 1,
    talk: WORD,
    why: settings.backward ? 'Everything so far, to the end.' : 'Everything so far, from the top.',
  })
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
export function spanOf(
  { stretch, runUp }: Pick<LessonStep, 'stretch' | 'runUp'>,
  routine: Pick<Routine, 'excerpt' | 'phrases' | 'cues' | 'repeats'>,
): Stretch | null {
  if (!stretch) return null
  const dance = danceOf(routine)
  const earliest = common(stretch, dance) ? Math.min(stretch.from, dance.from) : stretch.from
  return { from: Math.max(earliest, stretch.from - runUp * TICKS_PER_COUNT), to: stretch.to }
}
