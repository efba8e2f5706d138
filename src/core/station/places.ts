import {
  APART,
  arranged,
  exchangedSpots,
  firstRow,
  formationsAt,
  mirroredSpots,
  movedSpots,
  nearestSpots,
  type Shape,
  type Standing,
  snapped,
  spreadSpots,
  standingIn,
  turnedSpots,
} from '../places'
import {
  addDancers,
  bendWay,
  type Dancer,
  type Edit,
  type Formation,
  type FormationSpot,
  goAfterAnother,
  leaveSpots,
  moveFormation,
  type NewId,
  nameFormation,
  placeDancers,
  removeDancer,
  removeFormation,
  type Spot,
  setOver,
  standAs,
} from '../routine'
import { TICKS_PER_COUNT, type Ticks } from '../time'

/*
 * Where dancers stand, as a machine: who is chosen, and what a press, a key or a button does to them at the cursor. One edit each.
 */

export interface PlacesState {
  /** Dancers in the order they were chosen in. */
  chosen: readonly string[]
  /** What is pulled, and how far by now; kept when it is let go. */
  pulled: { of: 'dancers' | 'bend'; by: Spot; dancer: string } | null
}

export const PLACES_AT_FIRST: PlacesState = { chosen: [], pulled: null }

/** What is looked at while an event comes in. */
export interface PlacesSeen {
  tick: Ticks
  /** Where the dance begins. */
  from: Ticks
  dancers: readonly Dancer[]
  standing: Standing
  newId: NewId
}

export type Arrange = Shape | 'other side' | 'turn right' | 'turn left' | 'apart' | 'together' | 'exchange'

export type PlacesEvent =
  /** @param more beside those who are chosen */
  | { kind: 'choose'; dancer: string; more: boolean }
  | { kind: 'choose all' }
  | { kind: 'choose none' }
  /** To the next or the dancer before, in order. */
  | { kind: 'step'; by: 1 | -1 }
  /** Metres from where it was. @param dancer at whom the pointer or the keys are: moved with those who are chosen, or alone */
  | { kind: 'pull'; of: 'dancers' | 'bend'; dancer: string; by: Spot }
  /** @param free not to the nearest half metre */
  | { kind: 'let go'; free: boolean }
  | { kind: 'give up' }
  | { kind: 'arrange'; as: Arrange }
  /** Dancers, in a row of their own where the dance has none yet. */
  | { kind: 'add'; n: number }
  | { kind: 'take out' }
  /** A formation begins at the cursor. */
  | { kind: 'new formation' }
  | { kind: 'name'; name: string }
  | { kind: 'move formation' }
  | { kind: 'remove formation' }
  | { kind: 'as in'; formation: string; otherSide: boolean }
  /** Counts; null for as the cues say. */
  | { kind: 'over'; counts: number | null }
  | { kind: 'straight' }
  | { kind: 'after another'; counts: number }
  | { kind: 'stay' }

export type PlacesEffect = { kind: 'edit'; did: string; change: Edit }

interface PlacesStepped {
  state: PlacesState
  effects: readonly PlacesEffect[]
}

/** The formation that is worked on: the one that holds at the cursor, before the first one that one. */
export const formationHere = ({ standing, tick }: Pick<PlacesSeen, 'standing' | 'tick'>): Formation | null =>
  formationsAt(standing, tick).now ?? standing.formations[0] ?? null

/** Where everybody stands who stands anywhere, in the formation that is worked on. */
export const spotsHere = (seen: Pick<PlacesSeen, 'standing' | 'tick'>): readonly FormationSpot[] => {
  const here = formationHere(seen)
  return here ? standingIn(seen.standing, here) : []
}

/** Who is worked on: those who are chosen, else all who stand here. */
function workedOn(state: PlacesState, seen: PlacesSeen): FormationSpot[] {
  const spots = spotsHere(seen)
  if (!state.chosen.length) return [...spots]
  return state.chosen.flatMap((id) => spots.find((s) => s.dancer === id) ?? [])
}

const edit = (state: PlacesState, did: string, change: Edit): PlacesStepped => ({
  state,
  effects: [{ kind: 'edit', did, change }],
})

/** Others are left where they are; these stand there from the formation on. */
function stand(
  state: PlacesState,
  seen: PlacesSeen,
  did: string,
  to: (spots: readonly Spot[]) => readonly Spot[],
): PlacesStepped {
  const of = workedOn(state, seen)
  const here = formationHere(seen)
  if (!here || !of.length) return { state, effects: [] }
  const next = to(of).map(({ x, y }, i) => ({ dancer: (of[i] as FormationSpot).dancer, x, y }))
  return edit(state, did, (r) => placeDancers(r, here.at, next, seen.newId))
}

const EIGHTH: Partial<Record<Arrange, number>> = { 'turn right': 1, 'turn left': -1 }

function arrange(state: PlacesState, as: Arrange, seen: PlacesSeen): PlacesStepped {
  const did =
    as === 'other side' || as === 'exchange' || as === 'apart' || as === 'together'
      ? `dancers ${as}`
      : `dancers: ${as}`
  const eighths = EIGHTH[as]
  return stand(state, seen, did, (spots) => {
    if (eighths !== undefined) return turnedSpots(spots, eighths)
    if (as === 'other side') return mirroredSpots(spots)
    if (as === 'exchange') return exchangedSpots(spots)
    if (as === 'apart' || as === 'together') return spreadSpots(spots, as === 'apart' ? 1.2 : 1 / 1.2)
    const made = arranged(spots, as as Shape)
    // In the order they were chosen in; where nobody was, everybody goes the least.
    return state.chosen.length ? made : nearestSpots(spots, made)
  })
}

/** Dancers with letters of their own; the first ones stand in a row from the beginning of the dance. */
function added(state: PlacesState, n: number, seen: PlacesSeen): PlacesStepped {
  const { newId, from } = seen
  const at = formationHere(seen)?.at ?? from
  const did = n === 1 ? 'add a dancer' : `add ${n} dancers`
  return edit(state, did, (r) => {
    const next = addDancers(r, n, newId)
    const fresh = next.dancers.slice(r.dancers.length)
    // Those who come later stand behind all who are there.
    const back = Math.max(2 - APART, ...spotsHere(seen).map((s) => s.y))
    const row = firstRow(fresh.length).map((s) => ({ x: s.x, y: back + APART }))
    const spots = fresh.map((d, i) => ({ dancer: d.id, ...(row[i] as Spot) }))
    return placeDancers(next, at, spots, newId)
  })
}

/** What is done to the formation that is worked on. */
function onFormation(state: PlacesState, event: PlacesEvent, seen: PlacesSeen): PlacesStepped {
  const here = formationHere(seen)
  const { tick, newId } = seen
  const stays: PlacesStepped = { state, effects: [] }
  switch (event.kind) {
    case 'new formation': {
      const spots = workedOn(state, seen)
      if (!spots.length || here?.at === tick) return stays
      return edit(state, 'a new formation', (r) => placeDancers(r, tick, spots, newId))
    }
    case 'as in': {
      const from = seen.standing.formations.find((f) => f.id === event.formation)
      if (!from || from.at === tick) return stays
      const did = event.otherSide ? 'stand as there, on the other side' : 'stand as there'
      const spots = standingIn(seen.standing, from)
      return edit(state, did, (r) => standAs(r, tick, spots, event.otherSide, newId))
    }
  }
  if (!here) return stays
  const ids = workedOn(state, seen).map((s) => s.dancer)
  switch (event.kind) {
    case 'name':
      return edit(state, 'name a formation', (r) => nameFormation(r, here.id, event.name))
    case 'move formation':
      return here.at === tick
        ? stays
        : edit(state, 'move a formation', (r) => moveFormation(r, here.id, tick))
    case 'remove formation':
      return edit(state, 'take a formation out', (r) => removeFormation(r, here.id))
    case 'over': {
      const over = event.counts === null ? null : Math.round(event.counts * TICKS_PER_COUNT)
      return edit(state, 'how long ways take', (r) => setOver(r, here.id, over))
    }
    case 'straight':
      return edit(state, 'straight ways', (r) => ids.reduce((now, id) => bendWay(now, here.id, id, null), r))
    case 'after another': {
      const each = Math.round(event.counts * TICKS_PER_COUNT)
      return edit(state, 'one after another', (r) => goAfterAnother(r, here.id, ids, each))
    }
    case 'stay':
      return edit(state, 'stay where they stood', (r) => leaveSpots(r, here.id, ids))
    default:
      return stays
  }
}

/** What was pulled is let go: it stands there. */
function letGo(state: PlacesState, free: boolean, seen: PlacesSeen): PlacesStepped {
  const { pulled } = state
  const still = { ...state, pulled: null }
  const here = formationHere(seen)
  if (!pulled || !here || (pulled.by.x === 0 && pulled.by.y === 0)) return { state: still, effects: [] }
  if (pulled.of === 'bend') {
    const way = seen.standing.travels.get(pulled.dancer)?.find((w) => w.formation === here.id)
    if (!way) return { state: still, effects: [] }
    const middle = way.through ?? { x: (way.from.x + way.to.x) / 2, y: (way.from.y + way.to.y) / 2 }
    const to = { x: middle.x + pulled.by.x, y: middle.y + pulled.by.y }
    return edit(still, 'bend a way', (r) => bendWay(r, here.id, pulled.dancer, to))
  }
  return stand(still, seen, 'move dancers', (spots) => {
    const moved = movedSpots(spots, pulled.by)
    if (free) return moved
    // The one who is pulled stands on half a metre; the others keep their distance.
    const lead = workedOn(state, seen).findIndex((s) => s.dancer === pulled.dancer)
    const at = moved[lead]
    if (!at) return moved
    const to = snapped(at)
    return movedSpots(moved, { x: to.x - at.x, y: to.y - at.y })
  })
}

/** The next state, and what is to be done. */
export function stepPlaces(state: PlacesState, event: PlacesEvent, seen: PlacesSeen): PlacesStepped {
  const { chosen } = state
  const just = (what: Partial<PlacesState>): PlacesStepped => ({ state: { ...state, ...what }, effects: [] })
  switch (event.kind) {
    case 'choose': {
      const { dancer, more } = event
      if (!more) return just({ chosen: [dancer] })
      return just({
        chosen: chosen.includes(dancer) ? chosen.filter((c) => c !== dancer) : [...chosen, dancer],
      })
    }
    case 'choose all':
      return just({ chosen: spotsHere(seen).map((s) => s.dancer) })
    case 'choose none':
      return just({ chosen: [], pulled: null })
    case 'step': {
      const ids = seen.dancers.map((d) => d.id)
      if (!ids.length) return just({})
      const at = ids.indexOf(chosen.at(-1) ?? '')
      const next = at < 0 ? (event.by > 0 ? 0 : ids.length - 1) : (at + event.by + ids.length) % ids.length
      return just({ chosen: [ids[next] as string] })
    }
    case 'pull': {
      const { of, dancer, by } = event
      const also = of === 'bend' || chosen.includes(dancer) ? chosen : [dancer]
      return just({ chosen: also, pulled: { of, dancer, by } })
    }
    case 'let go':
      return letGo(state, event.free, seen)
    case 'give up':
      return just({ pulled: null })
    case 'arrange':
      return arrange(state, event.as, seen)
    case 'add':
      return added(state, event.n, seen)
    case 'take out': {
      const out = chosen
      if (!out.length) return just({})
      const did = out.length === 1 ? 'take a dancer out' : `take ${out.length} dancers out`
      return edit({ ...state, chosen: [] }, did, (r) => out.reduce((now, id) => removeDancer(now, id), r))
    }
    default:
      return onFormation(state, event, seen)
  }
}
