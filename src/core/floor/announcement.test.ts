import { describe, expect, it } from 'vitest'
import { type LessonStep, madeAs, placePhrases, plainStep } from '../routine'
import { page } from '../routine/hand.test-tools'
import { announcementOf, GET_READY, isDue, secondsLeft, spokenStep } from './announcement'
import type { FloorLesson } from './lesson'

const step = (what: Partial<LessonStep> = {}) => plainStep({ made: madeAs('s'), kind: 'drill', ...what })
const placed = placePhrases(page(4))
const drill = step({ stretch: { from: 0, to: 192 }, repetitions: 2, speed: 0.75 })
const lesson: FloorLesson = {
  evening: 'e',
  name: 'Thursday',
  steps: [
    step({ kind: 'warm-up' }),
    drill,
    step({ kind: 'run', stretch: { from: 0, to: 768 }, repetitions: 1 }),
  ],
  planned: [300, 40, 60],
  countIn: 4,
}
const at = (index: number) => {
  const a = announcementOf(lesson, index)
  if (!a) throw new Error('nothing announced')
  return a
}

describe('a step that is announced', () => {
  it('says when it is planned, how long, and what comes then', () => {
    expect(at(1)).toMatchObject({ number: 2, of: 3, over: false, seconds: 40, before: 300, danced: true })
    expect([at(1).next?.kind, at(2).next]).toEqual(['run', null])
    expect(announcementOf({ ...lesson, steps: [] }, 0)).toBeNull()
  })
  it('stands for a moment where it is danced, else as long as it is planned', () => {
    expect([at(0).wait, at(1).wait]).toEqual([300, GET_READY])
    expect(announcementOf({ ...lesson, steps: [step({ repetitions: 2 })] }, 0)).toMatchObject({
      danced: false,
    })
    expect(announcementOf({ ...lesson, steps: [step({ stretch: { from: 0, to: 24 } })] }, 0)).toMatchObject({
      danced: false,
    })
  })
  it('begins by itself after that, where hands are free, and never once the lesson is over', () => {
    expect([isDue(at(1), GET_READY, true), isDue(at(1), GET_READY + 0.1, true)]).toEqual([false, true])
    expect(isDue(at(1), 99, false)).toBe(false)
    expect([at(3).over, at(3).step.kind, at(3).seconds, isDue(at(3), 99, true)]).toEqual([
      true,
      'run',
      0,
      false,
    ])
    expect([0, 7.2, 8, 20].map((s) => secondsLeft(at(1), s))).toEqual([8, 1, 0, 0])
  })
  it('is said in few words', () => {
    expect(spokenStep(drill, placed)).toBe('drill, Eight 1, 75 percent')
    expect(spokenStep(step({ ...drill, pass: 'feet' }), placed)).toBe(
      'drill, Eight 1, feet alone, 75 percent',
    )
    expect(spokenStep(step({ kind: 'rest' }), placed)).toBe('rest')
    const long = spokenStep(step({ ...drill, kind: 'checkpoint', stretch: { from: 12, to: 700 } }), placed)
    expect(long.length).toBeLessThanOrEqual(80)
  })
})
