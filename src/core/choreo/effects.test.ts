import { describe, expect, it } from 'vitest'
import type { Cue, StepEffect, Turn } from '../routine'
import { factsOf, isAction, stepOf, subSteps, turnOf } from './effects'
import { type MoveBook, moveBook, namedMove, STARTING_MOVES } from './moves'

const NOTHING: MoveBook = new Map()
const LIST = moveBook(STARTING_MOVES)
const cue = (what: Partial<Cue>): Cue => ({
  ...{ id: 'c', at: 0, length: 24, layer: 'feet', move: 'thing', side: 'none', call: '' },
  ...what,
})
/** "0 weight R, 12 weight L": where each step is, what it does, on which foot. */
const weight = (what: Partial<Cue>, book = NOTHING) =>
  subSteps(cue(what), book)
    .map((s) => [s.at, s.kind, s.foot === 'left' ? 'L' : s.foot === 'right' ? 'R' : ''].join(' ').trim())
    .join(', ')

describe('what a step does to the weight', () => {
  // Compound moves: common practice, no published source.
  it.each<[StepEffect, Partial<Cue>, string]>([
    ['hold', {}, ''],
    ['open', {}, '0 unknown'],
    ['step', { side: 'right' }, '0 weight R'],
    ['step', {}, '0 weight'],
    ['touch', { side: 'left' }, '0 free L'],
    ['tap', { side: 'left' }, '0 free L'],
    ['kick', { side: 'right' }, '0 free R'],
    ['together', { side: 'left' }, '0 weight L'],
    ['together', {}, '0 both'],
    ['jump', { side: 'left' }, '0 both'],
    ['hop', { side: 'left' }, '0 on L'],
    ['pivot', { side: 'left' }, ''],
    ['pivot', { side: 'left', move: 'pivot right' }, '0 on L'],
    ['turn', { side: 'right', turn: { to: 'left', eighths: 4 } }, '0 on R'],
    ['turn', { turn: { to: 'left', eighths: 4 } }, ''],
    ['ball-change', { side: 'right' }, '0 weight R, 12 weight L'],
    ['ball-change', { side: 'right', length: 12 }, '0 weight R, 6 weight L'],
    ['ball-change', { side: 'left', length: 1 }, '0 weight L, 1 weight R'],
    ['chassé', { side: 'left' }, '0 weight L, 12 weight R, 24 weight L'],
    ['pas de bourrée', { side: 'left', length: 48 }, '0 weight L, 12 weight R, 24 weight L'],
    ['pas de bourrée', { side: 'left', length: 72 }, '0 weight L, 24 weight R, 48 weight L'],
    ['grapevine', { side: 'right' }, '0 weight R, 24 weight L, 48 weight R, 72 free L'],
    ['step-touch', { side: 'left' }, '0 weight L, 12 free R'],
    ['step-touch', { side: 'left', length: 48 }, '0 weight L, 24 free R'],
  ])('%s %o', (step, what, told) => {
    expect(weight({ ...what, step })).toBe(told)
  })
  it('is what the cue says, else what the move list says of its name, else unknown; arms weigh nothing', () => {
    expect(stepOf(cue({ move: 'jump', step: 'kick' }), LIST)).toBe('kick')
    expect(weight({ move: 'hop', side: 'left' }, LIST)).toBe('0 on L')
    expect(weight({ move: 'wiggle' }, LIST)).toBe('0 unknown')
    expect(weight({ move: 'jump', layer: 'arms' }, LIST)).toBe('')
  })
  it('goes to the other foot when it is danced to the other side', () => {
    const mirrored = factsOf(cue({ step: 'step', side: 'left', mirrored: true }), NOTHING)
    expect(mirrored.subs).toEqual(factsOf(cue({ step: 'step', side: 'left' }), NOTHING).subs)
    expect(factsOf(cue({ step: 'touch', side: 'right' }), NOTHING).footed).toBe(true)
    expect(factsOf(cue({ layer: 'arms' }), NOTHING)).toMatchObject({ footed: false, subs: [] })
  })
})

describe('how far and which way a cue turns', () => {
  const left = (eighths: number): Turn => ({ to: 'left', eighths })
  const right = (eighths: number): Turn => ({ to: 'right', eighths })
  it.each<[string, Turn | 'unknown' | null]>([
    ['turn ½ left', left(4)],
    ['turn left 1/4', left(2)],
    ['half turn right', right(4)],
    ['quarter turn left', left(2)],
    ['three-quarter turn left', left(6)],
    ['an eighth turn right', right(1)],
    ['single turn left', left(8)],
    ['double turn left', left(16)],
    ['triple spin right', right(24)],
    ['1.5 turns right', right(12)],
    ['1,5 turns right', right(12)],
    ['1½ turns left', left(12)],
    ['1 1/2 turn left', left(12)],
    ['2 spins left', left(16)],
    ['2 x full turn right', right(16)],
    ['turn 90° right', right(2)],
    ['turn 180 deg left', left(4)],
    ['turn 100° left', 'unknown'],
    ['turn ⅜ left', left(3)],
    ['turn 1/3 left', 'unknown'],
    ['1  turn left', left(8)],
    ['12 eighths, 2.25 turns left', left(18)],
    ['2  x  full  turn left', left(16)],
    ['2xfull turn left', left(16)],
    ['1   ½ turns left', left(12)],
    ['1   3/4 turns right', right(14)],
    ['10 turns left', 'unknown'],
    ['in 2, ½ turn left', left(4)],
    ['full turn', right(8)],
    ['turning left', 'unknown'],
    ['turn', 'unknown'],
    ['half turn', 'unknown'],
    ['spinning', 'unknown'],
    ['return left', null],
    ['turntable', null],
    ['step left', null],
  ])('“%s”', (move, turn) => {
    expect(turnOf(cue({ move }), NOTHING)).toEqual(turn)
  })
  // Common practice, no published source.
  it.each([
    ...[
      'turn',
      'turn around',
      'turn away',
      'turn back',
      'turn to the wall',
      'turn in place',
      'turn in a circle',
    ],
    ...['turning', 'half turn', 'quarter turn', 'full turn', 'double turn', 'three-step turn', 'paddle turn'],
    ...[
      'pivot',
      'pivot half left',
      'pivot on the ball of the foot',
      'spin',
      'spins',
      'spinning',
      'spin on the heel',
    ],
    ...[
      'heel turn',
      'knee spin',
      'toe turn',
      'turn under the arm',
      'turn, arms up',
      'turn with the hands on the hips',
    ],
    ...['step turn step', 'jump turn', 'slow turn to the back', 'spin down to the floor', 'turn on the spot'],
    ...['turn and clap', 'look, then turn', 'turn left, head last', 'chase turn', 'spot turn R'],
  ])('“%s” turns the dancer', (move) => {
    expect(turnOf(cue({ move }), NOTHING)).not.toBeNull()
  })
  it.each([
    ...[
      'turn out',
      'turned out',
      'feet turned out',
      'turn-out',
      'turnout',
      'turn in',
      'knees turn in',
      'turned-in',
    ],
    ...[
      'turn up',
      'turn inward',
      'turn outwards',
      'turn down',
      'turn the palm up',
      'turn the palms',
      'turn your head',
    ],
    ...[
      'turn the head left',
      'turn both hands',
      'turn the right knee',
      'turn the face to the front',
      'turn her hand',
    ],
    ...[
      'turn the upper body',
      'turn the shoulders',
      'turn the hips',
      'turn the left foot out',
      'turning the wrists',
    ],
    ...[
      'spin the arm',
      'spin the arms',
      'spin your hat',
      'spin the cane',
      'spin the partner',
      'spin both hands',
    ],
    ...[
      'head turn',
      'head turns left',
      'wrist spin',
      'hip turn',
      'shoulder turn',
      'hand spins',
      'pivot the heels',
    ],
    ...[
      'roll to the right',
      'roll the shoulders',
      'return',
      'return to front',
      'turntable',
      'upturned palms',
      'overturn',
    ],
    ...[
      'step',
      'twist the heels',
      'circle the arms',
      'wind the arm',
      'swing around',
      'look back',
      'face the back',
    ],
  ])('“%s” does not', (move) => {
    expect(turnOf(cue({ move }), NOTHING)).toBeNull()
  })
  it('goes to the side of the cue where the words name none', () => {
    expect(turnOf(cue({ move: 'half turn', side: 'left' }), NOTHING)).toEqual(left(4))
    expect(turnOf(cue({ move: 'half turn', side: 'right' }), NOTHING)).toEqual(right(4))
    expect(turnOf(cue({ move: 'half turn', side: 'both' }), NOTHING)).toBe('unknown')
    expect(turnOf(cue({ move: 'full turn', side: 'left' }), NOTHING)).toEqual(left(8))
  })
  it('is what the cue says first, then what the move list says; a step set by hand asks the words', () => {
    const book = moveBook([{ ...namedMove('m', 'whirl'), step: 'turn', turn: left(6) }])
    expect(turnOf(cue({ move: 'half turn left', turn: right(2) }), book)).toEqual(right(2))
    expect(turnOf(cue({ move: 'whirl' }), book)).toEqual(left(6))
    expect(turnOf(cue({ move: 'whirl', step: 'step' }), book)).toBeNull()
    expect(turnOf(cue({ move: 'whirl', step: 'pivot' }), book)).toBe('unknown')
    expect(turnOf(cue({ move: 'swirl ½ left', step: 'turn' }), book)).toEqual(left(4))
  })
  it('is none for arms, but where the cue itself says so', () => {
    expect(turnOf(cue({ move: 'half turn left', layer: 'arms' }), NOTHING)).toBeNull()
    expect(turnOf(cue({ move: 'reach', layer: 'arms', turn: left(2) }), NOTHING)).toEqual(left(2))
  })
})

describe('an action', () => {
  it.each<[Partial<Cue>, boolean]>([
    [{ move: 'step' }, true],
    [{ move: 'hold' }, false],
    [{ move: ' Freeze there' }, false],
    [{ move: 'wait' }, false],
    [{ move: 'pause 2' }, false],
    [{ move: 'holding hands' }, true],
    [{ move: 'step', option: 'hold' }, false],
    [{ move: 'step', option: 'open' }, false],
    [{ move: 'step', step: 'open' }, false],
    [{ move: 'freestyle' }, false],
  ])('%o: %s', (what, is) => {
    expect(isAction(cue(what), LIST)).toBe(is)
  })
})
