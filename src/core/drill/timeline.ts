import type { Call } from '../choreo'
import { type CalledVoice, type LeadIn, type PlacedPhrase, phraseAt } from '../routine'
import {
  countLabel,
  holds,
  type Ratio,
  type Seconds,
  subCountName,
  TICKS_PER_COUNT,
  type Ticks,
  type Times,
  timeOfTick,
} from '../time'
import { fitted, meant, type PlacedPiece, type SaidEvent } from './own-calls'

/** One thing that sounds, in seconds from the start of the repetition's body. */
export interface DrillEvent {
  time: Seconds
  tick: Ticks
  kind: 'count-in' | 'count' | 'sub'
  /** What is called: "5", "&". */
  call: string
  /** True on the 1 of a phrase. */
  accent: boolean
}

/** What to play, in positions. */
export interface DrillRange {
  /** Count times in seconds of the song. */
  times: Times
  placed: readonly PlacedPhrase[]
  from: Ticks
  to: Ticks
  /** Starts of the cues inside the range; sub-counts are called where one lies. */
  cues: readonly Ticks[]
  /** Words called instead of numbers, by place; a place between counts is called too. */
  words?: ReadonlyMap<Ticks, Call>
  /** Where no word stands, nothing is called, not even the number. */
  wordsOnly?: boolean
  /** Calls in the instructor's own voice: over their counts nothing else is called. */
  voices?: readonly CalledVoice[]
  /** Words counted in with, the last on the last count; numbers before them. */
  leadWords?: readonly string[]
}

/** A repetition laid out in time: body from 0 to `body`, the count-in before it on negative times. */
export interface DrillTimeline {
  from: Ticks
  to: Ticks
  speed: Ratio
  /** How long before the body the first count-in click sounds; 0 when the count-in lies inside the body. */
  lead: Seconds
  /** Length of the body at this speed. */
  body: Seconds
  /** Length of a count at its end, at this speed. */
  count: Seconds
  countIn: DrillEvent[]
  counts: DrillEvent[]
  /** Calls in the instructor's own voice, by time. */
  said: SaidEvent[]
  /** Song time of the body's start and end. */
  songStart: Seconds
  songEnd: Seconds
  /** How long before its body the song is heard, at this speed; nothing of it is, where nothing is said. */
  songLead?: Seconds
}

/** Sub-counts closer than this to a count are not called: speech would run together. Common practice, no published source. */
const LEAST_CALL_GAP: Seconds = 0.17

/** A syllable spoken without haste. Common practice, no published source. */
const SYLLABLE: Seconds = 0.16
/** Silence between two calls, so that each is understood. */
const BREATH: Seconds = 0.04

/** About how long a call takes to say: vowels stand for syllables, a number or sign for one. */
export function sayingTime(call: string): Seconds {
  const spoken = call.toLowerCase().match(/[aeiouy]+|\d+|&/g)?.length ?? 0
  return call ? Math.max(1, spoken) * SYLLABLE : 0
}

/** Numbers and "&" are shorter to say than they look, and everybody knows them; "seven" alone has two syllables. */
const isNumber = (call: string) => /^(\d+|&|e|a|and)$/.test(call)

/**
 * Thins calls out where they would run into each other. A word silences the numbers it is spoken over, but never the 1
 * of a phrase; a word that would run into the next word gives way to its first word, then to the number of its count,
 * on a sub-count to silence. The click stays on every count.
 * @param events by time
 * @param end where the repetition ends
 * @param numberAt what an event is called as a number; '' where numbers are not called
 */
export function thinned(
  events: readonly DrillEvent[],
  end: Seconds,
  numberAt: (e: DrillEvent) => string,
): DrillEvent[] {
  const out = events.map((e) => ({ ...e }))
  out.forEach((e, i) => {
    if (!e.call || isNumber(e.call)) return
    const later = out.slice(i + 1)
    const next = later.find((x) => x.call && (!isNumber(x.call) || x.accent))
    const room = (next?.time ?? end) - e.time - BREATH
    const first = e.call.split(/\s+/)[0] ?? ''
    e.call = [e.call, first].find((c) => sayingTime(c) <= room) ?? (e.kind === 'count' ? numberAt(e) : '')
    if (!e.call || isNumber(e.call)) return
    const until = e.time + sayingTime(e.call) + BREATH
    for (const x of later) if (isNumber(x.call) && !x.accent && x.time < until) x.call = ''
  })
  return out
}

/** "ready, and go" — the words of a count-in, one a count. */
export const leadWordsOf = (text: string): string[] => text.split(/[\s,]+/).filter(Boolean)

/**
 * Lays one repetition out in time.
 * @param speed ratio of full tempo, above 0
 * @param countIn how many counts are counted in before the first cue (before the range, when it has no cue)
 */
export function drillTimeline(range: DrillRange, speed: Ratio, countIn: number): DrillTimeline {
  const { times, from, to } = range
  const songStart = timeOfTick(times, from)
  const songEnd = timeOfTick(times, to)
  const at = (tick: Ticks): Seconds => (timeOfTick(times, tick) - songStart) / speed
  const first = range.cues.filter((c) => c >= from && c < to).reduce((a, b) => Math.min(a, b), to)
  const called = countInOf(range, first < to ? first : from, countIn, at)
  return {
    from,
    to,
    speed,
    lead: Math.max(0, -(called[0]?.time ?? 0)),
    body: (songEnd - songStart) / speed,
    count: (timeOfTick(times, to) - timeOfTick(times, to - TICKS_PER_COUNT)) / speed,
    countIn: called,
    counts: countsOf(range, at),
    said: fitted((range.voices ?? []).flatMap(piecesOf), { from, to }, at),
    songStart,
    songEnd,
  }
}

const piecesOf = ({ recording, pieces, exact }: CalledVoice): PlacedPiece[] =>
  pieces.map((p) => ({ ...p, recording, at: exact ? p.at : meant(p.at) }))

/**
 * The whole counts just before the first cue: "5 6 7 8" before a 1, "4 5 6 7" before an 8, "5 6 7 8" before an 8&, in
 * sixes "3 4 5 6". A move that is called ahead is called here when its count comes before the range.
 */
function countInOf(
  { placed, words, leadWords = [], from, to }: DrillRange,
  first: Ticks,
  counts: number,
  at: (t: Ticks) => Seconds,
): DrillEvent[] {
  const phrase = phraseAt(placed, first)
  const last = Math.floor((first - 1) / TICKS_PER_COUNT)
  const usual = phrase?.usual ?? 8
  return Array.from({ length: counts }, (_, i) => {
    const count = last - counts + 1 + i
    const tick = count * TICKS_PER_COUNT
    const within = count - (phrase ? phrase.start / TICKS_PER_COUNT : 0) + (phrase ? phrase.first - 1 : 0)
    // Before the phrase people count towards its 1, whatever the phrase before was.
    const number = within >= 0 ? within + 1 : usual - ((-within - 1) % usual)
    const word = words?.get(tick)
    const ahead = word && word.of > tick && word.of >= from && word.of < to
    const lead = leadWords[leadWords.length - counts + i]
    const call = ahead ? word.word : (lead ?? String(number))
    return { time: at(tick), tick, kind: 'count-in', call, accent: false }
  })
}

function countsOf(
  { placed, from, to, cues, words, wordsOnly, voices = [] }: DrillRange,
  at: (t: Ticks) => Seconds,
): DrillEvent[] {
  const out: DrillEvent[] = []
  const voiced = (tick: Ticks) => voices.some((x) => holds(x.stretch, tick))
  const numberOf = (tick: Ticks) => {
    const phrase = phraseAt(placed, tick)
    return phrase ? countLabel(tick - phrase.start, phrase.phrase.feel, phrase.first) : ''
  }
  for (let tick = Math.ceil(from / TICKS_PER_COUNT) * TICKS_PER_COUNT; tick < to; tick += TICKS_PER_COUNT) {
    const phrase = phraseAt(placed, tick)
    if (!phrase) continue
    const within = tick - phrase.start
    const number = wordsOnly ? '' : numberOf(tick)
    const call = voiced(tick) ? '' : (words?.get(tick)?.word ?? number)
    out.push({ time: at(tick), tick, kind: 'count', call, accent: within === 0 && !phrase.phrase.pickUp })
  }
  for (const tick of new Set([...cues, ...(words?.keys() ?? [])])) {
    const phrase = phraseAt(placed, tick)
    const offset = ((tick % TICKS_PER_COUNT) + TICKS_PER_COUNT) % TICKS_PER_COUNT
    if (!phrase || offset === 0 || tick < from || tick >= to) continue
    const call = words?.get(tick)?.word ?? (wordsOnly ? '' : subCountName(offset, phrase.phrase.feel))
    if (!call && !subCountName(offset, phrase.phrase.feel)) continue
    const count = tick - offset
    const gap = Math.min(at(tick) - at(count), at(count + TICKS_PER_COUNT) - at(tick))
    if (gap >= LEAST_CALL_GAP)
      out.push({
        time: at(tick),
        tick,
        kind: 'sub',
        call: voiced(tick) ? '' : (call ?? ''),
        accent: false,
      })
  }
  const sorted = out.sort((a, b) => a.time - b.time)
  return words?.size
    ? thinned(sorted, at(to), (e) => (e.kind === 'count' && !wordsOnly ? numberOf(e.tick) : ''))
    : sorted
}

/** What sounds in one repetition, by time from its body's start; a count that is counted in is called only once. */
export function eventsOf(t: DrillTimeline, countedIn: boolean): DrillEvent[] {
  if (!countedIn) return t.counts
  const taken = new Set(t.countIn.map((e) => e.tick))
  return [...t.countIn, ...t.counts.filter((e) => !taken.has(e.tick))].sort((a, b) => a.time - b.time)
}

/** A repetition as it is led into: by the song for as long as the count-in, for so many counts, or from where the song begins. */
export function withLeadIn(t: DrillTimeline, times: Times, lead: LeadIn): DrillTimeline {
  if (lead === 'clicks') return t
  const all = Math.max(0, t.songStart)
  const counts = Number(lead)
  const wanted =
    lead === 'song'
      ? t.lead * t.speed
      : lead === 'beginning'
        ? all
        : t.songStart - timeOfTick(times, t.from - counts * TICKS_PER_COUNT)
  return { ...t, songLead: Math.min(all, wanted) / t.speed }
}

/**
 * What of the song a repetition plays, from a place in its body on.
 * @returns seconds before its body the song begins, where in the song, and for how long it is heard
 */
export function songOf(
  t: DrillTimeline,
  countedIn: boolean,
  into: Seconds = 0,
): { before: Seconds; from: Seconds; seconds: Seconds } {
  const before = countedIn && into === 0 ? (t.songLead ?? 0) : 0
  return {
    before,
    from: t.songStart + (into - before) * t.speed,
    seconds: t.body - into + before,
  }
}

/** A repetition with its place on the drill's clock. */
export interface Leg {
  /** Number of the repetition, from 0. */
  k: number
  /** When its body starts, in seconds. */
  start: Seconds
  timeline: DrillTimeline
  countedIn: boolean
  /** It follows another one in time. */
  follows?: boolean
}

/** The first repetition, always counted in: its first sound comes at `from`. */
export function firstLeg(timeline: DrillTimeline, from: Seconds): Leg {
  const before = Math.max(timeline.lead, timeline.songLead ?? 0)
  return { k: 0, start: from + before, timeline, countedIn: true }
}

/**
 * What is waited for between two repetitions so that the pulse goes on: a stretch that begins or ends between counts takes the
 * rest of a count, the same each time.
 * @returns the wait, and the click of the whole count that falls into it, in seconds before the body; null where none does
 */
function restBefore(t: DrillTimeline, countedIn: boolean): { wait: Seconds; click: DrillEvent | null } {
  const lead = countedIn && t.lead > 0 ? t.from - (t.countIn[0]?.tick ?? t.from) : 0
  const period = t.to - t.from + lead
  const rest = (TICKS_PER_COUNT - (period % TICKS_PER_COUNT)) % TICKS_PER_COUNT
  const wait = (rest / TICKS_PER_COUNT) * t.count
  const after = Math.ceil(t.to / TICKS_PER_COUNT) * TICKS_PER_COUNT - t.to
  if (after >= rest) return { wait, click: null }
  const tick = t.from - lead - rest + after
  const time = -(countedIn ? t.lead : 0) - ((rest - after) / TICKS_PER_COUNT) * t.count
  return { wait, click: { time, tick, kind: 'count', call: '', accent: false } }
}

/** The repetition after another: without a gap, or with its count-in between; in time with the one before. */
export function legAfter(leg: Leg, timeline: DrillTimeline, countedIn: boolean): Leg {
  const gap = restBefore(timeline, countedIn).wait + (countedIn ? timeline.lead : 0)
  const start = leg.start + leg.timeline.body + gap
  return { k: leg.k + 1, start, timeline, countedIn, follows: true }
}

/** What sounds in a repetition, by time from its body's start: after another one, what lies between them too. */
export function eventsOfLeg({ timeline, countedIn, follows }: Leg): DrillEvent[] {
  const { click } = follows ? restBefore(timeline, countedIn) : { click: null }
  const events = eventsOf(timeline, countedIn)
  return click ? [click, ...events] : events
}

/**
 * A repetition that goes on laid out anew, at another speed say, from a moment on: at the same place of the song.
 * @param at on the drill's clock, within its body
 * @param timeline the same counts, laid out anew
 * @returns the repetition as if it had always been so, and how far into its body it is then
 */
export function legAnew(leg: Leg, at: Seconds, timeline: DrillTimeline): { leg: Leg; into: Seconds } {
  const song = leg.timeline.songStart + (at - leg.start) * leg.timeline.speed
  const into = (song - timeline.songStart) / timeline.speed
  return { leg: { ...leg, start: at - into, timeline, countedIn: false }, into }
}
