import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../choreo'
import { type Cue, mirrorCue, type Space, USUAL_SPACE } from '../routine'
import { cuesOf } from '../routine/hand.test-tools'
import { pathAt, pathOf, stepVector } from './path'

const book = moveBook(STARTING_MOVES)
const space = (what: Partial<Space> = {}): Space => ({ ...USUAL_SPACE, ...what })
const round = (n: number) => Math.round(n * 100) / 100 + 0

/** Where a line of feet leads: metres to the right and to the back; null where nobody knows. */
function led(line: string, what: Partial<Space> = {}): [number, number] | string {
  const { points, unknown } = pathOf(cuesOf(line), book, space(what))
  if (unknown) return unknown.why
  const last = points.at(-1)
  return [round(last?.x ?? 0), round(last?.y ?? 0)]
}

/** A diagonal step of a length goes so far along both. */
const D = (metres: number) => round(metres * Math.SQRT1_2)

/*
 * Words of dancers and of stages, on a count each unless they say more: what is written, metres to the right and to the back. Lengths
 * and habits are common practice, no published source; the sums are by hand.
 */
const PHRASES: readonly (readonly [string, [number, number] | string])[] = [
  ['1 step forward R', [0, -0.5]],
  ['1 step fwd L', [0, -0.5]],
  ['1 step back L', [0, 0.5]],
  ['1 step backwards R', [0, 0.5]],
  ['1 step side R', [0.5, 0]],
  ['1 step side L', [-0.5, 0]],
  ['1 step to the side L', [-0.5, 0]],
  ['1 sideways step R', [0.5, 0]],
  ['1 step right', [0.5, 0]],
  ['1 step to the left R', [-0.5, 0]],
  ['1 step forward right R', [D(0.5), -D(0.5)]],
  ['1 step diagonal forward L', 'way'],
  ['1 step diagonally back left L', [-D(0.5), D(0.5)]],
  ['1 step back right L', [D(0.5), D(0.5)]],
  ['1 step on the spot R', [0, 0]],
  ['1 step in place L', [0, 0]],
  ['1 step R', 'way'],
  ['1 walk R', [0, -0.6]],
  ['1 walk back L', [0, 0.6]],
  ['1 walk forward, big R', [0, -0.9]],
  ['1 small step forward R', [0, -0.25]],
  ['1 large step side L', [-0.75, 0]],
  ['1 tiny steps forward R', [0, -0.15]],
  ['1-4 walk forward', [0, -2.4]],
  ['1-8 walks R', [0, -4.8]],
  ['1-4 walk back', [0, 2.4]],
  ['1-4 walk 3 forward', [0, -1.8]],
  ['1-4 four walks to the right', [2.4, 0]],
  ['1 run forward R', [0, -1]],
  ['1-2 run', [0, -2]],
  ['1-4 jog on the spot', [0, 0]],
  ['1-4 march', [0, 0]],
  ['1-4 march forward 4', [0, -2]],
  ['1 stomp R', [0, 0]],
  ['1 stomp forward R', [0, -0.5]],
  ['1 slide R', [0.5, 0]],
  ['1 slide L, big', [-0.75, 0]],
  ['1 lunge back R', [0, 0.5]],
  ['1 lunge side L', [-0.5, 0]],
  ['1 cross behind L', [0.25, 0]],
  ['1 cross in front R', [-0.25, 0]],
  ['1 cross forward R', [0, -0.5]],
  ['1-2 chassé R', [1, 0]],
  ['1-2 chassé forward L', [0, -1]],
  ['1-4 grapevine R', [1.25, 0]],
  ['1-4 grapevine L', [-1.25, 0]],
  ['1-2 step-touch R', [0.5, 0]],
  ['1 jump', [0, 0]],
  ['1 jump forward', [0, -0.5]],
  ['1 jump back 1 m', [0, 1]],
  ['1 hop forward R', [0, -0.5]],
  ['1 leap forward L', [0, -1]],
  ['1 walk forward 1.5 m R', [0, -1.5]],
  ['1-4 walk forward 2 metres', [0, -2]],
  ['1 step side R 40 cm', [0.4, 0]],
  ['1 step half a metre back L', [0, 0.5]],
  ['1 kick forward R', [0, 0]],
  ['1 touch back L', [0, 0]],
  ['1 point side R', [0, 0]],
  ['1 together L', [0, 0]],
  ['1 ball-change R', [0, 0]],
  ['1 ball-change back R', [0, 0]],
  ['1 pivot ½ left', [0, 0]],
  ['1 full turn right', [0, 0]],
  ['1-4 three-step turn R', [2, 0]],
  ['1 step upstage R', [0, 0.5]],
  ['1 step downstage left L', [-D(0.5), -D(0.5)]],
  ['1 step stage right R', [0.5, 0]],
  ['1 walk towards the audience L', [0, -0.6]],
  ['1-8 run in a circle', 'way'],
  ['1-8 walk to own place', 'way'],
  ['1 step forward R, arms back', [0, -0.5]],
  ['1 step back L with the left hand forward', [0, 0.5]],
  ['1 step forward left foot', [0, -0.5]],
  ['1 hold', [0, 0]],
  ['1 clap', [0, 0]],
  ['1-4 freestyle', 'way'],
  ['1 frobnicate R', 'way'],
]

describe('the way words say', () => {
  it.each(PHRASES)('%s', (line, to) => expect(led(line)).toEqual(to))
  it('holds 60 phrases and more', () => expect(PHRASES.length).toBeGreaterThanOrEqual(60))
})

describe('the path of the steps', () => {
  it('goes from where the dancer faces: a box of walks and quarter turns comes back', () => {
    const side = '1-3 walk forward; 4 pivot ¼ right'
    const line = `${side}`
    const four = [0, 1, 2, 3].flatMap((i) =>
      cuesOf(line).map((c) => ({ ...c, id: `${c.id}-${i}`, at: c.at + 96 * i })),
    )
    const { points, unknown } = pathOf(four, book, space())
    expect(unknown).toBeNull()
    // 1.8 m forward, then to the right, back, and left.
    expect(
      [72, 168, 264, 360].map((t) => pathAt({ points, unknown }, t)).map((p) => [round(p.x), round(p.y)]),
    ).toEqual([
      [0, -1.8],
      [1.8, -1.8],
      [1.8, 0],
      [0, 0],
    ])
  })
  it('is told apart where a step says no way, and by what the routine says of plain steps', () => {
    expect(led('1 step R; 2 touch L; 3 step L', { plain: 'side' })).toEqual([0, 0])
    expect(led('1 step R; 2 step R', { plain: 'side' })).toEqual([1, 0])
    expect(led('1 step R; 2 step R', { plain: 'spot' })).toEqual([0, 0])
    expect(led('1 step', { plain: 'side' })).toBe('way')
    const { points, unknown } = pathOf(cuesOf('1 walk R; 2 step L; 3 walk R'), book, space())
    expect(unknown?.at).toBe(24)
    expect(points.map((p) => [p.at, p.uncertain, round(p.y)])).toEqual([
      [0, false, -0.6],
      [24, true, -0.6],
      [48, true, -1.2],
    ])
  })
  it('does not know where to after a turn that does not say how far', () => {
    expect(led('1 turn R; 2 walk L')).toBe('facing')
    // What is seen from the room goes on.
    expect(led('1 turn R; 2 step upstage L')).toEqual([0, 0.5])
  })
  it('goes by lengths of the routine, of the move list and of the cue, the nearest first', () => {
    expect(led('1 walk R', { walk: 0.8 })).toEqual([0, -0.8])
    const own = moveBook([
      ...STARTING_MOVES,
      {
        ...(STARTING_MOVES[0] as (typeof STARTING_MOVES)[0]),
        id: 'm',
        name: 'glissade',
        way: 'left',
        metres: 0.7,
      },
    ])
    const [cue] = cuesOf('1 glissade') as [Cue]
    const at = (c: Cue) => pathOf([c], own, space()).points.map((p) => [round(p.x), round(p.y)])
    expect(at(cue)).toEqual([[-0.7, 0]])
    expect(at(mirrorCue(cue))).toEqual([[0.7, 0]])
    expect(at({ ...cue, way: 'back', metres: 2 })).toEqual([[0, 2]])
    expect(at({ ...cue, way: 'on the spot' })).toEqual([])
    expect(at({ ...cue, metres: 0 })).toEqual([])
  })
  it('takes steps along with what travels: their way where they say none, its metres in all', () => {
    const travel = cuesOf('1-4 travel right 3 m', 'travel')
    const steps = cuesOf('1 step R; 2 step L; 3 step R; 4 step back L')
    const { points, unknown } = pathOf(
      [...steps, ...travel].sort((a, b) => a.at - b.at),
      book,
      space(),
    )
    expect(unknown).toBeNull()
    expect(points.map((p) => [p.at, round(p.x), round(p.y)])).toEqual([
      [0, 1, 0],
      [24, 2, 0],
      [48, 3, 0],
      [72, 3, 0.5],
    ])
    const alone = pathOf(cuesOf('1-4 forward R', 'travel'), book, space())
    expect(alone.points.map((p) => [p.at, round(p.y)])).toEqual([
      [0, -0.6],
      [24, -1.2],
      [48, -1.8],
      [72, -2.4],
    ])
  })
  it('goes on the way a cue began, whatever turns meanwhile', () => {
    const feet = cuesOf('1 step R; 2 pivot ½ left; 3 step back R; 4 step L')
    const travel = cuesOf('1-4 forward 3 m', 'travel')
    const { points } = pathOf(
      [...feet, ...travel].sort((a, b) => a.at - b.at),
      book,
      space(),
    )
    // Who faces the back wall and steps back comes to the front.
    expect(points.map((p) => round(p.y))).toEqual([-1.5, -2, -3.5])
  })
  it('mirrors with the dance', () => {
    const ways = PHRASES.filter(([, to]) => typeof to !== 'string').map(([line]) => line)
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...ways), { minLength: 1, maxLength: 8 }), (lines) => {
        const cues = lines.flatMap((l, i) => cuesOf(l).map((c) => ({ ...c, id: `${i}`, at: c.at + 192 * i })))
        const one = pathOf(cues, book, space())
        const other = pathOf(cues.map(mirrorCue), book, space())
        expect(other.unknown).toEqual(one.unknown && { ...one.unknown, cue: expect.anything() })
        for (const [i, p] of one.points.entries()) {
          expect(other.points[i]?.x).toBeCloseTo(-p.x, 9)
          expect(other.points[i]?.y).toBeCloseTo(p.y, 9)
        }
      }),
    )
  })
  it('knows its eight directions', () => {
    const all = Array.from({ length: 8 }, (_, e) => stepVector(e, 1)).map(({ x, y }) => [round(x), round(y)])
    expect(all).toEqual([
      [0, -1],
      [0.71, -0.71],
      [1, 0],
      [0.71, 0.71],
      [0, 1],
      [-0.71, 0.71],
      [-1, 0],
      [-0.71, -0.71],
    ])
  })
})
