import { type Seconds, type Stretch, TICKS_PER_COUNT, type Ticks, tickOfTime, timeOfTick } from '../../time'
import { beginsSection, placePhrases } from '../counts/layout'
import type { Repeat } from '../document/cue-schema'
import { FIELD_NAMES, FIELDS } from '../document/fields'
import { LIMITS } from '../document/limits'
import type { Regrid } from '../document/regrid'
import type { Routine } from '../document/schema'
import type { Phrase } from '../document/song-schema'
import { type Edited, namesInWords } from '../gate/refused'
import { stretchName } from '../names/names'
import { dancedAs } from '../repeats/danced-cue'
import { danced, writtenOut } from '../repeats/repeats'
import { leadOf, type NewId } from './phrase-edits'

/** Where a tick of the old grid lies on the new one; never backwards. */
export type Place = (tick: Ticks) => Ticks

/** What comes to lie this near to a place that has a name lies on it: hands and ears are no finer. */
const NEAR: Ticks = 1
/** Halves, quarters and thirds of a count. */
const NAMED: readonly Ticks[] = [0, 6, 8, 12, 16, 18, 24]

/** The place that keeps everything at its sound: through the time of the song. */
export const bySound =
  (from: readonly Seconds[], to: readonly Seconds[]): Place =>
  (tick) => {
    const exact = tickOfTime(to, timeOfTick(from, tick))
    const count = Math.floor(exact / TICKS_PER_COUNT) * TICKS_PER_COUNT
    const named = NAMED.find((n) => Math.abs(count + n - exact) <= NEAR)
    return named === undefined ? exact : count + named
  }

/** The fields that do not stay as they are when counts get other numbers. */
const MOVING = FIELD_NAMES.flatMap((name) => {
  const { along } = FIELDS[name]
  return along === 'stays' ? [] : [[name, along as (value: never, to: Regrid) => unknown] as const]
})

/** So far a linked cue may be off its sound after its repeat was taken along: a twenty-fourth of a count. */
const SLACK: Ticks = 1

/**
 * Takes all of a routine along to another grid: cues, repeats, positions, recorded calls, parts, sections, excerpt, lessons, what was let stand, and
 * the phrases, which stay with their counts where there are as many as before. The only function that moves ticks.
 *
 * A repeat whose two stretches no longer have the same counts is written out: everything is danced where it was, and it
 * is said. What would fall off the count line stays at its nearest end, and is said too.
 * @param counts how many counts the new grid has
 */
export function rebase(routine: Routine, place: Place, counts: number, newId: NewId): Edited<Routine> {
  const torn = routine.repeats.filter((r) => !staysWhole(routine, r, place))
  const done = moved(routine, torn, place, counts, newId)
  // Where rounding took a cue across the edge of a repeat, no repeat is trusted.
  if (torn.length === routine.repeats.length || sameDance(routine, done.routine, place)) return done
  return moved(routine, routine.repeats, place, counts, newId)
}

const limited = (tick: Ticks): Ticks => Math.max(LIMITS.place.min, Math.min(LIMITS.place.max, tick))

function moved(
  routine: Routine,
  torn: readonly Repeat[],
  place: Place,
  counts: number,
  newId: NewId,
): Edited<Routine> {
  const said: string[] = []
  let old = routine
  for (const r of torn) {
    said.push(
      `The repeat on ${stretchName(placePhrases(routine), r.to)} was written out: it no longer has the same counts as what it repeats.`,
    )
    old = writtenOut(old, r.id, newId)
  }
  const lost: string[] = []
  // Plus nothing: rounding gives a zero below zero.
  const at = (tick: Ticks): Ticks => Math.round(place(tick)) + 0
  const inside = (tick: Ticks, what?: string): Ticks => {
    const there = at(tick)
    const kept = limited(there)
    if (kept !== there && what) lost.push(what)
    return kept
  }
  const stretch = (s: Stretch, what?: string): Stretch => {
    const from = Math.min(inside(s.from, what), LIMITS.place.max - 1)
    return { from, to: Math.max(from + 1, inside(s.to)) }
  }
  const { phrases, boundary } = relaid(old, at, counts)
  const to: Regrid = {
    tick: at,
    inside,
    stretch,
    between: (p) => limited(Math.round(place(p) * 100) / 100 + 0),
    phrases: () => phrases,
    phraseStart: (tick) => boundary.get(tick) ?? Math.max(0, at(tick)),
  }
  const along = Object.fromEntries(
    MOVING.map(([name, move]) => [name, move(old[name] as never, to)]),
  ) as Partial<Routine>
  if (lost.length) said.push(`${namesInWords(lost)} would lie beyond the end of the counts, and stays at it.`)
  return { said, routine: { ...old, ...along } }
}

/** True where everything a repeat brings lies on the new grid where it is danced now. */
function staysWhole(routine: Routine, r: Repeat, place: Place): boolean {
  const away = Math.round(place(r.from)) - Math.round(place(r.to.from))
  const same = (tick: Ticks) => Math.abs(place(tick + r.from - r.to.from) - away - place(tick)) <= SLACK
  return (
    same(r.to.to) &&
    danced(routine).every((c) => c.link?.repeat !== r.id || (same(c.at) && same(c.at + c.length)))
  )
}

/** True where what the old routine danced is danced by the new one, each cue at its place or a tick beside it. */
function sameDance(before: Routine, after: Routine, place: Place): boolean {
  const placesOf = (r: Routine, at: (tick: Ticks) => Ticks) => {
    const by = new Map<string, Ticks[]>()
    for (const c of danced(r)) {
      const key = dancedAs({ ...c, at: 0, length: 1 })
      const list = by.get(key)
      if (list) list.push(at(c.at))
      else by.set(key, [at(c.at)])
    }
    return by
  }
  const wanted = placesOf(before, (tick) => limited(Math.round(place(tick))))
  const got = placesOf(after, (tick) => tick)
  return (
    wanted.size === got.size &&
    [...wanted].every(([key, list]) => {
      const there = got.get(key)?.sort((a, b) => a - b)
      list.sort((a, b) => a - b)
      return there?.length === list.length && list.every((t, i) => Math.abs(t - (there[i] as Ticks)) <= SLACK)
    })
  )
}

/**
 * The phrases on a new grid: each begins at the count nearest to where it began. One that became half as long again or
 * more is cut into phrases of its old length; neighbours that became shorter are joined where they make up a usual one,
 * and no section begins between them.
 * @returns the phrases, and where the old beginnings lie now, by their old ticks
 */
function relaid(
  routine: Routine,
  at: Place,
  counts: number,
): { phrases: Phrase[]; boundary: ReadonlyMap<Ticks, Ticks> } {
  const { usual } = routine
  const placed = placePhrases(routine)
  const boundary = new Map<Ticks, Ticks>()
  const kept: { phrase: Phrase; from: number; begins: boolean }[] = []
  for (const p of placed) {
    const from = Math.round(at(p.start) / TICKS_PER_COUNT) + 0
    const begins = beginsSection(p)
    // What was a pick-up in front is counted anew from the first 1.
    if (p.index === 0 && p.phrase.pickUp) {
      if (begins) boundary.set(p.start, 0)
      continue
    }
    if (from < 0 || from >= counts || from <= (kept.at(-1)?.from ?? -1)) continue
    boundary.set(p.start, from * TICKS_PER_COUNT)
    kept.push({ phrase: p.phrase, from, begins })
  }
  const pickUp = placed[0]?.phrase.pickUp ? placed[0].phrase : undefined
  const phrases = leadOf(kept[0]?.from ?? counts, usual, pickUp)
  for (let i = 0; i < kept.length; i++) {
    const { phrase } = kept[i] as (typeof kept)[0]
    const lengthOf = (k: number) => (kept[k + 1]?.from ?? counts) - (kept[k] as (typeof kept)[0]).from
    let length = lengthOf(i)
    if (length >= 1.5 * phrase.length && length > usual) {
      const piece = Math.min(LIMITS.phrase, phrase.length)
      for (let done = 0; done < length; done += piece)
        phrases.push({
          ...phrase,
          length: Math.min(piece, length - done),
          pickUp: phrase.pickUp && done === 0,
        })
      continue
    }
    const next = kept[i + 1]
    const shrunk = (k: number) => lengthOf(k) < 0.75 * (kept[k] as (typeof kept)[0]).phrase.length
    if (
      next &&
      !next.begins &&
      !phrase.pickUp &&
      shrunk(i) &&
      shrunk(i + 1) &&
      length + lengthOf(i + 1) === usual
    ) {
      length += lengthOf(i + 1)
      i++
    }
    for (let done = 0; done < length; done += LIMITS.phrase)
      phrases.push({ ...phrase, length: Math.min(LIMITS.phrase, length - done) })
  }
  return { phrases, boundary }
}
