import {
  byPlace,
  type Cue,
  mirrorCue,
  type NewId,
  type PlacedPhrase,
  placePhrases,
  type Repeat,
  type Routine,
} from '../routine'
import type { Ticks } from '../time'

/** A cue as it is danced: its own, or linked from another phrase. */
export interface DancedCue extends Cue {
  /** The repeat that brings it here, and the cue it is there; null for a cue written here. */
  link: { repeat: string; cue: string } | null
  /** True for a cue written inside a repeat: here the repeat differs. */
  differs: boolean
}

interface Pages {
  placed: Map<string, PlacedPhrase>
  /** Written cues in order of place. */
  cues: readonly Cue[]
  repeats: ReadonlyMap<string, readonly Repeat[]>
}

function pagesOf(routine: Routine): Pages {
  const repeats = new Map<string, Repeat[]>()
  for (const r of routine.repeats) repeats.set(r.phrase, [...(repeats.get(r.phrase) ?? []), r])
  return {
    placed: new Map(placePhrases(routine).map((p) => [p.phrase.id, p])),
    cues: [...routine.cues].sort(byPlace),
    repeats,
  }
}

/** Cues that start in a span, found by bisection. */
function between(cues: readonly Cue[], from: Ticks, to: Ticks): readonly Cue[] {
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

class Circle extends Error {}

/** Works repeats out, each once; a repeat that leads back into itself is a circle. */
class Resolver {
  private readonly done = new Map<string, DancedCue[]>()
  private readonly open = new Set<string>()
  constructor(private readonly pages: Pages) {}

  /** What is danced in a part of a phrase, places as on the count line. */
  range(phrase: string, from: Ticks, to: Ticks): DancedCue[] {
    const p = this.pages.placed.get(phrase)
    if (!p) return []
    const [a, b] = [p.start + from, Math.min(p.end, p.start + to)]
    const repeats = this.pages.repeats.get(phrase) ?? []
    const inside = (tick: Ticks) =>
      repeats.some((r) => tick >= p.start + r.at && tick < p.start + r.at + r.length)
    const written = between(this.pages.cues, a, b)
    if (!repeats.length) return written.map(asWritten)
    const own = written.map((c) => (inside(c.at) ? uniform(c, null, true) : asWritten(c)))
    const linked = repeats
      .filter((r) => r.at < to && r.at + r.length > from)
      .flatMap((r) => {
        const mine = between(this.pages.cues, p.start + r.at, p.start + r.at + r.length)
        return this.repeat(r, p).filter((c) => c.at >= a && c.at < b && !mine.some((o) => replaces(o, c)))
      })
    return linked.length ? [...own, ...linked].sort(byPlace) : own
  }

  private repeat(r: Repeat, target: PlacedPhrase): DancedCue[] {
    const known = this.done.get(r.id)
    if (known) return known
    if (this.open.has(r.id)) throw new Circle()
    this.open.add(r.id)
    const source = this.pages.placed.get(r.source)
    const by = source ? target.start + r.at - (source.start + r.from) : 0
    const cues = this.range(r.source, r.from, r.from + r.length).map((c) => {
      const turned = r.mirrored ? mirrorCue(c) : c
      const link = { repeat: r.id, cue: c.id }
      return uniform({ ...turned, id: `${r.id}/${c.id}`, at: c.at + by }, link, false)
    })
    this.open.delete(r.id)
    this.done.set(r.id, cues)
    return cues
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
const known = new WeakMap<Routine, readonly DancedCue[]>()

/** Every cue as it is danced, repeats worked out, in order of place. A stored circle brings nothing. */
export function danced(routine: Routine): readonly DancedCue[] {
  let cues = known.get(routine)
  if (!cues) {
    cues = workOut(routine)
    known.set(routine, cues)
  }
  return cues
}

/** All danced cues have the same keys in the same order: the machine reads them ten times faster so. */
const uniform = (c: Cue, link: DancedCue['link'], differs: boolean): DancedCue => ({
  id: c.id,
  at: c.at,
  length: c.length,
  layer: c.layer,
  move: c.move,
  side: c.side,
  call: c.call,
  trigger: c.trigger,
  step: c.step,
  turn: c.turn,
  facing: c.facing,
  level: c.level,
  quality: c.quality,
  look: c.look,
  role: c.role,
  option: c.option,
  tip: c.tip,
  caution: c.caution,
  link,
  differs,
})

/** Written cues as danced ones, the same object for the same cue as long as it does not change. */
const plainly = new WeakMap<Cue, DancedCue>()

function asWritten(cue: Cue): DancedCue {
  let own = plainly.get(cue)
  if (!own) {
    own = uniform(cue, null, false)
    plainly.set(cue, own)
  }
  return own
}

function workOut(routine: Routine): DancedCue[] {
  const pages = pagesOf(routine)
  if (!routine.repeats.length) return pages.cues.map(asWritten)
  const resolver = new Resolver(pages)
  const out: DancedCue[] = []
  const placed = [...pages.placed.values()]
  const first = placed[0]?.start ?? 0
  const last = placed.at(-1)?.end ?? 0
  for (const p of placed) {
    try {
      out.push(...resolver.range(p.phrase.id, 0, p.end - p.start))
    } catch (e) {
      if (!(e instanceof Circle)) throw e
      out.push(...between(pages.cues, p.start, p.end).map(asWritten))
    }
  }
  const outside = pages.cues.filter((c) => c.at < first || c.at >= last)
  // Phrases come in order, and so do the cues in each.
  return outside.length ? [...out, ...outside.map(asWritten)].sort(byPlace) : out
}

/**
 * Says that a stretch is danced as another one. A repeat it overlaps gives way to it.
 * @throws RangeError where that would lead in a circle
 */
export function setRepeat(routine: Routine, repeat: Repeat): Routine {
  const kept = routine.repeats.filter(
    (r) => r.phrase !== repeat.phrase || r.at >= repeat.at + repeat.length || r.at + r.length <= repeat.at,
  )
  const next = { ...routine, repeats: [...kept, repeat] }
  try {
    const resolver = new Resolver(pagesOf(next))
    resolver.range(repeat.phrase, repeat.at, repeat.at + repeat.length)
  } catch (e) {
    if (!(e instanceof Circle)) throw e
    throw new RangeError('That would lead in a circle: what is repeated is itself danced as this.')
  }
  return next
}

/** The phrase as another whole one, as far as both go. */
export function wholeRepeat(
  placed: readonly PlacedPhrase[],
  phrase: string,
  source: string,
  mirrored: boolean,
  newId: NewId,
): Repeat | null {
  const [to, from] = [phrase, source].map((id) => placed.find((p) => p.phrase.id === id))
  if (!to || !from || to === from) return null
  return {
    id: newId(),
    phrase,
    at: 0,
    length: Math.min(to.end - to.start, from.end - from.start),
    source,
    from: 0,
    mirrored,
  }
}

/** Ends a repeat; with `keep` its cues are written out here, so that nothing danced changes. */
export function endRepeat(routine: Routine, id: string, keep: boolean, newId: NewId): Routine {
  const repeats = routine.repeats.filter((r) => r.id !== id)
  if (repeats.length === routine.repeats.length) return routine
  const copies = keep
    ? danced(routine)
        .filter((c) => c.link?.repeat === id)
        .map((c) => ({ ...written(c), id: newId() }))
    : []
  return { ...routine, repeats, cues: [...routine.cues, ...copies] }
}

/** A danced cue as it would be written: without where it comes from. */
export function written(cue: DancedCue): Cue {
  const { link: _link, differs: _differs, ...rest } = cue
  for (const key of Object.keys(rest) as (keyof typeof rest)[]) if (rest[key] === undefined) delete rest[key]
  return rest
}

/** Phrases that are danced, in whole or in part, as this one. */
export function usersOf(routine: Routine, phrase: string): Repeat[] {
  return routine.repeats.filter((r) => r.source === phrase)
}

/** True for a phrase that brings nothing new: all of it is repeated, to the same side and without differences. */
export function isOld(routine: Routine, placed: PlacedPhrase): boolean {
  const here = routine.repeats.filter((r) => r.phrase === placed.phrase.id)
  const covered = here.reduce((n, r) => n + r.length, 0) >= placed.end - placed.start
  return covered && !routine.cues.some((c) => c.at >= placed.start && c.at < placed.end)
}
