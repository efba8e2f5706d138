import type { Seconds } from '../time'
import { wholeWords } from '../writing/word-edges'

/** A spoken word as samples, -1..1. */
export interface SpokenWord {
  rate: number
  samples: Float32Array
}

/** Root-mean-square per 5 ms; `low` first takes a running mean of 1 ms, which leaves the voiced part and drops hiss. */
export function envelope({ rate, samples }: SpokenWord, low: boolean): { hop: number; out: number[] } {
  const hop = Math.max(1, Math.round(rate * 0.005))
  const span = low ? Math.max(1, Math.round(rate * 0.001)) : 1
  const out: number[] = []
  for (let f = 0; f + hop <= samples.length; f += hop) {
    let sum = 0
    for (let i = f; i < f + hop; i++) {
      let mean = 0
      for (let j = 0; j < span; j++) mean += (samples[i - j] ?? 0) / span
      sum += mean * mean
    }
    out.push(Math.sqrt(sum / hop))
  }
  return { hop, out }
}

/** Without the silence before and after, as loud as all others, faded out at its end. */
export function trimmed(word: SpokenWord): SpokenWord {
  const { hop, out } = envelope(word, false)
  const top = out.reduce((m, x) => Math.max(m, x), 0)
  if (!(top > 0)) return word
  const first = out.findIndex((x) => x > 0.03 * top)
  const last = out.findLastIndex((x) => x > 0.02 * top)
  const samples = word.samples.slice(Math.max(0, (first - 1) * hop), (last + 2) * hop)
  const peak = samples.reduce((m, x) => Math.max(m, Math.abs(x)), 0)
  const fade = Math.min(samples.length, Math.round(word.rate * 0.008))
  return {
    rate: word.rate,
    samples: samples.map((x, i) => (x / peak) * 0.9 * Math.min(1, (samples.length - i) / fade)),
  }
}

/**
 * Where the stress of words falls: where the voiced part first reaches half of its strongest.
 * @param within only this beginning is looked at: of several words the first one's stress is wanted
 */
export function stressOf(word: SpokenWord, within: Seconds = Number.POSITIVE_INFINITY): Seconds {
  const { hop, out: all } = envelope(word, true)
  const out = all.slice(0, Math.max(1, (within * word.rate) / hop))
  const top = out.reduce((m, x) => Math.max(m, x), 0)
  return (
    (Math.max(
      0,
      out.findIndex((x) => x > 0.5 * top),
    ) *
      hop) /
    word.rate
  )
}

const SPELT: Record<string, string> = { '½': 'half', '¼': 'quarter', '¾': 'three quarter', '&': 'and' }

const LONE_L = wholeWords('L', 'g')
const LONE_R = wholeWords('R', 'g')

/** Words as a voice should read them: L and R are sides, fractions are words, signs are nothing. */
export function readAloud(call: string): string {
  return call
    .replace(/[½¼¾&]/g, (c) => ` ${SPELT[c]} `)
    .replace(LONE_L, 'left')
    .replace(LONE_R, 'right')
    .normalize('NFD')
    .replace(/[^A-Za-z0-9' ,-]+/g, '')
    .replace(/\s+/g, ' ')
    .trim()
}

/** True where the app's voice, which reads English, can say all of a text: not another script. */
export const sayable = (call: string): boolean =>
  !/[^\p{Script=Latin}\p{Script=Common}\p{Script=Inherited}]/u.test(call)
