import { type MoveBook, moveNamed } from '../choreo'
import { heldTempi, tempiWithin, tempoRange } from '../grid'
import {
  cueText,
  labelIn,
  passWords,
  phraseAt,
  placeName,
  placePhrases,
  type Routine,
  sectionTitles,
} from '../routine'
import { clockText, countsText, gridTempo, type Seconds, TICKS_PER_COUNT, timeOfTick } from '../time'
import { type Contents, cuesFor } from './contents'

/** How a text to paste is made. */
export interface PasteWish {
  /** The dance itself, a line a phrase. */
  moves: boolean
  /** How long the film speaks before the song begins. */
  before: Seconds
  /** Lines of a film's own times, in place of the song's; null for those. */
  stamps: readonly string[] | null
}
export const USUAL_PASTE: PasteWish = { moves: false, before: 0, stamps: null }

/**
 * The text under a film or in a message: what it is, what is needed, which moves to know first and where they are learned, and
 * time stamps, each a line that begins with its time in the film ("0:36 Chorus").
 */
export function pasteText(
  routine: Routine,
  times: readonly Seconds[],
  book: MoveBook,
  contents: Contents,
  wish: PasteWish = USUAL_PASTE,
): string {
  const { stretch } = contents
  const placed = placePhrases(routine)
  const counts = Math.round((stretch.to - stretch.from) / TICKS_PER_COUNT)
  const [from, to] = [timeOfTick(times, stretch.from), timeOfTick(times, stretch.to)]
  const moves = movesFirst(routine, book, contents)
  const blocks = [
    [routine.title, routine.credit && `Song: ${routine.credit}`].filter(Boolean),
    [
      `${eightsWords(counts)}, ${clockText(to - from)} of the song, ${tempoWords(times, from, to)}${levelOf(moves)}`,
      contents.version !== 'base' ? `Version: ${contents.version}` : '',
      contents.role ? `Role: ${contents.role}` : '',
      contents.pass !== 'all' ? `Of the body: ${passWords(contents.pass)}` : '',
      contents.mirrored ? 'Sides are said as in a mirror.' : '',
    ].filter(Boolean),
    [routine.gear && `What you need: ${routine.gear}`, routine.room && `Room: ${routine.room}`].filter(
      Boolean,
    ),
    moves.length
      ? ['To know first:', ...moves.map((m) => `- ${m.name}${m.learn ? `: ${m.learn}` : ''}`)]
      : [],
    wish.stamps ?? stamps(routine, times, placed, contents, wish.before),
    wish.moves ? danceLines(routine, placed, contents) : [],
  ]
  return `${blocks
    .filter((b) => b.length)
    .map((b) => b.join('\n'))
    .join('\n\n')}\n`
}

/** "96 to 140 beats a minute": how fast the song is there; from the slowest to the fastest where several were cut together. */
function tempoWords(times: readonly Seconds[], from: Seconds, to: Seconds): string {
  const held = tempiWithin(heldTempi(times), from, to)
  const [slowest, fastest] = tempoRange(held, gridTempo([...times]))
  return `${slowest}${fastest > slowest ? ` to ${fastest}` : ''} beats a minute`
}

/** "8 eights and 4 counts". */
export function eightsWords(counts: number): string {
  const [eights, rest] = [Math.floor(counts / 8), counts % 8]
  const words = [
    eights ? `${eights} ${eights === 1 ? 'eight' : 'eights'}` : '',
    rest || !eights ? countsText(rest) : '',
  ]
  return words.filter(Boolean).join(' and ')
}

/** Moves that ask for practice or for other moves first, in the order of the dance. */
function movesFirst(routine: Routine, book: MoveBook, contents: Contents) {
  const found = new Map<string, NonNullable<ReturnType<typeof moveNamed>>>()
  for (const c of cuesFor(routine, contents)) {
    const move = moveNamed(c.move, book)
    if (move && (move.grade !== 'first' || move.needs.length || move.learn)) found.set(move.id, move)
  }
  return [...found.values()]
}

const levelOf = (moves: readonly { grade: string }[]) => {
  if (moves.some((m) => m.grade === 'much')) return ', for those with much practice'
  return moves.some((m) => m.grade === 'some') ? ', for those with some practice' : ', for beginners'
}

/** A line a section, and a line a part: "0:36 Chorus". */
function stamps(
  routine: Routine,
  times: readonly Seconds[],
  placed: ReturnType<typeof placePhrases>,
  { stretch }: Contents,
  before: Seconds,
): string[] {
  const titles = sectionTitles(routine.sections)
  const places = [
    ...routine.sections.flatMap((s) =>
      s.at > stretch.from ? [{ at: s.at, name: titles.get(s) ?? '' }] : [],
    ),
    ...routine.parts.flatMap((p) => (p.at >= stretch.from ? [{ at: p.at, name: p.name }] : [])),
  ]
    .filter((s) => s.at < stretch.to)
    .sort((a, b) => a.at - b.at)
  const first = placed.findLast((p) => p.start <= stretch.from)?.section
  const begin = routine.sections.find((s) => s.at === stretch.from) ?? first
  // A list of chapters begins with the film.
  const lines = new Map<string, string[]>(before > 0 ? [['0:00', ['Before the song']]] : [])
  const list = [{ at: stretch.from, name: (begin && titles.get(begin)) ?? 'The dance begins' }, ...places]
  // What begins at one place is one line: two stamps of one time are refused where chapters are made of them.
  for (const { at, name } of list) {
    const time = clockText(Math.max(0, before + timeOfTick(times, at)))
    lines.set(time, [...(lines.get(time) ?? []), name])
  }
  return [...lines].map(([time, names]) => `${time} ${names.join(', ')}`)
}

/** "Chorus, eight 1: 1 step R, 2 touch L". */
function danceLines(routine: Routine, placed: ReturnType<typeof placePhrases>, contents: Contents): string[] {
  const lines = new Map<string, string[]>()
  for (const c of cuesFor(routine, contents)) {
    const p = phraseAt(placed, c.at)
    if (!p) continue
    const name = placeName(p)
    lines.set(name, [...(lines.get(name) ?? []), `${labelIn(p, c.at)} ${cueText(c, contents.mirrored)}`])
  }
  return lines.size ? ['The dance:', ...[...lines].map(([name, said]) => `${name}: ${said.join(', ')}`)] : []
}
