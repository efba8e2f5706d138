import { common, holds, joined, type Stretch, without } from '../../time'
import { byPlace } from '../counts/layout'
import type { Cue, Repeat } from '../document/cue-schema'
import type { Routine } from '../document/schema'
import type { NewId } from '../edits/phrase-edits'
import { asDiffering, asWritten, type DancedCue, dancedAs, linkedBy, written } from './danced-cue'
import { circleIn } from './repeat-ways'

/** Cues that start in a stretch, found by bisection. */
function between(cues: readonly Cue[], { from, to }: Stretch): readonly Cue[] {
  let [low, high] = [0, cues.length]
  while (low < high) {
    const mid = (low + high) >> 1
    if ((cues[mid] as Cue).at < from) low = mid + 1
    else high = mid
  }
  let end = low
  while (end < cues.length && (cues[end] as Cue).at < to) end++
  return cues.slice(low, end)
}

/** Works out what is danced in a stretch, each one once. */
class Resolver {
  private readonly known = new Map<string, DancedCue[]>()
  readonly cues: readonly Cue[]
  readonly repeats: readonly Repeat[]
  constructor(routine: Pick<Routine, 'cues' | 'repeats'>) {
    this.cues = [...routine.cues].sort(byPlace)
    this.repeats = [...routine.repeats].sort((a, b) => a.to.from - b.to.from)
  }

  in(stretch: Stretch): DancedCue[] {
    const key = `${stretch.from} ${stretch.to}`
    let out = this.known.get(key)
    if (!out) {
      out = this.worked(stretch)
      this.known.set(key, out)
    }
    return out
  }

  private worked(stretch: Stretch): DancedCue[] {
    const over = this.repeats.flatMap((r) => {
      const piece = common(r.to, stretch)
      return piece ? [{ r, piece }] : []
    })
    const written = between(this.cues, stretch)
    if (!over.length) return written.map(asWritten)
    const own = written.map((c) =>
      over.some(({ piece }) => holds(piece, c.at)) ? asDiffering(c) : asWritten(c),
    )
    return [...own, ...over.flatMap(({ r, piece }) => this.linked(r, piece))].sort(byPlace)
  }

  private linked(r: Repeat, piece: Stretch): DancedCue[] {
    const away = r.from - r.to.from
    const mine = between(this.cues, r.to)
    return this.in({ from: piece.from + away, to: piece.to + away })
      .map(linkedBy(r))
      .filter((c) => !mine.some((o) => replaces(o, c)))
  }
}

/** A cue written inside a repeat takes the place of those linked there in its layer, for the same people and option. */
function replaces(own: Cue, linked: Cue): boolean {
  return (
    own.layer === linked.layer &&
    (own.role ?? '') === (linked.role ?? '') &&
    (own.option ?? 'base') === (linked.option ?? 'base') &&
    own.at < linked.at + linked.length &&
    linked.at < own.at + own.length
  )
}

/** A document never changes, so what it dances is worked out once. */
const known = new WeakMap<Routine['cues'], WeakMap<Routine['repeats'], readonly DancedCue[]>>()

/** Every cue as it is danced, repeats worked out, in order of place. Repeats in a circle bring nothing. */
export function danced(routine: Pick<Routine, 'cues' | 'repeats'>): readonly DancedCue[] {
  let of = known.get(routine.cues)
  if (!of) {
    of = new WeakMap()
    known.set(routine.cues, of)
  }
  let cues = of.get(routine.repeats)
  if (!cues) {
    cues = workOut(routine)
    of.set(routine.repeats, cues)
  }
  return cues
}

function workOut(routine: Pick<Routine, 'cues' | 'repeats'>): DancedCue[] {
  const repeats = circleIn(routine.repeats) === null ? routine.repeats : []
  const resolver = new Resolver({ cues: routine.cues, repeats })
  return resolver.in({ from: Number.NEGATIVE_INFINITY, to: Number.POSITIVE_INFINITY })
}

/** Everything that is danced, without where it is written: two routines that dance the same give the same. */
export const dance = (routine: Pick<Routine, 'cues' | 'repeats'>): string[] =>
  danced(routine).map(dancedAs).sort()

/** A routine without a repeat, its cues written out where they were linked: nothing danced changes. */
export function writtenOut(routine: Routine, id: string, newId: NewId): Routine {
  const copies = danced(routine)
    .filter((c) => c.link?.repeat === id)
    .map((c) => ({ ...written(c), id: newId() }))
  return {
    ...routine,
    repeats: routine.repeats.filter((r) => r.id !== id),
    cues: [...routine.cues, ...copies],
  }
}

/** A repeat without a stretch of what it is danced at: none, one or two pieces. */
export function cutRepeat(r: Repeat, taken: Stretch, newId: NewId): Repeat[] {
  return without(r.to, taken).map((to, i) => ({
    ...r,
    id: i === 0 ? r.id : newId(),
    to,
    from: r.from + to.from - r.to.from,
  }))
}

/** Repeats whose source lies in a stretch: where it is danced again. */
export function usersOf(routine: Pick<Routine, 'repeats'>, stretch: Stretch): Repeat[] {
  return routine.repeats.filter((r) => common({ from: r.from, to: r.from + r.to.to - r.to.from }, stretch))
}

/**
 * Where the material of a stretch is written: itself, and for what is repeated without a difference the stretch it is
 * repeated from, followed back to where it is written.
 */
export function rootsOf(routine: Pick<Routine, 'cues' | 'repeats'>, stretch: Stretch): Stretch[] {
  if (circleIn(routine.repeats) !== null) return [stretch]
  const { repeats, cues } = new Resolver(routine)
  const out: Stretch[] = []
  const seen = new Set<string>()
  const follow = (s: Stretch) => {
    const key = `${s.from} ${s.to}`
    // Repeats of repeats lead to one place by many ways.
    if (seen.has(key)) return
    seen.add(key)
    let own: Stretch[] = [s]
    for (const r of repeats) {
      const piece = common(r.to, s)
      if (!piece || between(cues, piece).length) continue
      own = own.flatMap((o) => without(o, piece))
      const away = r.from - r.to.from
      follow({ from: piece.from + away, to: piece.to + away })
    }
    out.push(...own)
  }
  follow(stretch)
  return joined(out)
}

/** True for a stretch that brings nothing new: all of it is repeated, and nothing is written in it. */
export function isOld(routine: Pick<Routine, 'cues' | 'repeats'>, stretch: Stretch): boolean {
  let left: Stretch[] = [stretch]
  for (const r of routine.repeats) left = left.flatMap((s) => without(s, r.to))
  return left.length === 0 && !routine.cues.some((c) => holds(stretch, c.at))
}
