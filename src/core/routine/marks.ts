import { type Seconds, snapTick, type Times, tickOfTime, timeOfTick } from '../time'
import { type PlacedPhrase, phraseAt } from './layout'
import type { NewId } from './phrases'
import type { Mark, Routine } from './schema'

/** Marks stand on whole milliseconds, so that every file format keeps them exactly. */
const ms = (t: Seconds): Seconds => Math.round(t * 1000) / 1000

/** Words or a sound with their time, not yet in a routine. */
export type NewMark = Omit<Mark, 'id'>

/** Adds marks; the list stays in order of time. */
export function addMarks(routine: Routine, marks: readonly NewMark[], newId: NewId): Routine {
  const added = marks
    .map((m) => ({
      ...m,
      at: ms(m.at),
      end: m.end === null ? null : ms(m.end),
      text: m.text.trim().slice(0, 200),
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
  const at = ms(what.at ?? old.at)
  const end = what.end !== undefined ? what.end : old.end === null ? null : ms(old.end + at - old.at)
  const text = what.text?.trim() || old.text
  const next = { ...old, ...what, at, end, text }
  const marks = inOrder(routine.marks.map((m) => (m === old ? next : m)))
  return withCues({ ...routine, marks }, id, old.at, at, times)
}

/** Moves the cues that start on a mark as far as the mark was moved. */
function withCues(routine: Routine, mark: string, from: Seconds, to: Seconds, times: Times): Routine {
  if (from === to || times.length < 2 || !routine.cues.some((c) => c.trigger?.mark === mark)) return routine
  const by = Math.round(tickOfTime(times, to) - tickOfTime(times, from))
  const cues = routine.cues.map((c) => (c.trigger?.mark === mark ? { ...c, at: Math.max(0, c.at + by) } : c))
  return { ...routine, cues }
}

/** The named count or sub-count nearest to a time. */
export function tickNear(times: Times, placed: readonly PlacedPhrase[], t: Seconds): number {
  const tick = tickOfTime(times, t)
  const phrase = phraseAt(placed, tick)
  const from = phrase?.start ?? 0
  return from + snapTick(tick - from, phrase?.phrase.feel ?? 'straight')
}

/** Takes marks away. */
export function removeMarks(routine: Routine, gone: (mark: Mark) => boolean): Routine {
  const marks = routine.marks.filter((m) => !gone(m))
  return marks.length === routine.marks.length ? routine : { ...routine, marks }
}

/** The time of the named count or sub-count nearest to a time. */
export function snappedTime(times: Times, placed: readonly PlacedPhrase[], t: Seconds): Seconds {
  return ms(timeOfTick(times, tickNear(times, placed, t)))
}

/** Every mark of a kind on the named place nearest to it. */
export function snapMarks(
  routine: Routine,
  times: Times,
  placed: readonly PlacedPhrase[],
  kind: Mark['kind'],
): Routine {
  return routine.marks
    .filter((m) => m.kind === kind)
    .reduce((r, m) => {
      const at = snappedTime(times, placed, m.at)
      if (at === m.at) return r
      return changeMark(r, m.id, { at, end: m.end === null || m.end <= at ? null : m.end }, times)
    }, routine)
}

/** Marks that begin in a span of time. */
export function marksIn(marks: readonly Mark[], from: Seconds, to: Seconds): Mark[] {
  return marks.filter((m) => m.at >= from && m.at < to)
}

const inOrder = (marks: readonly Mark[]): Mark[] => [...marks].sort((a, b) => a.at - b.at)
