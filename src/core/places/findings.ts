import { asDanced, type Finding, type MoveBook } from '../choreo'
import { danced, danceOf, findingKey, placePhrases, type Routine } from '../routine'
import { holds } from '../time'
import { foundInFormation } from './formation-findings'
import { about, type Looked, where } from './looked'
import { pathOf } from './path'
import { driftsOf, leavings } from './room'
import { cuesOfDancers, effortsOf, standingOf } from './standing'
import { meetingsFound, tooFarFound } from './way-findings'
import { awayText } from './words'

/* What there is to look at in the room: whether it is large enough, who meets, who has too far to go, who is not seen. */

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
    ...standing.formations.flatMap((f) => foundInFormation(f, standing, looked, called)),
  ]
}
