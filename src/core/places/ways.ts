import type { Foot, MoveBook } from '../choreo'
import { moveNamed, remembered, stepOf } from '../choreo'
import { type Cue, mirrorText, mirrorWay, otherSide, type StepWay } from '../routine'
import { LETTERS, WORD_CHARACTERS, wholeWords, wordBegins } from '../writing/word-edges'

/** Metres. */
export type Metres = number

/**
 * Where something goes: seen from the dancer, seen from the audience's room (eighths clockwise from the front), to the side of the
 * foot that steps or to the other, or nowhere.
 */
export type Heading =
  | { of: 'dancer'; eighths: number }
  | { of: 'room'; eighths: number }
  | { of: 'foot'; other: boolean }
  | { of: 'spot' }

/** What words say of a way. */
export interface SaidWay {
  heading: Heading | null
  /** How far, all in all. */
  metres: Metres | null
  /** Of how many steps. */
  steps: number | null
  /** Big and small steps: so many times the usual. Values from memory. */
  size: number
}

const EIGHTHS: Record<Exclude<StepWay, 'on the spot'>, number> = {
  forward: 0,
  'forward right': 1,
  right: 2,
  'back right': 3,
  back: 4,
  'back left': 5,
  left: 6,
  'forward left': 7,
}

export const headingOf = (way: StepWay): Heading =>
  way === 'on the spot' ? { of: 'spot' } : { of: 'dancer', eighths: EIGHTHS[way] }

/** What only a limb or the eyes do, and which way somebody faces or turns: no way to go. */
const NO_WAY = [
  // Where arms and gaze go, to the end of the text.
  /(?:[,;]|\bwith\b|\band\b)?\s*(?:(?:the|your|both|left|right|l|r)\s+)*(?:arms?|hands?|elbows?|head|eyes|gaze|chest|hips?|shoulders?)\s.*$/gu,
  new RegExp(
    String.raw`(?<![${LETTERS}])(?:facing|face|look(?:ing)?|turn(?:s|ing|ed)?|spin|pivot|unwind|half|quarter)\s+(?:to\s+)?(?:the\s+)?(?:[¼½¾⅛]|\d\/\d)?\s*(?:left|right|front|back|l|r)(?![${LETTERS}])`,
    'gu',
  ),
  new RegExp(
    String.raw`(?:[¼½¾⅛⅜]|\d\/\d)\s*(?:turn\s*)?(?:to\s+the\s+)?(?:left|right|l|r)(?![${LETTERS}])`,
    'gu',
  ),
  new RegExp(
    String.raw`(?<![${LETTERS}])(?:left|right|l|r|back|front)\s+(?:arms?|hands?|elbows?|fists?|shoulders?|hips?|knees?|legs?|f[eo]{2}t|heels?|toes?|ball)(?![${LETTERS}])`,
    'gu',
  ),
]

const SPOT = wholeWords(
  String.raw`on the spot|in place|in situ|sur place|on place|on one spot|without travell?ing|out|in(?!\s+front)`,
)
const ROOM: readonly [RegExp, number][] = [
  [wholeWords(String.raw`downstage\s+right|front\s+(?:right|r)\s+corner`), 1],
  [wholeWords(String.raw`upstage\s+right|back\s+(?:right|r)\s+corner`), 3],
  [wholeWords(String.raw`upstage\s+left|back\s+(?:left|l)\s+corner`), 5],
  [wholeWords(String.raw`downstage\s+left|front\s+(?:left|l)\s+corner`), 7],
  [wholeWords(String.raw`downstage|(?:to|towards?|at)\s+the\s+(?:audience|camera|mirror)`), 0],
  [wholeWords(String.raw`stage\s+right|(?:to|towards?)\s+the\s+right\s+wall`), 2],
  [
    wholeWords(
      String.raw`upstage|(?:to|towards?)\s+the\s+back\s+wall|away\s+from\s+the\s+(?:audience|camera)`,
    ),
    4,
  ],
  [wholeWords(String.raw`stage\s+left|(?:to|towards?)\s+the\s+left\s+wall`), 6],
]
const FORWARD = wholeWords(String.raw`forwards?|fwd|forth|ahead|advance|(?<!in\s)front`)
const BACK = wholeWords('backwards?|back|bwd|retreat|reverse')
const RIGHT = wholeWords('right')
const LEFT = wholeWords('left')
const RIGHT_LETTER = wholeWords('right|r')
const LEFT_LETTER = wholeWords('left|l')
const DIAGONAL = wholeWords('diag|diagonals?|diagonally|corner')
const SIDE = wholeWords('side|sideways?|sidewards|lateral|laterally|à la seconde|second')
const CROSS = wholeWords('cross|crosse[ds]|crossing|lock|weave')
/** Nobody can tell where these end. */
const ROUND = wholeWords(
  'circle|circles|circling|around|round|curve|arc|zigzag|swap|change places|exchange|own place|places',
)

const direct = (eighths: number): Heading => ({ of: 'dancer', eighths })

/** Which way a text goes. @param letters L and R name the way, not the foot */
function headingIn(text: string, letters: boolean): Heading | 'unknown' | null {
  for (const [words, eighths] of ROOM) if (words.test(text)) return { of: 'room', eighths }
  if (ROUND.test(text)) return 'unknown'
  const diagonal = DIAGONAL.test(text)
  const [r, l] = letters || diagonal ? [RIGHT_LETTER, LEFT_LETTER] : [RIGHT, LEFT]
  const side = r.test(text) ? 'right' : l.test(text) ? 'left' : null
  const along = FORWARD.test(text) ? 'forward' : BACK.test(text) ? 'back' : null
  if (along && side) return direct(EIGHTHS[`${along} ${side}`])
  if (along) return diagonal ? 'unknown' : direct(EIGHTHS[along])
  // A diagonal that says no more goes forward. Common practice, no published source.
  if (diagonal) return side ? direct(EIGHTHS[`forward ${side}`]) : 'unknown'
  if (SPOT.test(text)) return { of: 'spot' }
  if (CROSS.test(text)) return side ? direct(EIGHTHS[side]) : { of: 'foot', other: true }
  if (side) return direct(EIGHTHS[side])
  return SIDE.test(text) ? { of: 'foot', other: false } : null
}

const NUMBER = String.raw`(\d+(?:[.,]\d+)?|half an?|½|an?)`
const METRES = wholeWords(String.raw`${NUMBER}\s*(?:m|metres?|meters?)`)
const CENTIMETRES = wholeWords(String.raw`(\d+)\s*cm`)
const STEPS = new RegExp(
  [
    String.raw`${wordBegins('.,')}(\d{1,2}|two|three|four|six|eight)\s*(?:x\s*)?(?:big |small |long |short )?(?:steps?|walks?|runs?|paces?|counts)(?![${LETTERS}])`,
    String.raw`(?:walk|run|march|jog|step)s?\s+(?:[${LETTERS}]+\s+)?(?:x\s*)?(\d{1,2})(?!${[
      `[${WORD_CHARACTERS}./]`,
      String.raw`\s*(?:m|cm|metres?)(?![${LETTERS}])`,
    ].join('|')})`,
  ].join('|'),
  'u',
)
const NUMBERS: Record<string, number> = { two: 2, three: 3, four: 4, six: 6, eight: 8 }

const numberOf = (text: string): number =>
  text === 'a' || text === 'an' ? 1 : /half|½/.test(text) ? 0.5 : Number(text.replace(',', '.'))

function metresIn(text: string): Metres | null {
  const metres = METRES.exec(text)
  if (metres) return numberOf(metres[1] as string)
  const cm = CENTIMETRES.exec(text)
  return cm ? Number(cm[1]) / 100 : null
}

function stepsIn(text: string): number | null {
  const found = STEPS.exec(text)
  const said = found?.[1] ?? found?.[2]
  return said ? (NUMBERS[said] ?? Number(said)) : null
}

const SIZES: readonly [RegExp, number][] = [
  [wholeWords('tiny'), 0.3],
  [wholeWords('small|little|short'), 0.5],
  [wholeWords('big|large|long|wide|huge'), 1.5],
]

/**
 * What a move's words say of its way: forward, back, side, diagonals, on the spot, as dancers and as stages say it, in metres or
 * steps. Common practice, no published source.
 * @param letters L and R name the way and not the foot, as they do of somebody who travels
 */
export function wayInWords(move: string, letters = false): SaidWay | 'unknown' {
  return letters ? withLetters(move) : withFeet(move)
}

const read = (letters: boolean) =>
  remembered((move): SaidWay | 'unknown' => {
    const whole = move.toLowerCase()
    const text = NO_WAY.reduce((t, not) => t.replace(not, ' '), whole)
    const heading = headingIn(text, letters)
    if (heading === 'unknown') return heading
    const size = SIZES.find(([words]) => words.test(text))?.[1] ?? 1
    return { heading, metres: metresIn(text), steps: stepsIn(text), size }
  })
const withLetters = read(true)
const withFeet = read(false)

const WALKS = wholeWords('walk|walks|walking|strut|struts|stalk|prance|prances|catwalk')
const RUNS = wholeWords('run|runs|running|jog|jogs|sprint|leap|leaps|grand jeté|skip|skips|gallop|gallops')
const STAYS = wholeWords(
  'march|marches|stomp|stomps|stamp|sway|sways|ball|change|bounce|rock|paddle|shift|plié|relevé',
)
const SLIDES = wholeWords('slide|slides|glide|glides|scoot|shuffle|side[- ]step|step side')
const ROLLS = wholeWords('three[- ]step turns?|rolling (?:grape)?vines?')

/** How a move goes where its words say no way: how fast it eats the room, and where it goes. */
export interface Gait {
  /** Whose length its steps have. */
  length: 'step' | 'walk' | 'run'
  /** Where it goes of itself; null where a step goes that nobody knows. */
  heading: Heading | null
  /** Each count of it is a step, however long it is written. */
  everyCount: boolean
}

/** Common practice, no published source: walks and runs go forward, slides to their side, marches and stomps stay. */
export const gaitOf = remembered((move): Gait => {
  const text = move.toLowerCase()
  if (ROLLS.test(text)) return { length: 'step', heading: { of: 'foot', other: false }, everyCount: true }
  if (RUNS.test(text)) return { length: 'run', heading: direct(0), everyCount: true }
  if (WALKS.test(text)) return { length: 'walk', heading: direct(0), everyCount: true }
  if (STAYS.test(text)) return { length: 'step', heading: { of: 'spot' }, everyCount: false }
  if (SLIDES.test(text)) return { length: 'step', heading: { of: 'foot', other: false }, everyCount: false }
  return { length: 'step', heading: null, everyCount: false }
})

/** What is known of a cue's way from itself, its words and the move list, in this order. */
export interface CueWay {
  heading: Heading | null
  metres: Metres | null
  steps: number | null
  size: number
  /** It says that it goes somewhere nobody can work out. */
  lost: boolean
}

/** What is known of a cue's way; worked out once, since a cue never changes but is replaced. */
export function wayOfCue(cue: Cue, book: MoveBook): CueWay {
  const known = waysKnown.get(book) ?? new WeakMap<Cue, CueWay>()
  waysKnown.set(book, known)
  const before = known.get(cue)
  if (before) return before
  const way = workedOut(cue, book)
  known.set(cue, way)
  return way
}

const waysKnown = new WeakMap<MoveBook, WeakMap<Cue, CueWay>>()

function workedOut(cue: Cue, book: MoveBook): CueWay {
  const travels = cue.layer === 'travel'
  const words = wayInWords(cue.move, travels)
  const named = moveNamed(cue.mirrored ? mirrorText(cue.move) : cue.move, book)
  const listed = named?.way ? headingOf(cue.mirrored ? mirrorWay(named.way) : named.way) : null
  const said = words === 'unknown' ? null : words
  const own = cue.way ? headingOf(cue.way) : null
  return {
    heading: own ?? said?.heading ?? listed ?? (travels ? sideHeading(cue) : null),
    metres: cue.metres ?? said?.metres ?? named?.metres ?? null,
    steps: said?.steps ?? null,
    size: said?.size ?? 1,
    lost: words === 'unknown' && !own,
  }
}

/** Whoever travels "R" goes there. */
const sideHeading = ({ side }: Cue): Heading | null =>
  side === 'left' || side === 'right' ? direct(EIGHTHS[side]) : null

/** The way of a foot's step in eighths from where the dancer faces; null where it is of no foot, or goes nowhere. */
export function eighthsOf(heading: Heading, foot: Foot | null): number | null {
  if (heading.of === 'dancer') return heading.eighths
  if (heading.of !== 'foot' || !foot) return null
  return EIGHTHS[heading.other ? otherSide(foot) : foot]
}

/** True for what the move list knows as a move of the upper body: the feet stay. */
export const staysPut = (cue: Cue, book: MoveBook): boolean => {
  const named = moveNamed(cue.move, book)
  return named !== null && named.step === null && stepOf(cue, book) === null
}
