/* Arithmetic of stations that lives beside them: pasted lines, marking, rows of the log, steps in words. */
import { describe, expect, it } from 'vitest'
import { type LessonStep, madeAs, placePhrases, USUAL } from '@/core/routine'
import { linesOf } from '@/core/station'
import { howOfStep, minutesText, stepWords } from '../parts/step-words'
import { repetitionRow } from './floor/rows'

describe('a row of the log', () => {
  it('keeps seconds of the song, without the run-up, under the name its counts have today', () => {
    const times = Array.from({ length: 32 }, (_, k) => 1 + k * 0.5)
    const placed = placePhrases({
      phrases: Array.from({ length: 4 }, () => ({ length: 8, feel: 'straight' as const, pickUp: false })),
      sections: [],
      usual: 8,
    })
    const row = repetitionRow(
      {
        id: 'a-1',
        corrects: null,
        doneAt: 5,
        plan: {
          kind: 'drill',
          stretch: { from: 180, to: 288 },
          speed: 0.75,
          sound: 'both',
          countIn: 4,
          countInEach: false,
          runUp: 4,
          toBack: true,
        },
        stretch: { from: 180, to: 288 },
        speed: 0.6,
        seconds: 3.75,
        mark: 'missed',
        looped: true,
        slips: [192],
      },
      { times, placed, lines: linesOf(placed), tempo: 120, tempi: [], duration: 20, renumbered: false },
    )
    expect(row).toMatchObject({
      from: 4.75,
      to: 7,
      label: 'Eight 1, 8& to eight 2, 4, to the back',
      slips: [5],
      speed: 0.6,
      pass: 'all',
    })
  })
})

const step = (what: Partial<LessonStep>): LessonStep => ({
  made: madeAs('x'),
  kind: 'drill',
  stretch: { from: 0, to: 192 },
  runUp: 0,
  pass: 'all',
  speed: 0.6,
  sound: 'both',
  view: USUAL.view,
  repetitions: 2,
  talk: 0,
  why: '',
  version: '',
  how: 'together' as const,
  calls: 'as set' as const,
  leadIn: 'clicks' as const,
  note: '',
  own: false,
  ...what,
})

describe('a step of a lesson', () => {
  it('is said in words', () => {
    expect(howOfStep(step({ pass: 'feet', sound: 'counts' }))).toBe('feet alone, 60 %, with counts, 2 times')
    expect(howOfStep(step({ runUp: 4, repetitions: 1, speed: 1 }))).toBe(
      'from 4 counts before, 100 %, with counts and the song, once',
    )
    expect(stepWords(step({ kind: 'rest', stretch: null, repetitions: 0 }), [])).toBe('Rest')
    expect(minutesText(95.4)).toBe('1:35')
  })
})
