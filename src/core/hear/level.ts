import { type Bpm, lastAtOrBefore, type Seconds } from '../time'
import { extent } from './extent'
import { folder, folds, type Named } from './folds'
import { BARS, type Bar } from './hearing'
import { drumming, featuresOf, meanHit, ratio, type Sound } from './level-features'
import learned from './level-rule.json' with { type: 'json' }
import type { Onsets } from './onsets'
import { ruleOf } from './rule'
import { FRAME_RATE, type Spectrum } from './spectrum'
import type { Likeness } from './tempo'
import { summed } from './turns'
import { barFeatures, barLikenessFeatures, likenessFeatures, tempoFeatures } from './voting'

/** Beats of a song: every `stride` pulses, from a phase. */
interface Beats {
  /** Pulses a beat: 1 to 4. */
  stride: number
  /** Where in the stride the beat lies, in pulses: 0 <= phase < stride. */
  phase: number
  bpm: Bpm
  beats: Seconds[]
}

/** One way to count a song before it is weighed: beats in bars of a size, with all that may speak for it, by name. */
export interface Way extends Beats {
  bar: Bar
  /** Where the first 1 falls when it is counted this way. */
  one: Seconds
  features: Named
}

/** Beats with how sure it is that they are the song's, and the likeliest bars under them. */
export interface Level extends Beats {
  /** Share of certainty among all ways, 0..1, whatever the bars. */
  probability: number
  /** Bars of every size, the likeliest first, with their shares of this, which add up to 1, and where their first 1 falls. */
  bars: { bar: Bar; share: number; one: Seconds }[]
}

const RULE = ruleOf(learned)

const SLOWEST_BPM = 50
const FASTEST_BPM = 230
/** Bins a pulse of the folded profile. */
const BINS = 12

/** Fractional pulse position of every frame. */
function positions(pulses: readonly Seconds[], frames: number): Float32Array {
  const out = new Float32Array(frames)
  const last = pulses.length - 1
  const head = (pulses[1] as number) - (pulses[0] as number)
  const tail = (pulses[last] as number) - (pulses[last - 1] as number)
  for (let f = 0; f < frames; f++) {
    const t = f / FRAME_RATE
    const i = lastAtOrBefore(pulses, t)
    if (i < 0) out[f] = (t - (pulses[0] as number)) / head
    else if (i >= last) out[f] = last + (t - (pulses[last] as number)) / tail
    else out[f] = i + (t - (pulses[i] as number)) / ((pulses[i + 1] as number) - (pulses[i] as number))
  }
  return out
}

/** Onset strength folded over `stride` pulses, softened by a bin. */
function profile(o: Onsets, at: Float32Array, stride: number): Float32Array {
  const n = stride * BINS
  const raw = new Float32Array(n)
  for (let f = 0; f < o.frames; f++) {
    const strength = Math.sqrt((o.all[f] as number) + (o.low[f] as number))
    if (strength <= 0) continue
    const x = ((((at[f] as number) % stride) + stride) % stride) * BINS
    const i = Math.floor(x) % n
    const part = x - Math.floor(x)
    raw[i] = (raw[i] as number) + strength * (1 - part)
    raw[(i + 1) % n] = (raw[(i + 1) % n] as number) + strength * part
  }
  return raw.map(
    (_, i) =>
      0.25 * (raw[(i + n - 1) % n] as number) +
      0.5 * (raw[i] as number) +
      0.25 * (raw[(i + 1) % n] as number),
  )
}

/** Phases at which the folded profile peaks, the strongest first, at most six. */
function phasesOf(p: Float32Array): number[] {
  const n = p.length
  const mean = p.reduce((a, b) => a + b, 0) / n
  const peaks: { phase: number; v: number }[] = []
  for (let i = 0; i < n; i++) {
    const [a, b, c] = [p[(i + n - 1) % n] as number, p[i] as number, p[(i + 1) % n] as number]
    if (b < a || b <= c || b < mean) continue
    const bend = a - 2 * b + c
    peaks.push({ phase: ((i + (bend < 0 ? (0.5 * (a - c)) / bend : 0) + n) % n) / BINS, v: b })
  }
  return peaks
    .sort((x, y) => y.v - x.v)
    .slice(0, 6)
    .map((x) => x.phase)
}

function timeAt(pulses: readonly Seconds[], x: number): Seconds {
  const last = pulses.length - 1
  const i = Math.max(0, Math.min(last - 1, Math.floor(x)))
  const a = pulses[i] as number
  return a + (x - i) * ((pulses[i + 1] as number) - a)
}

/** Where nothing is known of it, all ways are alike. */
const UNKNOWN: Likeness = {
  counted: () => 0,
  later: () => 0,
  bars: () => ({ 3: 0, 4: 0, 5: 0, 7: 0 }),
}

/** Beats within the music; all of them where it leaves too few. */
function heardBeats(o: Onsets, beats: readonly Seconds[]): readonly Seconds[] {
  const within = extent(o, beats)
  const inside = within
    ? beats.filter((t) => t >= Math.max(0, within.first - 0.08) && t <= within.last + 0.08)
    : []
  return inside.length >= 8 ? inside : beats
}

/**
 * Every way to count the pulses as beats, with all that is known of each.
 * @param pulses about 200 to 400 a minute
 */
export function waysOf(
  s: Spectrum,
  o: Onsets,
  pulses: readonly Seconds[],
  likeness: Likeness = UNKNOWN,
): Way[] {
  const sound: Sound = {
    onsets: o,
    chroma: summed(12, s.frames, (f, c) => s.chroma[f * 12 + c] as number),
    likeness,
  }
  const song = folder(s, o)
  const at = positions(pulses, o.frames)
  const rate = (60 * (pulses.length - 1)) / ((pulses.at(-1) as number) - (pulses[0] as number))
  const strides = [1, 2, 3, 4].filter((n) => rate / n >= SLOWEST_BPM && rate / n <= FASTEST_BPM)
  const counted = strides.map((n) => likeness.counted(rate / n))
  return strides.flatMap((stride) => {
    const bpm = rate / stride
    const grids = phasesOf(profile(o, at, stride)).map((phase) => ({
      phase,
      beats: gridOf(pulses, stride, phase),
    }))
    const rivals = grids.filter((g) => g.beats.length >= 8)
    // What falls on the beat, against what falls on the strongest other place a beat could be.
    const hits = rivals.map((g) => meanHit(o.all, g.beats))
    const most = Math.max(...hits)
    return rivals.flatMap(({ phase, beats }, i): Way[] => {
      const heard = heardBeats(o, beats)
      const [inBars, folded] = [barFeatures(s, o, likeness, heard), folds(song, heard, bpm)]
      const alike = barLikenessFeatures(likeness, bpm)
      const whatever: Named = {
        ...featuresOf(sound, beats, bpm),
        // Octaves of a tempo share what speaks for any of them: it tells 2/3 and 3/2 of a swung beat from the beat.
        'like at octaves':
          12 * Math.max(...counted.filter((_, k) => octaveApart(strides[k] as number, stride))),
        'struck as the best': ratio(hits[i] as number, most, 0.15),
        ...drumming(o, beats),
        ...tempoFeatures(bpm, stride),
        ...likenessFeatures(likeness, bpm),
      }
      return BARS.map((bar) => {
        const { features, one } = inBars(bar)
        return {
          ...{ stride, phase, bpm, bar, beats, one },
          features: { ...whatever, ...alike(bar), ...features, ...folded(bar) },
        }
      })
    })
  })
}

/**
 * All beats the pulses may be counted as, the likeliest first, each with its bars, by the rule of `level-rule.json`
 * (docs/hearing.md): beats and bars are weighed together.
 * @param pulses about 200 to 400 a minute
 */
export function levels(
  s: Spectrum,
  o: Onsets,
  pulses: readonly Seconds[],
  likeness: Likeness = UNKNOWN,
): Level[] {
  const scored = waysOf(s, o, pulses, likeness).map((way) => ({ way, score: RULE.score(way.features) }))
  const top = Math.max(...scored.map((x) => x.score))
  const odds = scored.map((x) => Math.exp(RULE.sharpness * (x.score - top)))
  const all = odds.reduce((a, b) => a + b, 0)
  const shared = scored.map(({ way }, i) => ({ way, share: (odds[i] as number) / all }))
  const groups = new Map<readonly Seconds[], typeof shared>()
  for (const one of shared) groups.set(one.way.beats, [...(groups.get(one.way.beats) ?? []), one])
  return [...groups.values()]
    .map((ways): Level => {
      ways.sort((a, b) => b.share - a.share)
      const { stride, phase, bpm, beats } = (ways[0] as (typeof ways)[0]).way
      const probability = ways.reduce((sum, w) => sum + w.share, 0)
      const bars = ways.map(({ way, share }) => ({ bar: way.bar, share: share / probability, one: way.one }))
      return { stride, phase, bpm, beats, probability, bars }
    })
    .sort((a, b) => b.probability - a.probability)
}

const octaveApart = (a: number, b: number) => Number.isInteger(Math.log2(a / b))

function gridOf(pulses: readonly Seconds[], stride: number, phase: number): Seconds[] {
  const beats: Seconds[] = []
  for (let x = phase; x <= pulses.length - 1; x += stride) beats.push(timeAt(pulses, x))
  return beats
}
