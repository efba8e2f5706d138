import {
  byPlace,
  type Cue,
  type Layer,
  mirrorCue,
  type NewId,
  type PlacedPhrase,
  type Routine,
  totalCounts,
} from '../routine'
import { TICKS_PER_COUNT, type Ticks } from '../time'
import { type DancedCue, written } from './repeats'
import { type LineCue, lineCue } from './shorthand'

/** A part of the sheet: from one place up to another, in some layers. */
export interface Stretch {
  from: Ticks
  to: Ticks
  layers: readonly Layer[]
}

/** Cues taken along, places counted from the start of what was taken. */
export interface Clip {
  length: Ticks
  cues: readonly Omit<Cue, 'id'>[]
}

const within = (s: Stretch) => (c: Cue) => c.at >= s.from && c.at < s.to && s.layers.includes(c.layer)

/** Takes a copy of what is danced in a stretch; links are left behind. */
export function clip(cues: readonly DancedCue[], stretch: Stretch): Clip {
  return {
    length: stretch.to - stretch.from,
    cues: cues.filter(within(stretch)).map((cue) => {
      const { id: _id, ...rest } = written(cue)
      return { ...rest, at: cue.at - stretch.from }
    }),
  }
}

/** Puts a copy down at a place; what stood in its layers there gives way. */
export function paste(routine: Routine, from: Clip, at: Ticks, newId: NewId): Routine {
  const end = totalCounts(routine.phrases) * TICKS_PER_COUNT
  const layers = [...new Set(from.cues.map((c) => c.layer))]
  const cleared = clear(routine, { from: at, to: at + from.length, layers })
  const cues = from.cues
    .map((c) => ({ ...c, at: c.at + at, id: newId() }))
    .filter((c) => c.at >= 0 && c.at < end)
  return { ...cleared, cues: [...cleared.cues, ...cues] }
}

/** Takes all cues of a stretch away. */
export function clear(routine: Routine, stretch: Stretch): Routine {
  const cues = routine.cues.filter((c) => !within(stretch)(c))
  return cues.length === routine.cues.length ? routine : { ...routine, cues }
}

/** Turns the cues of a stretch to the other side. */
export function mirrorStretch(routine: Routine, stretch: Stretch): Routine {
  const inside = within(stretch)
  return { ...routine, cues: routine.cues.map((c) => (inside(c) ? mirrorCue(c) : c)) }
}

/** Makes a cue longer or shorter; it stays a twenty-fourth of a count at least. */
export function stretchCue(routine: Routine, id: string, by: Ticks): Routine {
  const cue = routine.cues.find((c) => c.id === id)
  const length = Math.max(1, Math.min(24 * 64, (cue?.length ?? 0) + by))
  if (!cue || length === cue.length) return routine
  return { ...routine, cues: routine.cues.map((c) => (c === cue ? { ...c, length } : c)) }
}

/**
 * One layer of a phrase, replaced by what a line says. A cue that stays on its place with its move keeps all that a line
 * does not show: tip, caution, turn, trigger.
 */
export function putLine(
  routine: Routine,
  placed: PlacedPhrase,
  layer: Layer,
  line: readonly LineCue[],
  newId: NewId,
): Routine {
  const stretch = { from: placed.start, to: placed.end, layers: [layer] }
  const old = routine.cues.filter(within(stretch))
  const left = [...old]
  const next = line.map((l): Cue => {
    const at = placed.start + l.at
    const i = left.findIndex((c) => c.at === at && c.move === l.move)
    const j = i >= 0 ? i : left.findIndex((c) => c.at === at)
    const [kept] = j >= 0 ? left.splice(j, 1) : []
    const same = kept && kept.move === l.move ? kept : { id: kept?.id ?? newId() }
    const { role, option, ...rest } = { ...same, ...l, at, layer }
    return { ...rest, ...(role ? { role } : {}), ...(option ? { option } : {}) }
  })
  const unchanged = next.length === old.length && [...old].sort(byPlace).every((c, i) => alike(c, next[i]))
  if (unchanged) return routine
  return { ...routine, cues: [...routine.cues.filter((c) => !within(stretch)(c)), ...next] }
}

/** True for cues that say the same. */
function alike(a: Cue, b: Cue | undefined): boolean {
  if (!b) return false
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]) as Set<keyof Cue>
  return [...keys].every((k) => a[k] === b[k])
}

/** The line of one layer of a phrase, as far as it is written there. */
export function lineOf(routine: Routine, placed: PlacedPhrase, layer: Layer): LineCue[] {
  return routine.cues
    .filter(within({ from: placed.start, to: placed.end, layers: [layer] }))
    .sort(byPlace)
    .map((c) => lineCue(c, placed.start))
}

/** Replaces words in moves and calls. @returns the routine, and in how many cues */
export function replaceWords(
  routine: Routine,
  find: string,
  put: string,
  wholeMove: boolean,
): { routine: Routine; changed: number } {
  const wanted = find.trim().toLowerCase()
  if (!wanted) return { routine, changed: 0 }
  const pattern = new RegExp(wanted.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'), 'giu')
  let changed = 0
  const cues = routine.cues.map((c) => {
    const move = wholeMove
      ? c.move.toLowerCase() === wanted
        ? put.trim()
        : c.move
      : c.move.replace(pattern, () => put).trim()
    if (move === c.move || !move || move.length > 200) return c
    changed++
    return { ...c, move }
  })
  return { routine: changed ? { ...routine, cues } : routine, changed }
}

/** Sets or takes away what a cue may say; an empty value is not said. */
export function withDetail(cue: Cue, what: Partial<Cue>): Cue {
  const next: Record<string, unknown> = { ...cue, ...what }
  for (const key of Object.keys(what)) if (next[key] === undefined || next[key] === null) delete next[key]
  for (const key of ['quality', 'look', 'role', 'tip']) if (next[key] === '') delete next[key]
  return next as Cue
}
