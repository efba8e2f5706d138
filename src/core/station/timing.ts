import {
  deviceDelay,
  LEAST_CALIBRATION,
  LEAST_CLAP,
  type MatchedTap,
  matchTaps,
  timingOf,
  worstCues,
} from '../drill'
import type { Seconds } from '../time'

/*
 * The timing trainer as a machine: what is tapped or clapped beside the cues, and the delay of the device.
 */

/** How the timing trainer is told of a move. */
export type Way = 'tap' | 'clap'

export interface Delay {
  /** How late a tap or a clap reaches Azalea, in milliseconds. */
  ms: number
  /** Claps quieter than this are the loudspeaker's own sound. */
  least: number
}

/** Calibration: 16 clicks, 100 a minute; the grid goes on a little, for what comes late. */
export const CLICKS: readonly Seconds[] = Array.from({ length: 24 }, (_, k) => k * 0.6)
export const CLICKED = 16
/** Quieter than the loudest of its own clicks by so much, nothing is taken for a clap. */
const LOUDER = 1.6
/** A loudspeaker is as late each time: clicks that come in less evenly than this, in ms, are other sounds. */
const OWN_SPREAD = 20
/** Fewer taps than this are no result worth keeping. */
const LEAST_KEPT = 4
/** Repetitions that are shown. */
const SHOWN = 10

/** What was measured, as it is kept. */
export interface Measured {
  by: Way
  n: number
  mean: number
  spread: number
  worst: string
  worstMs: number
}

export interface TimingState {
  mode: 'still' | 'opening' | 'tapping' | 'calibrating'
  way: Way
  delay: Delay
  /** What was matched, repetition by repetition, the last ones. */
  rounds: readonly (readonly MatchedTap[])[]
  said: string
  /** Claps that were heard. */
  claps: number
  /** A dancer that taps by a set error and spread, for trying this out. */
  dancer: { on: boolean; error: number; spread: number }
  /** Taps of this repetition, from its beginning, without the delay. */
  round: readonly Seconds[]
  /** Everything matched since it began, whether a person did it, and how. */
  session: { matched: readonly MatchedTap[]; person: boolean; by: Way }
  calibration: { taps: readonly Seconds[]; level: number; own: boolean } | null
  /** Counts what was begun and stopped: a microphone that opens after that is let go. */
  asked: number
}

export const timingAtFirst = (way: Way, delay: Delay): TimingState => ({
  mode: 'still',
  way,
  delay,
  rounds: [],
  said: '',
  claps: 0,
  dancer: { on: false, error: 60, spread: 25 },
  round: [],
  session: { matched: [], person: true, by: 'tap' },
  calibration: null,
  asked: 0,
})

/** What is looked at while an event comes in. */
export interface TimingSeen {
  /** When each cue falls, from the beginning of a repetition, at its speed; and what its count is called. */
  times: readonly Seconds[]
  labels: readonly string[]
}

export type TimingEvent =
  | { kind: 'choose'; way: Way; delay: Delay }
  | { kind: 'dancer'; what: Partial<TimingState['dancer']> }
  /** @param delay of the way that is chosen, as it is kept */
  | { kind: 'begin'; delay: Delay }
  /** @param own the loudspeaker's clicks are what the microphone is to hear */
  | { kind: 'calibrate'; own: boolean }
  | { kind: 'microphone'; asked: number; why: string | null }
  /** @param into seconds since the repetition began; null outside of one */
  | { kind: 'tap'; into: Seconds | null }
  | { kind: 'clap'; into: Seconds | null; level: number }
  /** The simulated dancer's, with nothing to take away. */
  | { kind: 'simulated'; into: Seconds }
  | { kind: 'repetition ended' }
  | { kind: 'clicks ended' }
  /** @param why told, where something stopped it */
  | { kind: 'stop'; why: string }

export type TimingEffect =
  | { kind: 'open microphone'; asked: number; least: number }
  | { kind: 'close microphone' }
  | { kind: 'play cues' }
  | { kind: 'play clicks' }
  | { kind: 'stop sound' }
  | { kind: 'keep delay'; way: Way; delay: Delay }
  | { kind: 'log'; result: Measured }

export interface TimingStepped {
  state: TimingState
  effects: readonly TimingEffect[]
}

const just = (state: TimingState, ...effects: TimingEffect[]): TimingStepped => ({ state, effects })

/** The taps of a repetition, matched with its cues. */
function matchedRound(state: TimingState, { times }: TimingSeen): TimingState {
  const apart = Math.min(0.25, (times[1] ?? 1) - (times[0] ?? 0) || 0.25)
  const { matched } = matchTaps(times, state.round, Math.max(0.12, apart * 0.6))
  if (!matched.length) return { ...state, round: [] }
  return {
    ...state,
    round: [],
    rounds: [...state.rounds.slice(1 - SHOWN), matched],
    session: { ...state.session, matched: [...state.session.matched, ...matched] },
  }
}

const tenth = (x: number) => Math.round(x * 10) / 10

/** What a session comes to; null where it is too little to be kept, or a simulated dancer's. */
export function measuredIn(
  { matched, person, by }: TimingState['session'],
  labels: readonly string[],
): Measured | null {
  if (matched.length < LEAST_KEPT || !person) return null
  const { n, mean, spread } = timingOf(matched.map((m) => m.ms))
  const [worst] = worstCues(matched, labels)
  return {
    ...{ by, n, mean: tenth(mean), spread: tenth(spread) },
    ...{ worst: worst?.label ?? '', worstMs: tenth(worst?.ms ?? 0) },
  }
}

/** Everything ends, in whatever way: sound and microphone are let go, and what was measured is kept, once. */
function stopped(state: TimingState, why: string, seen: TimingSeen): TimingStepped {
  const done = matchedRound(state, seen)
  const result = measuredIn(done.session, seen.labels)
  const next: TimingState = {
    ...done,
    mode: 'still',
    calibration: null,
    asked: state.asked + 1,
    session: { ...done.session, matched: [] },
    said: why || done.said,
  }
  const log: TimingEffect[] = result ? [{ kind: 'log', result }] : []
  return just(next, { kind: 'close microphone' }, { kind: 'stop sound' }, ...log)
}

/** Begins, where claps are wanted with the microphone first. */
function begun(state: TimingState, least: number): TimingStepped {
  const asked = state.asked + 1
  if (state.way === 'clap')
    return just({ ...state, mode: 'opening', claps: 0, asked }, { kind: 'open microphone', asked, least })
  return playing({ ...state, asked })
}

const playing = (state: TimingState): TimingStepped =>
  state.calibration
    ? just({ ...state, mode: 'calibrating' }, { kind: 'play clicks' })
    : just({ ...state, mode: 'tapping' }, { kind: 'play cues' })

/** What the taps on the clicks say of the device; nothing is believed that did not come with the clicks. */
function calibrated(state: TimingState): TimingStepped {
  const { calibration, way } = state
  if (!calibration) return just(state)
  const { taps, level, own } = calibration
  const says = (said: string): TimingStepped => just({ ...state, said })
  const found = deviceDelay(CLICKS.slice(0, CLICKED), taps)
  if (!found)
    return says(
      own
        ? 'The microphone does not hear the clicks: turn them up, or wear headphones and clap along instead. The delay stays as it was.'
        : `At least ${LEAST_CALIBRATION} even ${way}s are needed. The delay stays as it was.`,
    )
  const spread = Math.round(found.spread)
  if (own && (found.ms < 0 || found.spread > OWN_SPREAD))
    return says(
      `What the microphone heard did not come with the clicks (± ${spread} ms): is something else sounding? The delay stays as it was.`,
    )
  const delay = { ms: Math.round(found.ms), least: own ? Math.max(LEAST_CLAP, LOUDER * level) : LEAST_CLAP }
  const who = way === 'tap' ? 'This device and your hand are' : 'Loudspeaker and microphone are'
  const said = `${who} ${delay.ms} ms late (± ${spread}). It is taken away from now on.`
  return just({ ...state, delay, said }, { kind: 'keep delay', way, delay })
}

/** A tap or a clap: of a calibration as it comes, of a repetition without the delay. */
function told(state: TimingState, into: Seconds | null, level: number): TimingState {
  if (into === null) return state
  const { calibration } = state
  if (state.mode === 'calibrating' && calibration) {
    const loudest = Math.max(calibration.level, level)
    return { ...state, calibration: { ...calibration, taps: [...calibration.taps, into], level: loudest } }
  }
  return state.mode === 'tapping'
    ? { ...state, round: [...state.round, into - state.delay.ms / 1000] }
    : state
}

/** The next state, and what is to be done. */
export function stepTiming(state: TimingState, event: TimingEvent, seen: TimingSeen): TimingStepped {
  switch (event.kind) {
    case 'choose':
      return just({ ...state, way: event.way, delay: event.delay, said: '' })
    case 'dancer': {
      const dancer = { ...state.dancer, ...event.what }
      // What a simulated dancer danced is nobody's, from when it is turned on.
      const person = state.session.person && !(dancer.on && state.mode === 'tapping')
      return just({ ...state, dancer, session: { ...state.session, person } })
    }
    case 'begin': {
      const session = { matched: [], person: !state.dancer.on, by: state.way }
      const { delay } = event
      return begun(
        { ...state, delay, rounds: [], said: '', round: [], session, calibration: null },
        delay.least,
      )
    }
    case 'calibrate': {
      const calibration = { taps: [], level: 0, own: event.own }
      return begun({ ...state, said: '', calibration }, event.own ? LEAST_CLAP / 4 : LEAST_CLAP)
    }
    case 'microphone': {
      // What was stopped while the browser asked for the microphone does not begin.
      if (event.asked !== state.asked || state.mode !== 'opening') return just(state)
      return event.why === null
        ? playing(state)
        : just({ ...state, mode: 'still', calibration: null, said: event.why })
    }
    case 'tap':
      return just(state.way === 'tap' ? told(state, event.into, 0) : state)
    case 'clap':
      return just(told({ ...state, claps: state.claps + 1 }, event.into, event.level))
    case 'simulated':
      return just(state.mode === 'tapping' ? { ...state, round: [...state.round, event.into] } : state)
    case 'repetition ended':
      return just(matchedRound(state, seen))
    case 'clicks ended': {
      const done = calibrated(state)
      const end = stopped(done.state, '', seen)
      return just(end.state, ...done.effects, ...end.effects)
    }
    case 'stop':
      return state.mode === 'still' ? just(state) : stopped(state, event.why, seen)
  }
}
