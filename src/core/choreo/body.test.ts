import { describe, expect, it } from 'vitest'
import { mirrorCue, mirrorFacing } from '../routine'
import { cuesOf } from '../routine/hand.test-tools'
import {
  type BodyState,
  facingName,
  followBody,
  joinNeeds,
  moveBook,
  START,
  STARTING_MOVES,
  toTheBack,
  turned,
  type Weight,
} from '.'

const book = moveBook(STARTING_MOVES)
const from = (weight: Weight, facing = 0): BodyState => ({ ...START, weight, facing })
const end = (line: string, weight: Weight = 'unknown', facing = 0) =>
  followBody(cuesOf(line), book, from(weight, facing)).end
const conflicts = (line: string, weight: Weight = 'unknown') =>
  followBody(cuesOf(line), book, from(weight)).conflicts

// Worked by hand: 0 front, 2 right, 4 back, 6 left; a right turn adds.
describe('a facing in words', () => {
  it('goes round by eighths, to the right', () => {
    expect(Array.from({ length: 9 }, (_, k) => facingName(k)).join(', ')).toBe(
      'front, front right, right, back right, back, back left, left, front left, front',
    )
  })
})

describe('turns', () => {
  const table: [number, 'left' | 'right', number, number][] = [
    [0, 'right', 6, 6],
    [0, 'left', 6, 2],
    [5, 'right', 8, 5],
    [5, 'left', 8, 5],
    [1, 'left', 1, 0],
    [0, 'right', 2, 2],
    [1, 'right', 2, 3],
    [2, 'right', 2, 4],
    [3, 'right', 2, 5],
    [4, 'right', 2, 6],
    [5, 'right', 2, 7],
    [6, 'right', 2, 0],
    [7, 'right', 2, 1],
    [0, 'left', 4, 4],
    [1, 'left', 4, 5],
    [2, 'left', 4, 6],
    [3, 'left', 4, 7],
    [4, 'left', 4, 0],
    [5, 'left', 4, 1],
    [6, 'left', 4, 2],
    [7, 'left', 4, 3],
    [0, 'left', 1, 7],
    [7, 'right', 1, 0],
    [2, 'left', 12, 6],
  ]
  it.each(table)('from %i, %s by %i eighths, to %i', (facing, to, eighths, arrives) => {
    expect(turned(facing, to, eighths)).toBe(arrives)
  })
  it.each(table)(
    'in the mirror, from %i %s by %i, it is the mirrored place of %i',
    (facing, to, eighths, arrives) => {
      const way = to === 'left' ? 'right' : 'left'
      expect(turned(mirrorFacing(facing), way, eighths)).toBe(mirrorFacing(arrives))
    },
  )
  it.each([
    ['1 pivot 1/2 left L', 4],
    ['1 pivot ½ right R', 4],
    ['1 turn 3/4 right', 6],
    ['1 turn 3/4 left', 2],
    ['1 turn 1/4 R', 2],
    ['1 full turn left', 0],
    ['1 turn quarter left; 3 turn quarter left', 4],
    ['1 three-quarter turn right', 6],
    ['1 turn', 'unknown'],
    ['1 turn right', 'unknown'],
    ['1 step R', 0],
  ])('%j ends facing %s', (line, facing) => {
    expect(end(line).facing).toBe(facing)
  })
})

describe('weight', () => {
  it.each<[string, Weight, Weight]>([
    ['1 step R', 'unknown', 'right'],
    ['1 step R; 2 touch L', 'unknown', 'right'],
    ['1 touch L', 'unknown', 'right'],
    ['1 step R; 2 hold', 'unknown', 'right'],
    ['1 step R; 2 freestyle', 'unknown', 'unknown'],
    ['1 step R; 2 wobble', 'unknown', 'unknown'],
    ['1 jump', 'right', 'both'],
    ['1 together', 'left', 'both'],
    ['1 together L', 'right', 'left'],
    ['1 hop R', 'right', 'right'],
    ['1 hop', 'right', 'right'],
    ['1 kick R', 'both', 'left'],
    ['1 ball-change R', 'left', 'left'],
    ['1 ball-change L', 'right', 'right'],
    ['1-2 chassé R', 'left', 'right'],
    ['1-2 chassé L', 'right', 'left'],
    ['1-4 grapevine R', 'left', 'right'],
    ['1-4 grapevine L', 'right', 'left'],
    ['1-2 pas de bourrée R', 'left', 'right'],
    ['1-2 step-touch R', 'left', 'right'],
    ['1 pivot ½ left L', 'right', 'left'],
    ['1 pivot ½ left', 'right', 'right'],
    ['1 walk R; 2 walk L; 3 walk R; 3& ball L; 4 step R', 'left', 'right'],
    ['1 step', 'left', 'unknown'],
  ])('%j from %s ends on %s', (line, begin, ends) => {
    expect(end(line, begin).weight).toBe(ends)
    expect(conflicts(line, begin)).toEqual([])
  })
  it.each<[string, Weight, number]>([
    ['1 step R; 2 step R', 'unknown', 1],
    ['1 step R; 2 touch R', 'unknown', 1],
    ['1 step R; 2 hold; 3 kick R', 'left', 1],
    ['1 ball-change R', 'right', 1],
    ['1-4 grapevine R; 5 step R', 'left', 1],
    ['1-4 grapevine R; 5 step L', 'left', 0],
    ['1 step R; 2 freestyle; 3 step R', 'left', 0],
    ['1 step R; 2 jump; 3 step R', 'left', 0],
    ['1 step R; 2 step', 'left', 0],
    ['1-2 chassé R; 3 step R', 'left', 1],
  ])('%j from %s has %i conflicts', (line, begin, n) => {
    expect(conflicts(line, begin)).toHaveLength(n)
    const mirrored = followBody(
      cuesOf(line).map(mirrorCue),
      book,
      from(begin === 'left' ? 'right' : begin === 'right' ? 'left' : begin),
    )
    expect(mirrored.conflicts).toHaveLength(n)
  })
  it('names the cue that brought the weight', () => {
    const [c] = conflicts('1 step R; 2 hold; 3 step R')
    expect([c?.before?.at, c?.cue.at, c?.foot]).toEqual([0, 48, 'right'])
  })
  it('is not told by arms, head or body', () => {
    const arms = cuesOf('1 step R; 2 step R', 'arms')
    expect(followBody(arms, book).conflicts).toEqual([])
  })
})

describe('joins', () => {
  it('say what must be done before a stretch is danced again', () => {
    expect(joinNeeds({ weight: 'right', facing: 4, level: 'unknown' }, { foot: 'right', facing: 0 })).toEqual(
      ['change the weight off the right foot', 'turn from back to front'],
    )
    expect(
      joinNeeds({ weight: 'left', facing: 'unknown', level: 'unknown' }, { foot: 'right', facing: 0 }),
    ).toEqual([])
  })
})

describe('danced to the back', () => {
  it('every wall is the one opposite, and twice it is the same', () => {
    for (let facing = 0; facing < 8; facing++) {
      const there = toTheBack({ facing })
      expect(Math.abs(there.facing - facing)).toBe(4)
      expect(toTheBack(there)).toEqual({ facing })
    }
    expect(toTheBack({ facing: 'unknown' as const, weight: 'left' })).toEqual({
      facing: 'unknown',
      weight: 'left',
    })
  })
})
