import {
  type DancedCue,
  danced,
  LAYERS,
  type Layer,
  type NewId,
  type PlacedPhrase,
  phraseAt,
  type Routine,
} from '../routine'
import { type Seconds, snapTick, subCount, type Ticks } from '../time'
import { cueOfFields, type Draft, type DraftEvent, isBeginningAnother, stepDraft } from './cue-draft'
import { type LineEvent, type LineState, stepLine } from './cue-line'
import { asked, type CueEffect, type CueWork, type Wanted } from './cue-work'
import { type Cursor, markFrom, moveTo, pressAt } from './cursor'
import type { SheetLine } from './lines'

/*
 * The Cue station as a machine: (state, event, what is seen) -> (state, effects), pure. What a key or a press means now is decided
 * here; the page feeds it events and carries its effects out.
 */

export type CueTab = 'cue' | 'eight' | 'checks' | 'moves' | 'room'

export interface CueState {
  cursor: Cursor
  /** What stands beside the sheet. */
  tab: CueTab
  /** Rises when the person asks to write: the move field takes the focus. */
  writing: number
  /** Where another cue is begun beside the one that stands there. */
  beside: { tick: Ticks; layer: Layer } | null
  /** Words are being replaced. */
  replacing: boolean
  /** Hits are pressed while it plays. */
  pressing: boolean
  /** Where unnamed cues are gone through from, to be named; null while they are not. */
  namingFrom: Ticks | null
  /** What is pulled now is pulled over all layers. */
  whole: boolean
  line: LineState
  /** The fields of the cue at the cursor, or of a new one. */
  draft: Draft
}

export const CUE_AT_FIRST: Omit<CueState, 'cursor' | 'line' | 'draft'> = {
  tab: 'cue',
  writing: 0,
  beside: null,
  replacing: false,
  pressing: false,
  namingFrom: null,
  whole: false,
}

/** What is looked at while an event comes in. */
export interface CueSeen {
  routine: Routine
  lines: readonly SheetLine[]
  placed: readonly PlacedPhrase[]
  /** When each count falls. */
  times: readonly Seconds[]
  /** Cues as the view shows them, in order of place. */
  shown: readonly DancedCue[]
  findings: readonly { at: Ticks; layer: Layer; says: string }[]
  /** Layers that every row shows. */
  layers: readonly Layer[]
  playing: boolean
  newId: NewId
}

export type CueEvent =
  /** To the next thing that stands at the place, else the next layer, else the next line. */
  | { kind: 'step'; by: 1 | -1 }
  | { kind: 'write'; another: boolean }
  | { kind: 'toggle mark' }
  | { kind: 'unmark' }
  | { kind: 'tab'; tab: CueTab }
  | { kind: 'replace'; open: boolean }
  /** Pressing on each hit begins. */
  | { kind: 'press hits' }
  /** It ends, or naming goes on. @param from where the next is looked for to be named; null to stop */
  | { kind: 'name hits'; from: Ticks | null }
  | { kind: 'next finding' }
  | { kind: 'go to finding'; at: Ticks; layer: Layer }
  /** The sheet is pressed; over the sound or the feet no layer is meant. */
  | { kind: 'press'; at: Ticks; layer: Layer | undefined; shift: boolean }
  | { kind: 'press cue'; cue: DancedCue; shift: boolean }
  /** The pointer is pulled over the sheet. */
  | { kind: 'pull'; at: Ticks; layer: Layer | undefined; first: boolean }
  /** What was written in the fields is a cue now. */
  | { kind: 'written'; id: string }
  | { kind: 'go to'; tick: Ticks; layer?: Layer }
  | ({ kind: 'work' } & CueWork)
  | ({ kind: 'line' } & LineEvent)
  | ({ kind: 'draft' } & DraftEvent)

export interface CueStepped {
  state: CueState
  effects: readonly CueEffect[]
}

/** The cues that start here in this layer, or the one that lasts over this place. */
export function cuesAt(cues: readonly DancedCue[], tick: Ticks, layer: Layer): DancedCue[] {
  const lane = cues.filter((c) => c.layer === layer)
  const starting = lane.filter((c) => snapTick(c.at) === tick || c.at === tick)
  if (starting.length) return starting
  const one =
    lane.find((c) => c.at > tick && c.at < tick + 12) ??
    lane.find((c) => c.at < tick && c.at + c.length > tick)
  return one ? [one] : []
}

/** What stands at the cursor, and which of it is meant; null where nothing is. */
export function cueHere(
  cues: readonly DancedCue[],
  { tick, layer, cue }: Pick<Cursor, 'tick' | 'layer' | 'cue'>,
): { stack: readonly DancedCue[]; here: DancedCue | null } {
  const stack = cuesAt(cues, tick, layer)
  return { stack, here: stack.find((c) => c.id === cue) ?? stack[0] ?? null }
}

const at = (state: CueState, cursor: Cursor, what: Partial<CueState> = {}): CueStepped => ({
  state: { ...state, ...what, cursor },
  effects: [],
})

/** Up and down through what stands at one place, its layers, and the lines. */
function stepped(state: CueState, by: 1 | -1, { shown, lines }: CueSeen): CueStepped {
  const { cursor } = state
  const { tick, layer } = cursor
  const { stack, here } = cueHere(shown, cursor)
  // What stands at one place is gone through before the next layer is.
  const beside = here && stack[stack.indexOf(here) + by]
  if (beside) return at(state, moveTo(cursor, tick, layer, beside.id))
  const wanted = LAYERS[LAYERS.indexOf(layer) + by]
  if (wanted) return at(state, moveTo(cursor, tick, wanted))
  const line = phraseAt(lines, tick)
  const next = line && lines[line.row + by]
  if (!line || !next) return at(state, cursor)
  const unit = subCount(line.phrase.feel)
  const there = Math.min(next.end - unit, next.start + (tick - line.start))
  return at(state, moveTo(cursor, there, by > 0 ? LAYERS[0] : LAYERS.at(-1)))
}

/** The edit or the copy that is wanted, of what is marked, else of the cue here, else of the phrase. */
function worked(state: CueState, work: CueWork, seen: CueSeen): CueStepped {
  const { cursor } = state
  const wanted: Wanted = {
    cursor,
    here: cueHere(seen.shown, cursor).here,
    all: danced(seen.routine),
    placed: seen.placed,
    newId: seen.newId,
  }
  return { state, effects: asked(wanted, work) }
}

/** What an event does to the line that is typed. */
function lined(state: CueState, event: LineEvent, seen: CueSeen): CueStepped {
  const { line, to, edit, closed, wrote } = stepLine(state.line, event, seen)
  const cursor = to ? moveTo(state.cursor, to.tick, to.layer) : state.cursor
  const effects: CueEffect[] = []
  if (edit) effects.push({ kind: 'edit', ...edit, after: { kind: 'line', ...edit.after } })
  if (wrote) effects.push({ kind: 'wrote a line' })
  if (closed) effects.push({ kind: 'focus sheet later' })
  return { state: { ...state, line, cursor }, effects }
}

/** What an event does to the fields of the cue. */
function drafted(state: CueState, event: DraftEvent, seen: CueSeen): CueStepped {
  const cue = cueOfFields(state, cueHere(seen.shown, state.cursor).here)
  const { draft, cursor, effects } = stepDraft(state.draft, event, state.cursor, cue, seen)
  // Another cue may be set beside the one that was: its place is not left by writing.
  return { state: { ...state, draft, cursor }, effects }
}

/** The next state, and what is to be done. */
export function stepCue(state: CueState, event: CueEvent, seen: CueSeen): CueStepped {
  const { cursor } = state
  const { tick, layer } = cursor
  switch (event.kind) {
    case 'step':
      return stepped(state, event.by, seen)
    case 'write':
      return at(state, markFrom(cursor, null), {
        beside: event.another ? { tick, layer } : null,
        tab: 'cue',
        writing: state.writing + 1,
      })
    case 'toggle mark':
      return cursor.anchor
        ? at(state, markFrom(cursor, null))
        : at(state, markFrom(cursor, { tick, layer }), { tab: 'cue' })
    case 'unmark':
      return at(state, markFrom(cursor, null))
    case 'tab':
      return at(state, cursor, { tab: event.tab })
    case 'replace':
      return at(state, cursor, { replacing: event.open })
    case 'press hits':
      return at(state, markFrom(cursor, null), { tab: 'cue', pressing: true, namingFrom: null })
    case 'name hits': {
      const done = { pressing: false, namingFrom: event.from }
      const back = event.from === null
      return { ...at(state, cursor, done), effects: back ? [{ kind: 'focus sheet later' }] : [] }
    }
    case 'next finding': {
      const next = seen.findings.find((f) => f.at > tick) ?? seen.findings[0]
      const come = at(state, next ? moveTo(cursor, next.at, next.layer) : cursor, { tab: 'checks' })
      return { ...come, effects: [{ kind: 'say', words: next?.says ?? 'Nothing asks for a look.' }] }
    }
    case 'go to finding':
      return at(state, moveTo(cursor, event.at, event.layer), { tab: 'checks' })
    case 'press cue':
      return pressed(state, event.cue.at, event.cue.layer, event.shift, event.cue.id)
    case 'press': {
      // Pulled over the sound or the footing, the counts are marked in all layers.
      const next = pressed({ ...state, whole: !event.layer }, event.at, event.layer, event.shift)
      const plays = seen.playing && !event.layer
      return plays ? { ...next, effects: [{ kind: 'play from', tick: event.at }] } : next
    }
    case 'pull': {
      const begun = event.first
        ? markFrom(cursor, { tick, layer: state.whole ? 'feet' : layer, pulled: true })
        : cursor
      const to = state.whole ? seen.layers.at(-1) : event.layer
      return at(state, moveTo(begun, event.at, to), event.first ? { tab: 'cue' } : {})
    }
    case 'written':
      return isBeginningAnother(state, cueHere(seen.shown, cursor).here)
        ? at(state, moveTo(cursor, tick, layer, event.id), { beside: null })
        : at(state, cursor, { beside: null })
    case 'go to':
      return at(state, moveTo(cursor, event.tick, event.layer))
    case 'work':
      return worked(state, event, seen)
    case 'line':
      return lined(state, event, seen)
    case 'draft':
      return drafted(state, event, seen)
  }
}

function pressed(
  state: CueState,
  tick: Ticks,
  layer: Layer | undefined,
  shift: boolean,
  cue?: string,
): CueStepped {
  return at(state, pressAt(state.cursor, tick, layer, shift, cue), shift && layer ? { tab: 'cue' } : {})
}
