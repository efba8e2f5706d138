import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyRoutine, type LessonPlan, type LessonStep, madeAs, stepKey, USUAL } from '../routine'
import {
  addPlan,
  addStep,
  changePlan,
  changeStep,
  isOutdated,
  keepByHand,
  moveSteps,
  nudgeStep,
  removePlan,
  takeOut,
} from '.'

const step = (id: string, kind: LessonStep['kind'] = 'drill'): LessonStep => ({
  made: madeAs(id),
  kind,
  stretch: { from: 0, to: 192 },
  runUp: 0,
  pass: 'all',
  speed: 0.75,
  sound: 'both',
  view: USUAL.view,
  repetitions: 2,
  talk: 0,
  why: 'because',
  version: '',
  how: 'together' as const,
  calls: 'as set' as const,
  leadIn: 'clicks' as const,
  note: '',
  own: false,
})
const plan = (ids = 'abcde'): LessonPlan => ({
  id: 'plan',
  name: 'Plan',
  settings: USUAL,
  steps: [...ids].map((id) => step(id)),
  group: '',
  goesOn: null,
  heads: null,
  gone: [],
})
const order = (p: LessonPlan) => p.steps.map(stepKey).join('')
const byHand = (p: LessonPlan) =>
  p.steps
    .filter((s) => s.own)
    .map(stepKey)
    .join('')

describe('a step of a plan', () => {
  it('goes before or after another, several together in their order, and is theirs by hand', () => {
    expect(order(moveSteps(plan(), ['d'], 'b', false))).toBe('adbce')
    expect(order(moveSteps(plan(), ['a'], 'c', true))).toBe('bcade')
    const two = moveSteps(plan(), ['e', 'b'], 'c', true)
    expect([order(two), byHand(two)]).toEqual(['acbed', 'be'])
  })
  it('stays where it is when nothing moves, or beside nothing', () => {
    const p = plan()
    expect(moveSteps(p, ['a'], 'gone', true)).toBe(p)
    expect(moveSteps(p, ['a'], 'a', false)).toBe(p)
    expect(moveSteps(p, [], 'b', false)).toBe(p)
  })
  it('goes one place earlier or later, and back; at the ends it stays', () => {
    expect(order(nudgeStep(plan(), 'c', -1))).toBe('acbde')
    expect(order(nudgeStep(nudgeStep(plan(), 'c', 1), 'c', -1))).toBe('abcde')
    const p = plan()
    expect(nudgeStep(p, 'a', -1)).toBe(p)
    expect(nudgeStep(p, 'e', 1)).toBe(p)
    expect(nudgeStep(p, null, 1)).toBe(p)
  })
  it('is never lost nor doubled by a move, wherever it is let go', () => {
    const some = fc.subarray(['a', 'b', 'c', 'd', 'e'])
    fc.assert(
      fc.property(
        some,
        fc.constantFrom('a', 'b', 'c', 'd', 'e', 'gone'),
        fc.boolean(),
        (ids, target, after) => {
          const next = moveSteps(plan(), ids, target, after)
          expect([...order(next)].sort().join('')).toBe('abcde')
          const rest = (p: LessonPlan) => [...order(p)].filter((id) => !ids.includes(id)).join('')
          expect(rest(next)).toBe(rest(plan()))
        },
      ),
    )
  })
  it('is copied after itself, or the first drill at the end', () => {
    const next = addStep(plan(), 'b', () => 'new')
    expect(next.steps.map(stepKey)).toEqual(['a', 'b', 'own new', 'c', 'd', 'e'])
    expect(next.steps[2]).toMatchObject({ own: true, why: '', speed: 0.75 })
    const talk = { ...plan(''), steps: [step('w', 'warm-up'), step('x'), step('r', 'rest')] }
    expect(addStep(talk, null, () => 'new').steps.at(-1)).toMatchObject({
      made: madeAs('own new'),
      kind: 'drill',
    })
    const empty = plan('')
    expect(addStep(empty, null, () => 'new')).toBe(empty)
  })
  it('is changed by hand; taken out it stays out when the plan is laid out anew, one of their own is just gone', () => {
    expect(changeStep(plan(), 'b', { repetitions: 5 }).steps[1]).toMatchObject({ repetitions: 5, own: true })
    expect(order(takeOut(plan(), 'b'))).toBe('acde')
    expect(order(takeOut(plan(), 'z'))).toBe('abcde')
    const without = takeOut(plan(), 'b')
    expect(keepByHand(without, plan().steps).map(stepKey).join('')).toBe('acde')
    const own = addStep(plan(), 'b', () => 'new')
    expect(takeOut(own, 'own new').gone).toEqual([])
  })
})

describe('a plan', () => {
  it('is outdated when laying it out would bring what it neither has nor left out', () => {
    const fresh = plan('abcdef').steps
    expect(isOutdated(plan(), plan().steps)).toBe(false)
    expect(isOutdated(plan(), fresh)).toBe(true)
    expect(isOutdated({ ...plan(), gone: [madeAs('f')] }, fresh)).toBe(false)
    expect(isOutdated(plan('abcdefg'), fresh)).toBe(false)
  })
  it('is added to a routine, changed in it, and taken away; the fifty-first is refused in words', () => {
    const routine = addPlan(emptyRoutine('x'), plan())
    expect(changePlan(routine, 'plan', (p) => p)).toBe(routine)
    expect(changePlan(routine, 'plan', (p) => takeOut(p, 'b')).plans[0]?.gone).toEqual([madeAs('b')])
    expect(removePlan(routine, 'plan').plans).toEqual([])
    const full = { ...routine, plans: Array.from({ length: 50 }, (_, i) => ({ ...plan(), id: `p${i}` })) }
    expect(() => addPlan(full, plan())).toThrow('50 lesson plans already')
  })
})
