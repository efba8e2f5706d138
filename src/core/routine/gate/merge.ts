import { countsText, type Ticks } from '../../time'
import { alike, textOf } from '../document/alike'
import { FIELD_NAMES, FIELDS, type FieldName, LIST_NAMES, SINGLE_NAMES } from '../document/fields'
import type { Routine } from '../document/schema'
import { commit } from './commit'
import { bringPlansTogether } from './merge-plans'
import { weaveKeys } from './weave-keys'

/*
 * Two who worked on one routine at the same time: what one did is done again on what the other did, wherever both touched
 * different things. Compared is what each made of the state both began with; nothing of how they came there is needed.
 */

/** A place both touched, each otherwise: what it is called there, '' where it is gone. */
export interface Clash {
  field: FieldName
  /** Null where it has no place in the dance. */
  at: Ticks | null
  mine: string
  theirs: string
}

export type Follows = 'mine' | 'theirs'

export type Merged =
  | { done: true; routine: Routine; clashes: readonly Clash[]; said: readonly string[] }
  | { done: false; why: string }

type Item = Record<string, unknown>

/** Lists without names for their items, which say of the whole song how it is counted: they are one thing each. */
const WHOLE: ReadonlySet<FieldName> = new Set(['phrases', 'repairs'])
/** Of these an edit may give counts other numbers, and takes the dance along. */
const COUNT_LINE = ['heardWith', 'repairs', 'phrases'] as const

/** By what an item is known: its id, else its place; a finding that was let stand by what it is about. */
function keyOf(item: Item): string {
  if (typeof item.id === 'string') return item.id
  if ('at' in item) return `at ${String(item.at)}`
  return textOf(item.about ?? item)
}

/** What an item takes up: some ticks, in a layer where it has one; null where it lies on no counts. */
function spanOf(field: FieldName, item: Item): { from: Ticks; to: Ticks; lane: string } | null {
  const { at, length, to, stretch, layer } = item as {
    at?: number
    length?: number
    to?: { from: number; to: number }
    stretch?: { from: number; to: number }
    layer?: string
  }
  if (field === 'cues' && at !== undefined)
    return { from: at, to: at + (length ?? 1), lane: `${layer} ${item.role ?? ''} ${item.option ?? ''}` }
  if (field === 'repeats' && to) return { ...to, lane: '' }
  if (field === 'voices' && stretch) return { ...stretch, lane: '' }
  // Of two that begin on one tick one would have no place.
  if (['formations', 'parts', 'sections', 'positions', 'borders'].includes(field) && at !== undefined)
    return { from: at, to: at + 1, lane: '' }
  return null
}

const calledIn = (item: Item | undefined): string => {
  if (!item) return ''
  const { move, name, text, letter, kind } = item as Record<string, string | undefined>
  return move || name || text || letter || kind || 'something'
}

const byKey = (list: readonly unknown[]): Map<string, Item> =>
  new Map((list as readonly Item[]).map((item) => [keyOf(item), item]))

/** One side's changes of a list: what became of an item, undefined where it is gone. */
function changesOf(base: Map<string, Item>, now: Map<string, Item>): Map<string, Item | undefined> {
  const out = new Map<string, Item | undefined>()
  for (const [key, item] of now) if (!alike(base.get(key), item)) out.set(key, item)
  for (const key of base.keys()) if (!now.has(key)) out.set(key, undefined)
  return out
}

interface ListMerge {
  field: FieldName
  base: readonly unknown[]
  mine: readonly unknown[]
  theirs: readonly unknown[]
}

/** Items of a list that only its side knows: their ids, by all they say but these. */
function madeAlone(list: readonly unknown[], ...known: Map<string, Item>[]): Map<string, string[]> {
  const out = new Map<string, string[]>()
  for (const item of list as readonly Item[]) {
    const { id } = item
    if (typeof id !== 'string' || known.some((items) => items.has(id))) continue
    const says = textOf({ ...item, id: '' })
    out.set(says, [...(out.get(says) ?? []), id])
  }
  return out
}

/** What the other calls what I made too, alike in all but its id: as a song that both have heard is laid out. One is one only. */
function madeTwice(base: Routine, mine: Routine, theirs: Routine): Map<string, string> {
  const out = new Map<string, string>()
  for (const field of LIST_NAMES) {
    if (mine[field] === base[field] || theirs[field] === base[field]) continue
    const [before, here, there] = [byKey(base[field]), byKey(mine[field]), byKey(theirs[field])]
    const others = madeAlone(theirs[field], before, here)
    for (const [says, ids] of madeAlone(mine[field], before, there)) {
      const theirIds = others.get(says) ?? []
      for (const [i, theirId] of theirIds.slice(0, ids.length).entries()) out.set(ids[i] as string, theirId)
    }
  }
  return out
}

/** A value with ids called otherwise, wherever they are named in it. */
function withIds<T>(value: T, names: ReadonlyMap<string, string>): T {
  if (typeof value === 'string') return (names.get(value) ?? value) as T
  if (Array.isArray(value)) return value.map((x) => withIds(x, names)) as T
  if (value === null || typeof value !== 'object') return value
  return Object.fromEntries(Object.entries(value).map(([k, x]) => [k, withIds(x, names)])) as T
}

/** Mine, where what both made is called as the other calls it: also by what names it, as a formation names its dancers. */
function onTheirIds(base: Routine, mine: Routine, theirs: Routine): Routine {
  let now = mine
  // What names what both made is alike only once that is called the same.
  for (let names = madeTwice(base, now, theirs); names.size; names = madeTwice(base, now, theirs))
    now = withIds(now, names)
  return now
}

/** Items one side changed and the other may not: the same otherwise, or on counts the other changed too. */
function clashingKeys(
  field: FieldName,
  base: Map<string, Item>,
  mine: Map<string, Item | undefined>,
  theirs: Map<string, Item | undefined>,
): [string, string][] {
  const out: [string, string][] = []
  /** Where an item was, and where it came to be. */
  const spans = (key: string, now: Item | undefined) =>
    [base.get(key), now].flatMap((item) => {
      const span = item && spanOf(field, item)
      return span ? [span] : []
    })
  // What both changed in the same way clashes with nothing: either side already has it beside its other changes.
  const both = (key: string) => mine.has(key) && theirs.has(key) && alike(mine.get(key), theirs.get(key))
  const their = [...theirs]
    .filter(([key]) => !both(key))
    .map(([key, item]) => ({ key, item, spans: spans(key, item) }))
  for (const [key, item] of mine) {
    if (both(key)) continue
    const here = spans(key, item)
    for (const t of their) {
      if (t.key === key) {
        out.push([key, key])
        continue
      }
      const touch = here.some((a) => t.spans.some((b) => a.lane === b.lane && a.from < b.to && b.from < a.to))
      if (touch) out.push([key, t.key])
    }
  }
  return out
}

function mergeList(merge: ListMerge, prefer: Follows, clashes: Clash[]): readonly unknown[] {
  const { field } = merge
  const [base, mine, theirs] = [byKey(merge.base), byKey(merge.mine), byKey(merge.theirs)]
  const [my, their] = [changesOf(base, mine), changesOf(base, theirs)]
  if (!my.size) return merge.theirs
  if (!their.size) return merge.mine
  const clashing = clashingKeys(field, base, my, their)
  for (const [a, b] of clashing) {
    const item = mine.get(a) ?? theirs.get(b) ?? base.get(a)
    const span = item && spanOf(field, item)
    clashes.push({
      field,
      at: span?.from ?? null,
      mine: calledIn(mine.get(a)),
      theirs: calledIn(theirs.get(b)),
    })
  }
  const contested = new Set(clashing.flat())
  const result = new Map(theirs)
  const put = (key: string, item: Item | undefined) =>
    item === undefined ? result.delete(key) : result.set(key, item)
  for (const [key, item] of my) if (!contested.has(key)) put(key, item)
  // All of what touches is as one of them has it.
  for (const key of contested) put(key, (prefer === 'mine' ? mine : theirs).get(key))
  const left = (side: Map<string, Item>) => [...side.keys()].filter((k) => result.has(k))
  return weaveKeys(left(theirs), left(mine), base).map((k) => result.get(k) as Item)
}

const wordOf = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' ? String(value) : ''

const ON_TICKS = FIELD_NAMES.filter((f) => FIELDS[f].along !== 'stays' && f !== 'phrases')

/** True where somebody changed something that stands on ticks. */
const standsOnTicks = (base: Routine, now: Routine): boolean => ON_TICKS.some((f) => !alike(base[f], now[f]))

/** True where a tick may be another moment of the song than before, or the dance was taken along to other counts. */
function movesTicks(base: Routine, now: Routine): boolean {
  if (COUNT_LINE.every((f) => alike(base[f], now[f]))) return false
  if (!alike(base.heardWith, now.heardWith) || !alike(base.repairs, now.repairs)) return true
  return (['cues', 'repeats', 'formations', 'voices'] as const).some((f) => {
    const known = byKey(now[f])
    return [...byKey(base[f])].some(([key, item]) => {
      const there = known.get(key)
      return there !== undefined && spanOf(f, there)?.from !== spanOf(f, item)?.from
    })
  })
}

/**
 * Does what one made of a routine once more on what another made of it.
 * @param base what both began with
 * @param own what one made of it
 * @param prefer who is followed where both touched the same; what clashes is said all the same
 * @returns what came of it through the gate, with every place both touched; or why it cannot be
 */
export function mergeRoutines(
  base: Routine,
  own: Routine,
  theirs: Routine,
  prefer: Follows = 'theirs',
): Merged {
  const mine = onTheirIds(base, own, theirs)
  const clashes: Clash[] = []
  const next: Record<string, unknown> = { ...theirs }
  const single = (field: FieldName) => {
    if (alike(mine[field], base[field]) || alike(mine[field], theirs[field])) return
    if (!alike(theirs[field], base[field])) {
      clashes.push({ field, at: null, mine: wordOf(mine[field]), theirs: wordOf(theirs[field]) })
      if (prefer === 'theirs') return
    }
    next[field] = mine[field]
  }
  for (const field of SINGLE_NAMES) single(field)
  const plans = bringPlansTogether(base.plans, mine.plans, theirs.plans)
  for (const field of LIST_NAMES) {
    const sides = field === 'plans' ? plans : { mine: mine[field], theirs: theirs[field] }
    if (WHOLE.has(field)) single(field)
    else next[field] = mergeList({ field, base: base[field], ...sides }, prefer, clashes)
  }
  const counted = (now: Routine) => COUNT_LINE.some((f) => !alike(base[f], now[f]))
  // Where both count alike, as two windows that heard the same song, what stands on a tick stands on the same sound.
  const otherwise = COUNT_LINE.some((f) => !alike(mine[f], theirs[f]))
  if (
    otherwise &&
    ((counted(mine) && counted(theirs)) ||
      (movesTicks(base, mine) && standsOnTicks(base, theirs)) ||
      (movesTicks(base, theirs) && standsOnTicks(base, mine)))
  )
    // What was written on other counts cannot be told apart from what was moved with them: it is one or the other.
    return {
      done: true,
      routine: prefer === 'mine' ? mine : theirs,
      clashes: [
        { field: 'phrases', at: null, mine: countedAs(mine, theirs), theirs: countedAs(theirs, mine) },
      ],
      said: [],
    }
  const done = commit(theirs, () => next as Routine)
  if (!done.done) return { done: false, why: done.why }
  // Nothing of one's own is in it: it is what was saved, and need not be saved again. Two that look at each other's saves would never end.
  const routine = alike(done.routine, theirs) ? theirs : done.routine
  return { done: true, routine, clashes, said: done.said }
}

/** How it is counted, in words: what is not as the other has it, or all of it where that is elsewhere than in what is named here. */
function countedAs(routine: Routine, other: Routine): string {
  const words = (r: Routine) => {
    const odd = r.phrases.filter((p) => p.length !== r.usual).length
    return [
      `phrases: ${r.phrases.length}${odd ? `, ${odd} of them not of ${countsText(r.usual)}` : ''}`,
      `repairs of the beat: ${r.repairs.length}`,
      `heard by version ${r.heardWith}`,
    ]
  }
  const others = words(other)
  const all = words(routine)
  const apart = all.filter((w, i) => w !== others[i])
  return (apart.length ? apart : all).join('; ')
}
