import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
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
  done: string[]
  /** Names of the features, in the order of each way's. */
  names: string[]
  ways: { bpm: number; right: boolean; features: number[] }[]
}

/** All trials there are. */
export function trials(): Trial[] {
  return readdirSync(TRIALS)
    .filter((f) => f.endsWith('.json'))
    .sort()
    .map((f) => JSON.parse(readFileSync(path.join(TRIALS, f), 'utf8')) as Trial)
}
