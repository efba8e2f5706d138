import type { Finding } from '../choreo'
import type { FindingKind, Formation, FormationSpot, Space } from '../routine'
import { about, type Called, type Looked, where } from './looked'
import { fitsRoom, inPicture } from './room'
import { AUDIENCE, cameraAt, type Hidden, hiddenFrom } from './seen'
import { type Standing, standingIn } from './standing'

/* What there is to look at once everybody has arrived. */

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
export function foundInFormation(
  f: Formation,
  standing: Standing,
  looked: Looked,
  called: Called,
): Finding[] {
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
            `On ${here} ${names(unseen)} ${unseen.length > 1 ? 'are' : 'is'} not in the camera’s picture.`,
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
