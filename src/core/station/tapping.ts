import { carriedOn, fitTaps, shiftToSound, type TapFit } from '../grid'
import type { Hearing, Peaks } from '../hear'
import { type Choice, type Edit, type NewId, oneHere, type Repair, repair, tappedWay } from '../routine'
import type { Seconds } from '../time'

/*
 * Tapping the beat along the music as a machine: what the taps say is shown before it is taken.
 */

export interface TappingState {
  /** Taps in seconds of the song. */
  taps: readonly Seconds[]
  /** The song plays and taps count. */
  running: boolean
}

export const TAPPING_AT_FIRST: TappingState = { taps: [], running: true }

/** What is looked at while an event comes in. */
export interface TappingSeen {
  /** When each count falls, as repaired; none yet for a song whose counts are not known. */
  times: readonly Seconds[]
  duration: Seconds
  heard: { hearing: Hearing; peaks: Peaks } | null
  newId: NewId
}

export type TappingEvent =
  /** @param at null where the song does not play yet */
  | { kind: 'tap'; at: Seconds | null }
  /** A key: one that taps, T, or Escape. @param repeat it is held down */
  | { kind: 'key'; key: 'tap' | 't' | 'Escape'; repeat: boolean; at: Seconds | null }
  | { kind: 'again' }
  /** Takes what the taps say: the way that was heard and is meant, else their own beat. */
  | { kind: 'take' }
  | { kind: 'take taps' }
  | { kind: 'leave' }

export type TappingEffect =
  | { kind: 'play' }
  | { kind: 'stop' }
  | { kind: 'edit'; did: string; change: Edit }
  | { kind: 'close' }

/** What taps say: a beat of their own, and which of the ways that were heard is meant. */
export interface Tapped {
  fit: TapFit | null
  /** What was heard is exact to some thousandths, a hand to some hundredths: the taps only say which of it is meant. */
  way: Choice | 'as counted' | null
}

export function tapped({ taps }: TappingState, { times, heard }: TappingSeen): Tapped {
  return {
    fit: fitTaps([...taps]),
    way: heard ? tappedWay([...taps], times, heard.hearing) : null,
  }
}

/** The way that is meant where it is not the one that is counted. */
export const otherTapped = ({ way }: Tapped): Choice | null => (way === 'as counted' ? null : way)

/** The repair that taps ask for, on the grid there is. */
function repairOf(fit: TapFit, { times, duration }: TappingSeen, steadySong: boolean): Repair {
  const period = 60 / fit.bpm
  const [first, last] = [fit.beats[0] as Seconds, fit.beats.at(-1) as Seconds]
  if (times.length < 2 || (fit.steady && steadySong)) {
    const beats = fit.steady ? carriedOn(first, period, duration) : fit.beats
    return { kind: 'grid', from: 0, to: times.length, beats }
  }
  // Only the stretch that was tapped; what is nearer than half a beat to it gives way.
  const from = times.findIndex((t) => t > first - period / 2)
  const to = times.findLastIndex((t) => t < last + period / 2) + 1
  return { kind: 'grid', from: Math.max(0, from), to: Math.max(from, to), beats: fit.beats }
}

/** The edit that lays the counts where was tapped. */
function tapsTaken(fit: TapFit, seen: TappingSeen): Edit | null {
  const { heard, newId } = seen
  if (!heard) return null
  const { peaks, hearing } = heard
  // A hand leads or lags by some hundredths; the strokes of the song say by how much.
  const by = shiftToSound(peaks, fit.beats)
  const moved = { ...fit, beats: fit.beats.map((t) => t + by) }
  const blank = seen.times.length < 2
  return (r) => {
    const change = repairOf(moved, seen, hearing.steady)
    const next = repair(r, hearing.beats, change, newId)
    if (!blank || change.kind !== 'grid') return next
    // Without any counts before, the first tap is taken for a 1.
    const first = change.beats.findIndex((t) => Math.abs(t - (moved.beats[0] as Seconds)) < 0.01)
    return { ...next, routine: oneHere(next.routine, Math.max(0, first)) }
  }
}

interface TappingStepped {
  state: TappingState
  effects: readonly TappingEffect[]
}

const LEAVE: readonly TappingEffect[] = [{ kind: 'stop' }, { kind: 'close' }]
const AGAIN: TappingStepped = { state: TAPPING_AT_FIRST, effects: [{ kind: 'play' }] }

function taken(state: TappingState, own: boolean, seen: TappingSeen): TappingStepped {
  const said = tapped(state, seen)
  const other = own ? null : otherTapped(said)
  const still = { ...state, running: false }
  const edit = (did: string, change: Edit): TappingStepped => ({
    state: still,
    effects: [{ kind: 'stop' }, { kind: 'edit', did, change }, { kind: 'close' }],
  })
  if (other) return edit(other.name.toLowerCase(), (r) => other.change(r, seen.newId))
  const change = said.fit && tapsTaken(said.fit, seen)
  return change ? edit('take the tapped beat', change) : { state: still, effects: LEAVE }
}

/** The next state, and what is to be done. */
export function stepTapping(state: TappingState, event: TappingEvent, seen: TappingSeen): TappingStepped {
  switch (event.kind) {
    case 'tap': {
      const { at } = event
      const counts = state.running && at !== null
      return { state: counts ? { ...state, taps: [...state.taps, at] } : state, effects: [] }
    }
    case 'key': {
      if (event.key === 'Escape') return stepTapping(state, { kind: 'leave' }, seen)
      if (event.key === 'tap')
        return event.repeat ? { state, effects: [] } : stepTapping(state, { kind: 'tap', at: event.at }, seen)
      // What was tapped is taken; where it says nothing, it is tapped again.
      const said = tapped(state, seen)
      return said.fit || otherTapped(said) ? taken(state, false, seen) : AGAIN
    }
    case 'again':
      return AGAIN
    case 'take':
      return taken(state, false, seen)
    case 'take taps':
      return taken(state, true, seen)
    case 'leave':
      return { state: { ...state, running: false }, effects: LEAVE }
  }
}
