import {
  alike,
  type Cue,
  type DancedCue,
  danced,
  mirrorCue,
  type NewId,
  type PlacedPhrase,
  type Routine,
  setRepeat,
} from '../routine'
import { common, holds, type Stretch, TICKS_PER_COUNT, type Ticks } from '../time'
import { factsOf } from './effects'
import type { MoveBook } from './moves'

/** How a stretch is like an earlier one: as it is, some counts later in its phrase, in one half, or in the sound alone. */
export type Likeness = 'alike' | 'delayed' | 'half' | 'sound'

/** A stretch that may be danced as an earlier one. */
export interface Alike {
  likeness: Likeness
  to: Stretch
  from: Ticks
  mirrored: boolean
  /** Cues both say, and cues that differ here and stay as they are. */
  same: number
  own: number
}

/** A repetition of fewer cues saves nobody anything. */
const LEAST = 3
/** Of what is written, this much must be the same for the rest to be a difference. */
const SHARE = 0.6

const DETAILS = ['step', 'turn', 'facing', 'level', 'quality', 'look', 'tip', 'mistake', 'caution'] as const

/** What a cue is in a repetition, with what it does to feet and facing: two that say the same are danced alike. */
function basics(c: Cue, at: Ticks, book: MoveBook): string {
  const { turn, subs } = factsOf(c, book)
  const feet = subs.map((x) => [x.at, x.kind, x.foot])
  return JSON.stringify([
    ...[at, c.length, c.layer, c.move.trim().toLowerCase(), c.side, c.role ?? '', c.option ?? 'base'],
    ...[turn, feet],
  ])
}

/** True where the linked cue says everything that the own one does. */
function saysAll(linked: Cue, own: Cue): boolean {
  if (own.trigger || (own.call && own.call !== linked.call)) return false
  return DETAILS.every((k) => own[k] === undefined || alike(own[k], linked[k]))
}

interface Said {
  cue: DancedCue
  /** From the beginning of its stretch. */
  at: Ticks
}

/** Cues of a stretch by what they are, plain and to the other side. */
interface Material {
  cues: readonly DancedCue[]
  plain: Map<string, Said>
  turned: Map<string, Said>
}

/** The material of any stretch, each worked out once. */
function materials(all: readonly DancedCue[], book: MoveBook): MaterialAt {
  const known = new Map<string, Material>()
  return (from, length) => {
    const key = `${from} ${length}`
    let m = known.get(key)
    if (!m) {
      const cues = within(all, { from, to: from + length })
      const byBasics = (list: readonly DancedCue[]) =>
        new Map(list.map((cue) => [basics(cue, cue.at - from, book), { cue, at: cue.at - from }]))
      m = { cues, plain: byBasics(cues), turned: byBasics(cues.map((c) => mirrorCue(c))) }
      known.set(key, m)
    }
    return m
  }
}

/** @param cues by place */
function within(cues: readonly DancedCue[], { from, to }: Stretch): DancedCue[] {
  let [low, high] = [0, cues.length]
  while (low < high) {
    const mid = (low + high) >> 1
    if ((cues[mid] as Cue).at < from) low = mid + 1
    else high = mid
  }
  const out: DancedCue[] = []
  for (let i = low; i < cues.length && (cues[i] as Cue).at < to; i++) out.push(cues[i] as DancedCue)
  return out
}

/**
 * How many cues of `to` are as in `from`; null where danced as `from` anything would be danced that is not written.
 * @param exact true where nothing may differ
 */
function compared(from: Material, to: Material, mirrored: boolean, exact: boolean) {
  const model = mirrored ? from.turned : from.plain
  const own = [...to.plain.keys()].filter((k) => !model.has(k))
  const same = to.plain.size - own.length
  if (same < LEAST || same < SHARE * to.plain.size || to.plain.size !== to.cues.length) return null
  if (exact && (own.length || model.size !== same)) return null
  // What the earlier one has beside must give way to something written here.
  const mine = own.map((k) => to.plain.get(k) as Said)
  const beside = [...model].filter(([k]) => !to.plain.has(k)).map(([, said]) => said)
  return beside.every((b) => mine.some((o) => givesWay(o, b))) ? { same, own: own.length } : null
}

/** True where a linked cue gives way to one written here; see `core/routine/repeats/repeats`. */
function givesWay(own: Said, linked: Said): boolean {
  const same = (k: 'layer' | 'role' | 'option', usual: string) =>
    (own.cue[k] ?? usual) === (linked.cue[k] ?? usual)
  return (
    same('layer', '') &&
    same('role', '') &&
    same('option', 'base') &&
    own.at < linked.at + linked.cue.length &&
    linked.at < own.at + own.cue.length
  )
}

/**
 * Stretches that are written like an earlier one, by phrases: as a whole or nearly, to the other side, some counts later,
 * or in one half. Phrases that follow one another alike are one stretch. Linking one changes nothing that is danced, but that
 * what the earlier cues say beside (a tip, a level) is said here too.
 */
export function alikes(
  routine: Pick<Routine, 'cues' | 'repeats'>,
  placed: readonly PlacedPhrase[],
  book: MoveBook,
): Alike[] {
  const all = danced(routine)
  const free = (s: Stretch) => !routine.repeats.some((r) => common(r.to, s))
  const at = materials(all, book)
  const out: Alike[] = []
  for (const p of placed) {
    const row = { from: p.start, to: p.end }
    if (!free(row) || at(p.start, p.end - p.start).cues.length < LEAST) continue
    const last = out.at(-1)
    const sources = placed.slice(0, p.index).filter((q) => q.end - q.start === p.end - p.start)
    // One that goes on where the phrase before it left off comes first.
    sources.sort((a, b) => Number(follows(last, b, p)) - Number(follows(last, a, p)))
    const found =
      best(sources, (q, mirrored) => {
        const c = compared(at(q.start, q.end - q.start), at(p.start, p.end - p.start), mirrored, false)
        return c && { likeness: 'alike', to: row, from: q.start, mirrored, ...c }
      }) ??
      best(sources, (q, mirrored) => delayed(q, p, mirrored, at, free)) ??
      best(sources, (q, mirrored) => half(q, p, mirrored, at))
    if (!found) continue
    const before = out.at(-1)
    if (before && before.to.to > found.to.from) continue
    const goesOn =
      before?.likeness === 'alike' &&
      found.likeness === 'alike' &&
      before.to.to === found.to.from &&
      before.mirrored === found.mirrored &&
      before.from + before.to.to - before.to.from === found.from &&
      // What repeats itself is not one long repetition of itself.
      found.from + found.to.to - found.to.from <= before.to.from
    if (goesOn && before)
      out[out.length - 1] = {
        ...before,
        to: { from: before.to.from, to: found.to.to },
        same: before.same + found.same,
        own: before.own + found.own,
      }
    else out.push(found)
  }
  return out
}

const follows = (last: Alike | undefined, q: PlacedPhrase, p: PlacedPhrase) =>
  last !== undefined && last.to.to === p.start && last.from + last.to.to - last.to.from === q.start

/** The likest of some; of equals the first, plain before turned. */
function best(
  sources: readonly PlacedPhrase[],
  compare: (q: PlacedPhrase, mirrored: boolean) => Alike | null,
): Alike | null {
  let found: Alike | null = null
  for (const mirrored of [false, true])
    for (const q of sources) {
      const one = compare(q, mirrored)
      if (one && (!found || one.same - one.own > found.same - found.own)) found = one
    }
  return found
}

type MaterialAt = (from: Ticks, length: Ticks) => Material

/** The whole of an earlier phrase, one to seven counts after the beginning of this one. */
function delayed(
  q: PlacedPhrase,
  p: PlacedPhrase,
  mirrored: boolean,
  at: MaterialAt,
  free: (s: Stretch) => boolean,
): Alike | null {
  const length = q.end - q.start
  for (let by = TICKS_PER_COUNT; by < length; by += TICKS_PER_COUNT) {
    const to = { from: p.start + by, to: p.end + by }
    if (!free(to)) continue
    const c = compared(at(q.start, length), at(to.from, length), mirrored, true)
    if (c && q.end <= to.from) return { likeness: 'delayed', to, from: q.start, mirrored, ...c }
  }
  return null
}

/** A half of this phrase as a half of an earlier one. */
function half(q: PlacedPhrase, p: PlacedPhrase, mirrored: boolean, at: MaterialAt): Alike | null {
  const counts = p.phrase.length
  if (counts % 2 !== 0 || counts < 4) return null
  const length = (counts / 2) * TICKS_PER_COUNT
  for (const mine of [p.start, p.start + length])
    for (const its of [q.start, q.start + length]) {
      const c = compared(at(its, length), at(mine, length), mirrored, true)
      if (c) return { likeness: 'half', to: { from: mine, to: mine + length }, from: its, mirrored, ...c }
    }
  return null
}

/**
 * Phrases in which nothing is danced yet and that sound like an earlier one in which something is.
 * @param like the index of the phrase each sounds like, or -1
 */
export function soundsAlike(
  routine: Pick<Routine, 'cues' | 'repeats'>,
  placed: readonly PlacedPhrase[],
  like: (p: PlacedPhrase) => PlacedPhrase | null,
): Alike[] {
  const all = danced(routine)
  const cued = (p: PlacedPhrase) => within(all, { from: p.start, to: p.end }).length
  const free = (s: Stretch) => !routine.repeats.some((r) => common(r.to, s))
  const out: Alike[] = []
  for (const p of placed) {
    const row = { from: p.start, to: p.end }
    if (cued(p) || !free(row)) continue
    let q = like(p)
    for (let k = 0; q && !cued(q) && k < placed.length; k++) q = like(q)
    if (!q || q.index >= p.index || q.end - q.start !== p.end - p.start || !cued(q)) continue
    const last = out.at(-1)
    if (last && last.to.to === p.start && follows(last, q, p) && q.end <= last.to.from)
      out[out.length - 1] = { ...last, to: { from: last.to.from, to: p.end }, same: last.same + cued(q) }
    else out.push({ likeness: 'sound', to: row, from: q.start, mirrored: false, same: cued(q), own: 0 })
  }
  return out
}

/**
 * Says that a stretch is danced as the one it is like: cues that the link brings are no longer written here, those that
 * differ stay.
 * @throws Refused where that would lead in a circle
 */
export function linkAlike(
  routine: Routine,
  { to, from, mirrored }: Pick<Alike, 'to' | 'from' | 'mirrored'>,
  book: MoveBook,
  newId: NewId,
): Routine {
  const linked = setRepeat(routine, { id: newId(), to, from, mirrored }, newId)
  const away = from - to.from
  const model = new Map(
    within(danced(routine), { from, to: from + to.to - to.from }).map((c) => {
      const turned = mirrored ? mirrorCue(c) : c
      return [basics(turned, c.at - away, book), turned]
    }),
  )
  const brought = (c: Cue) => {
    const there = holds(to, c.at) ? model.get(basics(c, c.at, book)) : undefined
    return there !== undefined && saysAll(there, c)
  }
  return { ...linked, cues: linked.cues.filter((c) => !brought(c)) }
}
