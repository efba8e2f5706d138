import { followSound, type HeldCounts, heldCounts, shiftToSound, steadied } from '../grid'
import {
  backToHeard,
  type Edit,
  type Edited,
  heardInStretch,
  phraseAt,
  type Repair,
  type Routine,
  redrawBeats,
  repair,
  repairProblem,
} from '../routine'
import { type Seconds, TICKS_PER_COUNT, type Ticks } from '../time'
import type { CountSeen } from './count-seen'

/** Repairs of the beat at the cursor, or of all of it. */
export type BeatWork =
  | 'double'
  | 'halve'
  | 'half'
  | 'meet'
  | 'follow'
  | 'steady'
  | 'earlier10'
  | 'later10'
  | 'fromEarlier'
  | 'fromLater'
  | 'pin'
  | 'heard'
  | 'heardHere'

/** An edit and where the cursor goes with it, or why nothing is changed. */
export type BeatEdit = { did: string; change: Edit; to: Ticks | null } | { said: string }

const NO_STROKES = 'The strokes of this song were not kept when it was heard. Hear it again first.'

/** Which counts the section of a place has: from, up to. */
function sectionCounts({ placed, times }: CountSeen, tick: Ticks): readonly [number, number] {
  const here = phraseAt(placed, tick)
  const rows = placed.filter((p) => p.section === here?.section)
  const first = (rows[0]?.start ?? 0) / TICKS_PER_COUNT
  const last = (rows.at(-1)?.end ?? 0) / TICKS_PER_COUNT
  return [first, Math.min(times.length, last)]
}

/** One repair of the beat; where the grid would not stand it, says so and changes nothing. */
function mend(
  seen: CountSeen,
  did: string,
  change: Repair,
  to: Ticks | null = null,
  by = (r: Routine): Edited<Routine> => repair(r, seen.beats, change, seen.newId),
): BeatEdit {
  const problem = repairProblem(seen.beats, seen.routine.repairs, change)
  return problem ? { said: `${problem} Nothing was changed.` } : { did, change: by, to }
}

/** The same beats at other times, from one of them on. */
const redraw = (seen: CountSeen, did: string, from: number, times: readonly Seconds[]): BeatEdit =>
  mend(seen, did, { kind: 'grid', from, to: from + times.length, beats: [...times] }, null, (r) =>
    redrawBeats(r, seen.beats, from, times),
  )

/** Twice or half the tempo, or half a beat later, of one song of several that were cut together. */
function ofOneSong(
  work: 'double' | 'halve' | 'half',
  tick: Ticks,
  seen: CountSeen,
  { from, to, bpm }: HeldCounts,
): BeatEdit {
  const { times } = seen
  const own = times.slice(from, to)
  const half = 30 / bpm
  // Nearer to the song after it, it would be one of its beats.
  const end = (times[to] ?? Number.POSITIVE_INFINITY) - half
  const set = (did: string, beats: readonly Seconds[], at: number) =>
    mend(
      seen,
      `${did} of this song`,
      { kind: 'grid', from, to, beats: [...beats] },
      Math.max(0, from * TICKS_PER_COUNT + at),
    )
  const into = tick - from * TICKS_PER_COUNT
  if (work === 'half')
    return set(
      'half a beat later,',
      own.map((t) => t + half).filter((t) => t <= end + half / 2),
      into,
    )
  if (work === 'double') {
    const beats = own.flatMap((t, k) => [
      t,
      own[k + 1] === undefined ? t + half : (t + (own[k + 1] as Seconds)) / 2,
    ])
    return set(
      'twice the tempo',
      beats.filter((t, k) => k % 2 === 0 || t <= end + half / 2),
      2 * into,
    )
  }
  const start = (phraseAt(seen.placed, tick)?.start ?? 0) / TICKS_PER_COUNT
  const keep = Math.abs(start - from) % 2
  const at = Math.max(0, Math.floor((Math.floor(into / TICKS_PER_COUNT) - keep) / 2))
  return set(
    'half the tempo',
    own.filter((_, k) => k % 2 === keep),
    at * TICKS_PER_COUNT,
  )
}

/** All beats, or those from one on, earlier or later. */
function nudged(seen: CountSeen, ms: number, from?: number): BeatEdit {
  const did = `the beat ${Math.abs(ms)} ms ${ms < 0 ? 'earlier' : 'later'}${from === undefined ? '' : ' from here'}`
  return mend(seen, did, { kind: 'shift', seconds: ms / 1000, ...(from === undefined ? {} : { from }) })
}

/** A count held at a time: where it is, or so many seconds from there. */
export function pinned(seen: CountSeen, tick: Ticks, by: Seconds | null): BeatEdit | null {
  const beat = Math.floor(tick / TICKS_PER_COUNT)
  const at = seen.times[beat]
  if (at === undefined) return null
  const did = by === null ? 'pin this count' : 'drag the count'
  return mend(seen, did, { kind: 'pin', beat, at: at + (by ?? 0) })
}

/** The edit a command asks for at the cursor; null where there is nothing to do it to. */
export function beatEdit(work: BeatWork, tick: Ticks, seen: CountSeen): BeatEdit | null {
  const { times, beats, strokes, newId } = seen
  const count = Math.floor(tick / TICKS_PER_COUNT)
  if (work === 'double' || work === 'halve' || work === 'half') {
    const song = heldCounts(times, count)
    if (song) return ofOneSong(work, tick, seen, song)
  }
  switch (work) {
    case 'double':
      return mend(seen, 'twice the tempo', { kind: 'double' }, tick * 2)
    case 'halve': {
      // The beats kept are those that hold the 1 at or before the cursor.
      const start = phraseAt(seen.placed, tick)?.start ?? 0
      const keep = (start / TICKS_PER_COUNT) % 2 === 1 ? 1 : 0
      const to = Math.max(0, Math.floor((count - keep) / 2)) * TICKS_PER_COUNT
      return mend(seen, 'half the tempo', { kind: 'halve', keep }, to)
    }
    case 'half': {
      const [a, b] = [times[count], times[count + 1]]
      const period = a !== undefined && b !== undefined ? b - a : 60 / (seen.tempo || 120)
      return mend(seen, 'half a beat later', { kind: 'shift', seconds: period / 2 })
    }
    case 'meet': {
      if (!strokes) return { said: NO_STROKES }
      const by = shiftToSound(strokes, times)
      return Math.abs(by) >= 0.002
        ? mend(seen, 'meet the sound', { kind: 'shift', seconds: by })
        : { said: 'The counts lie on the sound already.' }
    }
    case 'follow':
      return strokes
        ? redraw(seen, 'follow the sound', 0, followSound(strokes, times, count))
        : { said: NO_STROKES }
    case 'steady': {
      const [from, end] = sectionCounts(seen, tick)
      return redraw(seen, 'make the section steady', from, steadied(times, from, end))
    }
    case 'earlier10':
      return nudged(seen, -10)
    case 'later10':
      return nudged(seen, 10)
    case 'fromEarlier':
      return nudged(seen, -10, count)
    case 'fromLater':
      return nudged(seen, 10, count)
    case 'pin':
      return pinned(seen, tick, null)
    case 'heard':
      return { did: 'back to what was heard', change: (r) => backToHeard(r, beats, newId), to: null }
    case 'heardHere': {
      const [from, end] = sectionCounts(seen, tick)
      const change: Edit = (r) => heardInStretch(r, beats, from, end, newId)
      return { did: 'what was heard, in this section', change, to: null }
    }
  }
}
