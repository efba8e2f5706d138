import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../choreo'
import { layLesson, secondsOf } from '../lesson'
import { type LessonStep, madeAs, plainStep, USUAL } from '../routine'
import { cuesOf, page } from '../routine/hand.test-tools'
import { type FloorLesson, leaveOut, putBack, STILL, step } from '.'
import { lateBy } from './late'

const EIGHT = '1 step R; 2 touch L; 3 step L; 4 touch R; 5 step R; 6 touch L; 7 step L; 8 touch R'
const dance = page(4, [
  ...cuesOf([EIGHT, EIGHT, EIGHT, EIGHT]),
  ...cuesOf(Array(4).fill('1-4 reach R'), 'arms'),
])
const times = Array.from({ length: 33 }, (_, i) => i * 0.6)
const settings = { ...USUAL, minutes: 40 }
const { steps } = layLesson(dance, times, moveBook(STARTING_MOVES), settings, () => 0)
const lesson: FloorLesson = {
  ...{ evening: 'e', name: 'Monday', steps, countIn: 4 },
  planned: steps.map((s) => secondsOf(s, { routine: dance, times, settings })),
}
const rest = (l: FloorLesson, from: number) => l.planned.slice(from).reduce((a, b) => a + b, 0)
const explained = (l: FloorLesson) =>
  l.steps.flatMap((s) => (s.kind === 'break down' ? [s.stretch?.from] : []))

describe('a lesson that is late', () => {
  it('leaves out rungs between first, then what is taken apart, then what is taught last, with the run shortened', () => {
    const little = leaveOut(lesson, 4, 20)
    expect(little.gone.every((s) => s.kind === 'drill' && s.speed > 0.75 && s.speed < 1)).toBe(true)
    const more = leaveOut(lesson, 4, 240)
    expect(more.untaught).toEqual([])
    expect(new Set(more.gone.map((s) => s.pass))).toContain('feet')
    expect(explained(more.lesson)).toEqual(explained(lesson))
    const much = leaveOut(lesson, 4, 12 * 60)
    expect(much.untaught.at(0)).toEqual({ from: 576, to: 768 })
    expect(explained(much.lesson)).not.toContain(576)
    const run = much.lesson.steps.find((s) => s.kind === 'run')
    expect(run?.stretch?.to).toBe(much.untaught.at(-1)?.from)
    expect(much.lesson.steps.at(-1)?.kind).toBe('cool-down')
  })
  it('is shortened by as much as it is late, or a step more, and by all there is where that is not enough', () => {
    for (const late of [30, 120, 300, 600]) {
      const { seconds, lesson: shorter } = leaveOut(lesson, 4, late)
      expect(seconds).toBeGreaterThanOrEqual(late)
      expect(rest(lesson, 5) - rest(shorter, 5)).toBeCloseTo(seconds, 6)
    }
    const all = leaveOut(lesson, 4, 100_000)
    expect(all.seconds).toBeLessThan(100_000)
    expect(all.lesson.steps.slice(0, 5)).toEqual(lesson.steps.slice(0, 5))
    expect(all.lesson.steps.at(-1)?.kind).toBe('cool-down')
  })
  it('a run begins later where what is not taught lies at its beginning', () => {
    const made = (kind: LessonStep['kind'], what: string, from: number, to: number) =>
      plainStep({ made: madeAs(what, from), kind, stretch: { from, to }, talk: 60 })
    // The second half is taught first.
    const list = [
      made('break down', 'late', 192, 384),
      made('break down', 'early', 0, 192),
      made('checkpoint', 'kept', 192, 384),
      made('run', 'all', 0, 384),
      made('run', 'beside', 384, 576),
      made('run', 'over both ends', -24, 400),
    ]
    const backwards: FloorLesson = { ...lesson, steps: list, planned: [60, 60, 20, 20, 20, 20] }
    const shorter = leaveOut(backwards, 0, 90)
    expect(shorter.untaught).toEqual([{ from: 0, to: 192 }])
    expect(shorter.lesson.steps.filter((s) => s.kind === 'run').map((s) => s.stretch)).toEqual([
      { from: 192, to: 384 },
      { from: 384, to: 576 },
      { from: -24, to: 400 },
    ])
  })
  it('keeps what was done by hand, and comes back whole', () => {
    const own = { ...lesson, steps: lesson.steps.map((s) => ({ ...s, own: true })) }
    expect(leaveOut(own, 2, 600).gone).toEqual([])
    const twice = leaveOut(leaveOut(lesson, 4, 60).lesson, 6, 300).lesson
    const back = putBack(twice, 6)
    expect(back.lesson).toEqual(lesson)
    expect(lesson.steps[back.index]).toEqual(twice.steps[6])
    expect(putBack(lesson, 3)).toEqual({ lesson, index: 3 })
  })
})

describe('how late it is', () => {
  const talk = (what: string): LessonStep => plainStep({ made: madeAs(what), kind: 'rest', talk: 60 })
  const three: FloorLesson = { ...lesson, steps: ['a', 'b', 'c'].map(talk), planned: [60, 60, 60] }
  const entered = step(STILL, { kind: 'enter', lesson: three, now: 0 }).state
  const skip = (from: typeof entered, now: number) => step(from, { kind: 'skip', now }).state
  it('is counted from when the first step is left, however early the floor was opened', () => {
    expect(lateBy(entered, 500_000)).toBe(0)
    const on = skip(entered, 1_000_000)
    expect(lateBy(on, 1_000_000)).toBe(0)
    expect(lateBy(on, 1_060_000)).toBe(0)
    expect(lateBy(on, 1_150_000)).toBe(90)
    // Early, where the first one was short.
    expect(lateBy(skip(entered, 20_000), 20_000)).toBe(-40)
  })
  it('goes on over steps, is less by what is jumped over, and ends with the lesson', () => {
    const third = skip(skip(entered, 60_000), 240_000)
    expect(lateBy(third, 240_000)).toBe(120)
    const first = skip(entered, 60_000)
    expect(lateBy(step(first, { kind: 'jump', index: 2, now: 70_000 }).state, 70_000)).toBe(-50)
    expect(lateBy(skip(third, 300_000), 900_000)).toBe(0)
  })
  it('is made good on the floor, and taken back', () => {
    const on = step(STILL, { kind: 'enter', lesson, now: 0 }).state
    const short = step(on, { kind: 'leave out', seconds: 300, now: 0 }).state
    expect(short.said).toMatch(/^\d+ steps are left out: \d+ min$/)
    expect(short.lesson?.steps.length).toBeLessThan(lesson.steps.length)
    const late = skip(step(STILL, { kind: 'enter', lesson, now: 0 }).state, 0)
    const by = (now: number) => step(late, { kind: 'leave out', seconds: null, now }).state
    expect(by(1000).said).toBe('It is not late')
    expect(by(1_000_000).lesson?.steps.length).toBeLessThan(lesson.steps.length)
    const back = step(short, { kind: 'put back' }).state
    expect([back.lesson, back.going?.index]).toEqual([lesson, 0])
    expect(step(STILL, { kind: 'leave out', seconds: 300, now: 0 }).state).toEqual(STILL)
    const none = step(STILL, { kind: 'enter', lesson: { ...three, steps: [talk('x')] }, now: 0 }).state
    expect(step(none, { kind: 'leave out', seconds: 9, now: 0 }).state.said).toContain('nothing left')
  })
})
