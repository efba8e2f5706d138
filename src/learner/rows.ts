import type { LearnerMark, SheetRow } from '@/core/handout'
import { labelIn, type PlacedPhrase, phraseAt } from '@/core/routine'
import { type Seconds, type Stretch, TICKS_PER_COUNT, type Ticks, tickOfTime } from '@/core/time'

/** One cue as it is read on a card. */
export interface CardCue {
  /** "&", "a": where between the counts; '' on the count. */
  between: string
  /** The layer, where it is not the feet. */
  layer: string
  text: string
  /** "to 4", where it lasts longer than its count. */
  until: string
}

/** One count of a card. */
export interface CardCount {
  tick: Ticks
  label: string
  /** Where the weight is after it. */
  weight: string
  cues: CardCue[]
}

/** The counts of a row, each with what begins on it or before the next. */
export function countsOfRow(row: SheetRow, placed: readonly PlacedPhrase[]): CardCount[] {
  const labelOf = (tick: Ticks) => {
    const phrase = phraseAt(placed, tick)
    return phrase ? labelIn(phrase, tick) : ''
  }
  const cues = row.lanes
    .flatMap(({ layer, lines }) => lines.flat().map((c) => ({ ...c, layer: layer === 'feet' ? '' : layer })))
    .sort((a, b) => a.at - b.at)
  return row.counts.map(({ at, label }, i) => {
    const next = row.counts[i + 1]?.at ?? row.length
    // What lies before the first count is read with it.
    const begin = i === 0 ? 0 : at
    return {
      tick: row.from + at,
      label,
      weight: row.feet.find((f) => f.at >= begin && f.at < next)?.words ?? '',
      cues: cues
        .filter((c) => c.at >= begin && c.at < next)
        .map((c): CardCue => {
          const here = row.from + c.at
          const last = here + c.length - TICKS_PER_COUNT
          return {
            between: c.at === at ? '' : labelOf(here).replace(label, ''),
            layer: c.layer,
            text: c.text,
            until: last > here ? `to ${labelOf(last)}` : '',
          }
        }),
    }
  })
}

/** The counts a learner's mark is of. @param times when each count falls in the instructor's copy */
export const stretchOf = (times: readonly Seconds[], m: Pick<LearnerMark, 'from' | 'to'>): Stretch => ({
  from: Math.round(tickOfTime(times, m.from)),
  to: Math.round(tickOfTime(times, m.to)),
})

/** What is danced on a count, in words. */
export const wordsOf = (count: CardCount | undefined): string =>
  count ? count.cues.map((q) => `${q.between} ${q.text}`.trim()).join(', ') : ''

/**
 * What is danced now and next of some counts, as it is shown large. While they are counted in nothing is danced yet; after the
 * last move the first comes next, where it is danced again.
 * @param all counts of the page in order; a row may begin or end with a count of the one beside it
 */
export function nowAndNext(
  all: readonly CardCount[],
  chosen: Stretch,
  heard: { tick: Ticks; countedIn: boolean } | null,
  again: boolean,
): { now: string; next: string } {
  const moves = all.filter((c) => c.cues.length && c.tick >= chosen.from && c.tick < chosen.to)
  if (!heard || heard.countedIn) return { now: '', next: wordsOf(moves[0]) }
  return {
    now: wordsOf(moves.findLast((c) => c.tick <= heard.tick)),
    next: wordsOf(moves.find((c) => c.tick > heard.tick) ?? (again ? moves[0] : undefined)),
  }
}
