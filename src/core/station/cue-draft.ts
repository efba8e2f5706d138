import {
  type Cue,
  type DancedCue,
  type Edit,
  type NewId,
  phraseAt,
  putCue,
  putEach,
  type Side,
  withDetail,
  written,
} from '../routine'
import { TICKS_PER_COUNT, type Ticks, usualLength } from '../time'
import type { CueEffect } from './cue-work'
import { type Cursor, moveTo } from './cursor'
import type { SheetLine } from './lines'

/** What is written in the fields of a cue, or of a new one, and not kept yet. */
export interface Draft {
  /** The cue's id, or the place of a new one. */
  of: string
  /** What the cue said when the fields were filled. */
  from: { move: string; call: string }
  move: string
  call: string
  /** Of a new cue. */
  side: Side
  /** A linked cue that is changed becomes one of its own: however often it is changed, one. */
  ownId: string
  /** The move that was kept last: Enter, and leaving the field after it, keep it once. */
  kept: string | null
}

export type DraftEvent =
  | { draft: 'write'; what: Partial<Pick<Draft, 'move' | 'call' | 'side'>> }
  /** The field of the move is left: of a cue, what it says is kept. */
  | { draft: 'leave move' }
  | { draft: 'leave call' }
  /** What is written is kept or set, and the sheet has the keys again; after a new cue it goes on to the next count. */
  | { draft: 'enter' }
  | { draft: 'give up' }
  /** Something else of a cue is changed. @param cue the one whose field it was */
  | { draft: 'change'; cue: DancedCue; what: Partial<Cue>; did: string }

interface Place {
  cursor: Cursor
  /** Where another cue is begun beside the one that stands there. */
  beside: { tick: Ticks; layer: string } | null
}

/** True where another cue is being begun at the cursor, beside the one that stands there. */
export const isBeginningAnother = ({ beside, cursor }: Place, here: DancedCue | null): boolean =>
  here !== null && beside?.tick === cursor.tick && beside.layer === cursor.layer

/** The cue whose fields are shown; null for a new one. */
export const cueOfFields = (place: Place, here: DancedCue | null): DancedCue | null =>
  isBeginningAnother(place, here) ? null : here

/** The fields as they are: they begin anew with another cue or place, and follow what the cue says. */
export function draftFor(draft: Draft | null, place: Place, here: DancedCue | null, newId: NewId): Draft {
  const cue = cueOfFields(place, here)
  const { tick, layer } = place.cursor
  const of = cue?.id ?? `${here ? 'another ' : ''}${tick} ${layer}`
  const from = { move: cue?.move ?? '', call: cue?.call ?? '' }
  if (draft?.of !== of) return { of, from, ...from, side: 'none', ownId: newId(), kept: null }
  const move = draft.from.move === from.move ? draft.move : from.move
  const call = draft.from.call === from.call ? draft.call : from.call
  const same = draft.from.move === from.move && draft.from.call === from.call
  return same ? draft : { ...draft, from, move, call, kept: null }
}

/** A side written behind the move, as in "step R". */
export function readSide(text: string): { move: string; side: Side | null } {
  const found = /^(.*\S)\s+(LR|L|R)$/.exec(text)
  if (!found?.[1]) return { move: text, side: null }
  return { move: found[1], side: found[2] === 'LR' ? 'both' : found[2] === 'L' ? 'left' : 'right' }
}

interface Seen {
  lines: readonly SheetLine[]
  newId: NewId
}

export interface Drafted {
  draft: Draft
  cursor: Cursor
  effects: readonly CueEffect[]
}

/** A change of a cue; a linked one becomes the phrase's own. Nothing comes back that was taken away meanwhile. */
function changed(draft: Draft, cue: DancedCue, what: Partial<Cue>, did: string, newId: NewId): CueEffect {
  const id = cue.link ? (draft.of === cue.id ? draft.ownId : newId()) : cue.id
  const own = withDetail({ ...written(cue), id }, what)
  const change: Edit = (r) => (cue.link || r.cues.some((c) => c.id === id) ? putEach(r, own) : r)
  return {
    kind: 'edit',
    did: cue.link ? `${did} here only` : did,
    change,
    after: { kind: 'written', id },
  }
}

/** A new cue at the cursor. */
function set(draft: Draft, { tick, layer }: Cursor, { lines, newId }: Seen): CueEffect {
  const named = readSide(draft.move.trim())
  const line = phraseAt(lines, tick)
  const cue: Cue = {
    id: newId(),
    at: tick,
    length: usualLength(tick - (line?.start ?? 0), line?.phrase.feel ?? 'straight'),
    layer,
    move: named.move,
    side: named.side ?? draft.side,
    call: draft.call.trim(),
  }
  const after = { kind: 'written', id: cue.id } as const
  return { kind: 'edit', did: `cue “${named.move}”`, change: (r) => putCue(r, cue), after }
}

/** What the move's field says is kept. */
function keptMove(draft: Draft, cue: DancedCue, newId: NewId): { draft: Draft; effects: CueEffect[] } {
  const text = draft.move.trim()
  const named = readSide(text)
  if (!text || text === cue.move || text === draft.kept)
    return { draft: text ? draft : { ...draft, move: cue.move }, effects: [] }
  const what = { move: named.move, ...(named.side ? { side: named.side } : {}) }
  return {
    draft: { ...draft, kept: text },
    effects: [changed(draft, cue, what, 'rewrite a cue', newId)],
  }
}

/** What an event does to the fields, and beside them. @param cue the one whose fields they are; null for a new one */
export function stepDraft(
  draft: Draft,
  event: DraftEvent,
  cursor: Cursor,
  cue: DancedCue | null,
  seen: Seen,
): Drafted {
  const { newId } = seen
  const just = (next: Draft, ...effects: CueEffect[]): Drafted => ({ draft: next, cursor, effects })
  switch (event.draft) {
    case 'write':
      return just({ ...draft, ...event.what })
    case 'leave move': {
      const next = cue && keptMove(draft, cue, newId)
      return next ? just(next.draft, ...next.effects) : just(draft)
    }
    case 'leave call': {
      const call = draft.call.trim()
      return cue && call !== cue.call
        ? just(draft, changed(draft, cue, { call }, 'change the call', newId))
        : just(draft)
    }
    case 'change':
      return just(draft, changed(draft, event.cue, event.what, event.did, newId))
    case 'give up':
      return just({ ...draft, move: draft.from.move }, { kind: 'focus sheet' })
    case 'enter': {
      if (cue) {
        const next = keptMove(draft, cue, newId)
        return just(next.draft, ...next.effects, { kind: 'focus sheet' })
      }
      if (!draft.move.trim()) return just(draft)
      const last = (seen.lines.at(-1)?.end ?? 0) - TICKS_PER_COUNT / 2
      const next = (Math.floor(cursor.tick / TICKS_PER_COUNT) + 1) * TICKS_PER_COUNT
      const to = moveTo(cursor, Math.min(last, next))
      return { draft, cursor: to, effects: [set(draft, cursor, seen), { kind: 'focus sheet' }] }
    }
  }
}
