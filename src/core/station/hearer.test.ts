import { describe, expect, it } from 'vitest'
import { type HearerFacts, hearerOf, maySayHearer } from './hearer'

const school: HearerFacts = { served: true, own: true, phone: false, wanted: null }

describe('who hears a song', () => {
  it.each([
    ['a desk does it itself', {}, 'device'],
    ['a phone asks the server', { phone: true }, 'server'],
    ['as said by hand, on a desk', { wanted: 'server' }, 'server'],
    ['as said by hand, on a phone', { phone: true, wanted: 'device' }, 'device'],
    [
      'nobody but the device on one’s own machine',
      { served: false, phone: true, wanted: 'server' },
      'device',
    ],
    ['nobody but the device of another’s song', { own: false, phone: true, wanted: 'server' }, 'device'],
  ] as const)('%s', (_, facts, hearer) => {
    expect(hearerOf({ ...school, ...facts })).toBe(hearer)
  })
  it('is chosen only where there is a choice', () => {
    expect([maySayHearer(school), maySayHearer({ served: false, own: true })]).toEqual([true, false])
    expect(maySayHearer({ served: true, own: false })).toBe(false)
  })
})
