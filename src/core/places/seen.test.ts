import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { setSpace } from '../routine'
import { placeFindings } from './findings'
import { book, done, place, spots, stage, standing } from './places.test-tools'
import { AUDIENCE, countsInFront, hiddenFrom } from './seen'

describe('who is seen', () => {
  const row = spots({ a: [0, 1], b: [0, 2], c: [1, 2], d: [0.4, 3] })
  it('is not who stands within a head of the line of sight', () => {
    expect(hiddenFrom(AUDIENCE, row)).toEqual([{ dancer: 'b', by: 'a' }])
    // From 2 m right of the middle nobody hides anybody.
    expect(hiddenFrom({ x: 2, y: -5 }, row.slice(0, 2))).toEqual([])
  })
  it('goes by how far aside they stand, however far off, and not by who is behind the eye', () => {
    // 0.2 m aside of a line 9 m long, and 0.3 m.
    const seenPast = (x: number) =>
      hiddenFrom(AUDIENCE, spots({ near: [x * (6 / 9), 1], far: [0, 4] })).length
    expect([seenPast(0.2 * 1.5), seenPast(0.3 * 1.5)]).toEqual([1, 0])
    expect(hiddenFrom({ x: 0, y: 0 }, spots({ behind: [0, -1], ahead: [0, 2] }))).toEqual([])
  })
  it('is the same as looked at each two, wherever they stand around the eye', () => {
    // 97ths of a metre: no distance lies just on a bound.
    const metres = fc.integer({ min: -776, max: 776 }).map((n) => n / 97)
    fc.assert(
      fc.property(
        fc.record({ x: metres, y: metres }),
        fc.array(fc.tuple(metres, metres), { maxLength: 25 }),
        (eye, places) => {
          const all = spots(Object.fromEntries(places.map((at, i) => [`d${i}`, at])))
          const off = (s: { x: number; y: number }) => Math.hypot(s.x - eye.x, s.y - eye.y)
          const hides = (near: (typeof all)[number], far: (typeof all)[number]) => {
            const [nx, ny, fx, fy] = [near.x - eye.x, near.y - eye.y, far.x - eye.x, far.y - eye.y]
            // How far beside the line of sight, in metres.
            const beside = Math.abs(nx * fy - ny * fx) / off(far)
            return off(near) < off(far) - 0.01 && beside < 0.25 && nx * fx + ny * fy > 0
          }
          const found = new Map(
            hiddenFrom(eye, all).map((h) => [h.dancer, all.find((s) => s.dancer === h.by)]),
          )
          for (const far of all) {
            const [first] = all.filter((near) => hides(near, far)).sort((a, b) => off(a) - off(b))
            const by = found.get(far.dancer)
            expect(by && off(by)).toBe(first && off(first))
            expect(!by || hides(by, far)).toBe(true)
          }
        },
      ),
      { numRuns: 300 },
    )
  })
  it('is found for formations, with who stands in the wall or outside of the picture', () => {
    const r = done(stage(3), place(0, { d0: [0, 1], d1: [0, 3], d2: [3, 1] }), (x) =>
      setSpace(x, { room: { width: 6, depth: 6 }, camera: { distance: 3, width: 4 } }),
    )
    expect(placeFindings(r, book).map((f) => [f.kind, f.says])).toEqual([
      ['room', 'On 1 of Eight 1 C would stand in the wall.'],
      ['picture', 'On 1 of Eight 1 C is not in the camera’s picture.'],
      ['hidden', 'On 1 of Eight 1 B behind A: not seen from the middle of the audience.'],
    ])
    const two = done(stage(3), place(0, { d0: [0, 1], d1: [-3, 1], d2: [3, 1] }), (x) =>
      setSpace(x, { camera: { distance: 3, width: 4 } }),
    )
    expect(placeFindings(two, book).map((f) => f.says)).toEqual([
      'On 1 of Eight 1 B, C are not in the camera’s picture.',
    ])
  })
  it('tells apart who is hidden from the audience and who from the camera alone', () => {
    // From 1 m before the edge C and D stand in one line; from 5 m C is 0.28 m aside of it.
    const r = done(stage(4), place(0, { d0: [0, 1], d1: [0, 3], d2: [1, 1], d3: [1.5, 2] }), (x) =>
      setSpace(x, { camera: { distance: 1, width: 10 } }),
    )
    expect(placeFindings(r, book).map((f) => f.says)).toEqual([
      'On 1 of Eight 1 B behind A: not seen from the middle of the audience; D behind C: not seen from the camera.',
    ])
  })
  it('counts who has been in front', () => {
    const r = done(
      stage(2),
      place(0, { d0: [0, 1], d1: [1, 3] }),
      place(384, { d0: [0, 3], d1: [1, 1] }),
      place(576, { d0: [0, 1.3] }),
    )
    expect([...countsInFront(standing(r), { from: 0, to: 768 })]).toEqual([
      ['d0', 24],
      ['d1', 16],
    ])
  })
})
