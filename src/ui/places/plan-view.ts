import type { Path, Standing } from '@/core/places'
import type { Space, Spot } from '@/core/routine'

/** What of the floor a plan shows, in metres. */
export interface PlanView {
  left: number
  right: number
  front: number
  back: number
}

const LEAST = { width: 5, depth: 3.5 }
const MARGIN = 0.9

/** The room where it is known, else as much as is danced in, and a little around it. */
export function viewOf(
  { room, camera }: Pick<Space, 'room' | 'camera'>,
  path: { path: Path; begin: Spot } | null,
  standing: Standing | null,
): PlanView {
  const spots: Spot[] = []
  if (path) {
    spots.push(path.begin)
    for (const p of path.path.points) spots.push({ x: p.x + path.begin.x, y: p.y + path.begin.y })
  }
  for (const list of standing?.settled ?? []) spots.push(...list)
  if (room) spots.push({ x: -room.width / 2, y: 0 }, { x: room.width / 2, y: room.depth })
  const around = room && !spots.some((s) => outside(s, room)) ? 0.15 : MARGIN
  const xs = spots.map((s) => Math.abs(s.x))
  const half = Math.max(LEAST.width / 2, ...xs) + around
  const front = Math.min(0, ...spots.map((s) => s.y)) - (camera ? 0.4 : 0.2)
  const back = Math.max(LEAST.depth, ...spots.map((s) => s.y)) + around
  return { left: -half, right: half, front, back }
}

const outside = ({ x, y }: Spot, { width, depth }: NonNullable<Space['room']>) =>
  Math.abs(x) > width / 2 || y < 0 || y > depth
