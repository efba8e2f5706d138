import * as v from 'valibot'
import type { Seconds } from '../time'
import { BANDS, CHROMA_RATE, TRACE_RATE, type Trace } from './trace'
import { type Look, type Peak, windowFinder } from './windows'

/**
 * A piece of a recording in which the song plays: from and to in it, and the song at its beginning, in seconds; seconds of the song a
 * second of the recording; mean likeness of its windows, 0..1.
 */
export const TakeSchema = v.object({
  ...{ from: v.number(), to: v.number(), at: v.number(), rate: v.number(), sure: v.number() },
})
export type Take = v.InferOutput<typeof TakeSchema>

/** What is looked for is this long, and begins so often. */
const [WINDOW, HOP]: [Seconds, Seconds] = [8, 2]
export const WINDOW_FRAMES = Math.round(WINDOW * TRACE_RATE)
/** A window this alike is worth nothing; below it counts against. Of other songs nearly all lie below. From the bench. */
const WORTH = 0.24
/** Going on elsewhere in the song costs this much. */
const JUMP = 0.7
/** Places of one take agree to this. */
const AGREE: Seconds = 0.06
/** Shorter takes are not claimed. */
export const SHORTEST: Seconds = 6
/** So much of a take must be alike on the average, to be the song and not one like it. */
const ALIKE = 0.45

/** Ways that are followed at once. */
const STATES = 80
/** So alike must its harmony be: songs with one beat and other chords are other songs. */
const HARMONY = 0.45

/** A frame that is this alike speaks neither for nor against. */
const EVEN = 0.12

interface Chosen {
  /** Where the window begins in the recording. */
  time: Seconds
  peak: Peak
}

/**
 * Finds where a song plays in a recording at its own speed or next to it: another encoding, lead-in, level or sampling rate, a
 * fade, parts left out or put elsewhere. None where it does not play.
 * @param tick called now and then with the share done; may throw to cancel
 */
export function findTakes(song: Trace, recording: Trace, tick: (share: number) => void = () => {}): Take[] {
  const length = WINDOW_FRAMES
  const look = windowFinder(song, length)
  const candidates: { time: Seconds; look: Look }[] = []
  const last = recording.frames - length
  for (let f = 0; f <= last; f += HOP * TRACE_RATE) {
    candidates.push({ time: f / TRACE_RATE, look: look(recording, f) })
    tick(f / Math.max(1, last))
  }
  const takes = runsOf(likeliest(candidates))
    .map((run) => takeOf(run, song))
    .filter((t) => t.to - t.from >= SHORTEST && t.sure >= ALIKE)
  return withEdges(takes, song, recording).filter(
    (t) => t.to - t.from >= SHORTEST && harmonyOf(t, song, recording) >= HARMONY,
  )
}

interface State {
  score: number
  peak: Peak | null
  before: State | null
}

/** The likeliest way through the windows: mostly going on where it was, sometimes jumping, sometimes not in the song. */
function likeliest(windows: readonly { time: Seconds; look: Look }[]): (Chosen | null)[] {
  let states: State[] = [{ score: 0, peak: null, before: null }]
  let earlier = 0
  for (const { time, look } of windows) {
    const best = states.reduce((a, b) => (b.score > a.score ? b : a))
    const next = new Map<number, State>()
    const put = (state: State) => {
      const key = state.peak ? Math.round(state.peak.at / AGREE) : -1
      if ((next.get(key)?.score ?? Number.NEGATIVE_INFINITY) < state.score) next.set(key, state)
    }
    put({ score: best.score, peak: null, before: best })
    for (const s of states) {
      // Going on where it was, also where other places are more alike at this moment.
      const on = s.peak && look.near(s.peak.at + time - earlier, AGREE)
      if (on) put({ score: s.score + on.like - WORTH, peak: on, before: s })
    }
    for (const peak of look.peaks) {
      const none = states.find((s) => s.peak === null)
      // Beginning somewhere costs less than going on elsewhere.
      if (none) put({ score: none.score - JUMP / 2 + peak.like - WORTH, peak, before: none })
      put({ score: best.score - JUMP + peak.like - WORTH, peak, before: best })
    }
    states = [...next.values()].sort((x, y) => y.score - x.score).slice(0, STATES)
    if (!states.some((s) => s.peak === null)) states.push({ score: best.score, peak: null, before: best })
    earlier = time
  }
  const way: (Chosen | null)[] = []
  let state: State | null = states.reduce((x, y) => (y.score > x.score ? y : x))
  for (let i = windows.length - 1; i >= 0 && state; i--) {
    const { time } = windows[i] as { time: Seconds }
    way[i] = state.peak && { time, peak: state.peak }
    state = state.before
  }
  return way
}

/** Windows that follow one another at one offset. */
function runsOf(way: readonly (Chosen | null)[]): Chosen[][] {
  const runs: Chosen[][] = []
  let gap = 0
  for (const c of way) {
    const run = runs.at(-1)
    const last = run?.at(-1)
    if (!c) {
      gap++
      continue
    }
    const same = last && Math.abs(c.peak.at - c.time - (last.peak.at - last.time)) <= AGREE * (1 + gap)
    if (run && same) run.push(c)
    else runs.push([c])
    gap = 0
  }
  return runs
}

/** A take by regression over its windows: place to the finest, and the rate where it is long enough to tell. */
function takeOf(run: readonly Chosen[], song: Trace): Take {
  const n = run.length
  const [first, last] = [run[0] as Chosen, run.at(-1) as Chosen]
  const mean = (of: (c: Chosen) => number) => run.reduce((s, c) => s + of(c), 0) / n
  const [t, a] = [mean((c) => c.time), mean((c) => c.peak.at)]
  const spread = run.reduce((s, c) => s + (c.time - t) ** 2, 0)
  const slope = n > 8 ? run.reduce((s, c) => s + (c.time - t) * (c.peak.at - a), 0) / spread : 1
  // One that is off by less than it can tell is the same speed.
  const rate = Math.abs(slope - 1) < 4e-4 ? 1 : slope
  const to = last.time + WINDOW
  // A window of another speed is most alike where its middle lies.
  const begins = a + (WINDOW / 2) * (1 - rate) + rate * (first.time - t)
  // What lies before the song or after it is none of it.
  const from = first.time + Math.max(0, -begins) / rate
  const at = Math.max(0, begins)
  const end = song.frames / TRACE_RATE
  return { from, to: Math.min(to, from + (end - at) / rate), at, rate, sure: mean((c) => c.peak.like) }
}

/** Takes as far as they go: to the next one, to the ends of the song, to the ends of the recording. */
function withEdges(takes: readonly Take[], song: Trace, recording: Trace): Take[] {
  const out = takes.map((t) => ({ ...t }))
  const end = recording.frames / TRACE_RATE
  const songEnd = song.frames / TRACE_RATE
  const move = (t: Take, from: Seconds) => {
    t.at += (from - t.from) * t.rate
    t.from = from
  }
  out.forEach((t, i) => {
    const before = out[i - 1]
    if (before && t.from - before.to < WINDOW + HOP) {
      const cut = border(song, recording, before, t)
      before.to = cut
      move(t, cut)
    } else {
      const first = Math.max(before?.to ?? 0, t.from - t.at / t.rate)
      move(t, edge(song, recording, t, t.from, first, -1))
    }
    const next = out[i + 1]
    const most = Math.min(end, t.from + (songEnd - t.at) / t.rate)
    if (!next || next.from - t.to >= WINDOW + HOP)
      t.to = edge(song, recording, t, t.to, Math.min(most, next?.from ?? most), 1)
  })
  return out.filter((t) => t.to > t.from)
}

/** So little is no difference. */
const QUIET = 6
/** What is this near to where a song or a recording begins or ends, begins or ends there. */
const NEAR: Seconds = 0.4

/** How far a take goes on beyond its windows, or stops inside of them: as long as what is heard is more alike than not. */
export function edge(
  song: Trace,
  recording: Trace,
  t: Take,
  at: Seconds,
  limit: Seconds,
  way: 1 | -1,
): Seconds {
  const inside = at - way * WINDOW
  let [best, most, sum] = [inside, Number.NEGATIVE_INFINITY, 0]
  for (let f = Math.round(inside * TRACE_RATE); way * f <= way * limit * TRACE_RATE; f += way) {
    const s = Math.round((t.at + (f / TRACE_RATE - t.from) * t.rate) * TRACE_RATE)
    let [dot, power] = [0, 0]
    for (let k = 0; k < BANDS; k++) {
      const x = recording.data[f * BANDS + k] ?? 0
      const y = song.data[s * BANDS + k] ?? 0
      dot += x * y
      power += (x * x + y * y) / 2
    }
    sum += dot - EVEN * power
    // Quiet goes on with what it follows.
    if (sum > most - QUIET) {
      most = Math.max(most, sum)
      best = f / TRACE_RATE
    }
  }
  return Math.abs(best - limit) <= NEAR ? limit : best
}

/** Where one take ends and the next begins: before it the first is more alike, after it the second. */
function border(song: Trace, recording: Trace, a: Take, b: Take): Seconds {
  const [low, high] = [Math.max(a.from, a.to - WINDOW - HOP), Math.min(b.to, b.from + WINDOW + HOP)]
  const like = (t: Take, f: number) => {
    const s = Math.round((t.at + (f / TRACE_RATE - t.from) * t.rate) * TRACE_RATE)
    if (s < 0 || s >= song.frames) return 0
    let sum = 0
    for (let k = 0; k < BANDS; k++)
      sum += (recording.data[f * BANDS + k] as number) * (song.data[s * BANDS + k] as number)
    return sum
  }
  let [best, most, sum] = [low, Number.NEGATIVE_INFINITY, 0]
  for (let f = Math.round(low * TRACE_RATE); f < Math.min(recording.frames, high * TRACE_RATE); f++) {
    sum += like(a, f) - like(b, f)
    if (sum > most) {
      most = sum
      best = (f + 1) / TRACE_RATE
    }
  }
  return best
}

/** Copies that are played up to 4 % faster are up to two thirds of a semitone higher. */
const HIGHER: readonly number[] = [0, -0.35, 0.35, -0.68, 0.68]

/** Of each tone of a song, and of the one above the last, which tone of a recording it is that is so many semitones higher. */
const HEARD_AS = Array.from({ length: 12 }, (_, by) => Array.from({ length: 13 }, (_, c) => (c + by) % 12))

/** How alike the harmony of a take is, -1..1, as high as it is most alike; where there is none in the song, all is said by the beat. */
export const harmonyOf = (t: Take, song: Trace, recording: Trace): number =>
  Math.max(...HIGHER.map((by) => harmonyAt(t, song, recording, by)))

/** @param by so many semitones the recording is higher */
export function harmonyAt(t: Take, song: Trace, recording: Trace, by: number): number {
  let [both, n] = [0, 0]
  const [whole, part] = [Math.floor(by), by - Math.floor(by)]
  const heardAs = HEARD_AS[((whole % 12) + 12) % 12] as readonly number[]
  for (let r = Math.ceil(t.from * CHROMA_RATE); r < t.to * CHROMA_RATE; r++) {
    // Rows begin on fifths of a second in both; the nearer one is taken.
    const s = Math.round((t.at + (r / CHROMA_RATE - t.from) * t.rate) * CHROMA_RATE)
    let [dot, own] = [0, 0]
    for (let c = 0; c < 12; c++) {
      const x = song.chroma[s * 12 + c] ?? 0
      const y = recording.chroma[r * 12 + (heardAs[c] as number)] ?? 0
      const higher = part ? (recording.chroma[r * 12 + (heardAs[c + 1] as number)] ?? 0) : 0
      dot += x * (part ? y * (1 - part) + higher * part : y)
      own += x * x
    }
    if (own < 0.5) continue
    both += dot
    n++
  }
  return n ? both / n : 1
}

/** Where a time of the song is heard in the recording; null where it is left out. */
export function placeIn(takes: readonly Take[], at: Seconds): Seconds | null {
  for (const t of takes) {
    const place = t.from + (at - t.at) / t.rate
    if (place >= t.from - 1e-9 && place < t.to) return place
  }
  return null
}
