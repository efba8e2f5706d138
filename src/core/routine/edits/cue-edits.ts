import { common, holds, type Stretch, type Ticks } from '../../time'
import { byPlace, type PlacedPhrase, phraseAt, placePhrases, wholeOf } from '../counts/layout'
import { alike } from '../document/alike'
import type { Cue, Position } from '../document/cue-schema'
import { LAYERS, type Layer } from '../document/layers'
import { LIMITS } from '../document/limits'
import type { Routine } from '../document/schema'
import { type Edited, namesInWords, Refused } from '../gate/refused'
import type { LineCue } from '../line/line'
import { lineCue, waitsInVersion } from '../line/line-print'
import { danceOf } from '../repeats/dance'
import { type DancedCue, written } from '../repeats/danced-cue'
import { mirrorCue } from '../repeats/mirror'
import { danced } from '../repeats/repeats'
import type { NewId } from './phrase-edits'
import { unlink } from './repeat-edits'

/** A part of the sheet: a stretch in some layers. */
export interface Marked extends Stretch {
  layers: readonly Layer[]
}

/** Cues taken along, places counted from the start of what was taken. */
export interface Copied {
  length: Ticks
  cues: readonly Omit<Cue, 'id'>[]
}

const within = (s: Marked) => (c: Cue) => holds(s, c.at) && s.layers.includes(c.layer)

/** Adds a cue, or replaces the one with the same id. */
export function putCue(routine: Routine, cue: Cue): Routine {
  const known = routine.cues.some((c) => c.id === cue.id)
  return {
    ...routine,
    cues: known ? routine.cues.map((c) => (c.id === cue.id ? cue : c)) : [...routine.cues, cue],
  }
}

/** Moves a cue by some ticks. @throws Refused where it would leave the counts */
export function moveCue(routine: Routine, cueId: string, by: Ticks): Routine {
  const cue = routine.cues.find((c) => c.id === cueId)
  if (!cue || by === 0) return routine
  const whole = wholeOf(routine)
  if (!whole || !holds(whole, cue.at + by)) throw new Refused('A cue stands on a count of the page.')
  return putCue(routine, { ...cue, at: cue.at + by })
}

/** Takes a cue away; one that is linked from elsewhere is written out here first, so that it stays there. */
export function removeCue(routine: Routine, cueId: string, newId: NewId): Routine {
  const cue = danced(routine).find((c) => c.id === cueId)
  if (!cue?.link) return { ...routine, cues: routine.cues.filter((c) => c.id !== cueId) }
  const next = unlink(routine, { from: cue.at, to: cue.at + 1 }, newId)
  const own = next.cues.find((c) => c.at === cue.at && alike({ ...c, id: '' }, { ...written(cue), id: '' }))
  return { ...next, cues: next.cues.filter((c) => c !== own) }
}

/** Takes a copy of what is danced in a part of the sheet; links are left behind, and so are the words it started on. */
export function copied(cues: readonly DancedCue[], from: Marked): Copied {
  return {
    length: from.to - from.from,
    cues: cues.filter(within(from)).map((cue) => {
      const { id: _id, trigger: _trigger, each: _each, ...rest } = written(cue)
      return { ...rest, at: cue.at - from.from }
    }),
  }
}

/**
 * All of a dance as it is laid on another song: its first 1 goes where it is put down. What begins late in a phrase is a pick-up
 * to the next, and goes before that.
 */
export function copiedDance(routine: Routine): Copied {
  const { from, to } = danceOf(routine)
  const placed = placePhrases(routine)
  const row = phraseAt(placed, from)
  const next = row && placed[row.index + 1]
  const isPickUp = row && next && next.start < to && 2 * (from - row.start) >= row.end - row.start
  const one = (isPickUp ? next : row)?.start ?? from
  const { cues } = copied(danced(routine), { from, to, layers: LAYERS })
  return { length: to - one, cues: cues.map((c) => ({ ...c, at: c.at + from - one })) }
}

/**
 * Puts a copy down at a place; what stood in its layers there gives way, linked cues too. Cues that would stand behind the last
 * count are left out, and said.
 */
export function paste(routine: Routine, from: Copied, at: Ticks, newId: NewId): Edited<Routine> {
  const whole = wholeOf(routine)
  const layers = [...new Set(from.cues.map((c) => c.layer))]
  const all = from.cues.map((c) => ({ ...c, at: c.at + at, id: newId() }))
  const cues = all.filter((c) => whole && holds(whole, c.at))
  if (!cues.length) throw new Refused('There is nothing to paste here.')
  const left = all.filter((c) => !cues.includes(c)).map((c) => `“${c.move}”`)
  const cleared = clear(routine, { from: at, to: at + Math.max(1, from.length), layers }, newId)
  return {
    routine: { ...cleared, cues: [...cleared.cues, ...cues] },
    said: left.length
      ? [
          `${namesInWords(left)} would stand off the counts of the song, and ${left.length > 1 ? 'were' : 'was'} not pasted.`,
        ]
      : [],
  }
}

/**
 * What is linked in a part of the sheet, written out there, so that it can be changed; also where a cue of its own hides
 * what is linked, which else would come back with the change.
 */
function own(routine: Routine, marked: Marked, newId: NewId): Routine {
  return routine.repeats.some((r) => common(r.to, marked)) ? unlink(routine, marked, newId) : routine
}

/** Takes all cues of a part of the sheet away; linked ones are taken away here alone. */
export function clear(routine: Routine, marked: Marked, newId: NewId): Routine {
  const next = own(routine, marked, newId)
  const cues = next.cues.filter((c) => !within(marked)(c))
  return cues.length === next.cues.length ? routine : { ...next, cues }
}

/** Turns the cues of a part of the sheet to the other side; linked ones here alone. */
export function mirrorMarked(routine: Routine, marked: Marked, newId: NewId): Routine {
  const next = own(routine, marked, newId)
  const inside = within(marked)
  if (!next.cues.some(inside)) return routine
  return { ...next, cues: next.cues.map((c) => (inside(c) ? mirrorCue(c) : c)) }
}

/** Makes a cue longer or shorter; it stays a twenty-fourth of a count at least. */
export function lengthenCue(routine: Routine, id: string, by: Ticks): Routine {
  const cue = routine.cues.find((c) => c.id === id)
  const length = Math.max(1, Math.min(LIMITS.cueLength, (cue?.length ?? 0) + by))
  if (!cue || length === cue.length) return routine
  return putCue(routine, { ...cue, length })
}

/**
 * One layer of a phrase, replaced by what a line says. A cue that stays on its place with its move keeps all that a line
 * does not show: tip, caution, turn, trigger.
 */
export function putLine(
  routine: Routine,
  placed: Pick<PlacedPhrase, 'start' | 'end'>,
  layer: Layer,
  line: readonly LineCue[],
  newId: NewId,
): Routine {
  const marked = { from: placed.start, to: placed.end, layers: [layer] }
  const old = routine.cues.filter(within(marked))
  const left = [...old]
  const next = line.map((l): Cue => {
    const at = placed.start + l.at
    const i = left.findIndex((c) => c.at === at && c.move === l.move)
    const j = i >= 0 ? i : left.findIndex((c) => c.at === at)
    const [kept] = j >= 0 ? left.splice(j, 1) : []
    const same = kept && kept.move === l.move ? { ...kept } : { id: kept?.id ?? newId() }
    // That it is held or free in its version is said by the line.
    if ('step' in same && waitsInVersion(same)) delete same.step
    const { role, option, ...rest } = { ...same, ...l, at, layer }
    return { ...rest, ...(role ? { role } : {}), ...(option ? { option } : {}) }
  })
  const unchanged = next.length === old.length && [...old].sort(byPlace).every((c, i) => alike(c, next[i]))
  if (unchanged) return routine
  return { ...routine, cues: [...routine.cues.filter((c) => !within(marked)(c)), ...next] }
}

/** The line of one layer of a phrase, as far as it is written there. */
export function lineOf(routine: Routine, placed: PlacedPhrase, layer: Layer): LineCue[] {
  return routine.cues
    .filter(within({ from: placed.start, to: placed.end, layers: [layer] }))
    .sort(byPlace)
    .map((c) => lineCue(c, placed.start))
}

/** Cues in which words of moves are replaced; those whose move would be empty or too long stay. */
export function replaceWords(routine: Routine, find: string, put: string, wholeMove: boolean): Routine {
  const wanted = find.trim().toLowerCase()
  if (!wanted) return routine
  const pattern = new RegExp(wanted.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'), 'giu')
  const cues = routine.cues.map((c) => {
    const move = wholeMove
      ? c.move.toLowerCase() === wanted
        ? put.trim()
        : c.move
      : c.move.replace(pattern, () => put).trim()
    return move === c.move || !move || move.length > LIMITS.text ? c : { ...c, move }
  })
  return cues.every((c, i) => c === routine.cues[i]) ? routine : { ...routine, cues }
}

/** Some written cues, changed. */
export function changeCues(routine: Routine, ids: ReadonlySet<string>, change: (cue: Cue) => Cue): Routine {
  return { ...routine, cues: routine.cues.map((c) => (ids.has(c.id) ? change(c) : c)) }
}

/** Sets or takes away what a cue may say; an empty value is not said. */
export function withDetail(cue: Cue, what: Partial<Cue>): Cue {
  const next: Record<string, unknown> = { ...cue, ...what }
  for (const key of Object.keys(what)) if (next[key] === undefined || next[key] === null) delete next[key]
  for (const key of ['quality', 'look', 'role', 'tip', 'mistake']) if (next[key] === '') delete next[key]
  return next as Cue
}

/** Writes where the dancer stands at a place; what is emptied is what the cues say again. */
export function setPosition(routine: Routine, at: Ticks, what: Partial<Omit<Position, 'at'>>): Routine {
  const old = routine.positions.find((p) => p.at === at)
  const next: Record<string, unknown> = { ...old, ...what, at }
  for (const key of Object.keys(next)) if (next[key] === undefined || next[key] === '') delete next[key]
  const others = routine.positions.filter((p) => p !== old)
  const kept = Object.keys(next).length > 1 ? [next as Position] : []
  return { ...routine, positions: [...others, ...kept].sort((a, b) => a.at - b.at) }
}
