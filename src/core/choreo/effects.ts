import {
  type Cue,
  canTurn,
  mirrorCue,
  mirrorTurn,
  movesFeet,
  otherSide,
  type StepEffect,
  sidesNamed,
  type Turn,
} from '../routine'
import type { Ticks } from '../time'
import { wholeWords, wordBegins } from '../writing/word-edges'
import { type MoveBook, moveNamed } from './moves'

export type Foot = 'left' | 'right'

/** One thing that happens to the weight, at an offset from the cue's start. */
export interface SubStep {
  at: Ticks
  /** `weight`: the weight goes to the foot; `free`: the foot is free; `on`: stays or lands on the foot; `unknown`. */
  kind: 'weight' | 'free' | 'on' | 'both' | 'unknown'
  foot: Foot | null
}

const other = (foot: Foot | null): Foot | null =>
  foot === 'left' ? 'right' : foot === 'right' ? 'left' : null

/** What a cue does to the weight: its own word for it, else what the move list says; null where neither says. */
export function stepOf(cue: Pick<Cue, 'step' | 'move'>, book: MoveBook): StepEffect | null {
  return cue.step ?? moveNamed(cue.move, book)?.step ?? null
}

/** Layers whose cues move the feet. */
export const isFooted = (cue: Pick<Cue, 'layer'>): boolean => movesFeet(cue.layer)

/** How many counts a compound move takes when it is written on one place only. */
const HALF = 12

/**
 * A cue's effect on the weight, step by step. The cue's side is the foot that leads.
 * Compound moves are expanded by common practice, no published source: ball-change and chassé in half counts, a
 * grapevine in whole ones, a pas de bourrée in half counts unless it lasts three.
 */
export function subSteps(cue: Cue, book: MoveBook): SubStep[] {
  if (!isFooted(cue)) return []
  const step = stepOf(cue, book)
  const lead: Foot | null = cue.side === 'left' || cue.side === 'right' ? cue.side : null
  const feet = (kinds: readonly ('lead' | 'other' | 'free')[], gap: Ticks): SubStep[] =>
    kinds.map((k, i) => ({
      at: i * gap,
      kind: k === 'free' ? 'free' : 'weight',
      foot: k === 'lead' ? lead : other(lead),
    }))
  switch (step) {
    case null:
      // Travelling or moving as a whole without saying how tells nothing of the feet; nor does an unknown step.
      return [{ at: 0, kind: 'unknown', foot: null }]
    case 'hold':
      return []
    case 'open':
      return [{ at: 0, kind: 'unknown', foot: null }]
    case 'step':
      return feet(['lead'], 0)
    case 'touch':
    case 'tap':
    case 'kick':
      return [{ at: 0, kind: 'free', foot: lead }]
    case 'together':
      return lead ? feet(['lead'], 0) : [{ at: 0, kind: 'both', foot: null }]
    case 'jump':
      return [{ at: 0, kind: 'both', foot: null }]
    case 'hop':
      return [{ at: 0, kind: 'on', foot: lead }]
    case 'pivot':
    case 'turn':
      // Where the words do not say which way, the side does, and the foot is not told; a pivot ends on that foot.
      if (!lead) return []
      return cue.turn ||
        wayIn(cue.move) ||
        moveNamed(cue.move, book)?.turn ||
        (step === 'pivot' && eighthsIn(cue.move))
        ? [{ at: 0, kind: 'on', foot: lead }]
        : []
    case 'ball-change':
      return feet(['lead', 'other'], Math.min(HALF, Math.max(1, cue.length >> 1)))
    case 'chassé':
      return feet(['lead', 'other', 'lead'], HALF)
    case 'pas de bourrée':
      return feet(['lead', 'other', 'lead'], cue.length >= 72 ? 24 : HALF)
    case 'grapevine':
      return feet(['lead', 'other', 'lead', 'free'], 24)
    case 'step-touch':
      return feet(['lead', 'free'], cue.length > 24 ? 24 : HALF)
  }
}

const FRACTIONS: Record<string, number> = { '¼': 2, '½': 4, '¾': 6, '⅛': 1, '⅜': 3, '⅝': 5, '⅞': 7 }
const WORDS: Record<string, number> = {
  'one and a half': 12,
  'two turns': 16,
  'three turns': 24,
  full: 8,
  half: 4,
  quarter: 2,
  'three-quarter': 6,
  'an eighth': 1,
  single: 8,
  double: 16,
  triple: 24,
}
const TURNS = wholeWords('(?:turn|spin|pivot|unwind)(?:s|ed|ing|ned|ning)?')
/** Turns that have a name and go once around unless a number is said. Common practice, no published source. */
const WHOLE_TURNS = wholeWords(
  [
    'pirouettes?|fouett[eé]s?|cha[iî]n[eé]s?(?: turns?)?|piqu[eé] turns?|soutenus?|tours? en l.air|corkscrews?',
    'spins?|spiral(?: turns?)?|pencil(?: turns?)?|three[- ]step turns?|rolling (?:grape)?vines?|full turns?',
  ].join('|'),
)
/** One that has a name and goes half around. Common practice, no published source. */
const HALF_TURNS = wholeWords('d[eé]tourn[eé]s?')
/** "R 2", "L x3", "2" at the end: how often around, and which way. */
const TIMES_AROUND = /(?:^|\s)([rl])?\s*(?:x\s*)?([1-9])?$/u
/** A fraction beside a step's name is how far it turns ("sailor ¼", "monterey 1/2"), unless it is of time. Common practice. */
const TURNS_BY_PART = /(?:^|\s)(?:[1-7]\/[248]|[¼½¾⅛⅜⅝⅞])(?=\s|$)(?!.*(?:time|tempo|speed|beat|count))/u

const LIMB =
  'arms?|hands?|wrists?|palms?|fists?|fingers?|thumbs?|elbows?|shoulders?|hips?|ribs?|chest|torso|upper body|head|face|chin|nose|eyes?|gaze|look|knees?|legs?|thighs?|feet|foot|toes?|heels?|ankles?|partner|follower|leader|hat|cane|stick|scarf|skirt|cape|ball|prop|fan'
/** What turns that is not the dancer: a limb or a thing that is turned, a limb named as what turns, turning out and in. */
const TURNED = [
  wholeWords(
    String.raw`(?:turn|spin|pivot)(?:s|ed|ing|ned|ning)?\s+(?:(?:the|your|his|her|their|my|our|both|one|each|a)\s+)*(?:(?:left|right|open|flat|free|front|back|working|standing)\s+)?(?:${LIMB})`,
    'g',
  ),
  // A heel turn, a knee spin and a toe turn are done on them: the dancer turns.
  wholeWords(
    String.raw`(?:arms?|hands?|wrists?|palms?|fists?|fingers?|elbows?|shoulders?|hips?|head|face|chin|hat|cane|skirt)\s+(?:turn|spin|pivot)(?:s|ed|ing|ned|ning)?`,
    'g',
  ),
  wholeWords(String.raw`turn(?:s|ed|ing)?[\s-]*(?:outs?|outwards?|inwards?|up|down)`, 'g'),
  new RegExp(
    String.raw`${wordBegins()}turn(?:s|ed|ing)?[\s-]+in(?=\s*(?:$|[,;.]|and\b|from\b|at\b|on\b|with\b))`,
    'gu',
  ),
  wholeWords(
    String.raw`turn(?:s|ed|ing)?[\s-]+(?:in|out)\s+(?:(?:the|your|his|her|their|my|our|both|one|each|a|left|right)\s+)*(?:${LIMB})`,
    'g',
  ),
]

/** True where a text says that the dancer turns. */
const turnsBody = remembered((move): boolean => {
  const text = withoutLimbs(move)
  return [TURNS, WHOLE_TURNS, HALF_TURNS, TURNS_BY_PART].some((words) => words.test(text))
})

/** A text without what turns that is not the dancer. */
const withoutLimbs = (move: string) =>
  TURNED.reduce((text, not) => text.replace(not, ' '), move.toLowerCase())

/** True where all that turns in a text is not the dancer: a leg turned out, a hand. */
const turnsLimbOnly = remembered((move): boolean => TURNS.test(move.toLowerCase()) && !turnsBody(move))

/** How far a text says a turn goes, in eighths of a full one; null where it does not say, or says no eighths. */
const eighthsIn = remembered((move): number | null => {
  const text = move.toLowerCase().replace(',', '.')
  const whole = (n: number) => (Number.isInteger(n) && n >= 1 && n <= 32 ? n : null)
  const degrees = /(?<![\d.])(\d{2,4})\s*(?:°|deg)/u.exec(text)
  if (degrees) return whole(Number(degrees[1]) / 45)
  // "1.5 turns", "1½ turns", "1 1/2 turn", "2 spins".
  const many =
    /(?<![\d./])(\d+(?:\.\d+)?)(?:\s*([¼½¾⅛⅜⅝⅞])|\s+(\d)\/(\d))?\s*(?:x\s*)?(?:full\s+)?(?:turn|spin|pivot)/u.exec(
      text,
    )
  if (many)
    return whole(
      8 * Number(many[1]) +
        (many[2] ? (FRACTIONS[many[2]] ?? 0) : many[3] ? (8 * Number(many[3])) / Number(many[4]) : 0),
    )
  const part = /(?:^|\s)(?:(\d)\/(\d)|([¼½¾⅛⅜⅝⅞]))(?=\s|$)/u.exec(text)
  if (part) return whole(part[3] ? (FRACTIONS[part[3]] ?? 0) : (8 * Number(part[1])) / Number(part[2]))
  const word = Object.keys(WORDS).find((w) => new RegExp(`(?:^|\\s)${w}(?=\\s|$)`).test(text))
  if (word) return WORDS[word] ?? null
  const times = Number(TIMES_AROUND.exec(text)?.[2] ?? 1)
  return WHOLE_TURNS.test(text) ? 8 * times : HALF_TURNS.test(text) ? 4 : null
})

/** Which way a text says a turn goes. */
const wayIn = (move: string): Foot | null => {
  const letter = TIMES_AROUND.exec(move.toLowerCase())
  return sidesNamed(move)[0] ?? (letter?.[1] && letter[2] ? (letter[1] === 'l' ? 'left' : 'right') : null)
}

/** Layers that can turn the whole dancer. */
const turnsWhole = (cue: Pick<Cue, 'layer'>) => canTurn(cue.layer)

/** What is known of a cue's turn: the turn, `unknown` where it turns but nobody says how far, or null for none. */
export function turnOf(cue: Cue, book: MoveBook): Turn | 'unknown' | null {
  if (cue.turn) return cue.turn
  if (!turnsWhole(cue)) return null
  const named = moveNamed(cue.move, book)
  if (named?.turn && !cue.step) return named.turn
  const step = stepOf(cue, book)
  const turns = turnsBody(cue.move) || ((step === 'pivot' || step === 'turn') && !turnsLimbOnly(cue.move))
  if (!turns) return null
  const eighths = eighthsIn(cue.move)
  const to = wayIn(cue.move) ?? (cue.side === 'left' || cue.side === 'right' ? cue.side : null)
  // A full turn ends where it began, whichever way it goes.
  if (eighths === 8 && !to) return { to: 'right', eighths: 8 }
  return eighths && to ? { to, eighths } : 'unknown'
}

/**
 * How far a pivot goes that says no way: it turns away from the foot in front, and which foot it ends on is not told. Common practice,
 * no published source. Null for everything else.
 */
export function pivotOf(cue: Cue, book: MoveBook): number | null {
  if (turnOf(cue, book) !== 'unknown' || stepOf(cue, book) !== 'pivot') return null
  return wayIn(cue.move) || cue.side === 'left' || cue.side === 'right' ? null : eighthsIn(cue.move)
}

/** What was found in a text before: a dance has few different moves and many cues. */
export function remembered<T>(work: (text: string) => T): (text: string) => T {
  const known = new Map<string, T>()
  return (text) => {
    let found = known.get(text)
    if (found === undefined) {
      if (known.size > 5000) known.clear()
      found = work(text)
      known.set(text, found)
    }
    return found
  }
}

const isWait = remembered((move) => /^(hold|freeze|pause|wait)\b/i.test(move.trim()))

/** True for what a dancer does, not for waiting or freedom. */
export function isAction(cue: Cue, book: MoveBook): boolean {
  if (cue.option === 'hold' || cue.option === 'open') return false
  if (cue.step === 'open' || cue.step === 'hold' || isWait(cue.move)) return false
  return moveNamed(cue.move, book)?.step !== 'open'
}

/** What is known of a cue by itself; worked out once, since a cue never changes but is replaced. */
export interface CueFacts {
  footed: boolean
  subs: readonly SubStep[]
  turn: Turn | 'unknown' | null
  /** Eighths of a pivot that says no way. */
  pivot: number | null
  action: boolean
}

const facts = new WeakMap<MoveBook, WeakMap<Cue, CueFacts>>()

/** @returns what a cue does to weight and facing, and whether it is an action */
export function factsOf(cue: Cue, book: MoveBook): CueFacts {
  let known = facts.get(book)
  if (!known) {
    known = new WeakMap()
    facts.set(book, known)
  }
  let found = known.get(cue)
  if (!found) {
    // What the move list says is said of the plain move; danced to the other side, it is what that would be mirrored.
    const plain = cue.mirrored ? mirrorCue(cue) : cue
    const turn = turnOf(plain, book)
    const subs = subSteps(plain, book)
    found = {
      footed: isFooted(cue),
      subs: cue.mirrored ? subs.map((x) => ({ ...x, foot: x.foot && otherSide(x.foot) })) : subs,
      turn: cue.mirrored && turn && turn !== 'unknown' ? mirrorTurn(turn) : turn,
      pivot: pivotOf(plain, book),
      action: isAction(cue, book),
    }
    known.set(cue, found)
  }
  return found
}
