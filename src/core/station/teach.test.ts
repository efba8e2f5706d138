import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../choreo'
import { commit, type LessonPlan, type LessonStep, type Routine, stepKey, USUAL } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import {
  chosenSteps,
  nextName,
  oneChosen,
  passesHere,
  planShown,
  stepTeach,
  TEACH_AT_FIRST,
  type TeachEvent,
  type TeachSeen,
  type TeachState,
} from './teach'

const book = moveBook(STARTING_MOVES)
const dance = page(4, cuesOf(['1 step L; 3 kick R', '1 hop; 5 touch', '1 step R', '1 jump; 3 clap']))
const times = Array.from({ length: 33 }, (_, k) => 1 + k * 0.5)

class Station {
  routine: Routine
  state: TeachState = TEACH_AT_FIRST
  did: string[] = []
  marked: TeachSeen['marked'] = null
  refusing = false
  private readonly newId = ids('plan-number-')
  constructor(routine: Routine = dance) {
    this.routine = routine
  }
  get seen(): TeachSeen {
    const { routine, marked, newId } = this
    return { routine, times, book, rows: [], marked, now: 1234, newId }
  }
  send(event: TeachEvent): this {
    const { state, edit } = stepTeach(this.state, event, this.seen)
    this.state = state
    if (!edit || this.refusing) return this
    const done = commit(this.routine, edit.change)
    if (!done.done || done.routine === this.routine) return this
    this.routine = done.routine
    this.did.push(edit.did)
    return edit.shows ? this.send({ kind: 'choose plan', id: edit.shows.plan }) : this
  }
  get plan(): LessonPlan {
    const plan = planShown(this.state, this.routine.plans)
    if (!plan) throw new Error('no plan')
    return plan
  }
  get keys(): string[] {
    return this.plan.steps.map(stepKey)
  }
  choose(...places: number[]): this {
    const keys = new Set(places.map((i) => this.keys[i] as string))
    return this.send({ kind: 'choose steps', keys })
  }
}
const planned = () => new Station().send({ kind: 'first plan' })
const drillOf = (s: Station): number => s.plan.steps.findIndex((x) => x.kind === 'drill')

describe('plans', () => {
  it('begin with a first lesson, laid out from the dance and shown', () => {
    const s = planned()
    expect([s.did, s.plan.name, s.plan.settings, s.state.planId]).toEqual([
      ['a new lesson plan'],
      'First lesson',
      // Of somebody new: as long as a usual class.
      { ...USUAL, minutes: 25 },
      s.plan.id,
    ])
    expect(s.keys).toContain('run')
    // Where the edit is refused, another plan is not shown.
    const refused = new Station()
    refused.refusing = true
    expect(refused.send({ kind: 'first plan' }).state).toBe(TEACH_AT_FIRST)
  })
  it('are added like the one that is shown, for its class; taken away, the first is shown', () => {
    const s = planned()
      .send({ kind: 'class', group: ' Thursday ' })
      .send({ kind: 'heads', heads: 12 })
      .send({ kind: 'teach', what: { minutes: 30 } })
    const first = s.plan
    s.send({ kind: 'another plan' })
    expect(s.plan).toMatchObject({
      name: 'First lesson (another)',
      group: 'Thursday',
      heads: 12,
      goesOn: null,
    })
    expect(s.plan.settings.minutes).toBe(30)
    s.send({ kind: 'next lesson' })
    expect(s.plan).toMatchObject({ name: 'Thursday, lesson 2', group: 'Thursday', goesOn: 1234 })
    expect(s.routine.plans).toHaveLength(3)
    s.send({ kind: 'name plan', name: 'Renamed' }).send({ kind: 'take plan away' })
    expect([s.state.planId, s.plan]).toEqual([null, first])
    expect(s.did.slice(-2)).toEqual(['name the plan', 'take a plan away'])
    expect(s.send({ kind: 'choose plan', id: 'gone' }).plan).toBe(first)
  })
  it('have names no other has', () => {
    const named = (...names: string[]) => names.map((name) => ({ name })) as LessonPlan[]
    expect(nextName([], '')).toBe('Lesson 2')
    expect(nextName(named('Lesson 2', 'Lesson 3', 'Lesson 5'), '')).toBe('Lesson 4')
    expect(nextName(named('Thursday, lesson 2'), 'Thursday')).toBe('Thursday, lesson 3')
  })
  it('are nothing to change where there is none', () => {
    const s = new Station()
    for (const kind of ['lay anew', 'add step', 'another plan', 'next lesson', 'take plan away'] as const)
      expect([s.send({ kind }).did, s.send({ kind: 'nudge', by: 1 }).did]).toEqual([[], []])
  })
})

describe('how a lesson is taught', () => {
  it('is laid out anew with each change, and keeps what was done by hand', () => {
    const s = planned()
    const key = s.keys[drillOf(s)] as string
    s.send({ kind: 'change step', key, what: { repetitions: 9 } })
    const long = s.keys.length
    s.send({ kind: 'teach', what: { chunk: 'two counts', minutes: 240 } })
    expect(s.keys.length).toBeGreaterThan(long)
    expect(s.plan.steps.find((x) => stepKey(x) === key)).toMatchObject({ repetitions: 9, own: true })
    expect(s.did.slice(-2)).toEqual(['change a step', 'change how the lesson is taught'])
    s.send({ kind: 'forget by hand' })
    expect([s.plan.steps.some((x) => x.own), s.plan.gone, s.did.at(-1)]).toEqual([
      false,
      [],
      'forget changes by hand',
    ])
  })
  it('is taken from another way, but for the places of this dance', () => {
    const s = planned().choose(1)
    const here = s.plan.steps[1]?.stretch
    if (!here) throw new Error('no place')
    s.send({ kind: 'passes', order: ['arms', 'feet'] })
    expect([s.plan.settings.passes, s.did.at(-1)]).toEqual([
      [{ stretch: here, passes: ['arms', 'feet'] }],
      'the passes of a place',
    ])
    s.send({ kind: 'teach like', way: { ...USUAL, backward: true } })
    expect([s.plan.settings.backward, s.plan.settings.passes.length]).toEqual([true, 1])
    expect(passesHere(s.plan.settings, chosenSteps(s.choose(1).state, s.plan.steps))).toEqual(
      s.plan.steps[1]?.stretch?.from === here.from ? ['arms', 'feet'] : null,
    )
    expect(passesHere(s.plan.settings, [])).toBeNull()
    // Without a place there are no passes to order.
    const none = planned()
    expect(none.send({ kind: 'passes', order: null }).did).toHaveLength(1)
  })
  it('is laid out anew where the dance has changed', () => {
    const s = planned()
    s.routine = { ...s.routine, cues: s.routine.cues.filter((c) => c.at < 192) }
    const before = s.keys.length
    s.send({ kind: 'lay anew' })
    expect([s.keys.length < before, s.did.at(-1)]).toEqual([true, 'lay the lesson out anew'])
  })
})

describe('steps', () => {
  it('are chosen, one or several, and forgotten with another plan', () => {
    const s = planned().choose(1, 3)
    expect(chosenSteps(s.state, s.plan.steps).map(stepKey)).toEqual([s.keys[1], s.keys[3]])
    expect(oneChosen(s.state, s.plan.steps)).toBeNull()
    expect(oneChosen(s.choose(2).state, s.plan.steps)).toBe(s.keys[2])
    expect(oneChosen({ chosen: new Set() }, s.plan.steps)).toBeNull()
    s.send({ kind: 'choose steps', keys: 'all' })
    expect([...s.state.chosen]).toEqual(s.keys)
    s.send({ kind: 'choose plan', id: s.plan.id })
    expect(s.state.chosen.size).toBe(0)
    expect(new Station().send({ kind: 'choose steps', keys: 'all' }).state.chosen.size).toBe(0)
  })
  it('are changed together, moved, nudged where one alone is chosen, and taken out for good', () => {
    const s = planned()
    const [a, b, c] = s.keys as [string, string, string]
    s.choose(1, 2).send({ kind: 'change chosen', did: 'slower', what: { speed: 0.5 } })
    expect([s.plan.steps.slice(1, 3).map((x) => x.speed), s.did.at(-1)]).toEqual([[0.5, 0.5], 'slower'])
    const did = s.did.length
    expect(s.send({ kind: 'nudge', by: 1 }).did).toHaveLength(did)
    s.choose(1).send({ kind: 'nudge', by: 1 })
    expect(s.keys.slice(0, 3)).toEqual([a, c, b])
    s.send({ kind: 'nudge', by: -1 })
    expect(s.keys.slice(0, 3)).toEqual([a, b, c])
    s.send({ kind: 'move steps', keys: [a], target: c, after: true })
    expect(s.keys.slice(0, 3)).toEqual([b, c, a])
    s.send({ kind: 'take out', key: c })
    expect([s.keys.slice(0, 2), s.plan.gone]).toEqual([[b, a], [expect.objectContaining({ what: 'break' })]])
    // What undo calls them.
    expect(s.did.slice(did)).toEqual(['move a step', 'move a step', 'move a step', 'take a step out'])
    expect(s.send({ kind: 'lay anew' }).keys).not.toContain(c)
    // All that are chosen at once, under one name; nothing where none is.
    const before = s.keys.length
    s.choose(0, 1).send({ kind: 'take chosen out' })
    expect([s.keys.length, s.did.at(-1)]).toEqual([before - 2, 'take 2 steps out'])
    expect([s.keys.includes(b), s.keys.includes(a)]).toEqual([false, false])
    const [, ...left] = s.keys
    s.choose(0).send({ kind: 'take chosen out' })
    expect([s.keys, s.did.at(-1)]).toEqual([left, 'take a step out'])
    const done = s.did.length
    expect(s.send({ kind: 'take chosen out' }).did).toHaveLength(done)
  })
  it('are added after the last that is chosen, else at the end; what is marked as a drill of its own', () => {
    const s = planned().choose(1)
    s.send({ kind: 'add step' })
    expect([s.keys[2], s.did.at(-1)]).toEqual([expect.stringMatching(/^own /), 'add a step'])
    const did = s.did.length
    expect(s.send({ kind: 'add marked' }).did).toHaveLength(did)
    s.marked = { from: 24, to: 96 }
    s.send({ kind: 'choose steps', keys: new Set() }).send({ kind: 'add marked' })
    const last = s.plan.steps.at(-1) as LessonStep
    expect([last.stretch, last.own, s.did.at(-1)]).toEqual([{ from: 24, to: 96 }, true, 'add what is marked'])
    s.send({ kind: 'drill first', move: 'hop', stretch: { from: 0, to: 24 } })
    expect(s.plan.steps[1]).toMatchObject({ stretch: { from: 0, to: 24 }, own: true })
    expect(s.did.at(-1)).toBe('drill “hop” first')
  })
})
