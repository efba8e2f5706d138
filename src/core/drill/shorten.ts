import type { Ratio } from '../time'
import type { SpokenWord } from './spoken'

/** Waves are laid over one another in windows of so long, each where it fits best within so far. From memory, no published source. */
const [WINDOW, SEARCH] = [0.024, 0.007]

/**
 * Makes speech shorter and keeps its pitch: waveform similarity overlap-add (Verhelst & Roelands, "An overlap-add technique
 * based on waveform similarity (WSOLA) for high quality time-scale modification of speech", ICASSP 1993).
 * @param keep how much of its length stays, above 0 to 1
 * @returns exactly round(keep × length) samples
 */
export function shortened({ rate, samples }: SpokenWord, keep: Ratio): SpokenWord {
  const length = Math.round(samples.length * keep)
  if (keep >= 1 || length === 0) return { rate, samples: samples.slice(0, length) }
  const half = Math.max(8, Math.round((WINDOW * rate) / 2))
  const search = Math.round(SEARCH * rate)
  const out = new Float32Array(length + 2 * half)
  const weight = new Float32Array(out.length)
  const at = (i: number) => samples[i] ?? 0
  /** Where the window before would go on by itself. */
  let goesOn = 0
  for (let to = 0; to < length; to += half) {
    const wish = Math.round(to / keep)
    let from = to === 0 ? 0 : wish
    if (to > 0) {
      let best = Number.NEGATIVE_INFINITY
      for (let x = Math.max(0, wish - search); x <= wish + search; x += 2) {
        let like = 0
        // Every fourth sample tells which waves lie alike.
        for (let i = 0; i < half; i += 4) like += at(x + i) * at(goesOn + i)
        if (like > best) {
          best = like
          from = x
        }
      }
    }
    for (let i = 0; i < 2 * half; i++) {
      // The very beginning is not faded in.
      const w = to === 0 && i < half ? 1 : 0.5 - 0.5 * Math.cos((Math.PI * (i + 0.5)) / half)
      out[to + i] = (out[to + i] as number) + w * at(from + i)
      weight[to + i] = (weight[to + i] as number) + w
    }
    goesOn = from + half
  }
  for (let i = 0; i < length; i++) out[i] = (out[i] as number) / Math.max(1e-3, weight[i] as number)
  return { rate, samples: out.subarray(0, length) }
}
