import { type Cue, cueText, type Position } from '../routine'
import type { Ticks } from '../time'
import { type BodyState, facingName, followBody, START } from './body'
import { type Foot, factsOf } from './effects'
import type { MoveBook } from './moves'

/** How the dancer stands between two counts, as far as it is known. */
export interface Stance extends BodyState {
  /** The foot the next step needs, where the weight is not known. */
  free: Foot | null
  /** Words for the arms; '' where nothing was said. */
  arms: string
  /** Which of it was written at this very place. */
  written: ReadonlySet<'weight' | 'facing' | 'level' | 'arms'>
}

const ARM_SIDES = ['left', 'right'] as const

/** The arms before a place: what each did last, or what was written since. */
function armsAt(cues: readonly Cue[], positions: readonly Position[], tick: Ticks): string {
  const said = positions.findLast((p) => p.at <= tick && p.arms !== undefined)
  if (said?.at === tick) return said.arms ?? ''
  const since = cues.filter((c) => c.layer === 'arms' && c.at < tick && c.at >= (said?.at ?? c.at))
  const both = since.findLast((c) => c.side === 'both' || c.side === 'none')
  const single = ARM_SIDES.flatMap((side) => {
    const own = since.findLast((c) => c.side === side)
    return own && (!both || own.at > both.at) ? [own] : []
  })
  const words = [...(both && single.length < 2 ? [both] : []), ...single.sort((a, b) => a.at - b.at)]
  if (!words.length) return said?.arms ?? ''
  return words.map((c) => cueText(c)).join(', ')
}

/**
 * How the dancer stands at a place, before what begins there: followed through the cues, and as written there. For the place
 * after the last count of a stretch it is where the stretch ends.
 * @param cues of one dancer, in order of place
 */
export function stanceAt(
  cues: readonly Cue[],
  positions: readonly Position[],
  tick: Ticks,
  book: MoveBook,
): Stance {
  const { end } = followBody(cues, book, START, positions, tick)
  const here = positions.find((p) => p.at === tick)
  const weight = here?.weight ?? end.weight
  const next = cues.find((c) => c.at >= tick && factsOf(c, book).subs.length > 0)
  const sub = next && factsOf(next, book).subs[0]
  const needs = sub && (sub.kind === 'weight' || sub.kind === 'free') ? sub.foot : null
  return {
    weight,
    facing: here?.facing ?? end.facing,
    level: here?.level ?? end.level,
    free: weight === 'unknown' ? needs : null,
    arms: armsAt(cues, positions, tick),
    written: new Set((['weight', 'facing', 'level', 'arms'] as const).filter((k) => here?.[k] !== undefined)),
  }
}

/** A stance in words: "weight on the left foot, facing front, low, arms: reach R". What is not known is not said. */
export function stanceWords({ weight, free, facing, level, arms }: Stance): string {
  const words = [
    weight === 'both'
      ? 'weight on both feet'
      : weight !== 'unknown'
        ? `weight on the ${weight} foot`
        : free
          ? `${free} foot free`
          : '',
    facing === 'unknown' ? '' : `facing ${facingName(facing)}`,
    level === 'unknown' ? '' : level === 'floor' ? 'on the floor' : level === 'middle' ? 'upright' : level,
    arms && (/^(?:arms?|hands?)(?!\p{L})/iu.test(arms) ? arms : `arms: ${arms}`),
  ].filter(Boolean)
  return words.length ? words.join(', ') : 'not known'
}
