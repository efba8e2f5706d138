import type { Ticks } from '../../time'

/** Ids of steps name the ticks they are about: "rung @192 75". */
export const movedStepId = (id: string, at: (tick: Ticks) => Ticks) =>
  id.replace(/@(-?\d+)/g, (_, tick: string) => `@${at(Number(tick))}`)

/** Keys of findings name places and lengths of cues: "weight|192,24,feet,…". */
export const movedKey = (key: string, at: (tick: Ticks) => Ticks) =>
  key
    .replace(/\|(-?\d+),(\d+),/g, (_, from: string, length: string) => {
      const [a, b] = [at(Number(from)), at(Number(from) + Number(length))]
      return `|${a},${Math.max(1, b - a)},`
    })
    .replace(
      /^empty\|(-?\d+)\|(-?\d+)$/,
      (_, a: string, b: string) => `empty|${at(Number(a))}|${at(Number(b))}`,
    )
    .slice(0, 600)
