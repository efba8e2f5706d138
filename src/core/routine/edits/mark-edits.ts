import { type Seconds, type Times, tickOfTime } from '../../time'
import type { PlacedPhrase } from '../counts/layout'
import { snappedTime } from '../counts/marks'
import { LIMITS } from '../document/limits'
import type { Routine } from '../document/schema'
import type { SongMark } from '../document/song-schema'
import { Refused } from '../gate/refused'
import { cutText } from './cut'
import type { NewId } from './phrase-edits'

/** Marks stand on whole milliseconds, so that every file format keeps them exactly. */
const ms = (t: Seconds): Seconds => Math.round(t * 1000) / 1000

/** @throws Refused for a time far outside any song */
function inSong(t: Seconds): Seconds {
  if (!(t >= LIMITS.seconds.min && t <= LIMITS.seconds.max))
    throw new Refused('A mark would lie far outside the song.')
  return ms(t)
}

/** Words or a sound with their time, not yet in a routine. */
export type NewMark = Omit<SongMark, 'id'>

/** Adds marks; the list stays in order of time. */
export function addMarks(routine: Routine, marks: readonly NewMark[], newId: NewId): Routine {
  const added = marks
    .map((m) => ({
      ...m,
      at: inSong(m.at),
      end: m.end === null ? null : inSong(m.end),
      text: cutText(m.text.trim(), LIMITS.text),
    }))
    .filter((m) => m.text)
    .map((m) => ({ ...m, end: m.end !== null && m.end <= m.at ? null : m.end, id: newId() }))
  return added.length ? { ...routine, marks: inOrder([...routine.marks, ...added]) } : routine
}

/**
 * Changes the words, the time or the kind of a mark. Its end moves along with its beginning, and so do the cues that
 * start on it.
 */
export function changeMark(routine: Routine, id: string, what: Partial<NewMark>, times: Times): Routine {
  const old = routine.marks.find((m) => m.id === id)
  if (!old) return routine
  const at = inSong(what.at ?? old.at)
  const moved = what.end !== undefined ? what.end : old.end === null ? null : ms(old.end + at - old.at)
  const end = moved === null || moved <= at ? null : inSong(moved)
  const text = cutText(what.text?.trim() || old.text, LIMITS.text)
  const next = { ...old, ...what, at, end, text }
  const marks = inOrder(routine.marks.map((m) => (m === old ? next : m)))
  return withCues({ ...routine, marks }, id, old.at, at, times)
}

/** Moves the cues that start on a mark as far as the mark was moved. */
function withCues(routine: Routine, mark: string, from: Seconds, to: Seconds, times: Times): Routine {
  if (from === to || times.length < 2 || !routine.cues.some((c) => c.trigger?.mark === mark)) return routine
  const by = Math.round(tickOfTime(times, to) - tickOfTime(times, from))
  const cues = routine.cues.map((c) => (c.trigger?.mark === mark ? { ...c, at: c.at + by } : c))
  return { ...routine, cues }
}

/** Takes marks away. */
export function removeMarks(routine: Routine, gone: (mark: SongMark) => boolean): Routine {
  const marks = routine.marks.filter((m) => !gone(m))
  return marks.length === routine.marks.length ? routine : { ...routine, marks }
}

/** Every mark of a kind on the named place nearest to it. */
export function snapMarks(
  routine: Routine,
  times: Times,
  placed: readonly PlacedPhrase[],
  kind: SongMark['kind'],
): Routine {
  return routine.marks
    .filter((m) => m.kind === kind)
    .reduce((r, m) => {
      const at = snappedTime(times, placed, m.at)
      if (at === m.at) return r
      return changeMark(r, m.id, { at, end: m.end === null || m.end <= at ? null : m.end }, times)
    }, routine)
}

const inOrder = (marks: readonly SongMark[]): SongMark[] => [...marks].sort((a, b) => a.at - b.at)
