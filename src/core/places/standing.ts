import { asDanced, type MoveBook } from '../choreo'
import type { Cue, DancedCue, Dancer, Formation, FormationSpot, Spot } from '../routine'
import { countWhile, type Ticks } from '../time'
import { type Feet, feetOf, takes } from './feet'
import { lengthOf, spotOn, type Travel, wayAt } from './on-way'
import type { Metres } from './ways'

/* Where each of several dancers stands, and how they come from one formation to the next. */

/** Ways of all dancers, each dancer's in order of time. */
export interface Standing {
  /** Where each dancer stands at first; those who stand nowhere in any formation are left out. */
  first: ReadonlyMap<string, FormationSpot>
  travels: ReadonlyMap<string, readonly Travel[]>
  formations: readonly Formation[]
  /** Where everybody stands once all have arrived at each of the formations. */
  settled: readonly (readonly FormationSpot[])[]
}

const NOBODYS: readonly Cue[] = []

const rolesKnown = new WeakMap<readonly DancedCue[], Map<string, readonly DancedCue[]>>()

/** Cues of each dancer: those of their role, and everybody's. Of the same cues the same lists, by identity. */
export function cuesOfDancers(
  dancers: readonly Dancer[],
  all: readonly DancedCue[],
): ReadonlyMap<string, readonly DancedCue[]> {
  const byRole = rolesKnown.get(all) ?? new Map<string, readonly DancedCue[]>()
  rolesKnown.set(all, byRole)
  return new Map(
    dancers.map(({ id, role }) => {
      const cues = byRole.get(role) ?? asDanced(all, role, 'base')
      byRole.set(role, cues)
      return [id, cues]
    }),
  )
}

/** Where one dancer is named, formation by formation. */
interface Named {
  in: readonly Formation[]
  spots: readonly FormationSpot[]
}

/** The ways of a dancer as they were worked out last, and from what. */
interface Known extends Named {
  ways: readonly Travel[]
}

const waysKnown = new WeakMap<Feet, Map<string, Known>>()

/** How long everybody with the same feet takes to a formation, asked once. */
type Lasts = (feet: Feet, formation: Formation) => Ticks

function lastsOnce(): Lasts {
  const known = new Map<Feet, Map<Formation, Ticks>>()
  return (feet, formation) => {
    const own = known.get(feet) ?? new Map<Formation, Ticks>()
    known.set(feet, own)
    const before = own.get(formation)
    if (before !== undefined) return before
    const now = takes(formation, feet)
    own.set(formation, now)
    return now
  }
}

const isSameTime = (a: Formation, b: Formation) =>
  a === b || (a.id === b.id && a.at === b.at && a.over === b.over)

/** The ways of one dancer; those of last time where nothing of theirs has changed, so that what shows them need not. */
function waysOf(dancer: string, named: Named, feet: Feet, lasts: Lasts): readonly Travel[] {
  const ofFeet = waysKnown.get(feet) ?? new Map<string, Known>()
  waysKnown.set(feet, ofFeet)
  const known = ofFeet.get(dancer)
  const isKnown =
    known?.spots.length === named.spots.length &&
    named.spots.every((spot, i) => spot === known.spots[i]) &&
    named.in.every((f, i) => isSameTime(f, known.in[i] as Formation))
  if (known && isKnown) return known.ways
  const [begun] = named.spots
  const ways: Travel[] = []
  for (let i = 1; i < named.spots.length && begun; i++) {
    const spot = named.spots[i] as FormationSpot
    const formation = named.in[i] as Formation
    const last = ways.at(-1)
    const arrives = formation.at + (spot.later ?? 0)
    const free = last?.arrives ?? Number.NEGATIVE_INFINITY
    const leaves = Math.max(free, arrives - lasts(feet, formation))
    ways.push({
      dancer,
      formation: formation.id,
      from: last?.to ?? { x: begun.x, y: begun.y },
      to: { x: spot.x, y: spot.y },
      through: spot.through ?? null,
      leaves,
      arrives: Math.max(arrives, leaves),
      facing: spot.facing ?? null,
    })
  }
  ofFeet.set(dancer, { ...named, ways })
  return ways
}

/**
 * Follows all dancers through the formations. Who is not named in one stays; nobody leaves before they have arrived.
 * @param cues of each dancer, in order of place
 */
export function standingOf(
  formations: readonly Formation[],
  cues: ReadonlyMap<string, readonly Cue[]>,
  book: MoveBook,
): Standing {
  const inOrder = [...formations].sort((a, b) => a.at - b.at)
  const named = new Map<string, { in: Formation[]; spots: FormationSpot[] }>()
  for (const formation of inOrder)
    for (const spot of formation.spots) {
      const own = named.get(spot.dancer)
      if (own) {
        own.in.push(formation)
        own.spots.push(spot)
      } else named.set(spot.dancer, { in: [formation], spots: [spot] })
    }
  const first = new Map<string, FormationSpot>()
  const travels = new Map<string, readonly Travel[]>()
  const lasts = lastsOnce()
  for (const [dancer, own] of named) {
    first.set(dancer, own.spots[0] as FormationSpot)
    if (own.spots.length > 1)
      travels.set(dancer, waysOf(dancer, own, feetOf(cues.get(dancer) ?? NOBODYS, book), lasts))
  }
  return { first, travels, formations: inOrder, settled: settledIn(inOrder, first) }
}

type Settled = readonly FormationSpot[]

const stands = ({ dancer, x, y }: FormationSpot, facing: number | undefined): FormationSpot =>
  facing === undefined ? { dancer, x, y } : { dancer, x, y, facing }

const sameStand = (a: FormationSpot, b: FormationSpot | undefined) =>
  a.dancer === b?.dancer && a.x === b.x && a.y === b.y && a.facing === b.facing

/** What was settled last by the places a formation names, and on what: nearly all of it stands after an edit. */
const settledLast = new WeakMap<readonly FormationSpot[], { before: Settled; row: Settled }>()

/** Where everybody stands once those who are named went where they are named. The very same as last time where it says the same. */
function settledAfter(before: Settled, spots: readonly FormationSpot[]): Settled {
  const last = settledLast.get(spots)
  if (last?.before === before) return last.row
  const now = new Map(before.map((spot) => [spot.dancer, spot]))
  for (const spot of spots) now.set(spot.dancer, stands(spot, spot.facing ?? now.get(spot.dancer)?.facing))
  const made = [...now.values()]
  const isSame = last?.row.length === made.length && made.every((spot, i) => sameStand(spot, last.row[i]))
  const row = isSame ? last.row : made
  settledLast.set(spots, { before, row })
  return row
}

/** Where everybody stands in each formation: who is not named in it stands, and faces, as before. */
function settledIn(inOrder: readonly Formation[], first: ReadonlyMap<string, FormationSpot>): Settled[] {
  let before: Settled = [...first.values()].map((spot) => stands(spot, spot.facing))
  return inOrder.map(({ spots }) => {
    before = settledAfter(before, spots)
    return before
  })
}

/** Where a dancer is at a moment; null for one who stands nowhere. */
export const spotAt = ({ first, travels }: Standing, dancer: string, tick: number): Spot | null =>
  spotOnWays(first.get(dancer), travels.get(dancer), tick)

/** The same of one dancer alone. @param begun where they stand at first @param ways none where they never move */
export function spotOnWays(
  begun: Spot | undefined,
  ways: readonly Travel[] | undefined,
  tick: number,
): Spot | null {
  if (!begun) return null
  const way = ways ? wayAt(ways, tick) : null
  return way ? spotOn(way, tick) : { x: begun.x, y: begun.y }
}

/** How a dancer faces at a moment as a formation says; null where none does. */
export function facingAt(standing: Standing, dancer: string, tick: number): number | null {
  const ways = standing.travels.get(dancer) ?? []
  const said = ways.findLast((w) => w.arrives <= tick && w.facing !== null)
  return said?.facing ?? standing.first.get(dancer)?.facing ?? null
}

/** One and the same each time: who shows it compares by identity. */
const NOBODY_STANDS: readonly FormationSpot[] = []

/** Where everybody stands once all have arrived at a formation. */
export const standingIn = (
  { formations, settled }: Pick<Standing, 'formations' | 'settled'>,
  formation: Pick<Formation, 'id'>,
): readonly FormationSpot[] => settled[formations.findIndex((f) => f.id === formation.id)] ?? NOBODY_STANDS

/** The formation that holds at a moment, and the one that comes next; null where there is none. */
export function formationsAt(
  { formations }: Pick<Standing, 'formations'>,
  tick: number,
): { now: Formation | null; next: Formation | null } {
  const i = formations.findLastIndex((f) => f.at <= tick)
  return { now: formations[i] ?? null, next: formations[i + 1] ?? null }
}

/** How a way goes: as far as it is, in as many steps as there are. */
export interface Effort {
  travel: Travel
  metres: Metres
  steps: number
  /** Metres of each of them; null where no step is there. */
  each: Metres | null
}

/** How far each way to a formation is, and what steps there are for it; ways of less than a foot are none. */
export function effortsOf(
  standing: Standing,
  cues: ReadonlyMap<string, readonly Cue[]>,
  book: MoveBook,
  formation: string | null = null,
): Effort[] {
  const out: Effort[] = []
  for (const [dancer, ways] of standing.travels) {
    const { steps: all } = feetOf(cues.get(dancer) ?? NOBODYS, book)
    for (const travel of ways) {
      if (formation !== null && travel.formation !== formation) continue
      const metres = lengthOf(travel)
      if (metres < 0.3) continue
      // Those that take the weight while the dancer is on the way.
      const steps = countWhile(all, (t) => t < travel.arrives) - countWhile(all, (t) => t < travel.leaves)
      out.push({ travel, metres, steps, each: steps ? metres / steps : null })
    }
  }
  return out
}
