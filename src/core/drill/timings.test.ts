import { describe, expect, it } from 'vitest'
import { type LoggedTiming, lateness, timingCourses } from './timings'

const go = (id: string, doneAt: number, from: number | null, label: string): LoggedTiming => ({
  id,
  doneAt,
  from,
  to: from === null ? null : from + 4,
  label,
  speed: 1,
  by: 'tap',
  n: 8,
  mean: 0,
  spread: 0,
  worst: '',
  worstMs: 0,
})

describe('the course of timings', () => {
  it('goes by stretch, the last one tried first, under the name it has now', () => {
    const courses = timingCourses([
      go('c', 3, 10.02, 'Chorus, eight 1'),
      go('a', 1, 10, 'Eight 9'),
      go('b', 2, null, 'Eight 10'),
    ])
    expect(courses.map((c) => [c.label, c.goes.map((g) => g.id).join('')])).toEqual([
      ['Chorus, eight 1', 'ac'],
      ['Eight 10', 'b'],
    ])
    expect(timingCourses([])).toEqual([])
  })

  it('is told in words', () => {
    expect([-5.4, 0, 5.4, 5.6, -40.2].map(lateness)).toEqual([
      'on the beat',
      'on the beat',
      'on the beat',
      '6 ms late',
      '40 ms early',
    ])
  })
})
