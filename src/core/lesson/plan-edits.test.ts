import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  danced,
  emptyRoutine,
  type LessonPlan,
  type LessonStep,
  madeAs,
  type PlacedPhrase,
  placePhrases,
  setUsualBorder,
  stepKey,
  USUAL,
} from '../routine'
import { cuesOf, page } from '../routine/hand.test-tools'
import {
  addPlan,
  addStep,
  changePlan,
  changeStep,
  isOutdated,
  keepByHand,
  moveSteps,
  nudgeStep,
  type Reach,
  reachOfSteps,
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
    expect(order(takeOut(plan(), new Set(['b'])))).toBe('acde')
    expect(order(takeOut(plan(), new Set(['z'])))).toBe('abcde')
    const two = takeOut(plan(), new Set(['d', 'b', 'z']))
    expect([order(two), two.gone]).toEqual(['ace', [madeAs('b'), madeAs('d')]])
    const without = takeOut(plan(), new Set(['b']))
    expect(keepByHand(without, plan().steps).map(stepKey).join('')).toBe('acde')
    const own = addStep(plan(), 'b', () => 'new')
    expect(takeOut(own, new Set(['own new'])).gone).toEqual([])
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
    expect(changePlan(routine, 'plan', (p) => takeOut(p, new Set(['b']))).plans[0]?.gone).toEqual([
      madeAs('b'),
    ])
    expect(removePlan(routine, 'plan').plans).toEqual([])
    const full = { ...routine, plans: Array.from({ length: 50 }, (_, i) => ({ ...plan(), id: `p${i}` })) }
    expect(() => addPlan(full, plan())).toThrow('50 lesson plans already')
  })
})

describe('how far steps reach', () => {
  const placed = placePhrases(page(3))
  const two = [...'ab'].map((id, i) => ({ ...step(id), stretch: { from: i * 192, to: (i + 1) * 192 } }))
  const reached = (ids: string, reach: Reach, line = '8& hop R', of: PlacedPhrase[] = placed) =>
    reachOfSteps(
      { ...plan(), steps: two },
      new Set(ids),
      reach,
      of,
      danced(page(3, cuesOf([line]))),
    ).steps.map((s) => [s.stretch?.from, s.stretch?.to, s.own])
  it('is said of several at once: with what leads into them, as it is cued', () => {
    // The first has nothing before it.
    expect(reached('ab', 'pick-up')).toEqual([
      [0, 192, false],
      [180, 384, true],
    ])
    expect(reached('ab', 'pick-up', '8 hop R')).toEqual([
      [0, 192, false],
      [168, 384, true],
    ])
    expect(reached('ab', 'pick-up', '7& hop R; 8a step L')).toEqual([
      [0, 192, false],
      [186, 384, true],
    ])
  })
  it('is what the page says where it says something, and goes back to the counts', () => {
    const leaning = placePhrases(setUsualBorder(page(3), { lean: 36, resolve: 0 }).routine)
    expect(reached('b', 'pick-up', '8& hop R', leaning)).toEqual([
      [0, 192, false],
      [156, 384, true],
    ])
    const there = { ...plan(), steps: [{ ...step('a'), stretch: { from: 156, to: 348 } }] }
    expect(reachOfSteps(there, new Set('a'), 'as counted', leaning, []).steps[0]?.stretch).toEqual({
      from: 192,
      to: 384,
    })
  })
  it('goes to the 1 after, once, and not out of the song', () => {
    expect(reached('b', '1 after')).toEqual([
      [0, 192, false],
      [192, 408, true],
    ])
    const last = { ...plan(), steps: [{ ...step('a'), stretch: { from: 384, to: 576 } }] }
    expect(reachOfSteps(last, new Set('a'), '1 after', placed, [])).toBe(last)
  })
})
