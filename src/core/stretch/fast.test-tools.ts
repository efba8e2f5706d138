import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'

/** The program of the faster transform, as workers and worklets carry it. */
export const FAST = readFileSync(
  createRequire(import.meta.url)
    .resolve('@echogarden/pffft-wasm/simd')
    .replace(/\.js$/, '.wasm'),
)
