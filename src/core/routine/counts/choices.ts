import { countsText, type Seconds, TICKS_PER_COUNT } from '../../time'
import type { Routine } from '../document/schema'
import type { Repair } from '../document/song-schema'
import { bringGrid } from '../edits/bring-edits'
import { repair } from '../edits/grid-edits'
import { countBy, type NewId, oneHere, shiftPhrases } from '../edits/phrase-edits'
import type { Edited } from '../gate/refused'
import { placePhrases } from './layout'
import { repairedBeats } from './repairs'

/** Another way to hear the beat: its tempo over the heard one, and how much later its first beat falls. */
export interface OtherTempo {
  bpm: number
  factor: number
  shift: Seconds
  weight: number
  /** Where its first 1 would be; below zero when that is not known. */
  one: Seconds
  /** Beats in its bars; phrases are two bars. */
  bar: number
}

/** Bars of another size under the same beats. */
export interface OtherBar {
  bar: number
  weight: number
  /** Where their first 1 would be. */
  one: Seconds
}

/** Another place for the 1, in counts later. */
export interface OtherOne {
  shift: number
  weight: number
}

/** One move a person can make instead of what was heard. */
export interface Choice {
  name: string
  /** How likely it is, 0..1. */
  weight: number
  change: (routine: Routine, newId: NewId) => Routine | Edited<Routine>
}

/** Less likely than this, a choice is not worth a line on the screen. */
const LEAST = 0.08
const NEAR = 0.04

/** How much later the nearest beat of the other grid falls; negative for earlier. */
function lateOf(other: OtherTempo, period: Seconds): Seconds {
  const own = period / other.factor
  return other.shift > own / 2 ? other.shift - own : other.shift
}

/** The repairs that turn the heard beats into the other ones; null where it takes other beats altogether. */
export function repairsTo(other: OtherTempo, period: Seconds): Repair[] | null {
  const near = (f: number) => Math.abs(other.factor / f - 1) < NEAR
  const late = lateOf(other, period)
  const shifted = (by: Seconds): Repair[] => (Math.abs(by) < 0.02 ? [] : [{ kind: 'shift', seconds: by }])
  if (near(1)) return shifted(late)
  if (near(2)) return [{ kind: 'double' }, ...shifted(late)]
  if (near(0.5)) {
    const keep = Math.abs(late) > period / 2 ? 1 : 0
    return [{ kind: 'halve', keep }, ...shifted(keep ? late - Math.sign(late) * period : late)]
  }
  return null
}

function tempoName(other: OtherTempo, period: Seconds): string {
  const bpm = `${Math.round(other.bpm)} BPM`
  if (Math.abs(other.factor - 2) < 0.1) return `Twice as fast: ${bpm}`
  if (Math.abs(other.factor - 0.5) < 0.05) return `Half as fast: ${bpm}`
  if (Math.abs(other.factor - 1) >= NEAR) return `${other.factor > 1 ? 'Faster' : 'Slower'}: ${bpm}`
  const late = lateOf(other, period)
  if (Math.abs(Math.abs(late) / period - 0.5) < 0.1) return 'The beat lies between these'
  return `The beat comes ${Math.round(Math.abs(late) * 1000)} ms ${late < 0 ? 'earlier' : 'later'}`
}

/** The beats of another way, from the first to the last heard. */
export function beatsOf(other: OtherTempo, heard: readonly Seconds[]): Seconds[] {
  const [a, b] = heard as [Seconds, Seconds]
  const last = heard.length - 1
  const step = 1 / other.factor
  const out: Seconds[] = []
  for (let x = (other.shift / (b - a)) % step; x <= last; x += step) {
    const i = Math.min(last - 1, Math.floor(x))
    const from = heard[i] as Seconds
    out.push(from + (x - i) * ((heard[i + 1] as Seconds) - from))
  }
  return out
}

/** What a bar of so many beats is counted in, in words. */
const inBars = (bar: number) => `in ${{ 3: 'threes', 5: 'fives', 7: 'sevens' }[bar] ?? 'fours'}`

/** Index of the time nearest to another. */
const nearestTo = (times: readonly Seconds[], one: Seconds): number =>
  times.reduce((n, t, k) => (Math.abs(t - one) < Math.abs((times[n] as number) - one) ? k : n), 0)

/** The routine counted in phrases of a length, one of which begins at a count. */
function countedFrom(routine: Routine, usual: number, count: number): Routine {
  const counted = routine.usual === usual ? routine : countBy(routine, usual, null)
  const starts = placePhrases(counted).map((p) => p.start / TICKS_PER_COUNT)
  return starts.includes(count) ? counted : oneHere(counted, count)
}

/** The routine with another way taken: its beats, and its phrases from its own first 1 on. */
function taken(
  routine: Routine,
  heard: readonly Seconds[],
  other: OtherTempo,
  repairs: readonly Repair[] | null,
  newId: NewId,
): Edited<Routine> {
  const phrase = 2 * other.bar
  if (!repairs) {
    const beats = beatsOf(other, heard)
    const first = other.one < 0 ? 0 : nearestTo(beats, other.one) % phrase
    const numbers = beats.map((_, k) => ((((k - first) % phrase) + phrase) % phrase) + 1)
    const brought = bringGrid(routine, heard, { beats, numbers, sections: [] }, false, newId)
    return { ...brought, routine: { ...brought.routine, usual: phrase } }
  }
  const done = repairs.reduce<Edited<Routine>>(
    (now, one) => {
      const next = repair(now.routine, heard, one, newId)
      return { routine: next.routine, said: [...now.said, ...next.said] }
    },
    { routine, said: [] },
  )
  if (other.one < 0) return done
  const count = nearestTo(repairedBeats(heard, done.routine.repairs), other.one)
  return { routine: countedFrom(done.routine, phrase, count), said: done.said }
}

/** Other ways to hear the beat, as moves; the likeliest three. @param bar beats in the bars that were heard */
export function tempoChoices(
  heard: readonly Seconds[],
  others: readonly OtherTempo[],
  bar: number,
): Choice[] {
  const [a, b] = heard
  if (a === undefined || b === undefined) return []
  const out: Choice[] = []
  for (const other of others) {
    const repairs = repairsTo(other, b - a)
    const { name } = asMove(heard, other, bar)
    if (other.weight < LEAST || repairs?.length === 0 || out.some((c) => c.name === name)) continue
    out.push(asMove(heard, other, bar))
  }
  return out.slice(0, 3)
}

/**
 * One other way to hear the beat as a move of a routine without repairs.
 * @param heard at least two beats
 * @param bar beats in the bars that were heard
 */
export function asMove(heard: readonly Seconds[], other: OtherTempo, bar: number): Choice {
  const period = (heard[1] as Seconds) - (heard[0] as Seconds)
  const repairs = repairsTo(other, period)
  return {
    name: `${tempoName(other, period)}${other.bar === bar ? '' : `, ${inBars(other.bar)}`}`,
    weight: other.weight,
    change: (r, newId) => taken(r, heard, other, repairs, newId),
  }
}

/** Bars of other sizes, as moves; the likeliest two. */
export function barChoices(heard: readonly Seconds[], others: readonly OtherBar[]): Choice[] {
  return others
    .filter((o) => o.weight >= LEAST)
    .slice(0, 2)
    .map(({ bar, weight, one }) => ({
      name: `Counted ${inBars(bar)}`,
      weight,
      change: (r) => countedFrom(r, 2 * bar, nearestTo(heard, one)),
    }))
}

/** Other places for the 1, as moves; the likeliest two. @param phrase counts of a phrase */
export function oneChoices(others: readonly OtherOne[], phrase: number): Choice[] {
  return others
    .filter((o) => o.weight >= LEAST)
    .slice(0, 2)
    .map(({ shift, weight }) => {
      // Seven counts later is one count earlier.
      const by = shift > phrase / 2 ? shift - phrase : shift
      const counts = countsText(Math.abs(by))
      return {
        name: `The 1 is ${counts} ${by < 0 ? 'earlier' : 'later'}`,
        weight,
        change: (r) => shiftPhrases(r, by),
      }
    })
}
