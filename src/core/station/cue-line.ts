import {
  danceOf,
  type Edit,
  LAYERS,
  type Layer,
  lineOf,
  type PlacedPhrase,
  phraseAt,
  printLine,
  type Routine,
} from '../routine'
import type { Ticks } from '../time'
import { type LineSeen, linePhrase, type ReadLine, readLineAt, writeLine } from './line-reading'
import { isSeveralLines, type PastedLines, readPastedLines } from './pasted-lines'

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
  /** How often a line was asked for: each time it gets the keys. */
  asked: number
  /** What was left without keeping it, by place. */
  drafts: Readonly<Record<string, string>>
  /** Several lines that were pasted into the open one: they are looked at and changed before they are put in. */
  several: string | null
}

export const NO_LINE: LineState = { open: null, began: 'feet', asked: 0, drafts: {}, several: null }

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

const rowOf = ({ open }: LineState, placed: readonly PlacedPhrase[]): PlacedPhrase | undefined =>
  open ? placed.find((p) => p.start === open.phrase) : undefined

/** The open line as it is read now; null where none is open. */
export function readOpenLine(line: LineState, seen: Omit<LineSeen, 'newId'>): ReadLine | null {
  const row = rowOf(line, seen.placed)
  return line.open && row ? readLineAt(line.open.text, seen, row, line.open.layer) : null
}

/** The routine as the open line would make it; the routine itself while the line cannot be read. */
export function previewLine(line: LineState, read: ReadLine | null, seen: LineSeen): Routine {
  const row = rowOf(line, seen.placed)
  return line.open && row && read && 'cues' in read
    ? writeLine(seen.routine, line.open, row, read.cues, seen)
    : seen.routine
}

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

function opened(line: LineState, p: PlacedPhrase, layer: Layer, { routine }: LineSeen): LineStepped {
  const text = printLine(lineOf(routine, p, layer), linePhrase(p))
  return just({ ...line, open: { phrase: p.start, layer, text } }, { to: { tick: p.start, layer } })
}

const shut = (line: LineState, what: Partial<LineStepped> = {}): LineStepped =>
  just({ ...line, open: null }, { closed: true, ...what })

/** What an event does to the open line, and beside it. */
export function stepLine(line: LineState, event: LineEvent, seen: LineSeen): LineStepped {
  const { routine, placed } = seen
  const { open } = line
  const row = rowOf(line, placed)
  switch (event.line) {
    case 'open': {
      const p = phraseAt(placed, event.tick)
      const asked = line.asked + 1
      // It is open already, and the keys went elsewhere meanwhile: it has them again, as it is.
      if (p && open?.phrase === p.start && open.layer === event.layer)
        return just({ ...line, asked }, { to: { tick: p.start, layer: event.layer } })
      const fresh = { ...leave(line, seen), began: event.layer, asked }
      return p ? opened(fresh, p, event.layer, seen) : just(fresh)
    }
    case 'open first': {
      const first = placed.find((p) => !p.phrase.pickUp && p.end > danceOf(routine).from)
      return first ? opened({ ...leave(line, seen), began: 'feet' }, first, 'feet', seen) : just(line)
    }
    case 'type':
      if (line.several !== null) return just({ ...line, several: event.text })
      return just(open ? { ...line, open: { ...open, text: event.text } } : line)
    case 'keep': {
      if (line.several !== null) return putSeveral(line, seen)
      const read = readOpenLine(line, seen)
      // A line that cannot be read changes nothing and stays open.
      if (!open || !row || !read || 'problem' in read) return just(line)
      const change: Edit = (r) => writeLine(r, open, row, read.cues, seen)
      const after: LineEvent = { line: 'kept', go: event.go, wrote: read.cues.length > 0 }
      return just(line, { edit: { did: `write a line of ${open.layer}`, change, after } })
    }
    case 'kept':
      return open && row
        ? { ...goneOn({ ...line, several: null }, open, row, event.go, seen), wrote: event.wrote }
        : just(line)
    case 'leave':
      return shut(leave(line, seen))
    case 'take back': {
      const text = leftBefore(line)
      if (!open || text === null) return just(line)
      return just(isSeveralLines(text) ? { ...line, several: text } : { ...line, open: { ...open, text } })
    }
    case 'paste':
      return just(open && isSeveralLines(event.text) ? { ...line, several: event.text } : line)
  }
}

/** Closes the line that is open. What was typed or pasted there and not kept is offered when it is opened again, also where its phrase is gone meanwhile and comes back. */
function leave(line: LineState, { routine, placed }: Pick<LineSeen, 'routine' | 'placed'>): LineState {
  const { open, several } = line
  const closed = { ...line, open: null, several: null }
  if (!open) return closed
  const row = rowOf(line, placed)
  const was = row ? printLine(lineOf(routine, row, open.layer), linePhrase(row)) : ''
  const text = several ?? open.text
  if (text === was) return closed
  return { ...closed, drafts: { ...line.drafts, [draftKey(open.phrase, open.layer)]: text } }
}

/** What would be left without keeping it if the sheet were left now, by place: the open line among them. */
export const leftLines = (line: LineState, seen: Pick<LineSeen, 'routine' | 'placed'>): LineState['drafts'] =>
  leave(line, seen).drafts

/** After a line was kept: to where it leads. */
function goneOn(line: LineState, open: OpenLine, row: PlacedPhrase, go: LineGo, seen: LineSeen): LineStepped {
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

/** What was pasted as it is read now; null where nothing was. */
export function readSeveral(line: LineState, seen: LineSeen): PastedLines | null {
  const row = rowOf(line, seen.placed)
  return line.open && row && line.several !== null
    ? readPastedLines(line.several, row, line.open.layer, seen)
    : null
}

/** Puts all pasted lines in, or, where one cannot be, none: they stay to be changed. */
function putSeveral(line: LineState, seen: LineSeen): LineStepped {
  const read = readSeveral(line, seen)
  if (!read?.good) return just(line)
  const change: Edit = (routine) => readSeveral(line, { ...seen, routine })?.routine ?? routine
  const after: LineEvent = { line: 'kept', go: 'stay', wrote: true }
  return just(line, { edit: { did: `paste ${read.list.length} lines`, change, after } })
}
