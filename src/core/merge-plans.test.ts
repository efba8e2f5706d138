/* Two at one lesson plan. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { start } from './edits.test-tools'
import { addStep, changePlan, changeStep, moveSteps, takeOut } from './lesson'
import {
  type LessonPlan,
  type LessonStep,
  madeAs,
  mergeRoutines,
  plainStep,
  type Routine,
  stepKey,
  USUAL,
} from './routine'

const plan: LessonPlan = {
  ...{ id: 'plan', name: 'Plan', settings: USUAL, group: '', goesOn: null, heads: null, gone: [] },
  steps: [...'abcdef'].map((id) => plainStep({ made: madeAs(id), kind: 'drill', repetitions: 2 })),
}
const BASE: Routine = { ...start(), plans: [plan] }
type Edit = (p: LessonPlan) => LessonPlan
const done = (...edits: readonly Edit[]) => edits.reduce((r, edit) => changePlan(r, 'plan', edit), BASE)

const more =
  (id: string, repetitions = 3): Edit =>
  (p) =>
    changeStep(p, id, { repetitions })
const out =
  (...ids: string[]): Edit =>
  (p) =>
    takeOut(p, new Set(ids))
const move =
  (id: string, after: string): Edit =>
  (p) =>
    moveSteps(p, [id], after, true)
const add =
  (after: string, id: string): Edit =>
  (p) =>
    addStep(p, after, () => id)

/** The plan as both have it, and whether anybody is asked. */
function both(mine: readonly Edit[], theirs: readonly Edit[]) {
  const merged = mergeRoutines(BASE, done(...mine), done(...theirs))
  if (!merged.done) throw new Error(merged.why)
  const [made] = merged.routine.plans as [LessonPlan]
  const times = new Map(made.steps.map((s) => [stepKey(s), s.repetitions]))
  return { made, asks: merged.clashes.length > 0, order: made.steps.map(stepKey).join(' '), times }
}

describe('two at one lesson plan', () => {
  it('are not asked where each did something to other steps: all of it is done', () => {
    const { made, asks, order, times } = both([more('b'), out('e'), add('a', 'x')], [more('d', 5), out('f')])
    expect([asks, order]).toEqual([false, 'a own x b c d'])
    expect([times.get('b'), times.get('d')]).toEqual([3, 5])
    expect(made.gone.map(({ what }) => what).sort()).toEqual(['e', 'f'])
  })

  it('have the order of who moved steps, with what the other added where it was added', () => {
    const moved = both([move('a', 'e')], [more('b'), add('c', 'x')])
    expect([moved.asks, moved.order]).toEqual([false, 'b c own x d e a f'])
    expect(both([more('b'), add('c', 'x')], [move('a', 'e')]).order).toBe(moved.order)
    expect(both([move('a', 'e')], [move('a', 'e')]).asks).toBe(false)
  })

  it('are asked where both changed, moved or took out the same, each otherwise', () => {
    expect(both([more('b', 3)], [more('b', 4)]).asks).toBe(true)
    expect(both([more('b', 3)], [more('b', 3), more('c')]).asks).toBe(false)
    expect(both([out('b')], [more('b')]).asks).toBe(true)
    expect(both([move('a', 'e')], [move('f', 'b')]).asks).toBe(true)
    const named = (name: string) => (p: LessonPlan) => ({ ...p, name })
    expect(both([named('One')], [named('Other')]).asks).toBe(true)
  })

  it('are asked where one laid the steps out anew by other settings, not where the other only named it', () => {
    const anew: Edit = (p) => ({ ...p, settings: { ...p.settings, minutes: 20 }, steps: p.steps.slice(0, 2) })
    expect(both([anew], [more('b')]).asks).toBe(true)
    const name: Edit = (p) => ({ ...p, name: 'Other', group: 'Monday', heads: 12, goesOn: 5 })
    for (const { asks, made, order } of [both([anew], [name]), both([name], [anew])]) {
      expect([asks, order, made.settings.minutes]).toEqual([false, 'a b', 20])
      expect(made).toMatchObject({ name: 'Other', group: 'Monday', heads: 12, goesOn: 5 })
    }
  })

  it('are asked where a plan has one step twice: nothing of it is lost', () => {
    const twice = { ...plan, steps: [...plan.steps, plan.steps[0] as LessonStep] }
    const base = { ...BASE, plans: [twice] }
    const side = (edit: Edit) => ({ ...base, plans: [edit(twice)] })
    const merged = mergeRoutines(base, side(more('b')), side(more('c')))
    expect(merged.done && [merged.clashes.length, merged.routine.plans[0]?.steps.length]).toEqual([1, 7])
  })

  it('come to the same plan whoever comes first, with every step that somebody changed or added', () => {
    const ids = fc.constantFrom(...'abcdef')
    const edit = fc.oneof(
      fc.record({ of: fc.constant('more'), id: ids, n: fc.integer({ min: 3, max: 9 }) }),
      fc.record({ of: fc.constant('out'), id: ids, n: fc.constant(0) }),
      fc.record({ of: fc.constant('add'), id: ids, n: fc.integer({ min: 0, max: 99 }) }),
      fc.record({ of: fc.constant('move'), id: ids, n: fc.nat(5) }),
    )
    const editOf = (who: string) => (e: { of: string; id: string; n: number }, i: number) => {
      if (e.of === 'more') return more(e.id, e.n)
      if (e.of === 'out') return out(e.id)
      return e.of === 'add' ? add(e.id, `${e.n} ${who} ${i}`) : move(e.id, 'abcdef'[e.n] as string)
    }
    const some = fc.array(edit, { minLength: 1, maxLength: 5 })
    let agreed = 0
    fc.assert(
      fc.property(some, some, (a, b) => {
        const [mine, theirs] = [a.map(editOf('mine')), b.map(editOf('theirs'))]
        const [one, other] = [both(mine, theirs), both(theirs, mine)]
        expect(one.asks).toBe(other.asks)
        if (one.asks) return
        agreed++
        expect(one.made.steps).toEqual(other.made.steps)
        expect(one.times.size).toBe(one.made.steps.length)
        for (const side of [done(...mine), done(...theirs)])
          for (const step of side.plans[0]?.steps ?? []) {
            const was = plan.steps.find((s) => stepKey(s) === stepKey(step))
            if (JSON.stringify(was) !== JSON.stringify(step)) expect(one.made.steps).toContainEqual(step)
          }
      }),
      { numRuns: 300, seed: 26 },
    )
    expect(agreed).toBeGreaterThan(50)
  })
})
