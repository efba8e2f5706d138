import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import type { BeatFeatures } from '../../../src/core/hear/features'
import { CACHE } from '../render'

/** Where what is known of the 1s of training songs is kept. */
export const ONES = path.join(CACHE, 'ones')

/** A song of which it is known where its bars begin, and perhaps its pairs of bars. */
export interface Sung {
  id: string
  base: string
  source: string
  family: string
  tempo: number
  done: string[]
  beats: number
  /** The first beat that begins a bar of four, and a pair of bars; null where that is not known. */
  bar: number
  eight: number | null
  /** The beat the music sets in on, as it was heard. */
  opening: number | null
  /** Matrices by name, as base64 of their 32-bit floats. */
  features: Record<string, string>
}

/** Where most of some times lie in rounds of n beats; null when under four in five agree. */
export function placeOf(beats: readonly number[], times: readonly number[], n: number): number | null {
  const counts = new Array<number>(n).fill(0)
  let k = 0
  for (const t of times) {
    if (t < (beats[0] as number) - 0.1 || t > (beats.at(-1) as number) + 0.1) continue
    while (
      k + 1 < beats.length &&
      Math.abs((beats[k + 1] as number) - t) < Math.abs((beats[k] as number) - t)
    )
      k++
    counts[k % n] = (counts[k % n] as number) + 1
  }
  const most = Math.max(...counts)
  return most > 0.8 * counts.reduce((a, b) => a + b, 0) ? counts.indexOf(most) : null
}

export function written(f: BeatFeatures): Record<string, string> {
  const { beats, ...matrices } = f
  return Object.fromEntries(
    Object.entries(matrices).map(([name, m]: [string, Float32Array]) => [
      name,
      Buffer.from(m.buffer, m.byteOffset, m.byteLength).toString('base64'),
    ]),
  )
}

export function readBack({ beats, features }: Sung): BeatFeatures {
  const matrices = Object.fromEntries(
    Object.entries(features).map(([name, text]) => {
      const bytes = Buffer.from(text, 'base64')
      return [name, new Float32Array(new Uint8Array(bytes).buffer)]
    }),
  )
  return { beats, ...matrices } as unknown as BeatFeatures
}

/** All of them. */
export function sungs(): Sung[] {
  return readdirSync(ONES)
    .filter((f) => f.endsWith('.json'))
    .sort()
    .map((f) => JSON.parse(readFileSync(path.join(ONES, f), 'utf8')) as Sung | null)
    .filter((s) => s !== null)
}
