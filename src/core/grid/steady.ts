import { type Seconds, straightLine } from '../time'

/** Beats of a stretch on one straight line fitted through them (least squares). @param to not included */
export function steadied(beats: readonly Seconds[], from: number, to: number): Seconds[] {
  const part = beats.slice(from, to)
  if (part.length < 3) return part
  const { start, period } = straightLine(part.map((t, k) => [k, t]))
  return part.map((_, k) => start + k * period)
}

/** Beats at one tempo over a whole song. @param through a beat that lies right */
export function carriedOn(through: Seconds, period: Seconds, duration: Seconds): Seconds[] {
  const first = through - Math.floor(through / period + 1e-9) * period
  const out: Seconds[] = []
  for (let k = 0; first + k * period < duration; k++) out.push(first + k * period)
  return out
}
