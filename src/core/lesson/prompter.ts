import {
  type BodyStep,
  facingName,
  factsOf,
  followBody,
  type MoveBook,
  moveNamed,
  START,
  type Stance,
  stanceAt,
  stepOf,
} from '../choreo'
import {
  type Cue,
  cueText,
  LAYERS,
  type Layer,
  labelIn,
  type PlacedPhrase,
  type Position,
  phraseAt,
  sidesNamed,
} from '../routine'
import { type Stretch, TICKS_PER_COUNT, type Ticks } from '../time'

/** A cue as it is read from the floor: its layer, its words, and what is to be said with it. */
export interface PromptCue {
  layer: Layer
  /** "3&", where it does not stand on the count itself. */
  label: string
  words: string
  /** Level, quality, look, caution. */
  more: string[]
  mistake: string
  tip: string
  /** Where the move can be learned; '' where nothing is written. */
  learn: string
  /** What it stands in for in this version; '' for none. */
  insteadOf: string
}

/** One count of a stretch: what is danced on it, and what must be ready for the next. */
export interface PromptLine {
  at: Ticks
  label: string
  cues: PromptCue[]
  ready: string[]
}

/** What a teacher reads while explaining. */
export interface Prompt {
  begin: Stance
  lines: PromptLine[]
  end: Stance
}

/** An arm that was held so long must be brought back for its next move. */
const HELD: Ticks = 2 * TICKS_PER_COUNT

const DOES: Partial<Record<string, string>> = {
  kick: 'kicks',
  tap: 'taps',
  touch: 'touches',
  step: 'steps',
  together: 'closes',
}

/**
 * The prompter of a stretch: how the dancer stands before it, count by count what each layer does, and one count early what
 * the next one needs: the foot that must be free, the wall, the level, the arm that must be back.
 * @param cues what one dancer dances, in order of place
 * @param base what is danced in the base, where another version is; the same list otherwise
 */
export function promptOf(
  cues: readonly Cue[],
  base: readonly Cue[],
  positions: readonly Position[],
  { from, to }: Stretch,
  placed: readonly PlacedPhrase[],
  book: MoveBook,
): Prompt {
  const { steps } = followBody(cues, book, START, positions)
  const lines: PromptLine[] = []
  for (let at = Math.floor(from / TICKS_PER_COUNT) * TICKS_PER_COUNT; at < to; at += TICKS_PER_COUNT) {
    const phrase = phraseAt(placed, at)
    if (!phrase) continue
    const here = within(cues, { from: Math.max(at, from), to: Math.min(to, at + TICKS_PER_COUNT) })
    const next = { from: at + TICKS_PER_COUNT, to: Math.min(to, at + 2 * TICKS_PER_COUNT) }
    lines.push({
      at,
      label: labelIn(phrase, at),
      cues: here.map((c) => promptCue(c, base, phrase, book)).sort(byLayer),
      ready: next.to > next.from ? readyFor(cues, steps, next, placed, book) : [],
    })
  }
  return { begin: stanceAt(cues, positions, from, book), lines, end: stanceAt(cues, positions, to, book) }
}

const within = (cues: readonly Cue[], { from, to }: Stretch) => cues.filter((c) => c.at >= from && c.at < to)
const byLayer = (a: PromptCue, b: PromptCue) => LAYERS.indexOf(a.layer) - LAYERS.indexOf(b.layer)

function promptCue(cue: Cue, base: readonly Cue[], phrase: PlacedPhrase, book: MoveBook): PromptCue {
  const own = cue.option && cue.option !== 'base'
  const stood = own
    ? base.filter(
        (b) =>
          b.id !== cue.id && b.layer === cue.layer && b.at < cue.at + cue.length && cue.at < b.at + b.length,
      )
    : []
  return {
    layer: cue.layer,
    label: cue.at % TICKS_PER_COUNT ? labelIn(phrase, cue.at) : '',
    words: cueText(cue),
    more: [
      cue.level === 'middle' ? 'upright' : (cue.level ?? ''),
      cue.quality ?? '',
      cue.look ? `look ${cue.look}` : '',
      cue.caution ? `mind the ${cue.caution}` : '',
    ].filter(Boolean),
    mistake: cue.mistake || moveNamed(cue.move, book)?.mistakes || '',
    tip: cue.tip ?? '',
    learn: moveNamed(cue.move, book)?.learn ?? '',
    insteadOf: stood.map((b) => cueText(b)).join(', '),
  }
}

/** What the counts of a stretch need to be ready, said before they come. */
function readyFor(
  cues: readonly Cue[],
  steps: readonly BodyStep[],
  next: Stretch,
  placed: readonly PlacedPhrase[],
  book: MoveBook,
): string[] {
  const out: string[] = []
  const before = steps.findLast((s) => s.at < next.from)
  for (const c of within(cues, next)) {
    const phrase = phraseAt(placed, c.at)
    const on = phrase ? labelIn(phrase, c.at) : ''
    const { subs, turn } = factsOf(c, book)
    const [first] = subs
    const needs = first && (first.kind === 'weight' || first.kind === 'free') ? first.foot : null
    // The foot that touched or kicked last is wanted free again, or both carry the weight: none may go on it. That a step
    // follows a touch goes without saying.
    const again = before?.foot === needs && !before?.taken && first?.kind === 'free'
    const risky = before && needs && (again || before.weight === 'both')
    if (risky) out.push(`stay off the ${needs} foot: it ${DOES[stepOf(c, book) ?? ''] ?? 'goes'} on ${on}`)
    // A full turn ends where it began: without a word for it nobody knows which way.
    const way = c.turn || c.side === 'left' || c.side === 'right' || sidesNamed(c.move).length > 0
    if (turn === 'unknown' || (turn && turn.eighths % 8 === 0 && !way)) out.push(`a turn on ${on}`)
    else if (turn) {
      const after = steps.find((s) => s.cue.id === c.id && s.at >= c.at)
      const wall = after && after.facing !== 'unknown' ? `, to the ${facingName(after.facing)}` : ''
      out.push(`turn ${turn.to} on ${on}${wall}`)
    }
    if (c.level && before && before.level !== c.level && before.level !== 'unknown')
      out.push(
        c.level === 'floor'
          ? `to the floor on ${on}`
          : `${c.level === 'middle' ? 'upright' : c.level} on ${on}`,
      )
    if (c.layer === 'arms') {
      const busy = cues.findLast(
        (b) =>
          b.layer === 'arms' &&
          b.at < next.from &&
          b.length >= HELD &&
          b.at + b.length > next.from - TICKS_PER_COUNT / 2 &&
          b.at + b.length <= c.at + 1 &&
          sameArm(b, c),
      )
      if (busy) out.push(`${armOf(c)} back in place for “${cueText(c)}” on ${on}`)
    }
  }
  return [...new Set(out)]
}

/** True where both say which arm they are of, and it is one: what says nothing of it tells nothing of the next move. */
const sameArm = (a: Cue, b: Cue) =>
  a.side !== 'none' && b.side !== 'none' && (a.side === b.side || a.side === 'both' || b.side === 'both')
const armOf = (c: Cue) => (c.side === 'left' || c.side === 'right' ? `the ${c.side} arm` : 'the arms')
