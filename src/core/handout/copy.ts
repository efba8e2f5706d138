import type { Hearing } from '../hear'
import { placeIn, type Take } from '../match'
import { type Edited, type NewId, type Routine, rebase, repairedBeats, writtenOut } from '../routine'
import { type Seconds, type Stretch, TICKS_PER_COUNT, type Ticks } from '../time'
import { ms, NotOpened, type RoutineFile, whole } from './routine-file'

/** Counts of a copy are never nearer than this. */
const NEAREST: Seconds = 0.1
/** So far a copy goes on before the first thing that is heard in it, and after the last. */
const BEYOND: Seconds = 2
/** A copy has so much of the counts at least, or it is another song. */
const ENOUGH = 0.5

/** Where each count of a file's song falls in a copy of it; null for those the copy has not got. */
export function countsInCopy(beats: readonly Seconds[], takes: readonly Take[]): (Seconds | null)[] {
  const [first, last] = [takes[0], takes.at(-1)]
  const ends = last ? last.at + (last.to - last.from) * last.rate : 0
  let before = Number.NEGATIVE_INFINITY
  return beats.map((b) => {
    let place = placeIn(takes, b)
    if (place === null && first && b < first.at && first.at - b <= BEYOND)
      place = first.from - (first.at - b) / first.rate
    if (place === null && last && b >= ends && b - ends <= BEYOND) place = last.to + (b - ends) / last.rate
    if (place === null || place < before + NEAREST) return null
    before = place
    return place
  })
}

/** A count in a copy is as long as in the song, to this share of it. */
const AS_LONG = 0.3

/**
 * When counts fall in a copy, for playing a stretch of it: around the stretch the counts go on as in the song wherever the copy
 * goes on otherwise.
 * @param beats when each count falls in the song
 * @param places the same in the copy, null for those it has not got
 * @returns null where the copy has not got all of the stretch in one piece
 */
export function timesInCopy(
  beats: readonly Seconds[],
  places: readonly (Seconds | null)[],
  { from, to }: Stretch,
): Seconds[] | null {
  const first = Math.max(0, Math.min(beats.length - 2, Math.floor(from / TICKS_PER_COUNT)))
  const last = Math.max(first + 1, Math.min(beats.length - 1, Math.ceil(to / TICKS_PER_COUNT)))
  const begin = places[first]
  if (begin === null || begin === undefined) return null
  const out = new Array<Seconds>(beats.length)
  out[first] = begin
  const step = (from: number, to: number): boolean => {
    const long = Math.abs((beats[to] as Seconds) - (beats[from] as Seconds))
    const way = Math.sign(to - from)
    const at = out[from] as Seconds
    const place = places[to] ?? null
    const fits = place !== null && Math.abs(way * (place - at) - long) <= AS_LONG * long
    out[to] = fits ? place : at + way * long
    return fits
  }
  for (let i = first + 1; i < beats.length; i++) {
    const fits = step(i - 1, i)
    // The end of the last count may lie beyond what the copy has.
    if (!fits && i < last) return null
  }
  for (let i = first - 1; i >= 0; i--) step(i + 1, i)
  return out
}

function hasAll({ from, to }: Stretch, has: (tick: Ticks) => boolean): boolean {
  for (let t = from; t < to; t += TICKS_PER_COUNT) if (!has(t)) return false
  return has(to - 1)
}

/**
 * The routine on another copy of its song. Every count keeps its sound; counts the copy has not got are left out, with what
 * was written on them, and it is said.
 * @throws NotOpened where the copy has too little of it
 */
export function onCopy(
  file: RoutineFile,
  heard: Pick<Hearing, 'beats' | 'version'>,
  takes: readonly Take[],
  newId: NewId,
): Edited<Routine> {
  const places = countsInCopy(file.beats, takes)
  const kept = places.flatMap((p, i) => (p === null ? [] : [{ i, p }]))
  if (kept.length < 2 || kept.length < ENOUGH * file.beats.length)
    throw new NotOpened('This is another song, or too little of the one it was made on.')
  const marks = file.routine.marks.flatMap((m) => {
    const at = placeIn(takes, m.at)
    return at === null ? [] : [{ ...m, at: whole(at), end: m.end === null ? null : whole(at + m.end - m.at) }]
  })
  const repairs: Routine['repairs'] = [
    { kind: 'grid', from: 0, to: repairedBeats(heard.beats, []).length, beats: kept.map((k) => ms(k.p)) },
  ]
  const on = { ...file.routine, marks, heardWith: heard.version, repairs }
  if (kept.length === file.beats.length) return { routine: on, said: [] }
  const countOf = (tick: Ticks) => Math.floor(tick / TICKS_PER_COUNT)
  const has = (tick: Ticks) => {
    const count = countOf(tick)
    return count < 0 || count >= places.length || places[count] !== null
  }
  const at = (tick: Ticks): Ticks => {
    const count = countOf(tick)
    const within = tick - count * TICKS_PER_COUNT
    if (count < 0) return tick
    const index = kept.findIndex((k) => k.i >= count)
    if (index < 0)
      return (
        (kept.length + Math.max(0, count - places.length)) * TICKS_PER_COUNT +
        (count >= places.length ? within : 0)
      )
    return index * TICKS_PER_COUNT + (kept[index]?.i === count ? within : 0)
  }
  // A repeat of what is not there, or danced where nothing is, is written out first: its cues stand for themselves.
  const torn = on.repeats.filter(
    (r) => !hasAll(r.to, has) || !hasAll({ from: r.from, to: r.from + r.to.to - r.to.from }, has),
  )
  const out = torn.reduce<Routine>((r, { id: repeat }) => writtenOut(r, repeat, newId), on)
  const gone = out.cues.filter((c) => !has(c.at)).length
  const moved = rebase({ ...out, cues: out.cues.filter((c) => has(c.at)) }, at, kept.length, newId)
  const missing = places.length - kept.length
  const words = missing === 1 ? '1 count is' : `${missing} counts are`
  return {
    routine: moved.routine,
    said: [
      `${words} not in your copy of the song: ${gone ? `${gone} ${gone === 1 ? 'cue' : 'cues'} on them were left out.` : 'nothing was written on them.'}`,
      ...moved.said,
    ],
  }
}
