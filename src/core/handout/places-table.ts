import { asDanced, facingName, type MoveBook } from '../choreo'
import { beginOf, cuesOfDancers, effortsOf, pathOf, standingIn, standingOf } from '../places'
import { danced, labelIn, mirrorFacing, phraseAt, placeName, placePhrases, type Routine } from '../routine'
import { holds, type Seconds, timeOfTick } from '../time'
import type { Contents } from './contents'
import type { Table } from './tables'

const hundredth = (n: number) => Math.round(n * 100) / 100 + 0

/**
 * Where everybody stands from each formation on, and how far they came: metres right of the middle and from the front edge. Of one
 * dancer, where each step leads.
 */
export function placesTable(
  routine: Routine,
  times: readonly Seconds[],
  contents: Contents,
  book: MoveBook,
): Table {
  return routine.dancers.length > 1
    ? formationTable(routine, times, contents, book)
    : pathTable(routine, times, contents, book)
}

const COUNT_COLUMNS = ['Place', 'Count', 'Seconds'] as const

/** Where a tick stands in words, and when. */
function whenOf(routine: Routine, times: readonly Seconds[]) {
  const placed = placePhrases(routine)
  return (at: number): (string | number)[] => {
    const p = phraseAt(placed, at)
    return [p ? placeName(p) : '', p ? labelIn(p, at) : '', Math.round(timeOfTick(times, at) * 1000) / 1000]
  }
}

function formationTable(
  routine: Routine,
  times: readonly Seconds[],
  { stretch, mirrored }: Contents,
  book: MoveBook,
): Table {
  const when = whenOf(routine, times)
  const cues = cuesOfDancers(routine.dancers, danced(routine))
  const standing = standingOf(routine.formations, cues, book)
  const efforts = effortsOf(standing, cues, book)
  const rows = standing.formations
    .filter((f) => holds(stretch, f.at))
    .flatMap((f) =>
      standingIn(standing, f).map(({ dancer, x, y, facing }) => {
        const who = routine.dancers.find((d) => d.id === dancer)
        const effort = efforts.find((e) => e.travel.dancer === dancer && e.travel.formation === f.id)
        const faced = facing === undefined ? '' : facingName(mirrored ? mirrorFacing(facing) : facing)
        return [
          ...when(f.at),
          f.name,
          who?.name ?? '',
          who?.letters ?? '',
          who?.role ?? '',
          hundredth(mirrored ? -x : x),
          hundredth(y),
          faced,
          effort ? hundredth(effort.metres) : 0,
          effort?.steps ?? 0,
          effort?.each === null || !effort ? '' : hundredth(effort.each),
        ]
      }),
    )
  return {
    name: 'Places',
    columns: [
      ...COUNT_COLUMNS,
      ...['Formation', 'Who', 'Letter', 'Role', 'Metres right of the middle', 'Metres from the front'],
      ...['Facing', 'Metres gone', 'Steps', 'Metres a step'],
    ],
    rows,
  }
}

function pathTable(routine: Routine, times: readonly Seconds[], contents: Contents, book: MoveBook): Table {
  const when = whenOf(routine, times)
  const cues = asDanced(danced(routine), contents.role, contents.version).filter((c) =>
    holds(contents.stretch, c.at),
  )
  const path = pathOf(cues, book, routine.space, routine.positions)
  const begin = beginOf(path, routine.space)
  return {
    name: 'Path',
    columns: [...COUNT_COLUMNS, 'Move', 'Metres right of the middle', 'Metres from the front', 'Certain'],
    rows: path.points.map(({ at, cue, x, y, uncertain }) => [
      ...when(at),
      cue.move,
      hundredth((contents.mirrored ? -1 : 1) * (x + begin.x)),
      hundredth(y + begin.y),
      uncertain ? 'no' : 'yes',
    ]),
  }
}
