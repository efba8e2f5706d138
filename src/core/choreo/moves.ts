import * as v from 'valibot'
import {
  CAUTIONS,
  type Cue,
  LEVELS,
  LIMITS,
  SIDES,
  STEPS,
  type StepEffect,
  Turn,
  WAYS,
  withDetail,
} from '../routine'
import { id, name, note, text } from '../routine/document/text-schema'

/** One entry of the instructor's own move list. */
export const MoveSchema = v.object({
  id,
  name: name(LIMITS.text, 'A move needs a name.'),
  step: v.nullable(v.picklist(STEPS)),
  turn: v.nullable(Turn),
  /** The side it is usually done to. */
  side: v.picklist(SIDES),
  level: v.nullable(v.picklist(LEVELS)),
  /** The short word the caller says; empty means the name. */
  call: text,
  /** For whom: first lessons, some practice, much practice. */
  grade: v.picklist(['first', 'some', 'much']),
  /** Names of moves to be known before. */
  needs: v.pipe(v.array(text), v.maxLength(20)),
  caution: v.nullable(v.picklist(CAUTIONS)),
  note,
  mistakes: note,
  /** Where it can be learned: any text or address. */
  learn: v.optional(note, ''),
  /** Where it goes, seen from the dancer, and how far in all, in metres. */
  way: v.optional(v.nullable(v.picklist(WAYS)), null),
  metres: v.optional(v.nullable(v.pipe(v.number(), v.minValue(0), v.maxValue(LIMITS.metres))), null),
})

export const MoveListSchema = v.pipe(
  v.array(MoveSchema),
  v.maxLength(2000),
  v.check((l) => new Set(l.map((m) => m.id)).size === l.length, 'Two moves share an id.'),
)

export type Move = v.InferOutput<typeof MoveSchema>

type Start = [name: string, step: StepEffect | null, more?: Partial<Move>]

const left = (eighths: number) => ({ turn: { to: 'left' as const, eighths } })
const right = (eighths: number) => ({ turn: { to: 'right' as const, eighths } })

/**
 * Generic and traditional vocabulary to begin with. Step effects, grades and cautions are common practice, no published
 * source.
 */
const START: readonly Start[] = [
  ['step', 'step'],
  ['walk', 'step'],
  ['cross', 'step'],
  ['lunge', 'step', { level: 'low', caution: 'knee' }],
  ['sway', 'step'],
  ['stomp', 'step'],
  ['march', 'step'],
  ['ball', 'step'],
  ['change', 'step'],
  ['slide', 'step'],
  ['run', 'step'],
  ['touch', 'touch'],
  ['tap', 'tap'],
  ['point', 'touch'],
  ['heel', 'touch'],
  ['kick', 'kick', { caution: 'kick', grade: 'some' }],
  ['flick', 'kick'],
  ['passé', 'kick', { grade: 'some' }],
  ['rond de jambe', 'kick', { grade: 'some' }],
  ['together', 'together'],
  ['close', 'together'],
  ['plié', 'hold', { level: 'low', caution: 'knee' }],
  ['relevé', 'hold', { level: 'high' }],
  ['jump', 'jump', { caution: 'jump' }],
  ['bounce', 'hold'],
  ['hop', 'hop', { caution: 'jump' }],
  ['leap', 'hop', { caution: 'jump', grade: 'much' }],
  ['step-touch', 'step-touch'],
  ['grapevine', 'grapevine'],
  ['ball-change', 'ball-change'],
  ['chassé', 'chassé'],
  ['triple step', 'chassé'],
  ['pas de bourrée', 'pas de bourrée', { grade: 'some' }],
  ['pivot', 'pivot'],
  ['pivot ½ left', 'pivot', left(4)],
  ['pivot ½ right', 'pivot', right(4)],
  ['turn', 'turn', { caution: 'turn' }],
  ['full turn left', 'turn', { ...left(8), caution: 'turn' }],
  ['full turn right', 'turn', { ...right(8), caution: 'turn' }],
  ['pirouette', 'turn', { caution: 'turn', grade: 'much', needs: ['relevé', 'passé'] }],
  ['kneel', 'hold', { level: 'floor', caution: 'knee' }],
  ['roll on the floor', 'open', { level: 'floor', caution: 'floor', grade: 'some' }],
  ['body roll', null, { caution: 'back', grade: 'some' }],
  ['chest isolation', null],
  ['hip isolation', null],
  ['rib circle', null, { grade: 'some' }],
  ['head roll', null, { caution: 'neck' }],
  ['head isolation', null, { caution: 'neck' }],
  ['back bend', null, { caution: 'back', grade: 'much' }],
  ['shoulder roll', null],
  ['clap', null],
  ['snap', null],
  ['reach', null],
  ['swing', null],
  ['wave', null],
  ['punch', null],
  ['circle the arms', null],
  ['hold', 'hold'],
  ['freestyle', 'open'],
]

/** A move of which nothing is known but its name. */
export const namedMove = (id: string, name: string): Move => ({
  id,
  name,
  step: null,
  turn: null,
  side: 'none',
  level: null,
  call: '',
  grade: 'first',
  needs: [],
  caution: null,
  note: '',
  mistakes: '',
  learn: '',
  way: null,
  metres: null,
})

/** The list a new instructor begins with. */
export const STARTING_MOVES: readonly Move[] = START.map(([name, step, more]) => ({
  ...namedMove(`start-${name.normalize('NFD').replace(/[^a-z0-9½]+/gi, '-')}`, name),
  step,
  ...more,
}))

/** A move list made ready for looking names up. */
export type MoveBook = ReadonlyMap<string, Move>

const plain = (name: string) => name.trim().toLowerCase().replace(/\s+/g, ' ')

/** @param moves later entries of one name win */
export function moveBook(moves: readonly Move[]): MoveBook {
  return new Map(moves.map((m) => [plain(m.name), m]))
}

/**
 * The entry a cue's words name: the whole text, or the longest name the text begins with ("walk back" is a walk).
 */
export function moveNamed(text: string, book: MoveBook): Move | null {
  let known = looked.get(book)
  if (!known) {
    known = new Map()
    looked.set(book, known)
  }
  let found = known.get(text)
  if (found === undefined) {
    found = lookUp(text, book)
    known.set(text, found)
  }
  return found
}

/** Names looked up so far: a dance has few different moves and many cues. */
const looked = new WeakMap<MoveBook, Map<string, Move | null>>()

function lookUp(text: string, book: MoveBook): Move | null {
  let rest = plain(text)
  while (rest) {
    const found = book.get(rest)
    if (found) return found
    const cut = rest.lastIndexOf(' ')
    if (cut < 0) return null
    rest = rest.slice(0, cut).replace(/[\s,;:-]+$/, '')
  }
  return null
}

/** Entries a person may mean while typing: names that begin so first, then names that hold it. */
export function movesLike(text: string, moves: readonly Move[], most = 8): Move[] {
  const wanted = plain(text)
  if (!wanted) return []
  const rank = (m: Move) => {
    const name = plain(m.name)
    if (name.startsWith(wanted)) return 0
    return name.includes(` ${wanted}`) || name.includes(`-${wanted}`) ? 1 : name.includes(wanted) ? 2 : 3
  }
  return moves
    .map((m) => ({ m, r: rank(m) }))
    .filter(({ r }) => r < 3)
    .sort((a, b) => a.r - b.r || a.m.name.length - b.m.name.length || a.m.name.localeCompare(b.m.name))
    .slice(0, most)
    .map(({ m }) => m)
}

/** Cues whose words are exactly a move's name: those a change of the move may go to. */
export function usesOf(cues: readonly Cue[], name: string): Cue[] {
  return cues.filter((c) => plain(c.move) === plain(name))
}

/**
 * A cue as its move stands in the list now: called, stepped and turned like it. What the list does not say of how it goes, how far
 * or how carefully stays as it was said of the cue; a usual mistake becomes its tip where it has none and care is asked for.
 */
export function bringUpToDate(cue: Cue, move: Move): Cue {
  const off = undefined as never
  return withDetail(cue, {
    move: move.name,
    call: move.call,
    step: move.step ?? off,
    turn: move.turn ?? off,
    ...(move.way ? { way: move.way } : {}),
    ...(move.metres === null ? {} : { metres: move.metres }),
    level: move.level ?? off,
    ...(move.caution ? { caution: move.caution } : {}),
    ...(move.caution && move.mistakes && !cue.tip ? { tip: move.mistakes } : {}),
  })
}
