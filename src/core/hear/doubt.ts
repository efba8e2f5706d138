import type { Hearing } from './hearing'

/** What of a phrase may be wrong though the song is heard right, and how likely it is right, 0..1. */
export interface Doubt {
  of: 'beat' | '1'
  sure: number
}

/**
 * Less sure than this, given that the song as a whole is heard right, a phrase asks for a look. Set on songs nothing was
 * fitted on: of 36 phrases that ask 17 are wrong, of 2,667 others 10 (docs/hearing.md).
 */
const LEAST = { beat: 0.5, one: 0.7 }

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
    return one < LEAST.one ? { of: '1', sure: one } : null
  })
}

/** What nine in ten of some shares do not exceed: the certainty of the phrases the song leaves least in doubt. */
function upper(shares: readonly number[]): number {
  const sorted = [...shares].sort((a, b) => a - b)
  return sorted[Math.floor(0.9 * (sorted.length - 1))] ?? 1
}
