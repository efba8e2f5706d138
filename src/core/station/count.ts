import { type DrillTimeline, drillTimeline } from '../drill'
import { busiestBeat, type Doubt, doubtAt, type Hearing, songDoubt } from '../hear'
import {
  barChoices,
  type Choice,
  commit,
  confirmCounting,
  type Edit,
  oneChoices,
  type PlacedPhrase,
  phraseAt,
  placeName,
  placePhrases,
  type Routine,
  repairedBeats,
  tempoChoices,
} from '../routine'
import { type Seconds, TICKS_PER_COUNT, type Ticks } from '../time'
import { type BeatEdit, type BeatWork, beatEdit, pinned } from './count-beat'
import { leavingNext, type PageWork, pageEdit } from './count-page'
import type { CountSeen } from './count-seen'
import { type Cursor, markFrom, moveTo } from './cursor'

/*
 * The Count station as a machine: (state, event, what is seen) -> (state, effects), pure.
 */

/** What the panel can be opened for beside the repairs. */
export type Aside = 'words' | 'files'

export interface CountState {
  cursor: Cursor
  /** The beat is being tapped. */
  tapping: boolean
  aside: Aside | null
  /** Why the last move changed nothing. */
  said: string
  /** What follows a phrase that was just made longer or shorter came off its music by so many counts; null for nothing. Only as long as the phrase
   * has the length it was given. */
  moved: { phrase: number; length: number; by: number } | null
  /** Which of the other likely ways is heard next. */
  nextWay: number
  /** The id of the part or mark that was just made and waits for its name. */
  naming: string | null
}

/** What can be done at the cursor, by a key or a button. */
export type CountWork =
  | PageWork
  | BeatWork
  | 'tap'
  | 'words'
  | 'files'
  | 'doubt'
  | 'mark'
  /** Two eights are heard, as counted or as another way would have it. */
  | 'asCounted'
  | 'otherWay'

export type CountEvent =
  | { kind: 'do'; what: CountWork }
  | { kind: 'hear way'; choice: Choice }
  | { kind: 'take way'; choice: Choice }
  /** The song is counted right as it is. */
  | { kind: 'confirm' }
  /** What came off its music by a phrase made longer or shorter goes back. */
  | { kind: 'leave next' }
  /** The count at the cursor is dragged so far from its time. */
  | { kind: 'drag'; by: Seconds }
  | { kind: 'press'; at: Ticks; shift: boolean }
  | { kind: 'pull'; at: Ticks; first: boolean }
  /** What is open beside the repairs is closed; else what is marked is no longer. */
  | { kind: 'escape' }
  /** What was just made has the keys, to be named. */
  | { kind: 'named' }
  | { kind: 'close'; what: 'aside' | 'tapping' }
  | { kind: 'go to'; tick: Ticks }

export type CountEffect =
  /** @param after what the station is told if the edit was taken */
  | { kind: 'edit'; did: string; change: Edit; after: (CountEvent & { kind: 'go to' }) | null }
  | { kind: 'play from'; tick: Ticks }
  | { kind: 'play once'; timeline: DrillTimeline }
  /** Where nothing else tells of it, a screen reader does. */
  | { kind: 'say'; words: string }

export interface CountStepped {
  state: CountState
  effects: readonly CountEffect[]
}

export const COUNT_AT_FIRST: Omit<CountState, 'cursor' | 'tapping'> = {
  aside: null,
  said: '',
  moved: null,
  nextWay: 0,
  naming: null,
}

/** Counts that are played to hear a way: two eights. */
const HEARD = 16

/** The beginning of the count a tick lies in. */
export const countStart = (tick: Ticks): Ticks => Math.floor(tick / TICKS_PER_COUNT) * TICKS_PER_COUNT

/** What else was likely, as moves; none once the person has begun to repair. */
export function otherWays(
  h: Hearing | null,
  routine: Pick<Routine, 'phrases' | 'sections' | 'usual' | 'repairs'>,
): Choice[] {
  if (!h || routine.repairs.length) return []
  const first = placePhrases(routine).find((p) => !p.phrase.pickUp)
  const asHeard = first?.start === (h.phrases[0] ?? 0) * TICKS_PER_COUNT
  return [
    ...tempoChoices(h.beats, h.tempi, h.bar),
    ...(asHeard ? [...barChoices(h.beats, h.bars), ...oneChoices(h.ones, 2 * h.bar)] : []),
  ].sort((a, b) => b.weight - a.weight)
}

/** What the song asks: which of two ways to count it is right. */
export interface Question {
  doubt: Doubt
  other: Choice
}

/** What the song asks, once: nothing once a way was taken, or the one that was heard was said to be right. */
export function question(
  h: Hearing | null,
  routine: Pick<Routine, 'phrases' | 'sections' | 'usual' | 'repairs' | 'confirmed'>,
): Question | null {
  const doubt = h && routine.confirmed !== h.version ? songDoubt(h) : null
  if (!h || !doubt) return null
  // In doubt of the beat it is another beat that is asked for, else other bars or another 1.
  const beats = new Set(tempoChoices(h.beats, h.tempi, h.bar).map((c) => c.name))
  const other = otherWays(h, routine).find((c) => beats.has(c.name) === (doubt.of === 'beat'))
  return other ? { doubt, other } : null
}

/** Two eights of the busiest part, counted as a routine counts; null where nothing was heard. */
export function twoEights(
  h: Hearing | null,
  counted: Pick<Routine, 'phrases' | 'sections' | 'usual' | 'repairs'>,
): DrillTimeline | null {
  if (!h?.beats.length) return null
  const times = repairedBeats(h.beats, counted.repairs)
  const placed = placePhrases(counted)
  const from = h.beats[busiestBeat(h, HEARD)] ?? 0
  const phrase = placed.find(
    (p) => !p.phrase.pickUp && (times[p.start / TICKS_PER_COUNT] ?? 0) >= from - 0.05,
  )
  const start = (phrase ?? placed.findLast((p) => !p.phrase.pickUp) ?? placed[0])?.start ?? 0
  const end = Math.min(start + HEARD * TICKS_PER_COUNT, placed.at(-1)?.end ?? 0)
  return drillTimeline({ times, placed, from: start, to: end, cues: [] }, 1, 0)
}

/** The first doubtful phrase after a place, from the top again after the last. */
export function nextDoubt(
  { placed, renumbered, hearing }: Pick<CountSeen, 'placed' | 'renumbered' | 'hearing'>,
  tick: Ticks,
): PlacedPhrase | null {
  if (renumbered || !hearing) return null
  const doubtful = placed.filter((p) => doubtAt(hearing, p.start / TICKS_PER_COUNT) !== null)
  return doubtful.find((p) => p.start > tick) ?? doubtful[0] ?? null
}

/**
 * Where the page of a song begins that nobody worked on yet: with the first phrase of the usual length in which a beat is
 * heard. What is before it, a pick-up or a free beginning, is seen above.
 */
export function firstPlace({
  placed,
  hearing,
  routine,
}: Pick<CountSeen, 'placed' | 'hearing' | 'routine'>): Ticks {
  const whole = placed.filter((p) => p.phrase.length >= routine.usual)
  const heard = (p: PlacedPhrase) => !hearing || doubtAt(hearing, p.start / TICKS_PER_COUNT)?.of !== 'beat'
  return (whole.find(heard) ?? whole[0] ?? placed[0])?.start ?? 0
}

const just = (state: CountState, ...effects: CountEffect[]): CountStepped => ({ state, effects })

const heard = (state: CountState, timeline: DrillTimeline | null): CountStepped =>
  timeline ? just(state, { kind: 'play once', timeline }) : just(state)

function mended(state: CountState, edit: BeatEdit | null): CountStepped {
  if (!edit) return just(state)
  if ('said' in edit) return just({ ...state, said: edit.said })
  const { did, change, to } = edit
  const after = to === null ? null : ({ kind: 'go to', tick: to } as const)
  return just({ ...state, said: '' }, { kind: 'edit', did, change, after })
}

const BEAT_WORK: ReadonlySet<CountWork> = new Set<BeatWork>([
  ...(['double', 'halve', 'half', 'meet', 'follow', 'steady', 'earlier10', 'later10'] as const),
  ...(['fromEarlier', 'fromLater', 'pin', 'heard', 'heardHere'] as const),
])
const isBeatWork = (what: CountWork): what is BeatWork => BEAT_WORK.has(what)

function done(state: CountState, what: CountWork, seen: CountSeen): CountStepped {
  const { cursor } = state
  if (isBeatWork(what)) return mended(state, beatEdit(what, cursor.tick, seen))
  switch (what) {
    case 'tap':
      return just({ ...state, tapping: true })
    case 'words':
    case 'files':
      return just({ ...state, aside: what })
    case 'doubt': {
      const next = nextDoubt(seen, cursor.tick)
      return next
        ? just(
            { ...state, cursor: moveTo(cursor, next.start) },
            { kind: 'say', words: `Doubtful: ${placeName(next)}.` },
          )
        : just(state, { kind: 'say', words: 'No phrase is doubtful.' })
    }
    case 'mark': {
      const anchor = cursor.anchor ? null : { tick: cursor.tick, layer: cursor.layer }
      return just({ ...state, cursor: markFrom(cursor, anchor) })
    }
    case 'asCounted':
      return heard(state, twoEights(seen.hearing, seen.routine))
    case 'otherWay': {
      // One after the other, from press to press.
      const choices = otherWays(seen.hearing, seen.routine)
      const choice = choices[state.nextWay % Math.max(1, choices.length)]
      const next = { ...state, nextWay: state.nextWay + 1 }
      return choice ? heard(next, asChosen(choice, seen)) : just(next)
    }
    default: {
      const { did, change, names } = pageEdit(what, cursor.tick, seen)
      const next: CountState = {
        ...state,
        aside: what === 'sound' ? 'words' : state.aside,
        moved: movedBy(state, what, seen),
        // While it plays the next one may come at once: names are given later.
        naming: (!seen.playing && names) || null,
      }
      return just(next, { kind: 'edit', did, change, after: null })
    }
  }
}

/** True while what was moved is as it was left. */
export const isMoved = ({ moved }: Pick<CountState, 'moved'>, placed: readonly PlacedPhrase[]): boolean =>
  moved !== null && placed[moved.phrase]?.phrase.length === moved.length

/** What came off its music by a command, with what came off it just before at the same phrase. */
function movedBy({ moved, cursor }: CountState, what: CountWork, { placed }: CountSeen): CountState['moved'] {
  const here = phraseAt(placed, cursor.tick)
  if (!here || (what !== 'fewer' && what !== 'more')) return null
  if (!placed[here.index + 1] || (what === 'fewer' && here.phrase.length <= 1)) return moved
  const { length } = here.phrase
  const goesOn = moved?.phrase === here.index && moved.length === length
  const step = what === 'more' ? 1 : -1
  const by = (goesOn ? moved.by : 0) + step
  return by ? { phrase: here.index, length: length + step, by } : null
}

/** Two eights as a way that was likely too would count them. */
function asChosen(choice: Choice, { routine, hearing, newId }: CountSeen): DrillTimeline | null {
  const done = commit(routine, (r) => choice.change(r, newId))
  return done.done ? twoEights(hearing, done.routine) : null
}

/** Whether the grid would stand it that the count at a place is held so far from its time. */
export const standsDrag = (seen: CountSeen, tick: Ticks, by: Seconds): boolean => {
  const edit = pinned(seen, tick, by)
  return edit !== null && 'change' in edit
}

/** The next state, and what is to be done. */
export function stepCount(state: CountState, event: CountEvent, seen: CountSeen): CountStepped {
  const { cursor } = state
  switch (event.kind) {
    case 'do':
      return done(state, event.what, seen)
    case 'hear way':
      return heard(state, asChosen(event.choice, seen))
    case 'take way': {
      const { name, change } = event.choice
      const take: Edit = (r) => change(r, seen.newId)
      return just(state, { kind: 'edit', did: name.toLowerCase(), change: take, after: null })
    }
    case 'confirm':
      return just(state, {
        kind: 'edit',
        did: 'counted right',
        change: (r) => confirmCounting(r, seen.hearing?.version ?? 0),
        after: null,
      })
    case 'leave next':
      return isMoved(state, seen.placed) && state.moved
        ? just({ ...state, moved: null }, { kind: 'edit', ...leavingNext(state.moved), after: null })
        : just(state)
    case 'drag':
      return mended(state, pinned(seen, cursor.tick, event.by))
    case 'press': {
      const at = countStart(event.at)
      const { anchor, tick, marked } = cursor
      const marking = event.shift
        ? markFrom(cursor, anchor ?? { tick, layer: 'feet', pulled: true })
        : anchor?.pulled || marked
          ? markFrom(cursor, null)
          : cursor
      const next = { ...state, cursor: moveTo(marking, at) }
      return seen.playing ? just(next, { kind: 'play from', tick: at }) : just(next)
    }
    case 'pull': {
      const begun = event.first
        ? markFrom(cursor, { tick: cursor.tick, layer: 'feet', pulled: true })
        : cursor
      return just({ ...state, cursor: moveTo(begun, countStart(event.at)) })
    }
    case 'escape':
      return just(state.aside ? { ...state, aside: null } : { ...state, cursor: markFrom(cursor, null) })
    case 'named':
      return just({ ...state, naming: null })
    case 'close':
      return just(event.what === 'aside' ? { ...state, aside: null } : { ...state, tapping: false })
    case 'go to':
      return just({ ...state, cursor: moveTo(cursor, event.tick) })
  }
}
