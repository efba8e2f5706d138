import type { LearnerMark } from '../handout'
import { LIMITS } from '../routine'
import { type Ratio, type Stretch, TICKS_PER_COUNT, type Ticks, type Times, timeOfTick } from '../time'

/*
 * A practice page as a machine: what of the dance is chosen, how it is practised, and what a learner says of it.
 */

/** What the learner's device keeps, as much as is decided here. */
export interface PracticeKept {
  marks: readonly LearnerMark[]
  speed: Ratio
  /** Seen as in a mirror; null as the page was made. */
  mirrored: boolean | null
}

export interface PracticeState<K extends PracticeKept> {
  kept: K
  /** What is played. */
  chosen: Stretch
  /** Where choosing from count to count began. */
  anchor: Ticks | null
  /** What was taken out last, and may be brought back. */
  removed: LearnerMark | null
  said: string
}

/** What is looked at while an event comes in. */
export interface PracticeSeen {
  /** The stretch the page is of, and when its counts fall. */
  stretch: Stretch
  times: Times
  /** The page was made to be seen as in a mirror. */
  mirrored: boolean
  /** What a stretch is called. */
  name: (stretch: Stretch) => string
}

export type PracticeEvent<K extends PracticeKept> =
  | { kind: 'row'; stretch: Stretch; further: boolean }
  /** One end of what is chosen, then the other. */
  | { kind: 'count'; tick: Ticks }
  | { kind: 'choose'; stretch: Stretch }
  | { kind: 'all' }
  /** What is chosen sits, or does not yet; said again, nothing is said of it. @param at now (RFC 3339) */
  | { kind: 'mark'; sits: boolean; at: string }
  | { kind: 'take out'; mark: LearnerMark }
  | { kind: 'bring back' }
  | { kind: 'change'; what: Partial<K> }
  | { kind: 'faster'; by: number }
  | { kind: 'turn' }
  | { kind: 'say'; words: string }

/** What is practised first has so many counts at least. */
const LEAST = 4 * TICKS_PER_COUNT
const SPEEDS = { least: 0.4, most: 1.1 }

/** What is chosen at first: the first row, with the next where that is a pick-up alone. */
export function firstChosen(stretch: Stretch, rows: readonly { from: Ticks; length: Ticks }[]): Stretch {
  const end = rows.find((r) => r.from + r.length >= stretch.from + LEAST)
  return { from: stretch.from, to: end ? end.from + end.length : stretch.to }
}

/** What was kept without what was said of some counts. */
export const withoutMark = (
  marks: readonly LearnerMark[],
  { from, to }: Pick<LearnerMark, 'from' | 'to'>,
): LearnerMark[] => marks.filter((m) => m.from !== from || m.to !== to)

/** What was kept with a mark more; one of the same counts gives way to it, and where there are too many, the oldest. */
export const withMark = (marks: readonly LearnerMark[], mark: LearnerMark): LearnerMark[] =>
  [...withoutMark(marks, mark), mark].slice(-LIMITS.learnerMarks)

/** What is chosen, in seconds of the song. */
export const secondsOfChosen = (chosen: Stretch, times: Times) => ({
  from: timeOfTick(times, chosen.from),
  to: timeOfTick(times, chosen.to),
})

/** What the learner said of what is chosen. */
export function markOfChosen(
  { kept, chosen }: Pick<PracticeState<PracticeKept>, 'kept' | 'chosen'>,
  times: Times,
): LearnerMark | undefined {
  const { from, to } = secondsOfChosen(chosen, times)
  return kept.marks.find((m) => m.from === from && m.to === to)
}

function marked<K extends PracticeKept>(
  state: PracticeState<K>,
  { sits, at }: { sits: boolean; at: string },
  { times, name }: PracticeSeen,
): PracticeState<K> {
  const seconds = secondsOfChosen(state.chosen, times)
  const same = markOfChosen(state, times)?.sits === sits
  const { marks } = state.kept
  const next = same ? withoutMark(marks, seconds) : withMark(marks, { ...seconds, sits, at })
  const called = name(state.chosen)
  const said = same ? `Nothing is said of ${called} any more.` : `${called}: ${sits ? 'it sits' : 'not yet'}.`
  return { ...state, kept: { ...state.kept, marks: next }, removed: null, said }
}

/** One end of what is chosen, then the other. */
function counted<K extends PracticeKept>(
  state: PracticeState<K>,
  tick: Ticks,
  { stretch }: PracticeSeen,
): PracticeState<K> {
  const from = Math.min(state.anchor ?? tick, tick)
  const last = Math.max(state.anchor ?? tick, tick)
  const chosen = {
    from: Math.max(stretch.from, from),
    to: Math.min(stretch.to, last + TICKS_PER_COUNT),
  }
  return { ...state, chosen, anchor: state.anchor === null ? tick : null }
}

/** The next state. */
export function stepPractice<K extends PracticeKept>(
  state: PracticeState<K>,
  event: PracticeEvent<K>,
  seen: PracticeSeen,
): PracticeState<K> {
  const { kept, chosen } = state
  const keeping = (what: Partial<PracticeKept>): PracticeState<K> => ({
    ...state,
    kept: { ...kept, ...what },
  })
  switch (event.kind) {
    case 'row': {
      const { from, to } = event.stretch
      const next = event.further
        ? { from: Math.min(chosen.from, from), to: Math.max(chosen.to, to) }
        : { from, to }
      return { ...state, chosen: next, anchor: null }
    }
    case 'count':
      return counted(state, event.tick, seen)
    case 'choose':
      return { ...state, chosen: event.stretch, anchor: null }
    case 'all':
      return { ...state, chosen: seen.stretch, anchor: null }
    case 'mark':
      return marked(state, event, seen)
    case 'take out':
      return { ...keeping({ marks: withoutMark(kept.marks, event.mark) }), removed: event.mark }
    case 'bring back': {
      const { removed } = state
      return removed ? { ...keeping({ marks: withMark(kept.marks, removed) }), removed: null } : state
    }
    case 'change':
      return { ...state, kept: { ...kept, ...event.what } }
    case 'faster': {
      const speed = Math.round(kept.speed * 100 + event.by) / 100
      return keeping({ speed: Math.max(SPEEDS.least, Math.min(SPEEDS.most, speed)) })
    }
    case 'turn':
      return keeping({ mirrored: !(kept.mirrored ?? seen.mirrored) })
    case 'say':
      return { ...state, said: event.words }
  }
}
