import type { Bpm, Seconds } from '../time'
import { type BarLikeness, likeBars } from './metre'
import { duple, HOP, type LagPicture, nearest, triple } from './pulse'
import { FRAME_RATE } from './spectrum'

/** The period of a pulse along the song. */
export interface TempoPath {
  /** Period in frames, one a window of the lag picture. */
  periods: Float32Array
  /** Mean likeness along the path, -1..1. */
  strength: number
}

const SLOWEST_BPM = 50
const FASTEST_BPM = 240
/** Steps of half a percent. */
const STEP = 0.005
const STATES = Math.floor(Math.log(FASTEST_BPM / SLOWEST_BPM) / STEP) + 1
/** What a step of one state from window to window costs, and the most that any change costs. */
const STEP_COST = 0.012
const JUMP_COST = 0.5

const periodOf = (state: number) => ((60 * FRAME_RATE) / FASTEST_BPM) * Math.exp(state * STEP)

/**
 * The pulse that runs through the whole song: the path over tempo that is best explained by the likeness at one, two,
 * four and eight periods, changing slowly or, rarely, at once (Viterbi 1967; the smoothness is that of Whiteley, Cemgil
 * & Godsill 2006, "Bayesian modelling of temporal structure in musical audio").
 */
export function tempoPath(p: LagPicture): TempoPath {
  const score = new Float64Array(STATES)
  const before = new Float64Array(STATES)
  const back = new Int16Array(p.windows * STATES)
  const emission = (w: number, s: number) => {
    const period = periodOf(s)
    const bpm = (60 * FRAME_RATE) / period
    const octaves = Math.log2(bpm / 115)
    return (p.weight[w] as number) ** 0.5 * (explained(p, w, period) - 0.06 * octaves * octaves)
  }
  const reach = Math.floor(JUMP_COST / STEP_COST)
  for (let w = 0; w < p.windows; w++) {
    before.set(score)
    let top = 0
    for (let s = 1; s < STATES; s++) if ((before[s] as number) > (before[top] as number)) top = s
    for (let s = 0; s < STATES; s++) {
      let best = (before[top] as number) - JUMP_COST
      let from = top
      for (let k = Math.max(0, s - reach); k <= Math.min(STATES - 1, s + reach); k++) {
        const v = (before[k] as number) - STEP_COST * Math.abs(k - s)
        if (v > best) {
          best = v
          from = k
        }
      }
      if (w === 0) best = 0
      score[s] = best + emission(w, s)
      back[w * STATES + s] = from
    }
  }
  let state = 0
  for (let s = 1; s < STATES; s++) if ((score[s] as number) > (score[state] as number)) state = s
  const periods = new Float32Array(p.windows)
  for (let w = p.windows - 1; w >= 0; w--) {
    periods[w] = periodOf(state)
    state = back[w * STATES + state] as number
  }
  return { periods, strength: strengthOf(p, periods) }
}

/** How well a beat of this period explains a window, in twos or in threes. */
const explained = (p: LagPicture, w: number, period: number) =>
  Math.max(duple(p, w, period), 0.9 * triple(p, w, period))

/** Mean likeness of a song along a path, windows weighted by how much happens in them. */
export function strengthOf(p: LagPicture, periods: Float32Array): number {
  let sum = 0
  let weights = 1e-9
  for (let w = 0; w < p.windows; w++) {
    sum += (p.weight[w] as number) * explained(p, w, periods[w] as number)
    weights += p.weight[w] as number
  }
  return sum / weights
}

/** How much a song is like itself later on, -1..1, whatever its tempo does. */
export interface Likeness {
  /** At beats of a tempo: one, two, four and eight of them later, or one, three and six. */
  counted(bpm: Bpm): number
  /** So many beats of a tempo later, within a frame. */
  later(bpm: Bpm, beats: number): number
  /** Bars of each size later, counted in beats at these times. */
  bars(beats: readonly Seconds[]): BarLikeness
}

/**
 * Likeness at beats of any tempo, given as what the song would have if its usual tempo were that.
 * @param path periods of a pulse in frames, one a window of the picture
 */
export function likenessOf(p: LagPicture, path: Float32Array): Likeness {
  const usual = pathTempo(path)
  return {
    counted: (bpm) =>
      strengthOf(
        p,
        path.map((period) => (period * usual) / bpm),
      ),
    later: (bpm, beats) => {
      let sum = 0
      let weights = 1e-9
      for (let w = 0; w < p.windows; w++) {
        const lag = (((path[w] as number) * usual) / bpm) * beats
        sum += (p.weight[w] as number) * nearest(p, w, lag, 1)
        weights += p.weight[w] as number
      }
      return sum / weights
    },
    bars: (beats) => likeBars(p, beats),
  }
}

/** Period in frames at a time, between the windows' centres. */
export function periodAt(path: Float32Array, t: Seconds): number {
  const x = Math.max(0, Math.min(path.length - 1, t / HOP - 0.5))
  const i = Math.floor(x)
  const a = path[i] as number
  return a + (x - i) * ((path[i + 1] ?? a) - a)
}

/** Tempo of a path as a whole: that of its median period. */
export function pathTempo(path: Float32Array): Bpm {
  const sorted = [...path].sort((a, b) => a - b)
  return (60 * FRAME_RATE) / (sorted[sorted.length >> 1] ?? 50)
}
