import type { Finding } from '../choreo'
import { bendWay, type FindingKind, type Formation, type Routine, setOver } from '../routine'
import { TICKS_PER_COUNT } from '../time'
import { about, type Called, type Looked, where } from './looked'
import { cureOf, type Meeting, meetings } from './meet'
import type { Travel } from './on-way'
import type { Effort, Standing } from './standing'
import { metresText } from './words'

/* What there is to look at on the ways from one formation to the next. */

/** Two who come too near; partners are near by trade. */
export function meetingsFound(standing: Standing, looked: Looked, called: Called): Finding[] {
  const partner = new Map(looked.routine.dancers.map((d) => [d.id, d.partner]))
  const all = meetings(standing).filter((m) => partner.get(m.a) !== m.b)
  return byFormation(all, (m) => m.formation).flatMap(([formation, list]) => [
    ...list.slice(0, EACH).map((m) => meetingFound(m, standing, looked, called)),
    ...more('meet', list.slice(EACH), formation, standing, looked, 'are two more who meet', 'more who meet'),
  ])
}

/** So many of one kind are told one by one for each formation; of the others there is one finding. */
const EACH = 5

function byFormation<T>(list: readonly T[], of: (item: T) => string): [string, T[]][] {
  const out = new Map<string, T[]>()
  for (const item of list) {
    const known = out.get(of(item))
    if (known) known.push(item)
    else out.set(of(item), [item])
  }
  return [...out]
}

/** What else there is of a kind on the ways to a formation. */
function more(
  kind: FindingKind,
  rest: readonly unknown[],
  formation: string,
  { formations }: Standing,
  { placed }: Looked,
  one: string,
  many: string,
): Finding[] {
  const f = formations.find((x) => x.id === formation)
  if (!f || !rest.length) return []
  const said = rest.length === 1 ? one : `are ${rest.length} ${many}`
  return [
    {
      about: about(kind, f.at, 1, `${many},${rest.length}`),
      ...{ kind, at: f.at, layer: 'feet', mend: null },
      says: `On the ways to ${where(placed, f.at)} there ${said}.`,
      why: 'They are told one by one as soon as those before them are mended.',
    },
  ]
}

function meetingFound(m: Meeting, standing: Standing, { placed }: Looked, called: Called): Finding {
  const [a, b] = [called(m.a), called(m.b)]
  const at = Math.max(0, Math.floor(m.at))
  // Asked for when it is looked at: most are not.
  let known: ReturnType<typeof cureOf> | undefined
  const cure = () => {
    known = known === undefined ? cureOf(standing, m) : known
    return known
  }
  const far = Math.round(100 * m.metres)
  return {
    about: about('meet', at, TICKS_PER_COUNT, `${a},${b},${far}`),
    kind: 'meet',
    at,
    layer: 'feet',
    says: `${a} and ${b} meet on ${where(placed, at)}: ${metresText(m.metres)} apart.`,
    get why() {
      const found = cure()
      return found
        ? `${called(found.dancer)} round aside keeps ${metresText(found.keeps)} and goes ${metresText(found.adds)} further.`
        : 'No bend of one way keeps them apart: change a place, or let one go after the other.'
    },
    get mend() {
      const found = cure()
      if (!found) return null
      const { dancer, formation, through } = found
      return {
        name: `Bend ${called(dancer)}’s way`,
        change: (r: Routine) => bendWay(r, formation, dancer, through),
      }
    },
  }
}

/** Ways that take longer steps than a run, or have none. */
export const tooFarFound = (
  efforts: readonly Effort[],
  standing: Standing,
  looked: Looked,
  called: Called,
): Finding[] =>
  byFormation(
    efforts.filter((e) => isTooFar(e, looked)),
    (e) => e.travel.formation,
  ).flatMap(([formation, list]) => [
    ...list.slice(0, EACH).flatMap((e) => tooFar(e, standing, looked, called)),
    ...more(
      'far',
      list.slice(EACH),
      formation,
      standing,
      looked,
      'is one more way too far',
      'more ways too far',
    ),
  ])

const isTooFar = ({ travel, each }: Effort, { routine }: Looked) =>
  travel.arrives === travel.leaves || each === null || each > routine.space.run

/** A way that takes longer steps than a run, or has none. */
function tooFar(effort: Effort, standing: Standing, looked: Looked, called: Called): Finding {
  const { travel, metres, steps, each } = effort
  const { placed } = looked
  const who = called(travel.dancer)
  const counts = (travel.arrives - travel.leaves) / TICKS_PER_COUNT
  if (travel.arrives === travel.leaves) return late(travel, looked, who, metres)
  const formation = standing.formations.find((f) => f.id === travel.formation) as Formation
  return {
    about: about(
      'far',
      travel.leaves,
      travel.arrives - travel.leaves,
      `${who},${steps},${Math.round(10 * metres)}`,
    ),
    kind: 'far',
    at: travel.leaves,
    layer: 'feet',
    says:
      each === null
        ? `${who} goes ${metresText(metres)} to ${where(placed, formation.at)}, and no step is written for it.`
        : `${who} has to run: ${metresText(metres)} in ${steps} ${steps === 1 ? 'step' : 'steps'} to ${where(placed, formation.at)}, ${metresText(each)} each.`,
    why: `It takes ${Math.round(10 * counts) / 10} counts from ${where(placed, travel.leaves)} on.`,
    mend: each === null ? null : longerWay(effort, formation, standing),
  }
}

/** Begun earlier, with as many steps as it takes: tried, where nothing else is on the way. */
function longerWay({ travel, metres, steps }: Effort, f: Formation, standing: Standing): Finding['mend'] {
  const each = (travel.arrives - travel.leaves) / steps
  const over = Math.ceil((metres / 0.8) * each)
  const before = standing.formations[standing.formations.indexOf(f) - 1]
  if (before && f.at - over < before.at) return null
  return { name: 'Begin the way earlier', change: (r) => setOver(r, f.id, over) }
}

/** Somebody who comes after another has not arrived when the next way begins. */
const late = (travel: Travel, { placed }: Looked, who: string, metres: number): Finding => ({
  about: about('late', travel.arrives, 1, `${who},${Math.round(10 * metres)}`),
  kind: 'late',
  at: travel.arrives,
  layer: 'feet',
  says: `${who} has no time to go ${metresText(metres)} by ${where(placed, travel.arrives)}: the way before it ends there.`,
  why: 'Going one after another, the last arrives when the next way has begun.',
  mend: null,
})
