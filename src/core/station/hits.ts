import {
  type Cue,
  type DancedCue,
  danced,
  type Edit,
  type Layer,
  type NewId,
  phraseAt,
  putCue,
} from '../routine'
import { holds, type Stretch, subCount, type Ticks, usualLength } from '../time'
import type { SheetLine } from './lines'

/*
 * Writing down what is seen or heard as a machine: a press on each hit while it plays, laid in one step however it is
 * left; the places are named afterwards.
 */

/** What a cue says whose move is not named yet. */
export const UNNAMED_MOVE = '?'

export interface HitsState {
  /** Where was pressed, in the order of the presses; each place once. */
  places: readonly Ticks[]
  /** Laid, or left: nothing more is taken. */
  over: boolean
}

export const HITS_AT_FIRST: HitsState = { places: [], over: false }

/** What is looked at while an event comes in. */
export interface HitsSeen {
  lines: readonly SheetLine[]
  /** What plays again and again; null where nothing does. */
  loop: Stretch | null
  layer: Layer
  newId: NewId
}

export type HitsEvent =
  /** @param at a real-valued tick; null where nothing plays */
  | { kind: 'press'; at: number | null }
  /** A key that taps, one that takes back, or Escape. @param repeat it is held down */
  | { kind: 'key'; key: 'tap' | 'back' | 'Escape'; repeat: boolean; at: number | null }
  /** Takes the last press back. */
  | { kind: 'back' }
  /** All places half a count (in threes a third) earlier or later: a hand that leads or lags. */
  | { kind: 'shift'; by: 1 | -1 }
  /** Lays what was pressed and ends; also when the page is left. @param name goes on to naming it */
  | { kind: 'leave'; name: boolean }

export type HitsEffect =
  | { kind: 'stop' }
  | { kind: 'edit'; did: string; change: Edit }
  /** @param from where naming begins; null where nothing is to be named */
  | { kind: 'close'; from: Ticks | null }

interface HitsStepped {
  state: HitsState
  effects: readonly HitsEffect[]
}

/** The line that holds a tick; null outside of the page. */
const lineHolding = (lines: readonly SheetLine[], tick: Ticks): SheetLine | null =>
  lines.find((l) => tick >= l.start && tick < l.end) ?? null

/** The place between counts that is meant; null outside of the counts. Shortly before a loop turns, its beginning is meant. */
export function placeMeant(at: number, { lines, loop }: Pick<HitsSeen, 'lines' | 'loop'>): Ticks | null {
  const line = phraseAt(lines, Math.floor(at))
  if (!line) return null
  const unit = subCount(line.phrase.feel)
  const near = line.start + Math.round((at - line.start) / unit) * unit
  const place = loop && holds(loop, Math.floor(at)) && near >= loop.to ? loop.from : near
  return lineHolding(lines, place) ? place : null
}

/** A cue without a name on each place where none begins in this layer. */
const laid =
  (places: readonly Ticks[], { lines, layer, newId }: HitsSeen): Edit =>
  (r) => {
    const taken = new Set(beginning(danced(r), layer))
    const free = [...places].sort((a, b) => a - b).filter((at) => !taken.has(at))
    const stops = [...free, ...taken]
    return free.reduce((next, at) => putCue(next, unnamedCue(at, stops, lines, layer, newId())), r)
  }

const beginning = (cues: readonly DancedCue[], layer: Layer) =>
  cues.filter((c) => c.layer === layer).map((c) => c.at)

function unnamedCue(
  at: Ticks,
  stops: readonly Ticks[],
  lines: readonly SheetLine[],
  layer: Layer,
  id: string,
): Cue {
  const line = lineHolding(lines, at)
  const usual = usualLength(at - (line?.start ?? 0), line?.phrase.feel ?? 'straight')
  // No longer than to the next one, nor over the end of its line.
  const next = Math.min(line?.end ?? at + usual, ...stops.filter((s) => s > at))
  const length = Math.min(usual, next - at)
  return { id, at, length, layer, move: UNNAMED_MOVE, side: 'none', call: '' }
}

/** Cues that wait for a name, in order of place. */
export const unnamedCues = (cues: readonly Cue[]): Cue[] =>
  cues.filter((c) => c.move === UNNAMED_MOVE).sort((a, b) => a.at - b.at)

function shifted(state: HitsState, by: 1 | -1, { lines }: HitsSeen): HitsState {
  const moved = state.places.map((at) => {
    const line = lineHolding(lines, by > 0 ? at : at - 1)
    return line ? at + by * subCount(line.phrase.feel) : at
  })
  // At the ends of the page nothing is left to go to.
  const allThere = moved.every((at, i) => at !== state.places[i] && lineHolding(lines, at))
  return allThere ? { ...state, places: moved } : state
}

/** The next state, and what is to be done. */
export function stepHits(state: HitsState, event: HitsEvent, seen: HitsSeen): HitsStepped {
  const stays: HitsStepped = { state, effects: [] }
  if (state.over) return stays
  switch (event.kind) {
    case 'press': {
      const place = event.at === null ? null : placeMeant(event.at, seen)
      if (place === null || state.places.includes(place)) return stays
      return { state: { ...state, places: [...state.places, place] }, effects: [] }
    }
    case 'key':
      if (event.key === 'Escape') return stepHits(state, { kind: 'leave', name: true }, seen)
      if (event.key === 'back') return stepHits(state, { kind: 'back' }, seen)
      return event.repeat ? stays : stepHits(state, { kind: 'press', at: event.at }, seen)
    case 'back':
      return { state: { ...state, places: state.places.slice(0, -1) }, effects: [] }
    case 'shift':
      return { state: shifted(state, event.by, seen), effects: [] }
    case 'leave': {
      const { places } = state
      const n = places.length
      const did = `press ${n === 1 ? 'one hit' : `${n} hits`}`
      return {
        state: { ...state, over: true },
        effects: [
          { kind: 'stop' },
          ...(n ? [{ kind: 'edit' as const, did, change: laid(places, seen) }] : []),
          { kind: 'close', from: event.name && n ? Math.min(...places) : null },
        ],
      }
    }
  }
}
