import {
  danceOf,
  type Edit,
  elsewhereIn,
  inAllLayers,
  LAYERS,
  type Layer,
  type LineCue,
  type LinePhrase,
  LineProblem,
  lineOf,
  type NewId,
  type PlacedPhrase,
  parseLine,
  phraseAt,
  printLine,
  putLineInLayers,
  type Routine,
} from '../routine'
import type { Seconds, Ticks } from '../time'

/** A line being typed: which layer of which phrase. */
export interface OpenLine {
  /** Where its phrase begins. */
  phrase: Ticks
  layer: Layer
  text: string
}

/** Writing a phrase as lines: one open line, shown in the lanes while it is typed, kept in one step. */
export interface LineState {
  open: OpenLine | null
  /** The layer the first line was opened in: the next phrase is begun where this one was. */
  began: Layer
  /** What was left without keeping it, by place. */
  drafts: Readonly<Record<string, string>>
  /** Why pasted lines were not taken. */
  problem: string
}

export const NO_LINE: LineState = { open: null, began: 'feet', drafts: {}, problem: '' }

/** Where keeping a line leads: nowhere, to another layer, or to another phrase. */
export type LineGo = 'stay' | 'layer+' | 'layer-' | 'phrase+' | 'phrase-'

export type LineEvent =
  | { line: 'open'; tick: Ticks; layer: Layer }
  /** Of the first phrase that is danced. */
  | { line: 'open first' }
  | { line: 'type'; text: string }
  | { line: 'keep'; go: LineGo }
  /** The edit that keeps it was taken. */
  | { line: 'kept'; go: LineGo; wrote: boolean }
  | { line: 'leave' }
  /** What was typed here before and left without keeping it stands in the line again. */
  | { line: 'take back' }
  /** Several lines at once. */
  | { line: 'paste'; text: string }
  | { line: 'pasted' }

interface Seen {
  routine: Routine
  placed: readonly PlacedPhrase[]
  /** When each count falls. */
  times: readonly Seconds[]
  newId: NewId
}

/** What comes of an event: the line, where the cursor goes, and an edit with what follows if it is taken. */
export interface LineStepped {
  line: LineState
  to: { tick: Ticks; layer: Layer } | null
  edit: { did: string; change: Edit; after: LineEvent } | null
  /** The line is done with: the sheet has the keys again. */
  closed: boolean
  /** Something was written as a line. */
  wrote: boolean
}

/** A phrase as lines know it. */
export const linePhrase = (p: PlacedPhrase): LinePhrase => ({
  length: p.phrase.length,
  feel: p.phrase.feel,
  first: p.first,
})

/** What a line says, or why it says nothing. */
export type ReadLine = { cues: LineCue[] } | { problem: LineProblem }

function readAt(
  text: string,
  { routine, placed, times }: Pick<Seen, 'routine' | 'placed' | 'times'>,
  p: PlacedPhrase,
  layer: Layer,
): ReadLine {
  try {
    const { line } = inAllLayers(text)
    return { cues: parseLine(line, linePhrase(p), elsewhereIn(routine, placed, times, p, layer)) }
  } catch (e) {
    if (e instanceof LineProblem) return { problem: e }
    throw e
  }
}

const rowOf = ({ open }: LineState, placed: readonly PlacedPhrase[]): PlacedPhrase | undefined =>
  open ? placed.find((p) => p.start === open.phrase) : undefined

/** The open line as it is read now; null where none is open. */
export function readOpenLine(
  line: LineState,
  seen: Pick<Seen, 'routine' | 'placed' | 'times'>,
): ReadLine | null {
  const row = rowOf(line, seen.placed)
  return line.open && row ? readAt(line.open.text, seen, row, line.open.layer) : null
}

/** The routine with what a line says, in its layer and where it says so in all. */
function writtenAs(
  routine: Routine,
  open: OpenLine,
  row: PlacedPhrase,
  cues: readonly LineCue[],
  { placed, times, newId }: Pick<Seen, 'placed' | 'times' | 'newId'>,
): Routine {
  const elsewhere = (layer: Layer) => elsewhereIn(routine, placed, times, row, layer)
  const { shared } = inAllLayers(open.text)
  return putLineInLayers(routine, row, linePhrase(row), open.layer, cues, shared, elsewhere, newId)
}

/** The routine as the open line would make it; the routine itself while the line cannot be read. */
export function previewLine(
  line: LineState,
  read: ReadLine | null,
  seen: Pick<Seen, 'routine' | 'placed' | 'times' | 'newId'>,
): Routine {
  const row = rowOf(line, seen.placed)
  return line.open && row && read && 'cues' in read
    ? writtenAs(seen.routine, line.open, row, read.cues, seen)
    : seen.routine
}

/** Layers by the words a pasted line may begin with. */
const PREFIX = new RegExp(`^(${LAYERS.join('|')})\\s*:\\s*`, 'i')

/**
 * Several lines at once: each is a layer of a phrase; "arms: ..." names the layer, a line without a name belongs to the
 * next phrase, an empty line goes on to the next phrase.
 */
export function readLines(text: string, layer: Layer): { row: number; layer: Layer; text: string }[] {
  const out: { row: number; layer: Layer; text: string }[] = []
  let row = 0
  const begun = new Set<Layer>()
  for (const raw of text.split(/\r?\n/)) {
    const line = raw.trim()
    const named = PREFIX.exec(line)
    const own = (named?.[1]?.toLowerCase() as Layer | undefined) ?? layer
    if (!line || begun.has(own)) {
      if (begun.size) row++
      begun.clear()
    }
    if (!line) continue
    begun.add(own)
    out.push({ row, layer: own, text: line.slice(named?.[0].length ?? 0) })
  }
  return out
}

/** True for a text of several lines, which is not typed into one. */
export const isSeveralLines = (text: string): boolean => /\S\s*\n\s*\S/.test(text)

const draftKey = (phrase: Ticks, layer: Layer) => `${phrase} ${layer}`

const just = (line: LineState, what: Partial<LineStepped> = {}): LineStepped => ({
  line,
  to: null,
  edit: null,
  closed: false,
  wrote: false,
  ...what,
})

/** What was typed into the open line before and left without keeping it, where that is not what stands there; null for nothing. */
export function leftBefore({ open, drafts }: Pick<LineState, 'open' | 'drafts'>): string | null {
  const draft = open && drafts[draftKey(open.phrase, open.layer)]
  return draft === undefined || draft === open?.text ? null : draft
}

function opened(line: LineState, p: PlacedPhrase, layer: Layer, { routine }: Seen): LineStepped {
  const text = printLine(lineOf(routine, p, layer), linePhrase(p))
  return just({ ...line, open: { phrase: p.start, layer, text } }, { to: { tick: p.start, layer } })
}

const shut = (line: LineState, what: Partial<LineStepped> = {}): LineStepped =>
  just({ ...line, open: null }, { closed: true, ...what })

/** What an event does to the open line, and beside it. */
export function stepLine(line: LineState, event: LineEvent, seen: Seen): LineStepped {
  const { routine, placed } = seen
  const { open } = line
  const row = rowOf(line, placed)
  switch (event.line) {
    case 'open': {
      const p = phraseAt(placed, event.tick)
      const fresh = { ...line, problem: '', began: event.layer }
      return p ? opened(fresh, p, event.layer, seen) : just(fresh)
    }
    case 'open first': {
      const first = placed.find((p) => !p.phrase.pickUp && p.end > danceOf(routine).from)
      return first ? opened({ ...line, began: 'feet' }, first, 'feet', seen) : just(line)
    }
    case 'type':
      return just(open ? { ...line, open: { ...open, text: event.text } } : line)
    case 'keep': {
      const read = readOpenLine(line, seen)
      // A line that cannot be read changes nothing and stays open.
      if (!open || !row || !read || 'problem' in read) return just(line)
      const change: Edit = (r) => writtenAs(r, open, row, read.cues, seen)
      const after: LineEvent = { line: 'kept', go: event.go, wrote: read.cues.length > 0 }
      return just(line, { edit: { did: `write a line of ${open.layer}`, change, after } })
    }
    case 'kept':
      return open && row ? { ...goneOn(line, open, row, event.go, seen), wrote: event.wrote } : just(line)
    case 'leave': {
      if (!open || !row) return shut(line)
      const was = printLine(lineOf(routine, row, open.layer), linePhrase(row))
      const key = draftKey(open.phrase, open.layer)
      return shut(open.text === was ? line : { ...line, drafts: { ...line.drafts, [key]: open.text } })
    }
    case 'take back': {
      const text = leftBefore(line)
      return just(open && text !== null ? { ...line, open: { ...open, text } } : line)
    }
    case 'paste':
      return open && row && isSeveralLines(event.text)
        ? pasted(line, open, row, event.text, seen)
        : just(line)
    case 'pasted':
      return shut({ ...line, problem: '' })
  }
}

/** After a line was kept: to where it leads. */
function goneOn(line: LineState, open: OpenLine, row: PlacedPhrase, go: LineGo, seen: Seen): LineStepped {
  const { [draftKey(open.phrase, open.layer)]: _, ...drafts } = line.drafts
  const kept = { ...line, drafts }
  // The next phrase is begun where this one was: in the layer its first line was opened in.
  if (go === 'stay') return shut(kept, { to: { tick: open.phrase, layer: line.began } })
  const by = go.endsWith('+') ? 1 : -1
  if (go.startsWith('layer')) {
    const next = LAYERS[LAYERS.indexOf(open.layer) + by]
    return next ? opened(kept, row, next, seen) : shut(kept)
  }
  const next = seen.placed[row.index + by]
  return next ? opened(kept, next, open.layer, seen) : shut(kept)
}

/** Takes several pasted lines over at once, or none of them. */
function pasted(line: LineState, open: OpenLine, row: PlacedPhrase, text: string, seen: Seen): LineStepped {
  const list = readLines(text, open.layer)
  let next = seen.routine
  for (const l of list) {
    const p = seen.placed[row.index + l.row]
    if (!p) continue
    const read = readAt(l.text, { ...seen, routine: next }, p, l.layer)
    if ('problem' in read) {
      const what = `“${l.text.slice(0, 60)}” was not taken: ${read.problem.message}.`
      return just({ ...line, problem: `${what} Nothing was changed.` })
    }
    next = writtenAs(next, { phrase: p.start, layer: l.layer, text: l.text }, p, read.cues, seen)
  }
  const whole = next
  return just(line, {
    edit: { did: `paste ${list.length} lines`, change: () => whole, after: { line: 'pasted' } },
  })
}
