import { describe, expect, it } from 'vitest'
import { drillHabits } from './habits'
import type { CountedRow, LoggedRepetition } from './log'

const MINUTE = 60_000
let n = 0
/** Repetitions of an eight at a speed, half a minute apart, from a minute of the evening on. */
const drilled = (eight: number, speed: number, marks: string, minute: number): CountedRow[] =>
  [...marks].map((m, i) => ({
    row: {
      ...{
        id: `r${n++}`,
        kind: 'drill',
        label: '',
        pass: 'all',
        speed,
        seconds: 8,
        looped: false,
        slips: [],
      },
      ...{ from: 0, to: 4, corrects: null, doneAt: minute * MINUTE + i * 30_000 },
      mark: { c: 'clean', s: 'shaky', m: 'missed', '-': 'unmarked' }[m],
    } as LoggedRepetition,
    stretch: { from: eight * 192, to: (eight + 1) * 192 },
    slips: [],
  }))

// Worked by hand.
describe('how often somebody drills', () => {
  it('is the middle of what it took until it was clean twice, and of the speeds of an evening', () => {
    const rows = [
      ...drilled(0, 0.6, 'mscc', 0),
      ...drilled(0, 0.8, 'cc', 5),
      ...drilled(0, 1, 'scc', 9),
      ...drilled(1, 0.6, 'sss', 20),
      ...drilled(1, 1, 'cccc', 25),
    ]
    // Slow: 4, 2, 3; at tempo: 3, and 2 of the 4, of which two came after; ladders: 3 and 2.
    expect(drillHabits(rows)).toEqual({
      slow: { value: 3, from: 3 },
      fast: { value: 3, from: 2 },
      rungs: { value: 3, from: 2 },
    })
  })
  it('is not known from one drill, a run, or what has no counts any more', () => {
    const one = drilled(0, 0.6, 'ccc', 0)
    expect(drillHabits(one)).toEqual({ slow: null, fast: null, rungs: null })
    const runs = [...one, ...drilled(1, 0.6, 'cc', 4)].map((r) => ({
      ...r,
      row: { ...r.row, kind: 'run' as const },
    }))
    expect(drillHabits(runs).slow).toBeNull()
    expect(
      drillHabits([...one, ...drilled(1, 0.6, 'cc', 4)].map((r) => ({ ...r, stretch: null }))).slow,
    ).toBeNull()
  })
  it('takes the same eight on another day for another ladder', () => {
    const day = 24 * 60
    const rows = [0, day].flatMap((m) => [...drilled(0, 0.7, 'cc', m), ...drilled(0, 1, 'c', m + 3)])
    expect(drillHabits(rows).rungs).toEqual({ value: 2, from: 2 })
    expect(drillHabits(rows).slow).toEqual({ value: 2, from: 2 })
  })
})
