import type { VoicePiece } from '../routine'
import {
  type Ratio,
  type Seconds,
  type Stretch,
  TICKS_PER_COUNT,
  type Ticks,
  type Times,
  tickOfTime,
  timeOfTick,
} from '../time'
import { shortened } from './shorten'
import type { SpokenWord } from './spoken'
import { type Syllable, syllablesOf } from './syllables'

/** A piece of a recording with its place in the dance. */
export interface PlacedPiece extends VoicePiece {
  recording: string
}

/** A piece as it sounds in one repetition. */
export interface SaidEvent {
  /** When its stress falls, in seconds from the start of the body. */
  time: Seconds
  piece: PlacedPiece
  /** How much of what follows its stress is kept; below 1 it is said faster, with its pitch. */
  keep: Ratio
}

/** Speech is hurried down to this much of its length, no further. Common practice, no published source. */
export const LEAST_KEPT: Ratio = 0.6
/** Silence left before the next piece. */
const APART: Seconds = 0.01
/** The last call may ring on so long after the end. */
const RINGS_ON: Seconds = 0.3

/**
 * Where the syllables of a recording lie in the dance. Ears, hands and the way through a microphone are late by the same all
 * through: what all syllables are off by is taken away, as far as counts, or halves of counts, tell.
 * @param tickAt the place danced at a time of the recording
 */
export function placedSyllables(
  syllables: readonly Syllable[],
  tickAt: (time: Seconds) => Ticks,
): VoicePiece[] {
  const raw = syllables.map((s) => tickAt(s.stress))
  const late = lateBy(raw)
  const round = (x: Seconds) => Math.round(x * 1e4) / 1e4
  return syllables.map((s, i) => ({
    at: Math.round(((raw[i] as Ticks) - late) * 100) / 100 + 0,
    from: round(s.from),
    stress: round(s.stress),
    to: round(s.to),
  }))
}

/** So much of the sound before the first count belongs to a recording, and so much after the last. */
export const [HEARD_BEFORE, HEARD_AFTER]: [Seconds, Seconds] = [0.5, 0.4]

/**
 * The calls in a recording made while a stretch was played at a speed.
 * @param recording begins `HEARD_BEFORE` before the stretch
 */
export function callsIn(
  recording: SpokenWord,
  { from, to }: Stretch,
  speed: Ratio,
  times: Times,
): VoicePiece[] {
  const begin = timeOfTick(times, from)
  const placed = placedSyllables(syllablesOf(recording), (t) =>
    tickOfTime(times, begin + (t - HEARD_BEFORE) * speed),
  )
  // A word before the first count belongs to it; what was said along with the counting in does not.
  return placed.filter((p) => p.at >= from - TICKS_PER_COUNT && p.at < to)
}

/** Blocks of sound put together, half as many samples a second: enough for a voice. @param blocks with the times of their first samples */
export function collected(
  blocks: readonly { at: Seconds; block: Float32Array }[],
  rate: number,
  from: Seconds,
  to: Seconds,
): SpokenWord {
  const all = new Float32Array(Math.max(0, Math.round((to - from) * rate)))
  for (const { at, block } of blocks) {
    const start = Math.round((at - from) * rate)
    for (let i = Math.max(0, -start); i < block.length && start + i < all.length; i++)
      all[start + i] = block[i] as number
  }
  const samples = new Float32Array(all.length >> 1)
  for (let i = 0; i < samples.length; i++)
    samples[i] =
      0.25 * (all[2 * i - 1] ?? 0) + 0.5 * (all[2 * i] as number) + 0.25 * (all[2 * i + 1] as number)
  return { rate: rate / 2, samples }
}

/** From this much agreement on, all lie by the counts (1 is all alike). From memory, no published source. */
const AGREED = 0.75

/** How late calls are by all of them, in ticks: to the nearest counts where most are on counts, else to the nearest halves. */
export function lateBy(places: readonly Ticks[]): Ticks {
  for (const period of [TICKS_PER_COUNT, TICKS_PER_COUNT / 2]) {
    const turn = (2 * Math.PI) / period
    const [x, y] = places.reduce(
      ([a, b], p) => [a + Math.cos(p * turn), b + Math.sin(p * turn)] as [number, number],
      [0, 0] as [number, number],
    )
    if (places.length && Math.hypot(x, y) / places.length >= AGREED) return Math.atan2(y, x) / turn
  }
  return 0
}

/** What comes this near to a count or a half was meant on it: nobody calls finer. */
const MEANT: Ticks = 2.5

/** The place of a piece, drawn onto the count or the half it was meant on; quarters and thirds stay where they were said. */
export function meant(at: Ticks): Ticks {
  const half = TICKS_PER_COUNT / 2
  const near = Math.round(at / half) * half + 0
  return Math.abs(near - at) <= MEANT ? near : at
}

/** Which of two calls gives way: what is on a count stays before halves, halves before the rest. */
const weightOf = (at: Ticks) => (at % TICKS_PER_COUNT === 0 ? 2 : at % (TICKS_PER_COUNT / 2) === 0 ? 1 : 0)

/**
 * Fits pieces into the room they have at a speed. One shorter than its room is left as it is; a longer one is said faster,
 * with its pitch, down to a limit; where that is not enough, the lesser of it and the next falls silent.
 * @param pieces in any order
 * @param range what is danced; others are left out
 * @param at when a place is danced, in seconds from the start of the body
 */
export function fitted(
  pieces: readonly PlacedPiece[],
  range: Stretch,
  at: (tick: Ticks) => Seconds,
): SaidEvent[] {
  const kept = pieces
    // One said a little early belongs to its count.
    .filter((p) => p.at >= range.from - MEANT && p.at < range.to - MEANT / 2)
    .map((piece): SaidEvent => ({ time: at(piece.at), piece, keep: 1 }))
    .sort((a, b) => a.time - b.time)
  const end = at(range.to) + RINGS_ON
  const beginOf = ({ time, piece }: SaidEvent) => time - (piece.stress - piece.from)
  for (let i = 0; i < kept.length; ) {
    const said = kept[i] as SaidEvent
    const next = kept[i + 1]
    const room = (next ? beginOf(next) - APART : end) - said.time
    const keep = Math.min(1, room / Math.max(1e-3, said.piece.to - said.piece.stress))
    said.keep = Math.max(LEAST_KEPT, keep)
    if (!next || keep >= LEAST_KEPT) i++
    else if (weightOf(said.piece.at) < weightOf(next.piece.at)) {
      kept.splice(i, 1)
      // What came before has the room of this one too.
      i = Math.max(0, i - 1)
    } else kept.splice(i + 1, 1)
  }
  return kept
}

const FADE: Seconds = 0.005

/** The sound of a piece, from its beginning: what leads to its stress as it was said, what follows as long as is kept. */
export function soundOf({ rate, samples }: SpokenWord, { piece, keep }: SaidEvent): SpokenWord {
  const index = (t: Seconds) => Math.max(0, Math.min(samples.length, Math.round(t * rate)))
  const lead = samples.subarray(index(piece.from), index(piece.stress))
  const rest = shortened({ rate, samples: samples.subarray(index(piece.stress), index(piece.to)) }, keep)
  const out = new Float32Array(lead.length + rest.samples.length)
  out.set(lead)
  out.set(rest.samples, lead.length)
  const fade = Math.max(1, Math.round(FADE * rate))
  for (let i = 0; i < Math.min(fade, out.length); i++) {
    out[i] = (out[i] as number) * (i / fade)
    const j = out.length - 1 - i
    out[j] = (out[j] as number) * (i / fade)
  }
  return { rate, samples: out }
}
