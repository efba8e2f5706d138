/* Arithmetic of stations that lives beside them: pasted lines, stretches, the way through a lesson. */
import { describe, expect, it } from 'vitest'
import { type LessonStep, USUAL } from '@/core/routine'
import { stretchOf } from './cue/use-edits'
import { readLines } from './cue/use-line'
import { stepAfter } from './floor/use-lesson'
import { howOfStep, minutesText, stepWords } from './teach/step-words'

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

describe('a marked stretch', () => {
  it('reaches from anchor to cursor, both counts in it, whichever comes first', () => {
    const there = stretchOf({ tick: 48, layer: 'arms' }, 24, 'feet')
    expect(there).toEqual({ from: 24, to: 72, layers: ['feet', 'arms'] })
    expect(stretchOf({ tick: 24, layer: 'feet' }, 36, 'feet')).toEqual({ from: 24, to: 48, layers: ['feet'] })
  })
})

const step = (what: Partial<LessonStep>): LessonStep => ({
  id: 'x',
  kind: 'drill',
  first: 'a',
  last: 'a',
  runUp: 0,
  layer: 'all',
  speed: 0.6,
  sound: 'both',
  view: USUAL.view,
  repetitions: 2,
  talk: 0,
  why: '',
  own: false,
  ...what,
})

describe('the way through a lesson', () => {
  const steps = [
    step({ layer: 'feet' }),
    step({ speed: 0.6 }),
    step({ speed: 0.75 }),
    step({ speed: 1 }),
    step({ kind: 'join', speed: 1 }),
    step({ first: 'b', last: 'b', speed: 0.6 }),
  ]
  it('passes over rungs that sit already, and only over those of the same ladder', () => {
    expect(stepAfter(steps, 0, 1)).toBe(1)
    expect(stepAfter(steps, 1, 0)).toBe(2)
    expect(stepAfter(steps, 1, 0.75)).toBe(3)
    expect(stepAfter(steps, 1, 1)).toBe(4)
    expect(stepAfter(steps, 4, 1)).toBe(5)
    expect(stepAfter(steps, 5, 1)).toBe(6)
  })
  it('is said in words', () => {
    expect(howOfStep(step({ layer: 'feet', sound: 'counts' }))).toBe('feet alone, 60 %, with counts, 2 times')
    expect(howOfStep(step({ runUp: 4, repetitions: 1, speed: 1 }))).toBe(
      'from 4 counts before, 100 %, with counts and the song, once',
    )
    expect(stepWords(step({ kind: 'rest', first: '', last: '', repetitions: 0 }), [])).toBe('Rest')
    expect(minutesText(95.4)).toBe('1:35')
  })
})
