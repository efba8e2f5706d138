import {
  type Copied,
  clear,
  copied,
  type DancedCue,
  type Edit,
  LAYERS,
  type Layer,
  lengthenCue,
  type Marked,
  mirrorCue,
  mirrorMarked,
  moveCue,
  type NewId,
  type PlacedPhrase,
  paste,
  phraseAt,
  putCue,
  readCopied,
  removeCue,
  written,
} from '../routine'
import { TICKS_PER_COUNT, type Ticks } from '../time'
import type { LineEvent } from './cue-line'
import type { Cursor } from './cursor'

/** What keys and buttons do to cues: to what is marked, else to the cue at the cursor, else to the phrase. */
export type CueWork =
  | { work: 'take away' }
  | { work: 'copy' }
  | { work: 'cut' }
  /** @param from what was copied here, or a text from elsewhere */
  | { work: 'paste'; from: Copied | string }
  /** Moves written without a song, from the phrase of the cursor on. */
  | { work: 'lay'; from: Copied; name: string }
  | { work: 'mirror' }
  | { work: 'mirror phrase' }
  | { work: 'duplicate' }
  /** By ticks, or by so many of the units a count of the phrase divides in. */
  | { work: 'shift'; by: Ticks }
  | { work: 'lengthen'; by: Ticks }
  /** A cue that is pulled along its lane, or at its end. */
  | { work: 'pull along'; cue: DancedCue; by: Ticks }
  | { work: 'pull end'; cue: DancedCue; by: Ticks }

/** An edit, and what the station is told if it was taken: where the cursor goes, or how its line goes on. */
export type CueEffect =
  | { kind: 'edit'; did: string; change: Edit; after: After | null }
  | { kind: 'play from'; tick: Ticks }
  | { kind: 'keep copied'; copied: Copied }
  /** The sheet has the keys again: at once, or when the field that had them is gone. */
  | { kind: 'focus sheet' }
  | { kind: 'focus sheet later' }
  /** Where nothing else tells of it, a screen reader does. */
  | { kind: 'say'; words: string }
  /** The first step of writing was done. */
  | { kind: 'wrote a line' }

export type After =
  | { kind: 'go to'; tick: Ticks; layer?: Layer }
  /** What was written in the fields is a cue now. */
  | { kind: 'written'; id: string }
  | ({ kind: 'line' } & LineEvent)

/** What there is to work on. */
export interface Wanted {
  cursor: Cursor
  /** The cue at the cursor. */
  here: DancedCue | null
  /** Everything that is danced, of all roles and versions. */
  all: readonly DancedCue[]
  placed: readonly PlacedPhrase[]
  newId: NewId
}

const NOTHING: readonly CueEffect[] = []

const edit = (did: string, change: Edit, after: After | null = null): CueEffect => ({
  kind: 'edit',
  did,
  change,
  after,
})

const whole = (p: PlacedPhrase): Marked => ({ from: p.start, to: p.end, layers: LAYERS })
const alone = (c: DancedCue): Marked => ({ from: c.at, to: c.at + 1, layers: [c.layer] })

/** What is worked on, and what it is called. */
function chosen({ cursor, here, placed }: Wanted): { of: Marked; name: string } | null {
  const row = phraseAt(placed, cursor.tick)
  if (cursor.marked) return { of: cursor.marked, name: 'what is marked' }
  if (here) return { of: alone(here), name: `“${here.move}”` }
  return row ? { of: whole(row), name: 'the phrase' } : null
}

/** Of several that stand at one place, the one that is meant alone. */
const taken = ({ cursor, here, all }: Wanted, of: Marked): CueEffect => ({
  kind: 'keep copied',
  copied: copied(!cursor.marked && here ? [here] : all, of),
})

/** A cue that may be moved: one that is linked stays where its repeat brings it. */
const free = (cue: DancedCue | null): cue is DancedCue => cue !== null && !cue.link

/**
 * What is pasted: what was copied here where the clipboard still holds its text, which says less than it is; else the text.
 * @param text of the clipboard; undefined where it was not asked
 * @param kept what was copied last, and as what text
 */
export function whatToPaste(
  text: string | undefined,
  kept: { copied: Copied | null; text: string },
): Copied | string | null {
  const own = !text?.trim() || text.replace(/\r/g, '').trim() === kept.text.trim()
  return own ? kept.copied : (text ?? null)
}

/** What is to be done for some work. */
export function asked(wanted: Wanted, work: CueWork): readonly CueEffect[] {
  const { cursor, here, placed, all, newId } = wanted
  const { marked, tick, layer } = cursor
  const row = phraseAt(placed, tick)
  const m = chosen(wanted)
  switch (work.work) {
    case 'take away':
      if (marked) return [edit('delete what is marked', (r) => clear(r, marked, newId))]
      return here ? [edit(`delete “${here.move}”`, (r) => removeCue(r, here.id, newId))] : NOTHING
    case 'copy':
      return m ? [taken(wanted, m.of)] : NOTHING
    case 'cut':
      if (!m) return NOTHING
      return [
        taken(wanted, m.of),
        edit(`cut ${m.name}`, (r) =>
          !marked && here ? removeCue(r, here.id, newId) : clear(r, m.of, newId),
        ),
      ]
    case 'paste': {
      if (!row) return NOTHING
      const { from } = work
      return [
        edit('paste', (r) => {
          const read = typeof from === 'string' ? readCopied(from, layer) : from
          // A whole phrase goes to the beginning of one.
          const at = read.length >= TICKS_PER_COUNT * 4 && !marked && !here ? row.start : tick
          return paste(r, read, at, newId)
        }),
      ]
    }
    case 'lay': {
      if (!row) return NOTHING
      const lay: Edit = (r) => paste(r, work.from, row.start, newId)
      return [edit(`lay “${work.name}” here`, lay, { kind: 'go to', tick: row.start })]
    }
    case 'mirror': {
      if (!m) return NOTHING
      const own = !marked && free(here) ? written(here) : null
      const change: Edit = (r) => (own ? putCue(r, mirrorCue(own)) : mirrorMarked(r, m.of, newId))
      return [edit(`${m.name} to the other side`, change)]
    }
    case 'mirror phrase':
      return row ? [edit('the phrase to the other side', (r) => mirrorMarked(r, whole(row), newId))] : NOTHING
    case 'duplicate': {
      const next = row && placed[row.index + 1]
      if (!row || !next) return NOTHING
      const change: Edit = (r) => paste(r, copied(all, whole(row)), next.start, newId)
      return [edit('copy to the next phrase', change, { kind: 'go to', tick: next.start })]
    }
    case 'shift':
      return free(here) ? movedBy(here, work.by) : NOTHING
    case 'pull along':
      return free(work.cue) ? movedBy(work.cue, work.by) : NOTHING
    case 'lengthen': {
      if (!free(here)) return NOTHING
      const did = work.by > 0 ? 'a longer cue' : 'a shorter cue'
      return [edit(did, (r) => lengthenCue(r, here.id, work.by))]
    }
    case 'pull end': {
      const { cue, by } = work
      return free(cue) ? [edit('stretch a cue', (r) => lengthenCue(r, cue.id, by))] : NOTHING
    }
  }
}

const movedBy = (cue: DancedCue, by: Ticks): readonly CueEffect[] => [
  edit('move a cue', (r) => moveCue(r, cue.id, by), {
    kind: 'go to',
    tick: Math.max(0, cue.at + by),
    layer: cue.layer,
  }),
]
