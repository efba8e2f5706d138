/*
 * Sixty phrases as dancers write them, with the wall and the foot they end on. Each row names the practice it follows; all are common
 * practice, no published source.
 */
import { describe, expect, it } from 'vitest'
import { danced } from '../routine'
import { cuesOf, page } from '../routine/hand.test-tools'
import { findings, followBody, moveBook, START, STARTING_MOVES } from '.'

const book = moveBook(STARTING_MOVES)
const times = Array.from({ length: 17 }, (_, i) => i * 0.9)

type Ends = readonly [wall: string, weight: 'L' | 'R' | 'both' | '?']
const WALLS = ['front', 'front right', 'right', 'back right', 'back', 'back left', 'left', 'front left']
const ends = (line: string): Ends => {
  const { steps } = followBody(danced(page(1, cuesOf(line))), book, START)
  const { facing = 0, weight = 'unknown' } = steps.at(-1) ?? {}
  const foot = { left: 'L', right: 'R', both: 'both', unknown: '?' } as const
  return [facing === 'unknown' ? '?' : (WALLS[facing] as string), foot[weight]]
}

const TABLE: Record<string, readonly (readonly [string, ...Ends])[]> = {
  'a named turn goes once around': [
    ['1 pirouette R', 'front', '?'],
    ['1 pirouette L', 'front', '?'],
    ['1 fouetté R', 'front', '?'],
    ['1 fouette L', 'front', '?'],
    ['1-2 chaînés R', 'front', '?'],
    ['1-2 chaine turns L', 'front', '?'],
    ['1 piqué turn R', 'front', '?'],
    ['1-2 soutenu R', 'front', '?'],
    ['1-3 three-step turn R', 'front', '?'],
    ['1-4 rolling vine L', 'front', '?'],
    ['1 pencil turn L', 'front', '?'],
    ['1-4 corkscrew R', 'front', '?'],
    ['1 spiral turn L', 'front', '?'],
    ['1 spin R', 'front', '?'],
  ],
  'the number after it, or the word before it, is how often': [
    ['1 pirouette R 2', 'front', '?'],
    ['1-2 pirouette L x3', 'front', '?'],
    ['1 double pirouette R', 'front', '?'],
    ['1 triple spin L', 'front', '?'],
    ['1-2 one and a half turn R', 'back', '?'],
    ['1-2 two turns L', 'front', '?'],
    ['1-2 double chaîné L', 'front', '?'],
  ],
  'a détourné goes half around': [
    ['1-2 détourné L', 'back', '?'],
    ['1-2 detourne R', 'back', '?'],
  ],
  'a pivot of half a turn is the other wall, whichever way it goes': [
    ['1 step R; 3 pivot 1/2; 5 step R', 'back', 'R'],
    ['1 step L; 3 pivot ½; 5 step L', 'back', 'L'],
    ['1 step R; 3 pivot 1/2; 5 step L', 'back', 'L'],
    ['1 step; 2 pivot 1/2; 3 step', 'back', '?'],
    ['1 pivot ½; 2 pivot ½', 'front', '?'],
  ],
  'with its way it ends on the foot of that side': [
    ['1 step R; 2 pivot 1/2 L', 'back', 'L'],
    ['1 step L; 2 pivot 1/2 R', 'back', 'R'],
    ['1 step R; 2 pivot ½ L; 3 step R; 4 pivot ½ L', 'front', 'L'],
    ['1 step R; 2 pivot 1/4 L; 3 step R', 'left', 'R'],
    ['1 step L; 2 pivot ¼ R; 3 step L', 'right', 'L'],
  ],
  'a quarter without its way turns from the foot in front': [
    ['1 step R; 2 pivot 1/4', 'left', '?'],
    ['1 step L; 2 pivot ¼', 'right', '?'],
  ],
  'a fraction beside a step is how far it turns, to the side that is said': [
    ['1-2 sailor 1/4 L', 'left', '?'],
    ['1-4 jazz box 1/4 R', 'right', '?'],
    ['1-4 monterey 1/2 R', 'back', '?'],
    ['1 hitch 1/4 L', 'left', '?'],
    ['1-2 unwind 1/2 L', 'back', '?'],
    ['1-2 unwind full R', 'front', '?'],
    ['1-2 cross unwind ½ L', 'back', 'L'],
    ['1 step R; 2 walk 1/2 time L', 'front', 'L'],
  ],
  'a limb that turns is no turn of the dancer': [
    ['1 step R; 2 turn out L', 'front', 'R'],
    ['1 step R; 2 turn in the left leg', 'front', 'R'],
    ['1 step R; 2 leg turned in L', 'front', '?'],
    ['1 step R; 2 turnout L', 'front', '?'],
    ['1 step R; 2 turn out the left foot', 'front', 'R'],
    ['1 step R; 2 turn the knee in L', 'front', 'R'],
    ['1 step R; 2 hip turn L', 'front', '?'],
  ],
  'of kicks with one foot after the other each has come down': [
    ['1 kick R; 2 kick L', 'front', 'R'],
    ['1 step L; 2 kick R; 3 kick L; 4 kick R', 'front', 'L'],
    ['1 kick L; 2 kick R; 3 step R', 'front', 'R'],
    ['1 kick R; 1& kick L; 2 kick R; 2& step R', 'front', 'R'],
  ],
  'turns add up, and a written wall stands': [
    ['1 turn 1/4 left; 3 turn 1/4 left; 5 turn ½ left', 'front', '?'],
    ['1 turn ½ right; 3 pirouette R 2; 5 turn ¼ right', 'left', '?'],
    ['1 turn ⅛ right; 2 turn ⅛ right', 'right', '?'],
    ['1 half turn L; 2 half turn R', 'front', '?'],
    ['1 turn 90° left', 'left', '?'],
    ['1 quarter turn right; 5 three-quarter turn right', 'front', '?'],
  ],
}

describe.each(Object.entries(TABLE))('%s', (_, rows) => {
  it.each(rows)('%s', (line, wall, weight) => {
    expect(ends(line)).toEqual([wall, weight])
  })
  it('and nothing is found in it', () => {
    for (const [line] of rows) {
      const found = findings(page(1, cuesOf(line)), times, book)
      expect([
        line,
        found.filter((f) => f.kind === 'weight' || f.kind === 'facing' || f.kind === 'side'),
      ]).toEqual([line, []])
    }
  })
})

describe('what only sounds alike', () => {
  it('is found: the foot that carries the weight steps, or touches', () => {
    const kinds = (line: string) => findings(page(1, cuesOf(line)), times, book).map((f) => f.kind)
    expect(kinds('1 step R; 2 step R')).toContain('weight')
    expect(kinds('1 step R; 2 kick R')).toContain('weight')
    expect(kinds('1 kick R; 2 step L')).toContain('weight')
  })
  it('of arms is a way, not a side, but for the limb it names', () => {
    const sides = (move: string, side: 'left' | 'right', layer: 'arms' | 'feet' = 'arms') =>
      findings(page(1, [{ ...cuesOf('1 x', layer)[0], move, side } as never]), times, book).filter(
        (f) => f.kind === 'side',
      ).length
    expect(sides('reach right', 'left')).toBe(0)
    expect(sides('swing to the right', 'left')).toBe(0)
    expect(sides('right hand up', 'left')).toBe(1)
    expect(sides('step left', 'right', 'feet')).toBe(1)
  })
})
