import { describe, expect, it } from 'vitest'
import { cuesOf, page } from '../hand.test-tools'
import { isNewer, readNewer } from './newer'
import { RoutineSchema } from './schema'
import { readRoutine } from './version-1'

const routine = page(4, cuesOf(['1 step R; 3 kick L', '5 clap']))

describe('a routine of a newer version', () => {
  it('is known by its version alone', () => {
    expect(isNewer({ ...routine, version: 4 })).toBe(true)
    for (const other of [
      routine,
      { ...routine, version: 1 },
      { ...routine, version: '3' },
      { ...routine, version: 3.5 },
      null,
      3,
    ])
      expect(isNewer(other)).toBe(false)
  })
  it('is read as far as this version understands it, what it added left out', () => {
    const written = {
      ...routine,
      version: 4,
      costumes: ['red'],
      cues: routine.cues.map((c) => ({ ...c, costume: 0 })),
    }
    expect(readNewer(written)).toEqual(readRoutine(routine).routine)
    // Which is why the document itself is never taken for one of ours.
    expect(RoutineSchema['~standard'].validate(written)).toHaveProperty('issues')
    expect(() => readRoutine(written)).toThrow()
  })
  it('is not read where it is too different', () => {
    expect(() => readNewer({ ...routine, version: 4, phrases: 'otherwise' })).toThrow()
  })
})
