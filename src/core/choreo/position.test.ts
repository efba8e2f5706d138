import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Position, rebase, setPosition } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { followBody, START } from './body'
import { moveBook, STARTING_MOVES } from './moves'
import { stanceAt, stanceWords } from './position'

const BOOK = moveBook(STARTING_MOVES)
const FEET = '1 step R; 2 step L; 3 turn right 1/4; 5 kick R; 6 step R; 7 jump'
const feet = cuesOf(FEET)
const at = (count: number, positions: readonly Position[] = [], cues = feet) =>
  stanceAt(cues, positions, (count - 1) * 24, BOOK)
const words = (count: number, positions: readonly Position[] = [], cues = feet) =>
  stanceWords(at(count, positions, cues))

describe('how the dancer stands at a place', () => {
  it('is what the steps before it led to', () => {
    expect(words(2)).toBe('weight on the right foot, facing front')
    expect(words(4)).toBe('weight on the left foot, facing right')
    expect(words(8)).toBe('weight on both feet, facing right')
    // Which foot is free is said only where the weight is not known.
    expect([at(1).free, at(2).free]).toEqual(['right', null])
  })

  it('before the first step it is the foot that must be free', () => {
    expect(words(1)).toBe('right foot free, facing front')
    expect(stanceWords(stanceAt(cuesOf('1 clap', 'arms'), [], 0, BOOK))).toBe('facing front')
    expect(words(1, [], cuesOf('1 touch L'))).toBe('left foot free, facing front')
  })

  it('is what was written there, and goes on from that', () => {
    const written: Position[] = [{ at: 0, weight: 'left', facing: 4, level: 'low', arms: 'down' }]
    expect(words(1, written)).toBe('weight on the left foot, facing back, low, arms: down')
    expect(words(4, written)).toBe('weight on the left foot, facing left, low, arms: down')
    expect([...at(1, written).written].sort()).toEqual(['arms', 'facing', 'level', 'weight'])
    expect(at(2, written).written.size).toBe(0)
  })

  it('a position written after the last step holds until the next', () => {
    const written: Position[] = [{ at: 7 * 24, weight: 'right', facing: 0 }]
    expect(words(8, written)).toBe('weight on the right foot, facing front')
    expect(words(9, written)).toBe('weight on the right foot, facing front')
    expect(words(7, written)).toBe('weight on the right foot, facing right')
  })

  it('small steps that are not taken yet do not count', () => {
    expect(words(2, [], cuesOf('1-4 grapevine R'))).toBe('weight on the right foot, facing front')
    expect(words(3, [], cuesOf('1-4 grapevine R'))).toBe('weight on the left foot, facing front')
  })

  it('says where each arm was left', () => {
    const arms = (line: string, count = 9, positions: Position[] = []) =>
      stanceAt(cuesOf(line, 'arms'), positions, (count - 1) * 24, BOOK).arms
    expect(arms('1 reach R; 2 on the hip L')).toBe('reach R, on the hip L')
    expect(arms('1 reach R; 3 cross')).toBe('cross')
    expect(arms('1 open LR; 3 fist R')).toBe('open, fist R')
    expect(arms('1 reach R; 5 down R', 5)).toBe('reach R')
    expect(arms('1 reach R; 5 fist L', 9, [{ at: 48, arms: 'down' }])).toBe('fist L')
    expect(arms('1 reach R', 9, [{ at: 48, arms: 'down' }])).toBe('down')
  })

  it('does not say arms twice', () => {
    expect(words(1, [{ at: 0, arms: 'Arms low' }])).toBe('right foot free, facing front, Arms low')
    expect(words(1, [{ at: 0, arms: 'armsful' }])).toContain('arms: armsful')
  })

  it('levels are said as dancers do', () => {
    const low = feet.map((c) => (c.at === 0 ? { ...c, level: 'middle' as const } : c))
    expect(words(2, [], low)).toBe('weight on the right foot, facing front, upright')
    expect(stanceWords({ ...START, facing: 'unknown', free: null, arms: '', written: new Set() })).toBe(
      'not known',
    )
  })
})

describe('a written position', () => {
  it('is changed, and gone when nothing is left of it', () => {
    let r = setPosition(page(2, feet), 24, { weight: 'left', arms: 'up' })
    expect(r.positions).toEqual([{ at: 24, weight: 'left', arms: 'up' }])
    r = setPosition(r, 24, { weight: undefined })
    expect(r.positions).toEqual([{ at: 24, arms: 'up' }])
    expect(setPosition(r, 24, { arms: '' }).positions).toEqual([])
  })

  it('goes along when the counts do', () => {
    const r = setPosition(setPosition(page(2, feet), 48, { facing: 2 }), 49, { facing: 4 })
    const { routine } = rebase(r, (tick) => tick / 2, 8, ids('n'))
    expect(routine.positions).toEqual([
      { at: 24, facing: 2 },
      { at: 25, facing: 4 },
    ])
    const one = rebase(r, () => 0, 8, ids('n')).routine
    expect(one.positions).toEqual([{ at: 0, facing: 4 }])
  })

  it('makes the body what it says, whatever was danced before', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 8 }), fc.integer({ min: 0, max: 7 }), (count, facing) => {
        const written: Position[] = [{ at: count * 24, weight: 'left', facing }]
        const { steps } = followBody(feet, BOOK, START, written)
        const before = followBody(feet, BOOK).steps
        const early = (s: { at: number }) => s.at < count * 24
        expect(steps.filter(early)).toEqual(before.filter(early))
        expect(at(count + 1, written)).toMatchObject({ weight: 'left', facing })
      }),
    )
  })

  it('a step on the foot that was said to carry the weight is a conflict', () => {
    const { conflicts } = followBody(feet, BOOK, START, [{ at: 0, weight: 'right' }])
    expect(conflicts.map((c) => [c.kind, c.at, c.foot])).toEqual([['weight', 0, 'right']])
  })
})
