import type { Cue, Side } from '../routine'
import type { BodyState } from './body'

/** What a drawn dancer shows: weight, facing and level as followed through the cues, and which arms are in use. */
export interface Pose extends Pick<BodyState, 'weight' | 'facing'> {
  level?: BodyState['level']
  /** Side of the arm that is in use; null where no arms are cued. */
  arms: Side | null
  /** On the floor it lies; else it sits there. */
  lies?: boolean
}

/** A place in the picture: to the right and up, in heights of the figure; 0, 0 is the floor under its middle. */
export type Spot = readonly [number, number]

/** Both of a pair. */
export interface Pair {
  left: Spot
  right: Spot
}

/** Joints of a drawn dancer, seen from behind as somebody in the second row sees it. */
export interface Figure {
  head: Spot
  neck: Spot
  hips: Spot
  shoulders: Pair
  elbows: Pair
  hands: Pair
  knees: Pair
  feet: Pair
  /** The tip of the nose; null where the face is turned away. */
  nose: Spot | null
}

/** The eye stands a little higher than the figure: what is nearer is lower in the picture. */
const TILT = 0.16
/** Height of the hips by level; the rest of the body stays as it is. */
const HIPS: Record<string, number> = { high: 0.56, middle: 0.53, low: 0.38, floor: 0.09 }

type Point = readonly [right: number, up: number, ahead: number]

/** One half of a body: its joints, s is -1 on the left and 1 on the right. */
interface Half {
  foot: Point
  knee: Point
  hand: Point
  elbow: Point
  shoulder: Point
}

/** The joints of a body before it is turned. */
interface Body {
  left: Half
  right: Half
  hips: Point
  neck: Point
  head: Point
  nose: Point
}

const both = (half: (of: 'left' | 'right', s: number) => Half) => ({
  left: half('left', -1),
  right: half('right', 1),
})

/** Upright, on one foot or both, or sitting on the floor with the knees drawn up. */
function upright({ weight, level, arms }: Pose): Body {
  const sits = level === 'floor'
  const lean = sits ? 0 : weight === 'left' ? -0.05 : weight === 'right' ? 0.05 : 0
  const hip = HIPS[level ?? 'middle'] ?? (HIPS.middle as number)
  const top = hip + 0.3
  const legs = (of: 'left' | 'right', s: number): Pick<Half, 'foot' | 'knee'> => {
    if (sits) return { foot: [s * 0.1, 0.02, 0.34], knee: [s * 0.1, 0.2, 0.2] }
    const free = weight !== of && (weight === 'left' || weight === 'right')
    const foot: Point = free ? [s * 0.2, 0.05, 0.1] : [s * 0.09, level === 'high' ? 0.04 : 0, 0]
    const bent = 0.5 * ((HIPS.middle as number) - Math.min(hip, HIPS.middle as number))
    const knee: Point = [
      (lean + s * 0.06 + foot[0]) / 2,
      (hip + foot[1]) / 2,
      0.03 + bent + (free ? 0.08 : 0),
    ]
    return { foot, knee }
  }
  const half = (of: 'left' | 'right', s: number): Half => {
    const used = arms === of || arms === 'both'
    const hand: Point = used
      ? [lean + s * 0.36, top + 0.07, 0.03]
      : arms === 'none'
        ? [lean + s * 0.03, top - 0.07, 0.2]
        : // Who sits leans on the hands.
          [lean + s * (sits ? 0.2 : 0.17), sits ? 0.02 : hip - 0.03, sits ? -0.12 : 0.02]
    const elbow: Point = used
      ? [lean + s * 0.24, top + 0.01, 0.01]
      : [lean + s * (arms === 'none' ? 0.2 : 0.17), top - 0.15, arms === 'none' ? 0.06 : -0.03]
    return { ...legs(of, s), hand, elbow, shoulder: [lean + s * 0.11, top, 0] }
  }
  return {
    ...both(half),
    ...{ hips: [lean, hip, 0], neck: [lean, top, 0], head: [lean, top + 0.13, 0] },
    nose: [lean, top + 0.12, 0.1],
  }
}

/** On the back, the head away from where it would face. */
function lying({ arms }: Pose): Body {
  const up = 0.05
  const half = (of: 'left' | 'right', s: number): Half => {
    const used = arms === of || arms === 'both'
    return {
      foot: [s * 0.1, up, 0.44],
      knee: [s * 0.09, up + 0.02, 0.22],
      shoulder: [s * 0.11, up, -0.28],
      elbow: [s * (used ? 0.24 : 0.18), up, used ? -0.3 : -0.14],
      hand: [s * (used ? 0.36 : 0.2), up, used ? -0.34 : 0.02],
    }
  }
  return {
    ...both(half),
    ...{ hips: [0, up, 0], neck: [0, up, -0.28], head: [0, up, -0.41], nose: [0, up + 0.1, -0.4] },
  }
}

/**
 * A figure in a pose. What is unknown of the facing is drawn to the front. Proportions are of our own drawing.
 * @returns mirrored poses give mirrored figures
 */
export function figure(pose: Pose): Figure {
  const angle = ((pose.facing === 'unknown' ? 0 : pose.facing) * Math.PI) / 4
  const spot = ([x, y, z]: Point): Spot => {
    const [right, away] = [
      x * Math.cos(angle) + z * Math.sin(angle),
      z * Math.cos(angle) - x * Math.sin(angle),
    ]
    return [right, y + TILT * away]
  }
  const lies = pose.level === 'floor' && pose.lies === true
  const { left, right, hips, neck, head, nose } = lies ? lying(pose) : upright(pose)
  const pair = (of: keyof Half): Pair => ({ left: spot(left[of]), right: spot(right[of]) })
  // The face of one who lies looks up.
  const headed = lies || Math.cos(angle) < 0.5
  return {
    ...{ head: spot(head), neck: spot(neck), hips: spot(hips) },
    shoulders: pair('shoulder'),
    elbows: pair('elbow'),
    hands: pair('hand'),
    knees: pair('knee'),
    feet: pair('foot'),
    nose: headed ? spot(nose) : null,
  }
}

/** Words of moves that are danced lying; others on the floor are danced sitting. Common practice, no published source. */
const LYING =
  /\b(lie|lies|lying|lay|prone|supine|flat|plank|worm|on (the|your|my) (back|belly|stomach|side))\b/i

/** The cues that run are danced lying. */
export const liesIn = (running: readonly Pick<Cue, 'move'>[]): boolean =>
  running.some((c) => LYING.test(c.move))

/** Which arms the cues that run use; null where none is for the arms. */
export function armsOf(running: readonly Pick<Cue, 'layer' | 'side'>[]): Side | null {
  const sides = running.filter((c) => c.layer === 'arms').map((c) => c.side)
  if (!sides.length) return null
  if (sides.includes('both') || (sides.includes('left') && sides.includes('right'))) return 'both'
  return sides.find((s) => s !== 'none') ?? 'none'
}
