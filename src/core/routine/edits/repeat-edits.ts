import { common, holds, type Stretch } from '../../time'
import { placePhrases } from '../counts/layout'
import type { Repeat } from '../document/cue-schema'
import type { Routine } from '../document/schema'
import { Refused } from '../gate/refused'
import { tickName } from '../names/names'
import { written } from '../repeats/danced-cue'
import { circleIn } from '../repeats/repeat-ways'
import { cutRepeat, dance, danced, writtenOut } from '../repeats/repeats'
import type { NewId } from './phrase-edits'

/**
 * Says that a stretch is danced as another one. Repeats it lies over give way to it there and stay beside it.
 * @throws Refused where that would lead in a circle
 */
export function setRepeat(routine: Routine, repeat: Repeat, newId: NewId): Routine {
  const kept = routine.repeats.flatMap((r) => (r.id === repeat.id ? [] : cutRepeat(r, repeat.to, newId)))
  const next = { ...routine, repeats: [...kept, repeat] }
  const tick = circleIn(next.repeats)
  if (tick !== null)
    throw new Refused(
      `That would lead in a circle: ${tickName(placePhrases(routine), tick)} would be danced as itself.`,
    )
  return next
}

/** Ends a repeat; with `keep` its cues are written out here, so that nothing danced changes. */
export function endRepeat(routine: Routine, id: string, keep: boolean, newId: NewId): Routine {
  if (!routine.repeats.some((r) => r.id === id)) return routine
  if (keep) return writtenOut(routine, id, newId)
  return { ...routine, repeats: routine.repeats.filter((r) => r.id !== id) }
}

/**
 * Writes what is linked in a stretch out there, so that it can be changed by itself; the repeats go on beside it. Nothing
 * danced changes.
 */
export function unlink(routine: Routine, stretch: Stretch, newId: NewId): Routine {
  let next = routine
  for (const r of routine.repeats) {
    const piece = common(r.to, stretch)
    if (!piece) continue
    const copies = danced(next)
      .filter((c) => c.link?.repeat === r.id && holds(piece, c.at))
      .map((c) => ({ ...written(c), id: newId() }))
    const repeats = next.repeats.flatMap((x) => (x.id === r.id ? cutRepeat(x, piece, newId) : [x]))
    const cut = { ...next, cues: [...next.cues, ...copies], repeats }
    // A cue that differs may have stood in for one that is linked beside the piece: then all of it is written out.
    next = dance(cut).join() === dance(next).join() ? cut : writtenOut(next, r.id, newId)
  }
  return next
}
