import type { MoveBook } from '../choreo'
import { awayText, beginOf, pathAt, pathOf } from '../places'
import { type DancedCue, mirrorSpot, type Routine, type Spot } from '../routine'
import { holds, type Stretch } from '../time'
import type { Contents } from './contents'
import { planScale } from './sheet-plans'

/** A place in a plan, 0 to 1 across and down. */
export type OnPlan = readonly [x: number, y: number]

/** Where the steps of a row lead, in a small plan: the audience on top, all rows on one scale. */
export interface SheetPath {
  /** All of the dance. */
  all: readonly OnPlan[]
  /** What is danced in the row, from where it begins. */
  row: readonly OnPlan[]
  /** Something before its end nobody knows: it may lead elsewhere. */
  uncertain: boolean
}

/** Where the steps have led by the end of a row: in words, '' where they are not asked for, and drawn, null where nothing goes anywhere. */
interface Led {
  way: string
  path: SheetPath | null
}

/** Works out once where the steps of one dancer lead. @param cues of the sheet, in order of place */
export function sheetPaths(
  routine: Routine,
  cues: readonly DancedCue[],
  book: MoveBook,
  { path: asked, mirrored }: Pick<Contents, 'path' | 'mirrored'>,
): (row: Stretch) => Led {
  if (!asked) return () => ({ way: '', path: null })
  const path = pathOf(cues, book, routine.space, routine.positions)
  const begin = beginOf(path, routine.space)
  const seen = (spot: Spot) => (mirrored ? mirrorSpot(spot) : spot)
  const onFloor = (spot: Spot) => seen({ x: begin.x + spot.x, y: begin.y + spot.y })
  const start = { x: 0, y: 0 }
  const all = [start, ...path.points].map(onFloor)
  const { room } = routine.space
  const walls = room ? [{ x: room.width / 2, y: room.depth }] : []
  const place = planScale([...all, ...walls], 1, walls.length ? 0 : 0.5)
  return (row) => {
    const at = pathAt(path, row.to - 1)
    const away = awayText(seen(at))
    const own = [pathAt(path, row.from - 1), ...path.points.filter((p) => holds(row, p.at))].map(onFloor)
    return {
      way: `ends ${away ? `${away} of ` : ''}where you began${at.uncertain ? ', as far as is known' : ''}`,
      path: path.points.length ? { all: all.map(place), row: own.map(place), uncertain: at.uncertain } : null,
    }
  }
}
