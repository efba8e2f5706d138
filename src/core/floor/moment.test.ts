import { describe, expect, it } from 'vitest'
import type { DrillTimeline } from '../drill'
import { BEFORE_SOUND, laterMoment, momentOf, QUARTER, sameMoment } from './moment'

const event = (time: number, call: string) => ({ time, call }) as DrillTimeline['countIn'][number]
const timeline = {
  ...{
    from: 96,
    to: 288,
    speed: 0.75,
    lead: 2,
    body: 4,
    count: 0.5,
    counts: [],
    said: [],
    songStart: 0,
    songEnd: 4,
  },
  countIn: [event(-2, '5'), event(-1.5, '6'), event(-1, '7'), event(-0.5, '8')],
} as DrillTimeline
const leg = (countedIn: boolean, k = 2) => ({ timeline, countedIn, k })

describe('a moment of the floor', () => {
  it('is the quarter of a count that sounds', () => {
    for (const at of [96, 97.5, 101.99])
      expect(momentOf({ leg: leg(true), into: 0.1 }, at)).toEqual({
        ...{ tick: 96, repetition: 2, countIn: '', speed: 0.75 },
      })
    expect(momentOf({ leg: leg(true), into: 1 }, 102).tick).toBe(96 + QUARTER)
    expect(momentOf({ leg: leg(true), into: 0 }, 96).tick).toBe(96)
  })

  it('stays inside what is danced at its very end', () => {
    expect(momentOf({ leg: leg(false), into: 4 }, 288).tick).toBe(287)
    expect(momentOf({ leg: leg(false), into: 4 }, 300).tick).toBe(287)
  })

  it('is the count called last, before the first', () => {
    const called = (into: number) => momentOf({ leg: leg(true), into }, 90)
    expect(called(-2.2)).toEqual({ tick: null, repetition: 2, countIn: '', speed: 0.75 })
    expect(called(-2).countIn).toBe('5')
    // A moment early already: what is looked at comes late.
    expect(called(-1.504).countIn).toBe('6')
    expect(called(-1.506).countIn).toBe('5')
    expect(called(-0.01)).toMatchObject({ tick: null, countIn: '8' })
    expect(momentOf({ leg: leg(false), into: -1 }, 90).countIn).toBe('')
  })

  it('is another where anything of it is', () => {
    const one = { tick: 96, repetition: 1, countIn: '', speed: 0.75 }
    expect(sameMoment(one, { ...one })).toBe(true)
    for (const other of [{ tick: null }, { repetition: 2 }, { countIn: '5' }, { speed: 1 }])
      expect(sameMoment(one, { ...one, ...other })).toBe(false)
    expect(BEFORE_SOUND.tick).toBeNull()
  })
})

describe('of two moments the later is shown', () => {
  const one = { tick: 108, repetition: 1, countIn: '', speed: 0.75 }
  it('where a clock steps back a little, and nowhere else', () => {
    expect(laterMoment(one, { ...one, tick: 102 })).toBe(one)
    expect(laterMoment(one, { ...one })).toBe(one)
    const others = [{ tick: 114 }, { tick: 48 }, { repetition: 2, tick: 96 }, { tick: null, countIn: '7' }]
    for (const what of others) expect(laterMoment(one, { ...one, ...what })).toEqual({ ...one, ...what })
  })
  it('and nothing before what is danced', () => {
    expect(momentOf({ leg: leg(true), into: 0 }, 95.9).tick).toBe(96)
  })
})
