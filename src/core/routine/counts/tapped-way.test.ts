import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  commit,
  emptyRoutine,
  everyEight,
  layOut,
  placePhrases,
  type Repair,
  repair,
  repairedBeats,
  tappedWay,
} from '..'
import { beatsOf } from './choices'

const heard = Array.from({ length: 64 }, (_, k) => 1 + k * 0.5)
const way = (factor: number, shift: number, one = -1) => ({
  bpm: 120 * factor,
  ...{ factor, shift, weight: 0.1, one, bar: 4 },
})
const others = [
  way(0.5, 0, 5),
  way(0.5, 0.5),
  way(1, 0.25),
  way(2, 0),
  way(1.5, 0.1),
  way(2 / 3, 0.3),
  way(4 / 3, 0.2),
  way(0.75, 0.6),
]
let n = 0
const newId = () => `t${n++}`
const routine = (...repairs: Repair[]) => {
  const blank = layOut(emptyRoutine('Test'), { counts: 64, starts: everyEight(0, 64), sections: [] }, newId)
  return repairs.reduce((r, x) => repair(r, heard, x, newId).routine, blank)
}

describe('a few taps', () => {
  it('mean the way whose beats they are on, one a beat, however early the hand; taken, they lie on its counts', () => {
    const some = fc.record({
      which: fc.nat(others.length - 1),
      first: fc.integer({ min: 2, max: 12 }),
      lead: fc.double({ min: -0.06, max: 0.03, noNaN: true }),
      loose: fc.array(fc.double({ min: -0.02, max: 0.02, noNaN: true }), { minLength: 2, maxLength: 8 }),
      mended: fc.boolean(),
    })
    fc.assert(
      fc.property(some, ({ which, first, lead, loose, mended }) => {
        const other = others[which] as (typeof others)[number]
        const beats = beatsOf(other, heard)
        // A quarter of a second a beat leaves a hand no room to be early.
        const early = lead * Math.min(1, 0.5 / other.factor / 0.5)
        const taps = loose.map(
          (x, i) => (beats[first + i] as number) + early + x * Math.min(1, 1 / other.factor),
        )
        const r = mended ? routine({ kind: 'shift', seconds: -0.1 }) : routine()
        const meant = tappedWay(taps, repairedBeats(heard, r.repairs), {
          beats: heard,
          tempi: others,
          bar: 4,
        })
        if (meant === null || meant === 'as counted') throw new Error(`${meant}`)
        const done = commit(r, (x) => meant.change(x, newId))
        if (!done.done) throw new Error(done.why)
        const now = repairedBeats(heard, done.routine.repairs)
        const near = (t: number) => Math.min(...now.map((b) => Math.abs(b - t)))
        for (const b of beats) expect(near(b)).toBeLessThan(1e-6)
        expect((now[9] as number) - (now[8] as number)).toBeCloseTo(0.5 / other.factor, 6)
      }),
      { numRuns: 200 },
    )
  })
  it('bring the 1 of their way along', () => {
    const meant = tappedWay([4, 5], heard, { beats: heard, tempi: others, bar: 4 })
    if (meant === null || meant === 'as counted') throw new Error(`${meant}`)
    expect(meant.name).toBe('Half as fast: 60 BPM')
    const done = commit(routine(), (x) => meant.change(x, newId))
    if (!done.done) throw new Error(done.why)
    const now = repairedBeats(heard, done.routine.repairs)
    expect(placePhrases(done.routine).map((p) => now[p.start / 24])).toContain(5)
  })
  it('mean octaves and the beat between, though the hearing had no such way', () => {
    const named = (...taps: number[]) => {
      const meant = tappedWay(taps, heard, { beats: heard, tempi: [], bar: 4 })
      return meant === null || meant === 'as counted' ? meant : meant.name
    }
    expect(named(3.5, 4.5, 5.5)).toBe('Half as fast: 60 BPM')
    expect(named(4, 5, 6)).toBe('Half as fast: 60 BPM')
    expect(named(4, 4.25, 4.5)).toBe('Twice as fast: 240 BPM')
    expect(named(4.24, 4.75, 5.25)).toBe('The beat lies between these')
  })
  it('on the counts there are change nothing, and after a repair can mean what was heard', () => {
    expect(tappedWay([3.02, 3.5, 4.01], heard, { beats: heard, tempi: others, bar: 4 })).toBe('as counted')
    // A way a thousandth of a second nearer is the same one.
    expect(tappedWay([3.03, 3.53], heard, { beats: heard, tempi: [way(1, 0.001)], bar: 4 })).toBe(
      'as counted',
    )
    const late = heard.map((t) => t + 0.2)
    expect(tappedWay([3.2, 3.7, 4.2], late, { beats: heard, tempi: [], bar: 4 })).toBe('as counted')
    expect(tappedWay([3, 3.5, 4], late, { beats: heard, tempi: [], bar: 4 })).toMatchObject({
      name: 'As it was heard',
    })
  })
  it('that are on no way, or too few, mean none', () => {
    expect(tappedWay([3], heard, { beats: heard, tempi: others, bar: 4 })).toBeNull()
    expect(tappedWay([3, 3.41, 3.82, 4.23], heard, { beats: heard, tempi: [], bar: 4 })).toBeNull()
    expect(tappedWay([3, 3.5, 4.4, 4.6], heard, { beats: heard, tempi: others, bar: 4 })).toBeNull()
    expect(tappedWay([3, 3.5], [], { beats: [], tempi: [], bar: 4 })).toBeNull()
  })
})
