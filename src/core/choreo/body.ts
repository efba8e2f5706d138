import type { Cue, Level, Position } from '../routine'
import type { Ticks } from '../time'
import { type Foot, factsOf, type SubStep, stepOf } from './effects'
import type { MoveBook } from './moves'

/** Where the weight is; unknown until something says. */
export type Weight = Foot | 'both' | 'unknown'

/** What is known of the dancer between two steps. Facing in eighths clockwise from the front, seen from above. */
export interface BodyState {
  weight: Weight
  facing: number | 'unknown'
  level: Level | 'unknown'
}

/** The state from one place on. */
export interface BodyStep extends BodyState {
  at: Ticks
  cue: Cue
  /** The foot that just moved, and whether it took the weight. */
  foot: Foot | null
  taken: boolean
}

/** Something that cannot be danced as it is written. */
export interface BodyConflict {
  kind: 'weight' | 'facing'
  at: Ticks
  cue: Cue
  /** What brought the state about. */
  before: Cue | null
  foot: Foot | null
  computed: number
}

interface Moment {
  /** Null for a position that was written down. */
  cue: Cue | null
  position?: Position
  order: number
  sub: SubStep | null
  at: Ticks
  /** True for the first moment of its cue, when it turns and changes level. */
  first: boolean
}

/** A turn from a facing: a right turn adds. */
export function turned(facing: number, to: 'left' | 'right', eighths: number): number {
  return (((facing + (to === 'right' ? eighths : -eighths)) % 8) + 8) % 8
}

/** Facing the front, weight on both feet or unsaid, upright: how a dance begins where nothing else is said. */
export const START: BodyState = { weight: 'unknown', facing: 0, level: 'unknown' }

/**
 * Follows weight, facing and level through cues in order of place. What is unknown stays so until something says;
 * nothing unknown makes a conflict.
 * @param positions written at places: they hold there whatever the cues say
 * @param until what begins there or later is not followed
 */
export function followBody(
  cues: readonly Cue[],
  book: MoveBook,
  from: BodyState = START,
  positions: readonly Position[] = [],
  until: Ticks = Number.POSITIVE_INFINITY,
): { steps: BodyStep[]; conflicts: BodyConflict[]; end: BodyState } {
  const steps: BodyStep[] = []
  const conflicts: BodyConflict[] = []
  let { weight, facing, level } = from
  let brought: Cue | null = null
  let kicked = false
  // Compound moves reach into the cues after them: all small steps are taken in order of time.
  const moments: Moment[] = []
  cues.forEach((cue, order) => {
    const { footed, subs, turn } = factsOf(cue, book)
    if (!footed && turn === null && cue.facing === undefined && !cue.level) return
    if (!subs.length) moments.push({ cue, order, sub: null, at: cue.at, first: true })
    for (let i = 0; i < subs.length; i++) {
      const sub = subs[i] as SubStep
      moments.push({ cue, order, sub, at: cue.at + sub.at, first: i === 0 })
    }
  })
  for (const position of positions)
    moments.push({ cue: null, position, order: -1, sub: null, at: position.at, first: false })
  moments.sort((a, b) => a.at - b.at || a.order - b.order)
  for (const { cue, position, sub, at, first } of moments) {
    if (at >= until) break
    if (position) {
      weight = position.weight ?? weight
      facing = position.facing ?? facing
      level = position.level ?? level
      if (position.weight) brought = null
    }
    if (!cue) continue
    if (first) {
      const { turn, pivot } = factsOf(cue, book)
      const to = weight === 'left' || weight === 'right' ? otherFoot(weight) : null
      // Half around is the same wall whichever way it goes.
      if (pivot !== null && (to || pivot % 8 === 4)) {
        if (facing !== 'unknown') facing = turned(facing, to ?? 'right', pivot)
        weight = 'unknown'
        brought = cue
      } else if (turn === 'unknown') facing = 'unknown'
      else if (turn && facing !== 'unknown') facing = turned(facing, turn.to, turn.eighths)
      if (cue.facing !== undefined) {
        if (facing !== 'unknown' && facing !== cue.facing)
          conflicts.push({ kind: 'facing', at, cue, before: null, foot: null, computed: facing })
        facing = cue.facing
      }
      level = cue.level ?? level
    }
    const foot = sub?.foot ?? null
    const needs = sub && (sub.kind === 'weight' || sub.kind === 'free') && foot !== null && weight === foot
    // A kick with one foot after the other: the one that kicked has come down.
    const kicks = stepOf(cue, book) === 'kick' && kicked
    if (needs && !kicks) conflicts.push({ kind: 'weight', at, cue, before: brought, foot, computed: 0 })
    if (sub) {
      const next = weightAfter(weight, sub.kind, foot)
      if (next !== weight || sub.kind === 'weight') brought = cue
      weight = next
      kicked = sub.kind === 'free' && stepOf(cue, book) === 'kick'
    }
    steps.push({ at, cue, weight, facing, level, foot, taken: sub?.kind === 'weight' || sub?.kind === 'on' })
  }
  return { steps, conflicts, end: { weight, facing, level } }
}

const otherFoot = (foot: Foot): Foot => (foot === 'left' ? 'right' : 'left')

function weightAfter(
  now: Weight,
  kind: 'weight' | 'free' | 'on' | 'both' | 'unknown',
  foot: Foot | null,
): Weight {
  if (kind === 'both') return 'both'
  if (kind === 'on' && foot === null) return now
  if (kind === 'unknown' || foot === null) return 'unknown'
  // A foot that is free leaves the weight to the other.
  if (kind === 'free') return foot === 'left' ? 'right' : 'left'
  return foot
}

/** A body danced to the back of the room: every wall is the one opposite. */
export const toTheBack = <S extends Pick<BodyState, 'facing'>>(state: S): S => ({
  ...state,
  facing: state.facing === 'unknown' ? state.facing : (state.facing + 4) % 8,
})

/** "front", "back left": a facing in words. */
export function facingName(facing: number): string {
  return (
    ['front', 'front right', 'right', 'back right', 'back', 'back left', 'left', 'front left'][facing] ??
    'front'
  )
}

/** What must be done in between so that a stretch can be danced again right after itself; empty where it loops. */
export function joinNeeds(end: BodyState, begin: { foot: Foot | null; facing: number }): string[] {
  const needs: string[] = []
  if (begin.foot && end.weight === begin.foot) needs.push(`change the weight off the ${begin.foot} foot`)
  if (end.facing !== 'unknown' && end.facing !== begin.facing)
    needs.push(`turn from ${facingName(end.facing)} to ${facingName(begin.facing)}`)
  return needs
}
