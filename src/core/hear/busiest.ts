import type { Hearing } from './hearing'

/** Where a way to count is told best: the beat from which on `beats` beats are loudest and fullest in the low end. */
export function busiestBeat({ beats, pictures }: Pick<Hearing, 'beats' | 'pictures'>, length = 16): number {
  const full = (k: number) => (pictures.loudness[k] ?? 0) + (pictures.low[k] ?? 0)
  let sum = 0
  let most = Number.NEGATIVE_INFINITY
  let best = 0
  for (let k = 0; k < beats.length; k++) {
    sum += full(k)
    if (k >= length) sum -= full(k - length)
    if (k >= length - 1 && sum > most) {
      most = sum
      best = k - length + 1
    }
  }
  return best
}
