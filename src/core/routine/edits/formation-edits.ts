import type { Ticks } from '../../time'
import { wholeOf } from '../counts/layout'
import { LIMITS } from '../document/limits'
import type { Routine } from '../document/schema'
import type { Dancer, Formation, FormationSpot, Space, Spot } from '../document/space-schema'
import { Refused } from '../gate/refused'
import type { NewId } from './phrase-edits'

/** How far steps go, and how much room there is. */
export const setSpace = (routine: Routine, what: Partial<Space>): Routine => ({
  ...routine,
  space: { ...routine.space, ...what },
})

/** "A" to "Z", then "A2": letters nobody has yet. */
export function freeLetters(taken: readonly string[], n: number): string[] {
  const out: string[] = []
  for (let i = 0; out.length < n && i < 26 * 9; i++) {
    const letters = `${String.fromCharCode(65 + (i % 26))}${i < 26 ? '' : Math.floor(i / 26) + 1}`
    if (!taken.includes(letters)) out.push(letters)
  }
  return out
}

/** Adds dancers, named by their letters until somebody names them. */
export function addDancers(routine: Routine, n: number, newId: NewId): Routine {
  const { dancers } = routine
  if (dancers.length + n > LIMITS.dancers) throw new Refused(`There are at most ${LIMITS.dancers} dancers.`)
  const letters = freeLetters(
    dancers.map((d) => d.letters),
    n,
  )
  const fresh = letters.map((l): Dancer => ({ id: newId(), name: l, letters: l, role: '', partner: null }))
  return { ...routine, dancers: [...dancers, ...fresh] }
}

/** Changes what is said of a dancer. Partners are each other's: who had one of the two before has none now. */
export function changeDancer(routine: Routine, id: string, what: Partial<Omit<Dancer, 'id'>>): Routine {
  if (!routine.dancers.some((d) => d.id === id)) return routine
  const partner = what.partner
  const dancers = routine.dancers.map((d): Dancer => {
    if (d.id === id) return { ...d, ...what }
    if (partner === undefined) return d
    if (d.id === partner) return { ...d, partner: id }
    return d.partner === id || (partner !== null && d.partner === partner) ? { ...d, partner: null } : d
  })
  return { ...routine, dancers }
}

/** Takes a dancer out, from every formation too. */
export function removeDancer(routine: Routine, id: string): Routine {
  if (!routine.dancers.some((d) => d.id === id)) return routine
  return {
    ...routine,
    dancers: routine.dancers
      .filter((d) => d.id !== id)
      .map((d) => (d.partner === id ? { ...d, partner: null } : d)),
    formations: routine.formations.map((f) => ({ ...f, spots: f.spots.filter((s) => s.dancer !== id) })),
  }
}

const byPlace = (formations: readonly Formation[]) => [...formations].sort((a, b) => a.at - b.at)

/** A place of a room, to the centimetre. */
export const onCentimetres = ({ x, y }: Spot): Spot => ({
  x: Math.round(x * 100) / 100,
  y: Math.round(y * 100) / 100,
})

/**
 * Has dancers stand somewhere from a count on; a formation begins there where there is none. What was said of their ways stays.
 * @throws Refused where it is no count of the page, or there are too many formations
 */
export function placeDancers(
  routine: Routine,
  at: Ticks,
  spots: readonly Pick<FormationSpot, 'dancer' | 'x' | 'y' | 'facing'>[],
  newId: NewId,
): Routine {
  const known = new Set(routine.dancers.map((d) => d.id))
  const placed = spots.filter((s) => known.has(s.dancer))
  if (!placed.length) return routine
  const whole = wholeOf(routine)
  if (!whole || at < whole.from || at >= whole.to)
    throw new Refused('A formation stands on a count of the page.')
  const there = routine.formations.find((f) => f.at === at)
  if (!there && routine.formations.length >= LIMITS.formations)
    throw new Refused(`There are at most ${LIMITS.formations} formations.`)
  const formation = there ?? { id: newId(), at, name: '', spots: [] }
  const spotsNow = new Map(formation.spots.map((s) => [s.dancer, s]))
  for (const { dancer, x, y, facing } of placed)
    spotsNow.set(dancer, {
      ...spotsNow.get(dancer),
      dancer,
      ...onCentimetres({ x, y }),
      ...(facing === undefined ? {} : { facing }),
    })
  const next = { ...formation, spots: [...spotsNow.values()] }
  return {
    ...routine,
    formations: byPlace([...routine.formations.filter((f) => f.id !== formation.id), next]),
  }
}

const changed = (routine: Routine, id: string, to: (f: Formation) => Formation): Routine =>
  routine.formations.some((f) => f.id === id)
    ? { ...routine, formations: byPlace(routine.formations.map((f) => (f.id === id ? to(f) : f))) }
    : routine

/** Names a formation; without a name it is called by its place. */
export const nameFormation = (routine: Routine, id: string, name: string): Routine =>
  changed(routine, id, (f) => ({ ...f, name: name.trim() }))

/** Has a formation stand from another count on. @throws Refused where one stands there */
export function moveFormation(routine: Routine, id: string, at: Ticks): Routine {
  if (routine.formations.some((f) => f.at === at && f.id !== id))
    throw new Refused('A formation stands there already.')
  const whole = wholeOf(routine)
  if (!whole || at < whole.from || at >= whole.to)
    throw new Refused('A formation stands on a count of the page.')
  return changed(routine, id, (f) => ({ ...f, at }))
}

/** Takes a formation out; those after it stand. */
export const removeFormation = (routine: Routine, id: string): Routine => ({
  ...routine,
  formations: routine.formations.filter((f) => f.id !== id),
})

/** Has dancers stay where they stood before: their spots of a formation go. */
export const leaveSpots = (routine: Routine, id: string, dancers: readonly string[]): Routine =>
  changed(routine, id, (f) => ({ ...f, spots: f.spots.filter((s) => !dancers.includes(s.dancer)) }))

/** How long the ways to a formation take; null to work it out from the cues. */
export const setOver = (routine: Routine, id: string, over: Ticks | null): Routine =>
  changed(routine, id, ({ over: _, ...f }) => (over === null ? f : { ...f, over }))

/** Bends a dancer's way to a formation through a place; null for straight. */
export const bendWay = (routine: Routine, id: string, dancer: string, through: Spot | null): Routine =>
  changed(routine, id, (f) => ({
    ...f,
    spots: f.spots.map(({ through: was, ...s }) =>
      s.dancer !== dancer
        ? { ...s, ...(was ? { through: was } : {}) }
        : { ...s, ...(through ? { through: onCentimetres(through) } : {}) },
    ),
  }))

/** Has dancers go one after another, in this order, each so much later than the one before; 0 for all at once. */
export const goAfterAnother = (
  routine: Routine,
  id: string,
  dancers: readonly string[],
  each: Ticks,
): Routine =>
  changed(routine, id, (f) => ({
    ...f,
    spots: f.spots.map(({ later, ...s }) => {
      const i = dancers.indexOf(s.dancer)
      const by = i < 0 ? (later ?? 0) : Math.min(LIMITS.cueLength, i * each)
      return by > 0 ? { ...s, later: by } : s
    }),
  }))

/** Where left and right change places. */
export const mirrorSpot = <S extends Spot>(spot: S): S => ({ ...spot, x: -spot.x })

/**
 * Has everybody stand as in another formation, or on the other side of it.
 * @param standing where everybody stands there
 */
export function standAs(
  routine: Routine,
  at: Ticks,
  standing: readonly FormationSpot[],
  otherSide: boolean,
  newId: NewId,
): Routine {
  const spots = standing.map(({ dancer, x, y, facing }) => {
    const faced = facing === undefined ? {} : { facing: otherSide ? (8 - facing) % 8 : facing }
    return { dancer, x: otherSide ? -x : x, y, ...faced }
  })
  return placeDancers(routine, at, spots, newId)
}
