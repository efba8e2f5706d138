import type { MoveBook } from '../choreo'
import { cuesOfDancers, spotText, standingIn, standingOf } from '../places'
import { danced, mirrorSpot, type Routine, type Spot } from '../routine'
import { holds, type Stretch, type Ticks } from '../time'
import type { Contents } from './contents'

/** A formation as a small plan in a row of a sheet: the audience on top. */
export interface SheetPlan {
  /** From the beginning of the row. */
  at: Ticks
  name: string
  /** Where each stands in the plan, 0 to 1 across and down; which role, to be drawn as. */
  people: { letters: string; role: number; x: number; y: number }[]
  /** In words, for who does not see it. */
  says: string
}

/** A plan is so many times as wide as it is high. */
export const PLAN_SHAPE = 2

/**
 * Where places lie in a plan that holds all of them, the middle of the stage in its middle.
 * @param least metres to each side of the middle and from the front that it shows in any case
 * @param margin metres beside the outermost
 * @returns 0 to 1 across and down
 */
export function planScale(
  spots: readonly Spot[],
  least: number,
  margin: number,
): (spot: Spot) => readonly [number, number] {
  const across = Math.max(least, ...spots.map((s) => Math.abs(s.x))) + margin
  const deep = Math.max(least, ...spots.map((s) => s.y)) + margin
  // One metre is as long across as down.
  const half = Math.max(across, (deep * PLAN_SHAPE) / 2)
  const high = (2 * half) / PLAN_SHAPE
  return ({ x, y }) => [(x + half) / (2 * half), Math.max(0, y / high)]
}

/** Works out the plans of a sheet once: what each row shows of them, all on one scale. */
export function sheetPlans(
  routine: Routine,
  book: MoveBook,
  { plans, mirrored }: Pick<Contents, 'plans' | 'mirrored'>,
): (row: Stretch) => SheetPlan[] {
  const { dancers, formations } = routine
  if (!plans || dancers.length < 2 || !formations.length) return () => []
  const standing = standingOf(formations, cuesOfDancers(dancers, danced(routine)), book)
  const place = planScale(standing.settled.flat(), 2, 0.5)
  const roles = [...new Set(dancers.map((d) => d.role))]
  return (row) =>
    standing.formations
      .filter((f) => holds(row, f.at))
      .map((f): SheetPlan => {
        const people = standingIn(standing, f).flatMap((s) => {
          const who = dancers.find((d) => d.id === s.dancer)
          return who ? [{ who, spot: mirrored ? mirrorSpot(s) : s }] : []
        })
        return {
          at: f.at - row.from,
          name: f.name,
          people: people.map(({ who, spot }) => {
            const [x, y] = place(spot)
            return { letters: who.letters, role: roles.indexOf(who.role), x, y }
          }),
          says: people.map(({ who, spot }) => `${who.letters} ${spotText(spot)}`).join('; '),
        }
      })
}
