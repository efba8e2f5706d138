import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { findings, moveBook, STARTING_MOVES } from '../src/core/choreo'
import { placeFindings } from '../src/core/places'
import { danced, RoutineSchema } from '../src/core/routine'
import { demoRoutine } from './routine'
import { demoTruth } from './song'

describe('the demo routine', () => {
  const { beats } = demoTruth()
  const routine = v.parse(RoutineSchema, demoRoutine(beats))
  it('holds two findings to be found, and no more', () => {
    const found = findings(routine, beats, moveBook(STARTING_MOVES))
    expect(found.map((f) => [f.kind, f.mend !== null])).toEqual([
      ['caution', false],
      ['weight', true],
    ])
  })
  it('has four dancers in three formations, who fit, are seen and do not meet', () => {
    expect([routine.dancers.length, routine.formations.length]).toEqual([4, 3])
    expect(placeFindings(routine, moveBook(STARTING_MOVES)).map((f) => f.says)).toEqual([])
  })
  it('repeats whole eights, with a difference, and half of one to the other side', () => {
    const all = danced(routine)
    expect(all.filter((c) => c.link).length).toBeGreaterThan(20)
    expect(all.filter((c) => c.differs).map((c) => c.move)).toEqual(['snap'])
    expect(all.filter((c) => c.link && c.move === 'step-touch').map((c) => c.side)).toEqual(['left'])
  })
})
