import type { Finding, MoveBook } from '../choreo'
import { asDanced } from '../choreo'
import {
  bendWay,
  type DancedCue,
  danced,
  danceOf,
  type FindingAbout,
  type FindingKind,
  type Formation,
  type FormationSpot,
  findingKey,
  labelIn,
  type PlacedPhrase,
  phraseAt,
  placeName,
  placePhrases,
  type Routine,
  type Space,
  setOver,
} from '../routine'
import { holds, TICKS_PER_COUNT, type Ticks } from '../time'
import { cureOf, type Meeting, meetings } from './meet'
import { pathOf } from './path'
import { driftsOf, fitsRoom, inPicture, leavings } from './room'
import { AUDIENCE, cameraAt, type Hidden, hiddenFrom } from './seen'
import {
  cuesOfDancers,
  type Effort,
  effortsOf,
  type Standing,
  standingIn,
  standingOf,
  type Travel,
} from './standing'
import { awayText, metresText } from './words'

/* What there is to look at in the room: whether it is large enough, who meets, who has too far to go, who is not seen. */

/** What the findings are worked out from. */
interface Looked {
  routine: Routine
  placed: readonly PlacedPhrase[]
  all: readonly DancedCue[]
  book: MoveBook
}

const about = (kind: FindingKind, at: Ticks, length: Ticks, says: string): FindingAbout => ({
  kind,
  places: [{ at, length: Math.max(1, Math.round(length)), says: says.slice(0, 300) }],
})

const where = (placed: readonly PlacedPhrase[], tick: number): string => {
  const at = Math.floor(tick)
  const phrase = phraseAt(placed, at)
  // Between two named places the count is said.
  return phrase ? `${labelIn(phrase, nearCount(at, phrase))} of ${placeName(phrase)}` : ''
}

const nearCount = (tick: Ticks, { start, end }: PlacedPhrase): Ticks => {
  const half = TICKS_PER_COUNT / 2
  return Math.min(end - half, Math.max(start, start + Math.round((tick - start) / half) * half))
}

/** Findings of the room, of one dancer and of several; those let stand are left out. */
export function placeFindings(routine: Routine, book: MoveBook): Finding[] {
  const looked: Looked = { routine, placed: placePhrases(routine), all: danced(routine), book }
  const out = routine.dancers.length > 1 ? ofDancers(looked) : ofOne(looked)
  const stand = new Set(routine.dismissed.map((d) => findingKey(d.about)))
  const left = stand.size ? out.filter((f) => !stand.has(findingKey(f.about))) : out
  return left.sort((a, b) => a.at - b.at)
}

/** The path of one dancer: walls, the picture, and what drifts. */
function ofOne({ routine, placed, all, book }: Looked): Finding[] {
  const { space } = routine
  const dance = danceOf(routine)
  const cues = asDanced(all, '', 'base').filter((c) => holds(dance, c.at))
  const path = pathOf(cues, book, space, routine.positions)
  const left = leavings(path, space).map(({ of, point }): Finding => {
    const { cue, at } = point
    return {
      about: about(of, at, cue.length, `${cue.move},${cue.side}`),
      kind: of,
      at,
      layer: cue.layer,
      says: `On ${where(placed, at)} “${cue.move}” leads out of the ${of}.`,
      why:
        of === 'room'
          ? 'Arms and legs need half a metre to the walls. Begin elsewhere, or take smaller steps.'
          : 'From there on the camera does not see all of the dancer.',
      mend: null,
    }
  })
  const drifts = driftsOf(path, routine.repeats, dance).map(
    (d): Finding => ({
      about: about('drift', d.of.from, d.of.to - d.of.from, `${d.times},${awayText(d.each)}`),
      kind: 'drift',
      at: d.of.from,
      layer: 'feet',
      says: `What begins on ${where(placed, d.of.from)} is danced ${d.times} times and does not come back: ${awayText(d.whole)} in all.`,
      why: `Each time ${awayText(d.each)} further.`,
      mend: null,
    }),
  )
  return [...left, ...drifts]
}

/** Several dancers: each formation, and the ways to it. */
function ofDancers(looked: Looked): Finding[] {
  const { routine, all, book } = looked
  const cues = cuesOfDancers(routine.dancers, all)
  const standing = standingOf(routine.formations, cues, book)
  const letters = new Map(routine.dancers.map((d) => [d.id, d.letters]))
  const called = (id: string) => letters.get(id) ?? '?'
  return [
    ...meetingsFound(standing, looked, called),
    ...tooFarFound(effortsOf(standing, cues, book), standing, looked, called),
    ...standing.formations.flatMap((f) => inFormation(f, standing, looked, called)),
  ]
}

type Called = (dancer: string) => string

/** Two who come too near; partners are near by trade. */
function meetingsFound(standing: Standing, looked: Looked, called: Called): Finding[] {
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
const tooFarFound = (
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

const behindText = (list: readonly Hidden[], called: Called) =>
  list.map((h) => `${called(h.dancer)} behind ${called(h.by)}`).join(', ')

/** Who is hidden from the audience, and who besides them from the camera. */
function hiddenIn(
  spots: readonly FormationSpot[],
  camera: Space['camera'],
): { from: string; list: readonly Hidden[] }[] {
  const list = hiddenFrom(AUDIENCE, spots)
  const known = new Set(list.map((h) => h.dancer))
  const others = camera ? hiddenFrom(cameraAt(camera), spots).filter((h) => !known.has(h.dancer)) : []
  return [
    { from: 'the middle of the audience', list },
    { from: 'the camera', list: others },
  ].filter((b) => b.list.length)
}

/** Who of those who stand somewhere is outside of the room or the picture, and who is hidden. */
interface Trouble {
  outside: readonly FormationSpot[]
  unseen: readonly FormationSpot[]
  behind: ReturnType<typeof hiddenIn>
}

const troubleKnown = new WeakMap<readonly FormationSpot[], Trouble & Pick<Space, 'room' | 'camera'>>()

/** As worked out last for the same places: an edit leaves nearly all of them as they were. */
function troubleIn(spots: readonly FormationSpot[], { room, camera }: Space): Trouble {
  const known = troubleKnown.get(spots)
  if (known && known.room === room && known.camera === camera) return known
  const made = {
    ...{ room, camera },
    outside: room ? spots.filter((s) => !fitsRoom(s, room)) : [],
    unseen: camera ? spots.filter((s) => !inPicture(s, camera)) : [],
    behind: hiddenIn(spots, camera),
  }
  troubleKnown.set(spots, made)
  return made
}

/** What is the matter once everybody has arrived at a formation. */
function inFormation(f: Formation, standing: Standing, looked: Looked, called: Called): Finding[] {
  const { placed, routine } = looked
  const { outside, unseen, behind } = troubleIn(standingIn(standing, f), routine.space)
  if (!outside.length && !unseen.length && !behind.length) return []
  const names = (list: readonly { dancer: string }[]) => list.map((s) => called(s.dancer)).join(', ')
  const found = (kind: FindingKind, who: string, says: string, why: string): Finding => ({
    about: about(kind, f.at, 1, `${who},${f.spots.length}`),
    ...{ kind, at: f.at, layer: 'feet', says, why, mend: null },
  })
  const here = where(placed, f.at)
  return [
    ...(outside.length
      ? [
          found(
            'room',
            names(outside),
            `On ${here} ${names(outside)} would stand in the wall.`,
            'Arms and legs need half a metre.',
          ),
        ]
      : []),
    ...(unseen.length
      ? [
          found(
            'picture',
            names(unseen),
            `On ${here} ${names(unseen)} is not in the camera’s picture.`,
            'It sees wider the further back one stands.',
          ),
        ]
      : []),
    ...(behind.length
      ? [
          found(
            'hidden',
            names(behind.flatMap((b) => b.list)),
            `On ${here} ${behind.map(({ from, list }) => `${behindText(list, called)}: not seen from ${from}`).join('; ')}.`,
            'Whoever stands within a head’s width of the line of sight is hidden.',
          ),
        ]
      : []),
  ]
}
