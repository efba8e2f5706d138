/* Arithmetic of stations that lives beside them: pasted lines, marking, rows of the log, steps in words. */
import { describe, expect, it } from 'vitest'
import { LAYERS, type LessonStep, madeAs, placePhrases, USUAL } from '@/core/routine'
import { howOfStep, minutesText, stepWords } from '../parts/step-words'
import { linesOf } from '../sheet/lines'
import { useCursor } from '../state/cursor'
import { readLines } from './cue/use-line'
import { repetitionRow } from './floor/rows'

describe('pasted lines', () => {
  it('go to phrases one after another, and to the layers they name', () => {
    expect(readLines('1 step\narms: 2 clap\n\nfeet: 1 touch\n1 hold\n', 'feet')).toEqual([
      { row: 0, layer: 'feet', text: '1 step' },
      { row: 0, layer: 'arms', text: '2 clap' },
      { row: 1, layer: 'feet', text: '1 touch' },
      { row: 2, layer: 'feet', text: '1 hold' },
    ])
    expect(readLines('\n\n Head : 1 look left', 'arms')).toEqual([
      { row: 0, layer: 'head', text: '1 look left' },
    ])
    expect(readLines('', 'feet')).toEqual([])
  })
})

describe('marking counts', () => {
  const at = () => useCursor.getState()
  it('reaches from anchor to cursor, both in it, whichever comes first; a sub-count with the rest of its unit', () => {
    at().to(24, 'feet')
    at().markFrom({ tick: 48, layer: 'arms' })
    expect(at().marked).toEqual({ from: 24, to: 72, layers: ['feet', 'arms'] })
    at().markFrom({ tick: 24, layer: 'feet' })
    at().to(36)
    expect(at().marked).toEqual({ from: 24, to: 48, layers: ['feet'] })
    at().to(32)
    expect(at().marked).toMatchObject({ from: 24, to: 40 })
  })
  it('said by name is of all layers, and stays when the cursor moves', () => {
    at().mark({ from: 180, to: 288 })
    at().to(0)
    expect(at().marked).toEqual({ from: 180, to: 288, layers: LAYERS })
    at().markFrom(null)
    expect(at().marked).toBeNull()
  })
})

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
      { times, placed, lines: linesOf(placed), tempo: 120, duration: 20, renumbered: false },
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
