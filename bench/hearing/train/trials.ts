import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import type { Bar } from '../../../src/core/hear/hearing'
import { CACHE } from '../render'

/** Where the trials of training songs are kept. */
export const TRIALS = path.join(CACHE, 'trials')

/** One choice: every way to count a song with its features, and which ways are right. */
export interface Trial {
  id: string
  /** The song, of which there may be several versions. */
  base: string
  source: string
  family: string
  tempo: number
  /** Beats in a bar; null where they cannot be trusted. */
  bar: Bar | null
  done: string[]
  /** Names of the features, in the order of each way's. */
  names: string[]
  ways: { bpm: number; bar: Bar; right: boolean; features: ArrayLike<number> }[]
}

/** All trials there are. */
export function trials(): Trial[] {
  return readdirSync(TRIALS)
    .filter((f) => f.endsWith('.json'))
    .sort()
    .map((f) => {
      const trial: Trial = JSON.parse(readFileSync(path.join(TRIALS, f), 'utf8'))
      // A third of what the text would keep.
      for (const way of trial.ways) way.features = Float32Array.from(way.features)
      return trial
    })
}
