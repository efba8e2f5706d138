import { describe, expect, it } from 'vitest'
import { type LessonStep, madeAs, plainStep } from '../routine'
import { isRun, planOf, rungsOf, sameLadder, stepAfter } from './lesson'

const step = (what: Partial<LessonStep> = {}): LessonStep =>
  plainStep({
    ...{ made: madeAs('s'), kind: 'drill', stretch: { from: 0, to: 192 }, speed: 0.6, repetitions: 2 },
    ...what,
  })

describe('a ladder', () => {
  it.each<[string, Partial<LessonStep>]>([
    ['another kind', { kind: 'join' }],
    ['arms alone', { pass: 'arms' }],
    ['another place', { stretch: { from: 0, to: 96 } }],
    ['no place', { stretch: null }],
  ])('is one stretch danced whole: %s is none of it', (_, what) => {
    expect(sameLadder(step(), step({ speed: 1 }))).toBe(true)
    expect(sameLadder(step(), step(what))).toBe(false)
    expect(sameLadder(step(what), step())).toBe(false)
    if (!what.stretch) expect(sameLadder(step(what), step(what))).toBe(false)
  })
  it('has each of its speeds once, the slowest first', () => {
    const steps = [
      step({ speed: 1 }),
      step(),
      step({ speed: 0.8, kind: 'join' }),
      step({ speed: 0.75 }),
      step(),
    ]
    expect(rungsOf(steps, step())).toEqual([0.6, 0.75, 1])
    expect(rungsOf(steps, step({ kind: 'show' }))).toEqual([])
  })
  it('is left for the first step above what sits', () => {
    const other = step({ stretch: { from: 192, to: 384 } })
    const steps = [step(), step({ speed: 0.75 }), step({ speed: 0.9 }), step({ speed: 1 }), other]
    expect(stepAfter(steps, 0, 0)).toBe(1)
    expect(stepAfter(steps, 0, 0.75)).toBe(2)
    expect(stepAfter(steps, 0, 0.89)).toBe(2)
    expect(stepAfter(steps, 0, 1)).toBe(4)
    expect(stepAfter(steps, 3, 0.6)).toBe(4)
    expect(stepAfter(steps, 4, 1)).toBe(5)
    expect(stepAfter([], 0, 1)).toBe(1)
  })
})

describe('what is danced in a step', () => {
  it('is nothing in talk and rest', () => {
    expect(planOf(step({ repetitions: 0 }), 4)).toBeNull()
    expect(planOf(step({ stretch: null }), 4)).toBeNull()
  })
  it('is a drill, or a run that waits for a mark', () => {
    expect(
      ['run', 'checkpoint', 'drill', 'show'].map((kind) => isRun(step({ kind: kind as 'run' }))),
    ).toEqual([...[true, true, false, false]])
    expect(planOf(step({ runUp: 4, pass: 'feet', sound: 'counts' }), 8)).toEqual({
      ...{ kind: 'drill', stretch: { from: 0, to: 192 }, speed: 0.6, sound: 'counts', countIn: 8 },
      ...{ countInEach: true, repetitions: 2, runUp: 4, pass: 'feet' },
    })
    expect(planOf(step({ kind: 'checkpoint' }), 4)?.kind).toBe('run')
  })
  it('takes the step’s calls, lead-in and way along, where they are not the usual ones', () => {
    const how = planOf(step({ calls: 'none', leadIn: 'song', how: 'to the back' }), 4)
    expect(how).toMatchObject({ calls: 'none', leadIn: 'song', toBack: true })
    expect(planOf(step({ how: 'walk' }), 4)).toMatchObject({ walked: true })
    for (const none of ['toBack', 'walked']) expect(Object.keys(planOf(step(), 4) ?? {})).not.toContain(none)
  })
})
