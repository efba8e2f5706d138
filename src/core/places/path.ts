import { type Foot, factsOf, followBody, isFooted, type MoveBook, START, stepOf } from '../choreo'
import type { Cue, Position, Space, Spot } from '../routine'
import { countWhile, TICKS_PER_COUNT, type Ticks } from '../time'
import { wordBegins, wordEnds } from '../writing/word-edges'
import {
  type CueWay,
  eighthsOf,
  type Gait,
  gaitOf,
  type Heading,
  type Metres,
  staysPut,
  wayOfCue,
} from './ways'

/* The path that a dancer's steps make over the floor, worked out anew each time from the cues. */

/** Where the dancer has come to with a step: metres from where they began, x to their right as they face the audience, y away from it. */
export interface PathPoint extends Spot {
  at: Ticks
  /** The cue that led there. */
  cue: Cue
  /** Something before it nobody knows: it may be elsewhere. */
  uncertain: boolean
}

/** Why nobody knows where a cue leads. */
export type Unknown = 'way' | 'length' | 'facing'

export interface Path {
  points: readonly PathPoint[]
  /** What first made it uncertain; null where all is known. */
  unknown: { at: Ticks; cue: Cue; why: Unknown } | null
}

/** One step of a cue: when, and how far of the cue's whole. */
interface Share {
  at: Ticks
  share: number
  foot: Foot | null
}

/** What a cue does to the dancer's place. */
interface Going {
  shares: readonly Share[]
  /** Metres of all shares together; null where nobody says. */
  metres: Metres | null
  heading: Heading | null
}

/** Moves that turn or pose on one place, whatever way their words name. */
const STILL: ReadonlySet<string> = new Set(['hold', 'touch', 'tap', 'kick', 'pivot', 'turn'])
/** Half of a step: what crosses behind, or is the small step of a grapevine. Value from memory. */
const CROSSED = 0.5
/** Of a run of small steps, which go on: those of a chassé, a grapevine, a step-touch. */
const GOING_ON: Partial<Record<string, readonly number[]>> = {
  chassé: [1, 0, 1],
  grapevine: [1, CROSSED, 1, 0],
  'step-touch': [1, 0],
}

const headedBySide = (foot: Foot | null): Heading | null => foot && { of: 'foot', other: false }

/** How many steps a cue is that is written as one: "4 walks", a walk over four counts. */
const stepsOf = (cue: Cue, way: CueWay, gait: Gait) =>
  way.steps ?? (gait.everyCount ? Math.max(1, Math.round(cue.length / TICKS_PER_COUNT)) : 1)

/** Steps in time, each the other foot. */
function stepsInTime(cue: Cue, n: number, lead: Foot | null): Share[] {
  const gap = n > 1 ? cue.length / n : 0
  const other = lead === 'left' ? 'right' : lead === 'right' ? 'left' : null
  return Array.from({ length: n }, (_, i) => ({
    at: cue.at + Math.round(i * gap),
    share: 1,
    foot: i % 2 ? other : lead,
  }))
}

const FOOT_LETTER = new RegExp(`${wordBegins("'’")}[LR]${wordEnds("'’")}`, 'gu')

/** The foot that leads: the cue's side, else a letter among its words. */
function leadOf({ side, move }: Cue): Foot | null {
  if (side === 'left' || side === 'right') return side
  const letters = move.match(FOOT_LETTER) ?? []
  return letters.length === 1 ? (letters[0] === 'L' ? 'left' : 'right') : null
}

/** How far a cue goes, and where; null where it stays. */
function goingOf(cue: Cue, book: MoveBook, space: Space): Going | Unknown | null {
  const way = wayOfCue(cue, book)
  const step = stepOf(cue, book)
  const said = cue.way !== undefined || cue.metres !== undefined
  const gait = gaitOf(cue.move)
  if (way.heading?.of === 'spot' || cue.metres === 0) return null
  if (step !== null && STILL.has(step) && !said && gait.heading?.of !== 'foot') return null
  if (way.lost || step === 'open') return 'way'
  const lead = leadOf(cue)
  const length = way.size * space[gait.length]
  if (step === null && !way.heading && !gait.heading) return staysPut(cue, book) ? null : 'way'
  const parts = step === null ? undefined : GOING_ON[step]
  if (parts) {
    const { subs } = factsOf(cue, book)
    const shares = subs.map((s, i) => ({ at: cue.at + s.at, share: parts[i] ?? 0, foot: lead }))
    return going(shares, way, length, way.heading ?? headedBySide(lead))
  }
  // A rock on the ball of the foot comes back.
  if (step === 'ball-change' && way.metres === null) return null
  // Small steps under the body, a closing foot and jumps stay where nobody says that they go.
  if (step !== null && step !== 'step' && step !== 'turn' && !way.heading && way.metres === null) return null
  const heading = way.heading ?? gait.heading ?? plainHeading(space, lead)
  if (heading?.of === 'spot') return null
  const n = stepsOf(cue, way, gait)
  const crossed = heading?.of === 'foot' && heading.other ? CROSSED : 1
  // Of many steps to the side, all go to the side of the first.
  const shares = stepsInTime(cue, n, lead).map((s) => (heading?.of === 'foot' ? { ...s, foot: lead } : s))
  return going(shares, way, length * crossed, heading)
}

/** Where a step goes of which nobody says it. */
const plainHeading = ({ plain }: Space, lead: Foot | null): Heading | null =>
  plain === 'spot' ? { of: 'spot' } : plain === 'side' ? headedBySide(lead) : null

function going(
  shares: readonly Share[],
  way: CueWay,
  length: Metres,
  heading: Heading | null,
): Going | Unknown {
  const feet = heading?.of === 'foot' && shares.some((s) => s.share > 0 && !s.foot)
  if (!heading || feet) return 'way'
  const whole = shares.reduce((sum, s) => sum + s.share, 0)
  return { shares, metres: way.metres ?? whole * length, heading }
}

/** What a cue of the travel layer says of the steps under it. */
interface Leg {
  cue: Cue
  way: CueWay
  /** Steps of the feet in it that say no way of their own. */
  steps: readonly Cue[]
}

/** True for a step that goes where somebody who travels goes. */
function isTaken(cue: Cue, book: MoveBook): boolean {
  const way = wayOfCue(cue, book)
  const step = stepOf(cue, book)
  if (step !== null && STILL.has(step)) return false
  return !way.heading && way.metres === null && !way.lost && factsOf(cue, book).subs.length > 0
}

const end = (cue: Cue) => cue.at + cue.length

function legsOf(cues: readonly Cue[], book: MoveBook): Leg[] {
  const footed = cues.filter((c) => isFooted(c) && c.layer !== 'travel')
  return cues
    .filter((c) => c.layer === 'travel')
    .map((cue) => {
      const steps: Cue[] = []
      for (
        let i = countWhile(footed, (c) => c.at < cue.at);
        (footed[i]?.at ?? Number.POSITIVE_INFINITY) < end(cue);
        i++
      )
        if (isTaken(footed[i] as Cue, book)) steps.push(footed[i] as Cue)
      return { cue, way: wayOfCue(cue, book), steps }
    })
}

/** How the steps of a travelling go, all in all: by its steps where there are some, else a step a count. */
function goingOfLeg({ cue, way, steps }: Leg, book: MoveBook, space: Space): Going | Unknown | null {
  if (way.heading?.of === 'spot') return null
  if (way.lost || !way.heading) return 'way'
  const shares = steps.length
    ? steps.flatMap((s) =>
        factsOf(s, book)
          .subs.filter((x) => x.kind !== 'free')
          .map((x) => ({ at: s.at + x.at, share: space[gaitOf(s.move).length], foot: x.foot })),
      )
    : stepsInTime(cue, way.steps ?? Math.max(1, Math.round(cue.length / TICKS_PER_COUNT)), null).map((s) => ({
        ...s,
        share: space.walk,
      }))
  return going(shares, way, way.size, way.heading)
}

/** One piece of a cue's way, in time. */
interface Piece {
  at: Ticks
  cue: Cue
  metres: Metres
  heading: Heading
  foot: Foot | null
  /** When the cue began that it is of: it goes by the facing there. */
  begun: Ticks
}

/** What all cues do to the place, in order of time; a cue that nobody knows the way of is a gap. */
function piecesOf(cues: readonly Cue[], book: MoveBook, space: Space): (Piece | Gap)[] {
  const legs = legsOf(cues, book)
  const carried = new Set(legs.flatMap((l) => l.steps))
  const out: (Piece | Gap)[] = []
  const take = (cue: Cue, going: Going | Unknown | null) => {
    if (going === null) return
    if (typeof going === 'string') return out.push({ at: cue.at, cue, why: going })
    const whole = going.shares.reduce((sum, s) => sum + s.share, 0)
    const { heading, metres } = going
    if (!heading || metres === null) return out.push({ at: cue.at, cue, why: heading ? 'length' : 'way' })
    for (const { at, share, foot } of going.shares)
      if (share > 0) out.push({ at, cue, foot, heading, metres: (metres * share) / whole, begun: cue.at })
  }
  for (const cue of cues)
    if (isFooted(cue) && cue.layer !== 'travel' && !carried.has(cue)) take(cue, goingOf(cue, book, space))
  for (const leg of legs) take(leg.cue, goingOfLeg(leg, book, space))
  return out.sort((a, b) => a.at - b.at)
}

interface Gap {
  at: Ticks
  cue: Cue
  why: Unknown
}

/** The vector of a step: eighths clockwise from the front, seen from above. */
export function stepVector(eighths: number, metres: Metres): Spot {
  const angle = (eighths * Math.PI) / 4
  return { x: metres * Math.sin(angle), y: -metres * Math.cos(angle) }
}

/**
 * Follows one dancer over the floor.
 * @param cues of one dancer, in order of place
 * @param positions as written: they turn the dancer
 */
export function pathOf(
  cues: readonly Cue[],
  book: MoveBook,
  space: Space,
  positions: readonly Position[] = [],
): Path {
  const { steps } = followBody(cues, book, START, positions)
  let next = 0
  let facing: number | 'unknown' = START.facing
  /** How the dancer faces before what begins at a place. */
  const facingBefore = (tick: Ticks) => {
    const here = positions.find((p) => p.at === tick)?.facing
    for (let s = steps[next]; s && s.at < tick; s = steps[++next]) facing = s.facing
    return here ?? facing
  }
  const points: PathPoint[] = []
  let [x, y] = [0, 0]
  let unknown: Path['unknown'] = null
  const begun = new Map<Cue, number | 'unknown'>()
  for (const piece of piecesOf(cues, book, space)) {
    const { at, cue } = piece
    // The small steps of one cue go the way it began, whatever it turns meanwhile.
    const faced = begun.get(cue) ?? facingBefore('begun' in piece ? piece.begun : at)
    begun.set(cue, faced)
    if ('why' in piece) {
      unknown ??= { at, cue, why: piece.why }
    } else {
      const to = directionOf(piece, faced)
      if (to === null) unknown ??= { at, cue, why: 'facing' }
      else {
        const by = stepVector(to, piece.metres)
        x += by.x
        y += by.y
      }
    }
    points.push({ at, cue, x, y, uncertain: unknown !== null })
  }
  return { points, unknown }
}

/** Eighths clockwise from the front of the room; null where nobody knows how the dancer faces. */
function directionOf({ heading, foot }: Piece, facing: number | 'unknown'): number | null {
  if (heading.of === 'room') return heading.eighths
  const own = eighthsOf(heading, foot)
  return facing === 'unknown' || own === null ? null : (facing + own) % 8
}

/** Where the dancer is at a moment, between two steps on the way: a step takes the time since the one before, a count at most. */
export function pathAt({ points }: Path, tick: number): Spot & { uncertain: boolean } {
  const before = points[countWhile(points, (p) => p.at <= tick) - 1]
  const { x, y } = before ?? { x: 0, y: 0 }
  return { x, y, uncertain: before?.uncertain ?? false }
}
