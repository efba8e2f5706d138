import {
  type Drilled,
  type LessonSettings,
  type LessonStep,
  madeAs,
  type Pass,
  type PlacedPhrase,
  placeName,
  stretchName,
  TALK,
} from '../routine'
import { holds, type Ratio, type Seconds, type Stretch, type Ticks } from '../time'
import type { Material } from './material'
import { ladder } from './time'

/** How much of the minutes there are goes to a chunk. */
export interface Thinning extends Drilled {
  /** Repetitions of each pass it is taken apart into; 0 where it is danced whole at once. */
  apart: number
  /** Share of the usual talk. */
  talk: number
}

/** What the steps of a chunk are made from. */
export interface Teaching {
  placed: readonly PlacedPhrase[]
  settings: LessonSettings
  thin: Thinning
}

export type Draft = Partial<LessonStep> & Pick<LessonStep, 'made' | 'kind'>
type Add = (d: Draft) => void

/** Slower than this, numbers are called. Common practice, no published source. */
export const SLOW: Ratio = 0.8

/**
 * What is called where calls fade: numbers while it is slow or taken apart, the moves' words up to tempo, at tempo the lyric
 * where there is one, and nothing when it must stand by itself.
 * @param sits it sat already
 * @param sung words are sung in it
 */
export function fadingCalls(step: LessonStep, sits: boolean, sung: boolean): LessonStep['calls'] {
  if (step.kind === 'run' || step.kind === 'checkpoint' || step.kind === 'show' || sits) return 'none'
  if (step.kind === 'break down' || step.pass !== 'all' || step.speed < SLOW) return 'numbers'
  return step.speed >= 1 && sung ? 'lyric' : 'words'
}

/** Common practice, no published source: counts before a join, and talk before a join or a run. */
const RUN_UP = 4
export const WORD: Seconds = 15

/** The place that what is made of a chunk is about. */
export const placeOf = (chunk: readonly Material[]): Ticks => chunk[0]?.key ?? 0

/** From the first to the last of some material, by place. */
export function spanned(list: readonly Material[]): Stretch | null {
  const sorted = [...list].sort((a, b) => a.stretch.from - b.stretch.from)
  const [first, last] = [sorted[0], sorted.at(-1)]
  return first && last ? { from: first.stretch.from, to: last.stretch.to } : null
}

const nameOf = (placed: readonly PlacedPhrase[], m: Material) =>
  m.partial ? stretchName(placed, m.stretch) : placeName(m.placed)
const namesOf = (placed: readonly PlacedPhrase[], list: readonly Material[]) =>
  list.map((m) => nameOf(placed, m)).join(' and ')

const ORDERS: Record<LessonSettings['order'], readonly Pass[]> = {
  'feet first': ['feet', 'arms'],
  'arms first': ['arms', 'feet'],
  'whole body': [],
}

/** The passes a chunk is taken apart into before it is danced whole, in order: as chosen for its place, else the usual ones. */
export function passesFor(settings: LessonSettings, chunk: readonly Material[]): Pass[] {
  const has = (pass: Pass) => pass !== 'all' && chunk.some((m) => m.passes.includes(pass))
  const from = chunk[0]?.stretch.from ?? 0
  const chosen = settings.passes.find((p) => holds(p.stretch, from))
  if (chosen) return chosen.passes.filter(has)
  const usual = ORDERS[settings.order]
  // Taken apart only where there are two things to take apart.
  return usual.every(has) ? [...usual] : []
}

/** Showing, breaking down, passes and ladder of new material; what is known comes short. @param shown phrases shown already, added to */
export function teach(
  { settings, thin, placed }: Teaching,
  chunk: readonly Material[],
  fresh: readonly Material[],
  shown: Set<PlacedPhrase>,
  add: Add,
) {
  const place = placeOf(chunk)
  const stretch = spanned(chunk)
  if (!fresh.length) return known(placed, chunk, stretch, add)
  const hard = [...new Set(fresh.flatMap((m) => m.hard))]
  const start = Math.max(0.4, Math.min(0.75, ...fresh.map((m) => m.first)))
  // A few counts go slowly and at tempo; the rungs between are danced as they are added up.
  const partial = fresh.every((m) => m.partial)
  const count = partial ? 2 : Math.max(2, thin.rungs + (hard.length ? 1 : 0) - (start >= 0.75 ? 1 : 0))
  const rungs = ladder(start, 1, count)
  const talk =
    thin.talk * (settings.talk ?? TALK[settings.grade]) * 60 * fresh.reduce((n, m) => n + m.counts / 8, 0)
  // Pieces are shown with their phrase, once.
  const [first] = fresh as [Material, ...Material[]]
  if (!partial || !shown.has(first.placed))
    add({
      made: madeAs('show', partial ? first.placed.start : place),
      kind: 'show',
      stretch: partial ? first.row : stretch,
      sound: 'music',
      how: 'watch',
      repetitions: 1,
      talk: WORD,
    })
  for (const m of fresh) shown.add(m.placed)
  add({
    made: madeAs('break', place),
    kind: 'break down',
    stretch,
    speed: rungs[0] as Ratio,
    sound: 'counts',
    talk,
    why: hard.length ? `Hard: ${hard.join(', ')}.` : '',
  })
  for (const pass of thin.apart ? passesFor(settings, chunk) : [])
    add({
      made: madeAs(pass, place),
      kind: 'drill',
      stretch,
      pass,
      speed: rungs[0] as Ratio,
      sound: 'counts',
      repetitions: thin.apart,
      why: hard.length ? 'Slow, because it is hard.' : '',
    })
  rungs.forEach((speed, i) => {
    const tempo = i === rungs.length - 1
    add({
      made: madeAs(`rung ${Math.round(speed * 100)}`, place),
      kind: 'drill',
      stretch,
      speed,
      sound: soundOf(settings, tempo, i === 0),
      repetitions: tempo ? thin.fast : thin.slow,
      why: hard.length && i > 0 && !tempo ? 'One rung more, because it is hard.' : '',
    })
  })
  if (settings.ladder === 'counts')
    add({ made: madeAs('song', place), kind: 'drill', stretch, sound: 'music', repetitions: thin.fast })
}

/** Slow with counts; music from where the school brings it in; tempo is always danced to the song. */
function soundOf({ ladder: school }: LessonSettings, tempo: boolean, first: boolean): LessonStep['sound'] {
  if (school === 'music') return 'both'
  if (tempo) return school === 'counts' ? 'counts' : 'both'
  return school === 'both' && !first ? 'both' : 'counts'
}

/** What was learned before, once more in its place. */
function known(
  placed: readonly PlacedPhrase[],
  chunk: readonly Material[],
  stretch: Stretch | null,
  add: Add,
) {
  const place = placeOf(chunk)
  if (!chunk.some((m) => m.mirrored)) {
    // Each is known, their order is not.
    const why = `${namesOf(placed, chunk)} are known; here they follow one another.`
    if (chunk.length > 1) add({ made: madeAs('again', place), kind: 'drill', stretch, repetitions: 1, why })
    return
  }
  // Known to one side: short, once slow and once at tempo.
  const why = `${namesOf(placed, chunk)} is known from the other side.`
  const slow = { speed: 0.75, sound: 'counts', repetitions: 1, talk: 30 } as const
  add({ made: madeAs('other', place), kind: 'drill', stretch, ...slow, why })
  add({ made: madeAs('other tempo', place), kind: 'drill', stretch, sound: 'music', repetitions: 1, why })
}

/**
 * How a chunk is put to the one before it: inside a phrase its counts are added up, slowly and at tempo; across phrases the
 * join is danced at tempo, from a few counts before it.
 * @param pair by place; the chunk just learned is the later one, or taught backwards the earlier one
 */
export function putTogether(
  { placed, thin, settings }: Teaching,
  pair: readonly [readonly Material[], readonly Material[]],
  add: Add,
) {
  const [before, after] = pair
  const [last, first] = [before.at(-1), after[0]]
  if (!last || !first) return
  const inside = last.placed === first.placed && last.partial && settings.review !== 'join'
  if (!inside) join({ placed, thin }, last, first, before, after, add)
  if (!inside && settings.review !== 'last two') return
  const two = spanned([...before, ...after])
  if (!two) return
  // From the phrase's top, or taught backwards to its end; or the last two pieces alone.
  const stretch =
    settings.review === 'last two' || !inside
      ? two
      : settings.backward
        ? { from: two.from, to: first.row.to }
        : { from: first.row.from, to: two.to }
  const places = [stretch.from, placeOf(settings.backward ? before : after)]
  const why = inside ? 'Counts added up.' : 'The last two together.'
  const slow = Math.max(0.4, Math.min(0.75, last.first, first.first))
  if (inside)
    add({
      made: madeAs('up slow', ...places),
      kind: 'drill',
      stretch,
      speed: slow,
      sound: 'counts',
      repetitions: 1,
      why,
    })
  add({ made: madeAs('up', ...places), kind: 'drill', stretch, repetitions: thin.fast, why })
}

function join(
  { placed, thin }: Pick<Teaching, 'placed' | 'thin'>,
  last: Material,
  first: Material,
  before: readonly Material[],
  after: readonly Material[],
  add: Add,
) {
  add({
    made: madeAs('join', placeOf(before), placeOf(after)),
    kind: 'join',
    stretch: first.stretch,
    runUp: Math.max(1, Math.min(RUN_UP, Math.floor(last.counts))),
    repetitions: thin.fast,
    talk: WORD,
    why: `Out of ${nameOf(placed, last)} into ${nameOf(placed, first)}.`,
  })
}

/** Everything so far, once, with the music. */
export function checkpoint(learned: readonly (readonly Material[])[], { settings }: Teaching, add: Add) {
  const all = learned.flat().sort((a, b) => a.stretch.from - b.stretch.from)
  add({
    made: madeAs('check', placeOf(all), placeOf(all.slice(-1))),
    kind: 'checkpoint',
    stretch: spanned(all),
    sound: 'music',
    repetitions: 1,
    talk: WORD,
    why: settings.backward ? 'Everything so far, to the end.' : 'Everything so far, from the top.',
  })
}
