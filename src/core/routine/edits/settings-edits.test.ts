import { describe, expect, it } from 'vitest'
import type { FindingAbout } from '../document/references'
import { emptyRoutine } from '../document/schema'
import { page } from '../hand.test-tools'
import { letStand, lookAgain, rename, setCalling, setExcerpt, setLeastGap, wholeSong } from './settings-edits'

const EIGHTS = page(4)
const at = (from: number, to: number) => ({ ...EIGHTS, excerpt: { from, to } })

describe('where the dance begins and ends', () => {
  it.each([
    ['start', 192, null, { from: 192, to: 768 }],
    ['end', 192, null, { from: 0, to: 192 }],
    ['start', 192, [96, 384], { from: 192, to: 384 }],
    ['end', 192, [96, 384], { from: 96, to: 192 }],
    ['start', 384, [96, 384], { from: 384, to: 768 }],
    ['start', 480, [96, 384], { from: 480, to: 768 }],
    ['end', 96, [96, 384], { from: 0, to: 96 }],
    ['end', 48, [96, 384], { from: 0, to: 48 }],
  ] as const)('%s at %i of %j', (edge, tick, now, excerpt) => {
    expect(setExcerpt(now ? at(now[0], now[1]) : EIGHTS, edge, tick).excerpt).toEqual(excerpt)
  })
  it('stays where nothing would be left of it, or nothing is counted', () => {
    const some = at(96, 384)
    expect(setExcerpt(some, 'end', 0)).toBe(some)
    expect(setExcerpt(some, 'start', 768)).toBe(some)
    const blank = emptyRoutine('x')
    expect(setExcerpt(blank, 'start', 24)).toBe(blank)
  })
  it('is the whole song again', () => {
    expect(wholeSong(at(96, 384)).excerpt).toBeNull()
    expect(wholeSong(EIGHTS)).toBe(EIGHTS)
  })
})

const about = (at: number): FindingAbout => ({ kind: 'weight', places: [{ at, length: 24, says: 'feet' }] })

describe('what is said of the whole routine', () => {
  it('is set; what changes nothing is no edit', () => {
    expect(rename(EIGHTS, '  New name ', ' by nobody')).toMatchObject({
      title: 'New name',
      credit: 'by nobody',
    })
    expect(setLeastGap(EIGHTS, 0.4)).toMatchObject({ leastGap: 0.4, leastGapSaid: true })
    // Said to be what is usual, it is said all the same; taken back, it is the program's again.
    expect(setLeastGap(EIGHTS, EIGHTS.leastGap).leastGapSaid).toBe(true)
    expect(setLeastGap(setLeastGap(EIGHTS, 0.4), null)).toEqual(EIGHTS)
    expect(setLeastGap(EIGHTS, null)).toBe(EIGHTS)
    expect(setCalling(EIGHTS, { calledAhead: true })).toEqual({ ...EIGHTS, calledAhead: true })
    expect(lookAgain(EIGHTS)).toBe(EIGHTS)
  })
  it('lets a finding stand once, with the last reason; of very many the oldest are asked about again', () => {
    const twice = letStand(letStand(letStand(EIGHTS, about(0), 'one'), about(24), 'two'), about(0), 'three')
    expect(twice.dismissed).toEqual([
      { about: about(24), reason: 'two' },
      { about: about(0), reason: 'three' },
    ])
    expect(lookAgain(twice).dismissed).toEqual([])
    const many = Array.from({ length: 2000 }, (_, i) => ({ about: about(i), reason: '' }))
    const next = letStand({ ...EIGHTS, dismissed: many }, about(-1), '').dismissed
    expect([next.length, next[0]?.about, next.at(-1)?.about]).toEqual([2000, about(1), about(-1)])
  })
})
