import {
  cueLine,
  type DancedCue,
  LAYERS,
  type Layer,
  labelIn,
  mirrorText,
  type PlacedPhrase,
  phraseAt,
  pieceOf,
  whoOf,
} from '../routine'
import { holds, type Stretch, subCountName, TICKS_PER_COUNT, type Ticks } from '../time'

/* What the floor shows at a glance: the counts around now, what is danced on each, and what to mind. */

const countStart = (tick: Ticks): Ticks => Math.floor(tick / TICKS_PER_COUNT) * TICKS_PER_COUNT

/** The counts that are seen at once: a phrase, from the count its pick-up lies in. */
export interface StripRow {
  phrase: PlacedPhrase
  /** Whole counts. */
  shown: Stretch
}

/** The row a place is danced in: where the next piece has begun, its row. */
export function stripAt(placed: readonly PlacedPhrase[], tick: Ticks): StripRow | null {
  const here = phraseAt(placed, tick)
  const next = here && placed[here.index + 1]
  const phrase = next && tick >= next.start - next.lean ? next : here
  if (!phrase) return null
  const { from } = pieceOf(placed, { from: phrase.start, to: phrase.end })
  return { phrase, shown: { from: countStart(Math.min(from, phrase.start)), to: phrase.end } }
}

/** A place between counts on which something begins, as it is called: "&", "e", "a". */
export interface SubCount {
  at: Ticks
  name: string
}

/** The sub-counts on which something begins, and every "&" of straight counts; in order. */
export function subCounts(
  placed: readonly PlacedPhrase[],
  cues: readonly Pick<DancedCue, 'at'>[],
  { from, to }: Stretch,
): SubCount[] {
  const half = TICKS_PER_COUNT / 2
  const places = new Set(cues.flatMap((c) => (c.at % TICKS_PER_COUNT ? [c.at] : [])))
  for (let t = from; t < to; t += TICKS_PER_COUNT)
    if (phraseAt(placed, t)?.phrase.feel === 'straight') places.add(t + half)
  return [...places]
    .filter((at) => at >= from && at < to)
    .sort((a, b) => a - b)
    .map((at) => ({ at, name: subName(placed, at) }))
}

const subName = (placed: readonly PlacedPhrase[], at: Ticks): string => {
  const phrase = phraseAt(placed, at)
  return (phrase && subCountName(at - countStart(at), phrase.phrase.feel)) ?? '·'
}

/**
 * The count that is said large, and of it the sub-count on which something began last: once "7&" was said, it is not 7 again.
 * @param cues what is danced
 */
export function saidCount(
  placed: readonly PlacedPhrase[],
  cues: readonly Pick<DancedCue, 'at'>[],
  tick: Ticks,
): { number: string; sub: string } {
  const start = countStart(tick)
  const phrase = phraseAt(placed, start)
  const begun = cues.reduce((last, c) => (c.at > start && c.at <= tick ? Math.max(last, c.at) : last), start)
  return {
    number: phrase ? labelIn(phrase, start) : '',
    sub: begun > start ? subName(placed, begun) : '',
  }
}

/** What is danced now in a layer: one move for everybody, or one for each who dances there. */
export interface NowLine {
  layer: Layer
  cues: DancedCue[]
}

const whole: ReadonlySet<Layer> = new Set(['feet', 'whole'])

/** One move a layer and dancer: what is followed by another has ended. The feet come first. */
export function nowIn(cues: readonly DancedCue[], tick: Ticks): NowLine[] {
  const last = new Map<string, DancedCue>()
  for (const c of cues)
    if (c.at <= tick) {
      const key = `${c.layer} ${whoOf(c)}`
      const before = last.get(key)
      if (!before || c.at >= before.at) last.set(key, c)
    }
  const running = [...last.values()].filter((c) => c.at + c.length > tick)
  const order = [...LAYERS].sort((a, b) => Number(whole.has(b)) - Number(whole.has(a)))
  return order.flatMap((layer): NowLine[] => {
    const own = running.filter((c) => c.layer === layer)
    return own.length ? [{ layer, cues: own.sort((a, b) => a.at - b.at) }] : []
  })
}

/** Something to mind on a count. */
export interface Tip {
  at: Ticks
  label: string
  says: string
}

/**
 * What is said with the cues of a stretch (cautions, usual mistakes, tips), the counts where most slipped first, then in order.
 * @param slips where it slipped so far, a place each time
 */
export function tipsIn(
  placed: readonly PlacedPhrase[],
  cues: readonly DancedCue[],
  stretch: Stretch,
  slips: readonly Ticks[],
  mirrored: boolean,
): Tip[] {
  const missed = (at: Ticks) => slips.filter((s) => countStart(s) === countStart(at)).length
  const tips = cues.flatMap((c): Tip[] => {
    if (!holds(stretch, c.at)) return []
    const said = [c.caution ? `mind the ${c.caution}` : '', c.tip, c.mistake ? `not: ${c.mistake}` : '']
      .filter(Boolean)
      .join('; ')
    const phrase = phraseAt(placed, c.at)
    if (!said || !phrase) return []
    const says = `${cueLine(c, mirrored)}: ${mirrored ? mirrorText(said) : said}`
    return [{ at: c.at, label: labelIn(phrase, c.at), says }]
  })
  return tips.sort((a, b) => missed(b.at) - missed(a.at) || a.at - b.at)
}

/** Level and quality of a move, in words beside it: "low, sharp"; '' where it is as usual. */
export const manner = (c: DancedCue, mirrored: boolean): string =>
  [c.level ?? '', mirrored ? mirrorText(c.quality ?? '') : c.quality].filter(Boolean).join(', ')
