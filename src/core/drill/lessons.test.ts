import { describe, expect, it } from 'vitest'
import { heldLessons, type LoggedStep, learned } from './lessons'

let n = 0
const row = (what: Partial<LoggedStep>): LoggedStep => ({
  id: `s${n++}`,
  doneAt: 1000,
  lesson: 'one',
  plan: 'Monday',
  kind: 'drill',
  label: 'A',
  eights: 1,
  repetitions: 2,
  planned: 20,
  seconds: 30,
  danced: 18,
  note: '',
  ...what,
})

describe('lessons that were held', () => {
  it('add up by evening, the latest first, with the notes written on them later', () => {
    const log = [
      row({ doneAt: 60_000 }),
      row({ doneAt: 100_000, planned: 40, seconds: 35 }),
      row({ lesson: 'two', plan: 'Tuesday', doneAt: 500_000 }),
      row({ kind: 'note', note: 'Floor was wet.', seconds: 0, planned: 0, doneAt: 900_000 }),
    ]
    const held = heldLessons(log)
    expect(held.map((h) => [h.plan, h.planned, h.seconds, h.steps.length, h.notes])).toEqual([
      ['Tuesday', 20, 30, 1, []],
      ['Monday', 60, 65, 2, ['Floor was wet.']],
    ])
    expect(held[1]?.at).toBe(30_000)
  })

  it('count a row once that is told twice: as it waits to be saved, and as it comes back saved', () => {
    const [drill, note] = [row({}), row({ kind: 'note', note: 'Slower next time.', seconds: 0, planned: 0 })]
    const [held] = heldLessons([drill, note, { ...note }, { ...drill }])
    expect(held).toMatchObject({ planned: 20, seconds: 30, notes: ['Slower next time.'] })
    expect(held?.steps).toHaveLength(1)
  })

  it('say how long talk and waiting take: the middle of what was held', () => {
    const talk = (seconds: number, eights = 1) => row({ kind: 'break down', seconds, danced: 0, eights })
    // 2, 3 and 9 minutes an eight; one passed over at a glance says nothing.
    const log = [talk(120), talk(360, 2), talk(540), talk(4)]
    expect(learned(log).talk).toEqual({ value: 3, from: 3 })
    // (30 - 18) / 2 = 6 s and (26 - 18) / 2 = 4 s between repetitions.
    expect(learned([row({}), row({ seconds: 26 })]).pause).toEqual({ value: 5, from: 2 })
  })

  it('say nothing from one step alone, nor from steps without dancing', () => {
    expect(learned([row({}), row({ danced: 0 })])).toEqual({ talk: null, pause: null })
  })
})
