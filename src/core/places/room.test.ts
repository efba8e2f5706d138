import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../choreo'
import { type Space, USUAL_SPACE } from '../routine'
import { cuesOf } from '../routine/hand.test-tools'
import { type Path, pathOf } from './path'
import { beginOf, boundsOf, driftsOf, fitsRoom, inPicture, leavings, roomNeeded } from './room'
import { awayText, spotText } from './words'

const book = moveBook(STARTING_MOVES)
const path = (lines: readonly string[] | string): Path => pathOf(cuesOf(lines), book, USUAL_SPACE)
/** Three steps to the right and two walks forward: 1.5 m and 1.2 m. */
const L = path('1 step side R; 2 together L; 3 step side R; 4 together L; 5 step side R; 6 walk L; 7 walk R')
const round = (n: number) => Math.round(n * 1000) / 1000 + 0

describe('how much room a path takes', () => {
  it('is its width and depth and what arms and legs need', () => {
    const b = boundsOf(L)
    expect([b.left, b.right, b.front, b.back].map(round)).toEqual([0, 1.5, -1.2, 0])
    const needed = roomNeeded(L)
    expect([needed.width, needed.depth].map(round)).toEqual([2.5, 2.2])
    // Half of the way to the right is left of the middle; all of the way forward and half a metre for the arms.
    expect([needed.begin.x, needed.begin.y].map(round)).toEqual([-0.75, 1.7])
    expect(spotText(needed.begin)).toBe('80 cm left of the middle, 1.7 m from the front')
  })
  it('is of a stretch from where it begins', () => {
    const b = boundsOf(L, { from: 96, to: 144 })
    expect([b.left, b.right, b.front, b.back].map(round)).toEqual([1, 1.5, -0.6, 0])
    expect(boundsOf(path('1 step R; 2 walk L')).uncertain).toBe(true)
  })
  it('begins in the middle of the room, or where somebody said', () => {
    const room = { width: 5, depth: 4 }
    const best = beginOf(L, { room, begin: null })
    expect([best.x, best.y].map(round)).toEqual([-0.75, 2.6])
    expect(beginOf(L, { room, begin: { x: 1, y: 2 } })).toEqual({ x: 1, y: 2 })
  })
})

describe('walls and picture', () => {
  it('are within reach or not', () => {
    const room = { width: 3, depth: 2 }
    expect(
      [
        [0, 1],
        [1, 0.5],
        [1.06, 1],
        [0, 0.4],
        [0, 1.5],
        [0, 1.56],
      ].map(([x = 0, y = 0]) => fitsRoom({ x, y }, room)),
    ).toEqual([true, true, false, false, true, false])
  })
  it('sees wider the further off one stands', () => {
    // 2 m before the edge, 3 m wide there: at 2 m behind the edge it is 6 m wide.
    const camera = { distance: 2, width: 3 }
    expect(inPicture({ x: 1, y: 0 }, camera)).toBe(true)
    expect(inPicture({ x: 1.1, y: 0 }, camera)).toBe(false)
    expect(inPicture({ x: 2.5, y: 2 }, camera)).toBe(true)
    expect(inPicture({ x: 2.6, y: 2 }, camera)).toBe(false)
    expect(inPicture({ x: 0, y: -1.6 }, camera)).toBe(false)
  })
  it('are left on the first count that leads out, of what is certain', () => {
    const space = { ...USUAL_SPACE, room: { width: 2.5, depth: 3 }, camera: { distance: 3, width: 1.5 } }
    const at = (p: Path, s: Space = space) => leavings(p, s).map((l) => [l.of, l.point.at])
    // It fits in the room begun where it fits best; in the picture it does not.
    expect(at(L)).toEqual([['picture', 120]])
    expect(at(L, { ...space, begin: { x: 0, y: 1.7 } })).toEqual([
      ['room', 48],
      ['picture', 48],
    ])
    expect(at(path('1 step R; 2-8 run forward L'))).toEqual([])
  })
})

describe('what is repeated', () => {
  const eight = '1 step side R; 2 together L; 3 step side R; 4 together L; 5 walk R; 6 walk back L'
  const lines = [eight, eight, eight, eight]
  const repeat = (i: number) => ({
    id: `${i}`,
    from: 0,
    to: { from: 192 * i, to: 192 * (i + 1) },
    mirrored: false,
  })
  const dance = { from: 0, to: 768 }
  it('drifts by the same each time', () => {
    const [drift, ...more] = driftsOf(path(lines), [1, 2, 3].map(repeat), dance)
    expect(more).toEqual([])
    expect([drift?.times, round(drift?.each.x ?? 0), round(drift?.whole.x ?? 0)]).toEqual([4, 1, 4])
    expect(awayText(drift?.whole ?? { x: 0, y: 0 })).toBe('4 m to the right')
  })
  it('does not where it comes back, goes elsewhere each time, or nobody knows', () => {
    const back = '1 step side R; 2 together L; 3 step side L; 4 together R'
    expect(driftsOf(path([back, back]), [repeat(1)], dance)).toEqual([])
    expect(
      driftsOf(path([`${eight}; 7 pivot ½ left`, `${eight}; 7 pivot ½ left`]), [repeat(1)], dance),
    ).toEqual([])
    expect(driftsOf(path([`8 step R`, eight, eight]), [{ ...repeat(2), from: 192 }], dance)).toEqual([])
    expect(driftsOf(path(lines), [1, 2, 3].map(repeat), { from: 0, to: 192 })).toEqual([])
  })
})

describe('in words', () => {
  it('says places as dancers do', () => {
    expect(awayText({ x: 0.02, y: -0.05 })).toBe('')
    expect(awayText({ x: -1.24, y: 0.42 })).toBe('1.2 m to the left, 40 cm back')
    expect(awayText({ x: 0, y: -2 })).toBe('2 m forward')
    expect([awayText({ x: 0.94, y: 0 }), awayText({ x: 0.95, y: 0 })]).toEqual([
      '90 cm to the right',
      '1 m to the right',
    ])
    expect(spotText({ x: 0, y: 0 })).toBe('in the middle, at the front')
    expect(spotText({ x: 2, y: 1.5 })).toBe('2 m right of the middle, 1.5 m from the front')
  })
})
