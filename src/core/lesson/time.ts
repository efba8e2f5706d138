import type { Ratio, Seconds } from '../time'

/**
 * Speeds from a first one up to full tempo, in equal ratios, rounded to 5 %: 60 to 100 in 4 = 60, 70, 85, 100.
 * @param rungs how many, two or more; fewer come out where two round to the same
 */
export function ladder(from: Ratio, to: Ratio, rungs: number): Ratio[] {
  if (from >= to) return [to]
  const out: Ratio[] = []
  for (let i = 0; i < rungs; i++) {
    const speed = Math.round(20 * from * (to / from) ** (i / Math.max(1, rungs - 1)) + 1e-9) / 20
    if (speed !== out.at(-1)) out.push(speed)
  }
  return out
}

/**
 * How long repetitions last: each is counted in, danced, and followed by a gap.
 * @param counts counts danced, and how long they last at full tempo
 */
export function drillSeconds(
  repetitions: number,
  countIn: Seconds,
  body: Seconds,
  speed: Ratio,
  pause: Seconds,
): Seconds {
  return repetitions * ((countIn + body) / speed + pause)
}
