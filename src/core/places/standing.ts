import { asDanced, factsOf, isFooted, type MoveBook } from '../choreo'
import type { Cue, DancedCue, Dancer, Formation, FormationSpot, Spot } from '../routine'
import { countWhile, TICKS_PER_COUNT, type Ticks } from '../time'
import type { Metres } from './ways'

/* Where each of several dancers stands, and how they come from one formation to the next. */

/** A dancer's way to a formation: they leave, and are there. Ticks; a place on the way is the share of the time that has gone. */
export interface Travel {
  dancer: string
  formation: string
  from: Spot
  to: Spot
  through: Spot | null
  leaves: Ticks
  arrives: Ticks
  facing: number | null
}

/** Ways of all dancers, each dancer's in order of time. */
export interface Standing {
  /** Where each dancer stands at first; those who stand nowhere in any formation are left out. */
  first: ReadonlyMap<string, FormationSpot>
  travels: ReadonlyMap<string, readonly Travel[]>
  formations: readonly Formation[]
  /** Where everybody stands once all have arrived at each of the formations. */
  settled: readonly (readonly FormationSpot[])[]
}

/** A way takes no longer than this where nobody says. */
const LONGEST: Ticks = 8 * TICKS_PER_COUNT

/** What the feet of some cues do, in order of time. */
interface Feet {
  /** Steps that take the weight. */
  steps: readonly Ticks[]
  /** Cues that move the feet, and whether they step. */
  cues: readonly { at: Ticks; end: Ticks; steps: boolean }[]
  travels: readonly Cue[]
}

const feetKnown = new WeakMap<MoveBook, WeakMap<readonly Cue[], Feet>>()

/** What the feet do; worked out once for a list of cues. */
function feetOf(cues: readonly Cue[], book: MoveBook): Feet {
  const known = feetKnown.get(book) ?? new WeakMap<readonly Cue[], Feet>()
  feetKnown.set(book, known)
  const before = known.get(cues)
  if (before) return before
  const footed = cues.filter((c) => isFooted(c))
  const taken = (c: Cue) => factsOf(c, book).subs.filter((s) => s.kind === 'weight')
  const feet: Feet = {
    steps: footed.flatMap((c) => taken(c).map((s) => c.at + s.at)).sort((a, b) => a - b),
    cues: footed.map((c) => ({
      at: c.at,
      end: c.at + c.length,
      steps: c.layer === 'travel' || taken(c).length > 0,
    })),
    travels: footed.filter((c) => c.layer === 'travel'),
  }
  known.set(cues, feet)
  return feet
}

/** When the steps begin that lead without a break to a place: what keeps the dancer in place ends it. */
function stepsBegin({ cues }: Feet, at: Ticks): Ticks | null {
  let begins: Ticks | null = null
  for (let i = countWhile(cues, (c) => c.at < at) - 1; i >= 0; i--) {
    const c = cues[i] as Feet['cues'][number]
    if (!c.steps || c.end < (begins ?? at) || at - c.at > LONGEST) break
    begins = c.at
  }
  return begins
}

/** How long a dancer takes to a formation: as said, as what travels there says, as the steps before it last, else two bars. */
function takes({ at, over }: Formation, feet: Feet): Ticks {
  if (over !== undefined) return over
  const travel = feet.travels[countWhile(feet.travels, (c) => c.at < at) - 1]
  if (travel && travel.at + travel.length >= at) return at - travel.at
  const begins = stepsBegin(feet, at)
  return begins === null ? LONGEST : at - begins
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

/** The share of a way that has gone at a moment. */
const gone = ({ leaves, arrives }: Travel, tick: number) =>
  arrives > leaves ? Math.min(1, Math.max(0, (tick - leaves) / (arrives - leaves))) : tick < arrives ? 0 : 1

/** A place on a way: straight, or along the curve that passes through its bend half-way. @param share 0 to 1 */
export function onWay({ from, to, through }: Pick<Travel, 'from' | 'to' | 'through'>, share: number): Spot {
  if (!through) return { x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share }
  const bend = (a: number, m: number, b: number) => {
    const control = 2 * m - (a + b) / 2
    const left = 1 - share
    return left * left * a + 2 * left * share * control + share * share * b
  }
  return { x: bend(from.x, through.x, to.x), y: bend(from.y, through.y, to.y) }
}

const PIECES = 24

/** How long a way is. */
export function lengthOf(way: Pick<Travel, 'from' | 'to' | 'through'>): Metres {
  if (!way.through) return Math.sqrt((way.to.x - way.from.x) ** 2 + (way.to.y - way.from.y) ** 2)
  let length = 0
  let before = way.from
  for (let i = 1; i <= PIECES; i++) {
    const next = onWay(way, i / PIECES)
    length += Math.hypot(next.x - before.x, next.y - before.y)
    before = next
  }
  return length
}

/** The way a dancer is on, or came by last, at a moment. */
export function wayAt(ways: readonly Travel[], tick: number): Travel | null {
  return ways[countWhile(ways, (w) => w.leaves <= tick) - 1] ?? null
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

/** Where on a way a dancer is at a moment: at its beginning before it, at its end after it. */
export const spotOn = (way: Travel, tick: number): Spot => onWay(way, gone(way, tick))

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
