import type { Hearing } from './hearing'

/*
 * How sure something heard is, and in what words it is told: of a beat, of a 1, of a row. Stations ask here, and nowhere else.
 */

/** How sure: the share of such cases that are right, 0..1, as hearing was fitted (docs/hearing.md). */
export type Sure = number

/** From which share on something is called so: of ten called sure nine are right or more, of ten fairly sure seven. */
const WORDS: readonly (readonly [Sure, string])[] = [
  [0.9, 'sure'],
  [0.7, 'fairly sure'],
  [0.5, 'a guess, check it'],
  [0, 'uncertain, check it'],
]

/** In words, how far to trust something heard. */
export const wordsFor = (sure: Sure): string =>
  (WORDS.find(([least]) => sure >= least) ?? ['', ''])[1] as string

/** Less sure than this of its beat, or of its bars and its 1, the song asks which of two ways is right (docs/hearing.md). */
const SONG_LEAST: Record<Doubt['of'], Sure> = { beat: 0.8, '1': 0.7 }

/** What the whole song leaves in doubt, and is asked once: its beat, or where its 1 is; null where neither. */
export function songDoubt({ confidence }: Pick<Hearing, 'confidence'>): Doubt | null {
  if (confidence.beats < SONG_LEAST.beat) return { of: 'beat', sure: confidence.beats }
  return confidence.one < SONG_LEAST['1'] ? { of: '1', sure: confidence.one } : null
}

/** What of a phrase may be wrong though the song is heard right, and how likely it is right. */
export interface Doubt {
  of: 'beat' | '1'
  sure: Sure
}

/**
 * Less sure than this, given that the song as a whole is heard right, a phrase asks for a look. Set on songs nothing was
 * fitted on: of 36 phrases that ask 17 are wrong, of 2,667 others 10 (docs/hearing.md).
 */
const LEAST: Record<Doubt['of'], Sure> = { beat: 0.5, '1': 0.7 }

/**
 * Phrase by phrase what asks for a look. What the whole song leaves open, which pulse is the beat, which of two bars begins
 * the eight, is doubtful everywhere alike: that is said once, of the song, and taken out here.
 * @returns one a phrase, null where nothing asks
 */
export function doubts({
  sure,
  confidence,
  phrases,
}: Pick<Hearing, 'sure' | 'confidence' | 'phrases'>): (Doubt | null)[] {
  const usual = upper(sure.ones)
  return phrases.map((_, i) => {
    const beat = Math.min(1, (sure.beats[i] ?? 1) / Math.max(0.01, confidence.beats))
    const one = Math.min(1, (sure.ones[i] ?? 1) / Math.max(0.01, usual))
    if (beat < LEAST.beat && beat <= one) return { of: 'beat', sure: beat }
    return one < LEAST['1'] ? { of: '1', sure: one } : null
  })
}

const known = new WeakMap<Hearing, readonly (Doubt | null)[]>()

/** What may be wrong with the phrase that was heard to begin at a beat; null where nothing is, or none begins there. */
export function doubtAt(h: Hearing, beat: number): Doubt | null {
  let list = known.get(h)
  if (!list) {
    list = doubts(h)
    known.set(h, list)
  }
  return list[h.phrases.indexOf(beat)] ?? null
}

/** Why a phrase should be checked, in words. */
export const wordsForDoubt = (doubt: Doubt): string =>
  doubt.of === 'beat'
    ? 'Many strokes here lie beside the beat: it may be lost for a while'
    : `The 1 may lie elsewhere here than in the rest of the song (${Math.round(100 * doubt.sure)} % sure)`

/** What nine in ten of some shares do not exceed: the certainty of the phrases the song leaves least in doubt. */
function upper(shares: readonly Sure[]): Sure {
  const sorted = [...shares].sort((a, b) => a - b)
  return sorted[Math.floor(0.9 * (sorted.length - 1))] ?? 1
}
