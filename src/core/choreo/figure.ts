import type { Cue, Side } from '../routine'
import type { BodyState } from './body'

/** What a drawn dancer shows: weight, facing and level as followed through the cues, and which arms are in use. */
export interface Pose extends Pick<BodyState, 'weight' | 'facing'> {
  level?: BodyState['level']
  /** Side of the arm that is in use; null where no arms are cued. */
  arms: Side | null
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
const HIPS: Record<string, number> = { high: 0.56, middle: 0.53, low: 0.38, floor: 0.2 }

type Point = readonly [right: number, up: number, ahead: number]

/**
 * A figure in a pose. What is unknown of the facing is drawn to the front. Proportions are of our own drawing.
 * @returns mirrored poses give mirrored figures
 */
export function figure({ weight, facing, level, arms }: Pose): Figure {
  const angle = ((facing === 'unknown' ? 0 : facing) * Math.PI) / 4
  const spot = ([x, y, z]: Point): Spot => {
    const [right, away] = [
      x * Math.cos(angle) + z * Math.sin(angle),
      z * Math.cos(angle) - x * Math.sin(angle),
    ]
    return [right, y + TILT * away]
  }
  const lean = weight === 'left' ? -0.05 : weight === 'right' ? 0.05 : 0
  const hip = HIPS[level ?? 'middle'] ?? (HIPS.middle as number)
  const top = hip + 0.3
  const side = (of: 'left' | 'right') => {
    const s = of === 'left' ? -1 : 1
    const free = weight !== of && (weight === 'left' || weight === 'right')
    const foot: Point = free ? [s * 0.2, 0.05, 0.1] : [s * 0.09, level === 'high' ? 0.04 : 0, 0]
    const knee: Point = [
      (lean + s * 0.06 + foot[0]) / 2,
      (hip + foot[1]) / 2,
      0.03 + 0.5 * ((HIPS.middle as number) - Math.min(hip, HIPS.middle as number)) + (free ? 0.08 : 0),
    ]
    const used = arms === of || arms === 'both'
    const hand: Point = used
      ? [lean + s * 0.36, top + 0.07, 0.03]
      : arms === 'none'
        ? [lean + s * 0.03, top - 0.07, 0.2]
        : [lean + s * 0.17, hip - 0.03, 0.02]
    const elbow: Point = used
      ? [lean + s * 0.24, top + 0.01, 0.01]
      : [lean + s * (arms === 'none' ? 0.2 : 0.17), top - 0.15, arms === 'none' ? 0.06 : -0.03]
    return { foot, knee, hand, elbow, shoulder: [lean + s * 0.11, top, 0] as Point }
  }
  const [l, r] = [side('left'), side('right')]
  const pair = (of: keyof typeof l): Pair => ({ left: spot(l[of]), right: spot(r[of]) })
  const headed = Math.cos(angle) < 0.5
  return {
    head: spot([lean, top + 0.13, 0]),
    neck: spot([lean, top, 0]),
    hips: spot([lean, hip, 0]),
    shoulders: pair('shoulder'),
    elbows: pair('elbow'),
    hands: pair('hand'),
    knees: pair('knee'),
    feet: pair('foot'),
    nose: headed ? spot([lean, top + 0.12, 0.1]) : null,
  }
}

/** Which arms the cues that run use; null where none is for the arms. */
export function armsOf(running: readonly Pick<Cue, 'layer' | 'side'>[]): Side | null {
  const sides = running.filter((c) => c.layer === 'arms').map((c) => c.side)
  if (!sides.length) return null
  if (sides.includes('both') || (sides.includes('left') && sides.includes('right'))) return 'both'
  return sides.find((s) => s !== 'none') ?? 'none'
}
