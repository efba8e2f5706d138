import { type Call, callsOf } from '../choreo'
import { drillTimeline } from '../drill'
import type { TimedText } from '../formats'
import { cueText, placePhrases, type Routine, sectionTitles } from '../routine'
import { type Ratio, type Seconds, type Times, timeOfTick } from '../time'
import { type Contents, cuesFor } from './contents'

/** What captions show: counts with calls, the cues themselves, the words sung, or the sections as chapters. */
export const CAPTIONS = ['counts', 'cues', 'lyric', 'chapters'] as const
export type CaptionKind = (typeof CAPTIONS)[number]

/** What captions lie on: the song, or the stretch drilled once at a speed, counted in. */
export interface CaptionTime {
  speed: Ratio
  /** Seconds before the first count of the stretch; the song itself where null. */
  lead: Seconds | null
}

/** Captions by time, none before the beginning and none over another. */
export function captionsOf(
  routine: Routine,
  times: Times,
  contents: Contents,
  kind: CaptionKind,
  on: CaptionTime = { speed: 1, lead: null },
): TimedText[] {
  const { stretch } = contents
  const start = timeOfTick(times, stretch.from)
  const end = timeOfTick(times, stretch.to)
  const place = (song: Seconds) => (on.lead === null ? song : on.lead + (song - start) / on.speed)
  const list = textsOf(routine, times, contents, kind)
    .filter((t) => t.text)
    .map((t) => ({ start: Math.max(0, place(t.start)), end: place(t.end ?? end), text: t.text }))
    .filter((t) => t.end > 0)
    .sort((a, b) => a.start - b.start)
  // What is shown ends where the next begins.
  return list.map((t, i) => {
    const next = list[i + 1]?.start ?? place(end)
    return { start: ms(t.start), end: ms(Math.max(t.start + 0.05, Math.min(t.end, next))), text: t.text }
  })
}

const ms = (s: Seconds) => Math.round(s * 1000) / 1000

function textsOf(
  routine: Routine,
  times: Times,
  contents: Contents,
  kind: CaptionKind,
): { start: Seconds; end: Seconds | null; text: string }[] {
  const { stretch } = contents
  const at = (tick: number) => timeOfTick(times, tick)
  const [from, to] = [at(stretch.from), at(stretch.to)]
  if (kind === 'lyric')
    return routine.marks.flatMap((m) =>
      m.kind === 'lyric' && m.at >= from && m.at < to ? [{ start: m.at, end: m.end, text: m.text }] : [],
    )
  const cues = cuesFor(routine, contents)
  if (kind === 'chapters') {
    const begins = routine.sections.filter((s) => s.at >= stretch.from && s.at < stretch.to)
    const before = routine.sections.findLast((s) => s.at < stretch.from)
    const titles = sectionTitles(routine.sections)
    const list = begins.map((s) => ({ at: s.at, name: titles.get(s) ?? '' }))
    if (before && begins[0]?.at !== stretch.from)
      list.unshift({ at: stretch.from, name: titles.get(before) ?? '' })
    for (const { at: tick, name } of routine.parts)
      if (tick >= stretch.from && tick < stretch.to) list.push({ at: tick, name })
    // What begins at one place is one chapter.
    const chapters = new Map<number, string[]>()
    for (const { at: tick, name } of list) chapters.set(tick, [...(chapters.get(tick) ?? []), name])
    return [...chapters].map(([tick, names]) => ({ start: at(tick), end: null, text: names.join(', ') }))
  }
  if (kind === 'cues') {
    const by = new Map<number, string[]>()
    for (const c of cues) by.set(c.at, [...(by.get(c.at) ?? []), cueText(c, contents.mirrored)])
    return [...by].map(([tick, words]) => ({ start: at(tick), end: at(tick + 48), text: words.join(', ') }))
  }
  const placed = placePhrases(routine)
  const { words } = callsOf(routine, cues, routine.marks, times, placed, contents.mirrored)
  const { counts } = drillTimeline({ times, placed, ...stretch, cues: cues.map((c) => c.at) }, 1, 0)
  return counts.map((e) => {
    const call: Call | undefined = words.get(e.tick)
    return { start: from + e.time, end: from + e.time + 2, text: call ? `${e.call} ${call.word}` : e.call }
  })
}
