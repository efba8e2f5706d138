import { type BeatFeatures, meanRow } from './features'
import type { HeardKind } from './hearing'
import type { Stretch } from './sections'

/** A guess at the kind of a stretch, with its reason in words. */
export interface KindGuess {
  kind: HeardKind
  why: string
}

interface Measured extends Stretch {
  beats: number
  /** Fullness: loudness, strokes and low end together, the song's mean being 0. */
  full: number
  /** Low strokes, the song's mean being 1. */
  low: number
  /** Loudness, the song's mean being 1. */
  loud: number
}

/** Low end under this share of the song's is a break. */
const BREAK_LOW = 0.35
/** A last stretch this much softer than the song fades out. */
const FADE = 0.7

function measured(f: BeatFeatures, stretches: readonly Stretch[]): Measured[] {
  const mean = (curve: Float32Array, from: number, to: number) => meanRow(curve, 1, from, to)[0] ?? 0
  const whole = {
    loud: mean(f.loudness, 0, f.beats) || 1,
    busy: mean(f.busy, 0, f.beats) || 1,
    low: mean(f.low, 0, f.beats) || 1,
  }
  return stretches.map((s, i) => {
    const to = stretches[i + 1]?.beat ?? f.beats
    const [loud, busy, low] = [
      mean(f.loudness, s.beat, to) / whole.loud,
      mean(f.busy, s.beat, to) / whole.busy,
      mean(f.low, s.beat, to) / whole.low,
    ]
    return { ...s, beats: to - s.beat, loud, low, full: loud + 0.5 * busy + 0.5 * low - 2 }
  })
}

const times = (n: number) => (n === 2 ? 'twice' : `${n} times`)

/**
 * Guesses what each stretch of a song is, from what comes again, how full it is, and where it stands. Common practice
 * of dancers and songwriters, no published source; a guess, shown with its reason and taken over only when asked.
 */
export function guessKinds(f: BeatFeatures, stretches: readonly Stretch[]): KindGuess[] {
  const list = measured(f, stretches)
  const by = new Map<string, Measured[]>()
  for (const s of list) by.set(s.letter, [...(by.get(s.letter) ?? []), s])
  const fullness = (letter: string) => {
    const all = by.get(letter) ?? []
    return all.reduce((n, s) => n + s.full * s.beats, 0) / all.reduce((n, s) => n + s.beats, 0)
  }
  const again = [...by.keys()].filter((l) => (by.get(l)?.length ?? 0) > 1)
  const [chorus, ...rest] = [...again].sort((a, b) => fullness(b) - fullness(a))
  const first = (letter: string) => list.findIndex((s) => s.letter === letter)
  const leads = (letter: string) =>
    chorus !== undefined && list.every((s, i) => s.letter !== letter || list[i + 1]?.letter === chorus)
  const verse = rest.sort((a, b) => first(a) - first(b))[0]
  const choruses = list.flatMap((s, i) => (s.letter === chorus ? [i] : []))
  return list.map((s, i): KindGuess => {
    const n = by.get(s.letter)?.length ?? 1
    if (i === 0 && s.letter !== chorus && (n === 1 || s.full < -0.25) && list.length > 2)
      return { kind: 'intro', why: 'the song begins with it, and less is going on' }
    if (i === list.length - 1 && s.letter !== chorus && list.length > 2 && (n === 1 || s.loud < FADE))
      return { kind: 'outro', why: s.loud < FADE ? 'the end, and softer' : 'the end, and it comes only once' }
    if (i > 0 && s.low < BREAK_LOW && s.beats <= 32) return { kind: 'break', why: 'the low end drops out' }
    if (s.letter === chorus) return { kind: 'chorus', why: `comes ${times(n)} and is the fullest` }
    if (s.letter === verse) return { kind: 'verse', why: `comes ${times(n)}, less full than what follows` }
    if (n > 1 && leads(s.letter)) return { kind: 'pre-chorus', why: 'always leads into the same stretch' }
    if (n === 1 && i > (choruses[1] ?? list.length))
      return { kind: 'bridge', why: 'comes once, after the second chorus' }
    if (n === 1 && verse === undefined && i + 1 === choruses[0])
      return { kind: 'verse', why: 'leads into the chorus for the first time' }
    return { kind: 'part', why: n > 1 ? `comes ${times(n)}` : 'comes once' }
  })
}
