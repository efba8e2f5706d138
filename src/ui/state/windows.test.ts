import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ACTS, type Act, FATES, liveThrough } from './windows.test-tools'

const act: fc.Arbitrary<Act> = fc.record({
  act: fc.constantFrom(...ACTS),
  window: fc.constantFrom(0 as const, 1 as const),
  fate: fc.oneof({ weight: 3, arbitrary: fc.constant('well' as const) }, fc.constantFrom(...FATES)),
})

const in1 = (act: Act['act'], fate: Act['fate'] = 'well'): Act => ({ act, window: 1, fate })

describe('two windows and a server that dies', () => {
  it('what was taken long ago and is sent once more binds nothing to its own revision again', async () => {
    const edits = Array<Act>(7).fill({ act: 'edit', window: 0, fate: 'well' })
    const kill: Act = { act: 'kill', window: 0, fate: 'well' }
    expect(await liveThrough([in1('edit'), in1('edit', 'late'), in1('close'), ...edits, kill])).toEqual([])
  })
  it('lose nothing that was done, and ask only where both sides have something of their own', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(act, { minLength: 4, maxLength: 40 }), async (acts) => {
        expect(await liveThrough(acts)).toEqual([])
      }),
      { numRuns: Number(process.env.AZALEA_HISTORIES ?? 300) },
    )
  })
})
