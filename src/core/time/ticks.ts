import type { Ticks } from './units'

/** 24 ticks a count (MIDI 1.0 timing clock: 24 per quarter note), so halves, thirds and quarters are whole. */
export const TICKS_PER_COUNT: Ticks = 24

/** How a count divides: straight in two and four, triplet in three. */
export type Feel = 'straight' | 'triplet'

const NAMES: Record<Feel, Readonly<Record<Ticks, string>>> = {
  straight: { 0: '', 6: 'e', 12: '&', 18: 'a' },
  triplet: { 0: '', 8: '&', 16: 'a' },
}

/** Tick offsets inside one count that have a name in this feel, ascending. */
export function namedOffsets(feel: Feel): Ticks[] {
  return Object.keys(NAMES[feel]).map(Number)
}

/** The name a sub-count is spoken by: '' on the count, 'e', '&', 'a', or null when it has none. */
export function subCountName(offset: Ticks, feel: Feel): string | null {
  return NAMES[feel][offset] ?? null
}

/** "1 count", "6 counts". */
export const countsText = (n: number): string => `${n} ${n === 1 ? 'count' : 'counts'}`
/** "1 cue", "3 cues". */
export const cuesText = (n: number): string => `${n} ${n === 1 ? 'cue' : 'cues'}`

/**
 * What a dancer calls a tick inside a phrase: "3", "3&", "3e"; ticks without a name show their fraction ("3+5/24").
 * @param tick ticks from the start of the phrase, an integer >= 0
 * @param first the number of the phrase's first count: 1, or more where a pick-up ends on 8
 */
export function countLabel(tick: Ticks, feel: Feel = 'straight', first = 1): string {
  const count = Math.floor(tick / TICKS_PER_COUNT)
  const rest = tick - count * TICKS_PER_COUNT
  const name = subCountName(rest, feel)
  return `${count + first}${name ?? `+${rest}/${TICKS_PER_COUNT}`}`
}

/**
 * The tick a label stands for, inverse of `countLabel` for named sub-counts.
 * @returns null when the text is not a count label of this feel
 */
export function parseCountLabel(text: string, feel: Feel = 'straight', first = 1): Ticks | null {
  const found = /^\s*(\d{1,2})\s*(e|&|a)?\s*$/i.exec(text)
  if (!found) return null
  const count = Number(found[1]) - first
  if (count < 0) return null
  const name = (found[2] ?? '').toLowerCase()
  const offset = namedOffsets(feel).find((o) => NAMES[feel][o] === name)
  return offset === undefined ? null : count * TICKS_PER_COUNT + offset
}

/** The nearest tick that has a name in this feel; a tie goes to the earlier one. */
export function snapTick(tick: number, feel: Feel = 'straight'): Ticks {
  const step = feel === 'straight' ? 6 : 8
  return Math.ceil(tick / step - 0.5) * step + 0
}

/** How long a place lasts where nothing else is said: a count, or on a sub-count the rest of its unit. */
export function usualLength(tick: Ticks, feel: Feel): Ticks {
  const offset = ((tick % TICKS_PER_COUNT) + TICKS_PER_COUNT) % TICKS_PER_COUNT
  if (offset === 0) return TICKS_PER_COUNT
  if (feel === 'triplet') return 8
  return offset === 12 ? 12 : 6
}

/** How far keys and dragging move a place that divides so: half a count, or a third of one. */
export const subCount = (feel: Feel): Ticks => (feel === 'triplet' ? 8 : 12)
