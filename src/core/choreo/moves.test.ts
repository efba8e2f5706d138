import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { cuesOf } from '../routine/hand.test-tools'
import {
  bringUpToDate,
  type Move,
  MoveListSchema,
  moveBook,
  moveNamed,
  movesLike,
  namedMove,
  STARTING_MOVES,
  usesOf,
} from './moves'

const named = (...names: string[]) => names.map((name, i) => namedMove(`m${i}`, name))

describe('the move list', () => {
  it('begins with moves that can be kept, each name and id once', () => {
    expect(v.safeParse(MoveListSchema, STARTING_MOVES).success).toBe(true)
    expect(moveBook(STARTING_MOVES).size).toBe(STARTING_MOVES.length)
    expect(STARTING_MOVES.find((m) => m.name === 'freestyle')).toMatchObject({
      ...{ step: 'open', turn: null, side: 'none', level: null, call: '', grade: 'first' },
      ...{ needs: [], caution: null, note: '', mistakes: '' },
    })
  })
  it('refuses two moves of one id, and a move without a name', () => {
    const said = (list: unknown) => v.safeParse(MoveListSchema, list).issues?.map((i) => i.message)
    expect(said(named('a', 'b'))).toBeUndefined()
    expect(said([namedMove('m', 'a'), namedMove('m', 'b')])).toEqual(['Two moves share an id.'])
    expect(said(named('  '))).toEqual(['A move needs a name.'])
  })
})

describe('the move a text names', () => {
  const book = moveBook(named('Step  touch', 'step', 'walk'))
  it.each([
    ['step touch', 'Step  touch'],
    ['STEP touch left', 'Step  touch'],
    ['step back', 'step'],
    ['walk, 3 steps', 'walk'],
    ['walking', null],
    ['a step', null],
    ['', null],
  ])('“%s” is %s', (text, name) => {
    expect(moveNamed(text, book)?.name ?? null).toBe(name)
    // Looked up before, it is the same.
    expect(moveNamed(text, book)?.name ?? null).toBe(name)
  })
  it('is the later entry of one name', () => {
    expect(moveNamed('step', moveBook(named('step', 'step')))?.id).toBe('m1')
  })
  it('is offered while typing: names that begin so, then words in names, then any place; shorter ones first', () => {
    const list = named('pas de step', 'overstep', 'step wide', 'cross-step', 'step', 'kick')
    expect(movesLike('Step', list).map((m) => m.name)).toEqual([
      'step',
      'step wide',
      'cross-step',
      'pas de step',
      'overstep',
    ])
    expect(movesLike('step', list, 2)).toHaveLength(2)
    expect(movesLike('  ', list)).toEqual([])
    expect(movesLike('zz', list)).toEqual([])
  })
  it('is used by cues whose words are exactly its name', () => {
    const cues = cuesOf('1 step; 2 Step  ; 3 step back; 4 kick')
    expect(usesOf(cues, ' STEP').map((c) => c.at)).toEqual([0, 24])
  })
  it('goes to a cue as it stands in the list now; what the list does not say stays as it was said there', () => {
    const [cue] = cuesOf('1 twirl R')
    const [start] = STARTING_MOVES
    if (!cue || !start) throw new Error('there is neither cue nor move')
    const said = { ...cue, way: 'forward', metres: 1.5, step: 'step', level: 'low' } as const
    const bare: Move = {
      ...start,
      name: 'spin',
      call: 'round',
      step: null,
      turn: null,
      level: null,
      way: null,
      metres: null,
    }
    const mild = bringUpToDate(said, { ...bare, caution: null, mistakes: 'leans back' })
    expect(mild).toMatchObject({ move: 'spin', call: 'round', way: 'forward', metres: 1.5, side: cue.side })
    expect([mild.step, mild.turn, mild.level, mild.tip]).toEqual([undefined, undefined, undefined, undefined])
    const fast = bringUpToDate(said, {
      ...bare,
      ...{
        turn: { to: 'right', eighths: 8 },
        way: 'back',
        metres: 2,
        caution: 'turn',
        mistakes: 'leans back',
      },
    })
    expect(fast).toMatchObject({
      ...{ turn: { to: 'right', eighths: 8 }, way: 'back', metres: 2, caution: 'turn', tip: 'leans back' },
    })
    expect(
      bringUpToDate({ ...said, tip: 'head first' }, { ...bare, caution: 'turn', mistakes: 'x' }).tip,
    ).toBe('head first')
  })
})
