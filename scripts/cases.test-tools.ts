import type { Parameters } from 'fast-check'
import { vi } from 'vitest'

/*
 * Which cases property tests try. A run of all tests tries the same ones each time, so that it says something of the change it was
 * run for. `npm run attack:cases` tries others each time, and that many times as many.
 */

/** Chosen by nothing: any other would do. */
const SEED = 20261202
const times = Number(process.env.AZALEA_CASES ?? 0)

vi.mock('fast-check', async (importOriginal) => {
  const real = await importOriginal<typeof import('fast-check')>()
  const settings = <T>(given: Parameters<T> = {}): Parameters<T> =>
    times > 0 ? { ...given, numRuns: Math.ceil((given.numRuns ?? 100) * times) } : { seed: SEED, ...given }
  const assert = ((property, given) => real.assert(property, settings(given as never))) as typeof real.assert
  return { ...real, assert, default: { ...real.default, assert } }
})
