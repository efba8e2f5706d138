import type { Seconds } from '../time'

/** Something that is said, from when to when. */
export interface Said {
  from: Seconds
  to: Seconds
}

/** From a moment on a level goes toward another, to a third of what is left each `within` seconds. */
export interface Toward {
  at: Seconds
  level: number
  within: Seconds
}

/** The song goes back before a word begins, and comes again after it; between words this near it stays. From memory, no published source. */
const [BEFORE, DOWN, UP, NEAR]: readonly Seconds[] = [0.05, 0.02, 0.09, 0.35] as const

/** Times in which something is said, in order, those near one another as one. */
export function joinSaid(said: readonly Said[]): Said[] {
  const out: Said[] = []
  for (const s of [...said].sort((a, b) => a.from - b.from)) {
    const last = out.at(-1)
    if (last && s.from - last.to < (NEAR as number)) last.to = Math.max(last.to, s.to)
    else out.push({ ...s })
  }
  return out
}

/**
 * How the song steps back while something is said.
 * @param said in order, joined
 * @param level of the song then, as a factor
 */
export function stepsBack(said: readonly Said[], level: number): Toward[] {
  return said.flatMap(({ from, to }) => [
    { at: from - (BEFORE as number), level, within: DOWN as number },
    { at: to, level: 1, within: UP as number },
  ])
}

/**
 * The level over time, as a sound device works it out too (Web Audio API, setTargetAtTime).
 * @param steps in order
 * @returns the level at a time; times must be asked for in order
 */
export function levelAlong(steps: readonly Toward[]): (t: Seconds) => number {
  let next = 0
  let [at, from, now] = [0, 1, { level: 1, within: 1 }]
  const value = (t: Seconds) => now.level + (from - now.level) * Math.exp(-(t - at) / now.within)
  return (t) => {
    for (let s = steps[next]; s && s.at <= t; s = steps[++next]) {
      from = value(s.at)
      at = s.at
      now = s
    }
    return value(t)
  }
}
