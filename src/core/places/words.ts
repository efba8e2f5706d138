import type { Spot } from '../routine'
import type { Metres } from './ways'

/** "1.2 m", "40 cm": as exact as one stands. */
export function metresText(metres: Metres): string {
  const m = Math.abs(metres)
  if (m < 0.95) return `${Math.round(m * 10) * 10} cm`
  return `${Math.round(m * 10) / 10} m`
}

/** Nearer than this, nobody says that one stands elsewhere. */
const NOTHING: Metres = 0.1

/** "1.2 m to the right, 40 cm back": from one place to another, as one who faces the audience says it; '' where it is the same. */
export function awayText({ x, y }: Spot): string {
  const across = Math.abs(x) < NOTHING ? '' : `${metresText(x)} to the ${x > 0 ? 'right' : 'left'}`
  const along = Math.abs(y) < NOTHING ? '' : `${metresText(y)} ${y > 0 ? 'back' : 'forward'}`
  return [across, along].filter(Boolean).join(', ')
}

/** "1.2 m left of the middle, 40 cm from the front": a place in a room. */
export function spotText({ x, y }: Spot): string {
  const across =
    Math.abs(x) < NOTHING ? 'in the middle' : `${metresText(x)} ${x > 0 ? 'right' : 'left'} of the middle`
  const along =
    Math.abs(y) < NOTHING ? 'at the front' : `${metresText(y)} ${y > 0 ? 'from' : 'before'} the front`
  return `${across}, ${along}`
}
