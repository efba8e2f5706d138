import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../choreo'
import {
  addDancers,
  bendWay,
  commit,
  danced,
  type Edit,
  type Formation,
  findingKey,
  goAfterAnother,
  letStand,
  moveFormation,
  placeDancers,
  type Routine,
  rebase,
  removeDancer,
  removeFormation,
  type Spot,
  setOver,
  setSpace,
  standAs,
} from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { arranged, nearestSpots } from './arrange'
import { placeFindings } from './findings'
import { cureOf, leastBetween, meetings, nearest, partnersApart } from './meet'
import { lengthOf, onWay } from './on-way'
import { book, done, newId, place, stage, standing } from './places.test-tools'
import { cuesOfDancers, effortsOf, facingAt, spotAt, standingIn, standingOf } from './standing'

const round = (n: number) => Math.round(n * 1000) / 1000 + 0
const at = (s: Spot | null) => s && [round(s.x), round(s.y)]

/** Two who change sides on 5 to 8 of the second eight: on one line they meet in the middle. */
const DUET = done(
  stage(2),
  place(0, { d0: [-2, 2], d1: [2, 2] }),
  place(384, { d0: [2, 2], d1: [-2, 2] }),
  (r) => setOver(r, r.formations[1]?.id ?? '', 96),
)

describe('where dancers stand', () => {
  it('is where they stood until they leave, and on the way by counts', () => {
    const s = standing(DUET)
    expect([0, 287, 288, 336, 384, 1000].map((t) => at(spotAt(s, 'd0', t)))).toEqual([
      [-2, 2],
      [-2, 2],
      [-2, 2],
      [0, 2],
      [2, 2],
      [2, 2],
    ])
    expect(spotAt(s, 'nobody', 0)).toBeNull()
  })
  it('is the same after any edits as worked out anew, and who is not concerned keeps their ways', () => {
    const dancer = fc.constantFrom('d0', 'd1', 'd2')
    const metres = fc.integer({ min: -4, max: 4 })
    const tick = fc.constantFrom(0, 96, 192, 384)
    /** An edit of one of the formations, whichever there are. */
    const ofOne = (change: (r: Routine, f: Formation) => Routine) =>
      fc.nat().map(
        (n): Edit =>
          (r) => {
            const f = r.formations[n % Math.max(1, r.formations.length)]
            return f ? change(r, f) : r
          },
      )
    const edit = fc.oneof(
      fc.tuple(tick, dancer, metres, metres).map(([t, d, x, y]) => place(t, { [d]: [x, y + 4] })),
      fc.tuple(tick, dancer, fc.integer({ min: 0, max: 7 })).map(
        ([t, d, facing]): Edit =>
          (r) => ({
            ...r,
            formations: r.formations.map((f) =>
              f.at === t ? { ...f, spots: f.spots.map((x) => (x.dancer === d ? { ...x, facing } : x)) } : f,
            ),
          }),
      ),
      fc.constantFrom(24, 48, 96).chain((over) => ofOne((r, f) => setOver(r, f.id, over))),
      dancer.chain((d) =>
        ofOne((r, f) => (f.spots.some((s) => s.dancer === d) ? bendWay(r, f.id, d, { x: 0, y: 5 }) : r)),
      ),
      fc.integer({ min: 1, max: 60 }).chain((count) => ofOne((r, f) => moveFormation(r, f.id, 24 * count))),
      ofOne((r, f) => removeFormation(r, f.id)),
      metres.map(
        (by): Edit =>
          (r) =>
            setSpace(r, { room: { width: 5 + by, depth: 5 + by } }),
      ),
      metres.map(
        (by): Edit =>
          (r) =>
            setSpace(r, { camera: { distance: 6 + by, width: 2 } }),
      ),
      fc.constantFrom(24, 96).map(
        (by): Edit =>
          (r) =>
            rebase(r, (t) => t + by, by / 24, newId),
      ),
    )
    fc.assert(
      fc.property(fc.array(edit, { minLength: 1, maxLength: 10 }), (edits) => {
        let r = done(
          stage(3),
          ...[0, 96, 192, 384].map((t, i) => place(t, { d0: [0, i], d1: [1, i], d2: [2, i] })),
        )
        for (const change of edits) {
          // What the gate refuses changes nothing.
          const next = commit(r, change)
          if (next.done) r = next.routine
          const formations = structuredClone(r.formations)
          const anew = standingOf(formations, cuesOfDancers(r.dancers, danced(r)), moveBook(STARTING_MOVES))
          expect(standing(r)).toEqual(anew)
          const told = (x: Routine) => placeFindings(x, book).map((f) => [f.kind, f.at, f.says, f.why])
          expect(told(r)).toEqual(told(structuredClone(r)))
        }
      }),
      { numRuns: 60 },
    )
    const moved = standing(done(DUET, place(384, { d0: [1, 2] })))
    expect(moved.travels.get('d1')).toBe(standing(DUET).travels.get('d1'))
    expect(moved.travels.get('d0')).not.toBe(standing(DUET).travels.get('d0'))
    // Places of a formation are the very same where nothing before it moved, and where all are named anew.
    const three = done(DUET, place(192, { d0: [0, 3] }), place(576, { d0: [1, 1], d1: [3, 3] }))
    const [settled, after] = [standing(three), standing(done(three, place(192, { d0: [0, 4] })))].map(
      (x) => x.settled,
    )
    expect(after?.map((row, i) => row === settled?.[i])).toEqual([true, false, true, true])
    expect(after?.[1]?.map((spot) => spot.y)).toEqual([4, 2])
  })
  it('stays for who is not named, and goes along with counts put in before', () => {
    const r = done(DUET, place(576, { d1: [0, 4] }))
    const s = standing(r)
    expect(standingIn(s, s.formations[2] as never).map((x) => [x.dancer, x.x, x.y])).toEqual([
      ['d0', 2, 2],
      ['d1', 0, 4],
    ])
    const later = done(r, (x) => rebase(x, (t) => t + 96, 68, newId))
    expect(later.formations.map((f) => [f.at, f.over])).toEqual([
      [96, undefined],
      [480, 96],
      [672, undefined],
    ])
    expect(at(spotAt(standing(later), 'd0', 432))).toEqual([0, 2])
  })
  it('faces as before where it is not said, also after going elsewhere', () => {
    const facing = (r: Routine): Routine => ({
      ...r,
      formations: r.formations.map((f, i) =>
        i === 0 ? { ...f, spots: f.spots.map((x) => ({ ...x, facing: 2 })) } : f,
      ),
    })
    const s = standing(done(DUET, facing, place(576, { d1: [0, 4] })))
    expect(s.settled.map((row) => row.map((x) => x.facing))).toEqual([
      [2, 2],
      [2, 2],
      [2, 2],
    ])
  })
  it('takes as long as travelling does, else the steps before without a break, else two bars of four', () => {
    const took = (lines: readonly string[], travel = '') => {
      const cues = [...cuesOf(lines), ...(travel ? cuesOf(['', travel], 'travel') : [])]
      const r = done(
        page(4, cues),
        (x) => addDancers(x, 1, ids('d')),
        place(0, { d0: [0, 1] }),
        place(384, { d0: [1, 1] }),
      )
      const [way] = standing(r).travels.get('d0') ?? []
      return way && [way.leaves, way.arrives]
    }
    expect(took(['', '1 touch R; 5 walk R; 6 walk L; 7 walk R; 8 walk L'])).toEqual([288, 384])
    expect(took(['', '5 walk R; 6 hold; 7 walk R; 8 walk L'])).toEqual([336, 384])
    // Counts on which nothing is written keep the dancer in place, too.
    expect(took(['', '3 walk R; 5 walk R; 6 walk L; 7 walk R; 8 walk L'])).toEqual([288, 384])
    expect(took(['', '1 walk R'], '7-8 to the side')).toEqual([336, 384])
    expect(took(['', '1 clap'])).toEqual([192, 384])
  })
  it('has one after another leave and arrive later, and never before having arrived', () => {
    const r = done(DUET, (x) => goAfterAnother(x, x.formations[1]?.id ?? '', ['d1', 'd0'], 48))
    const s = standing(r)
    expect([s.travels.get('d1')?.[0]?.arrives, s.travels.get('d0')?.[0]?.leaves]).toEqual([384, 336])
    const crowded = done(r, place(408, { d0: [0, 0] }), (x) => setOver(x, x.formations[2]?.id ?? '', 96))
    expect(
      standing(crowded)
        .travels.get('d0')
        ?.map((w) => [w.leaves, w.arrives]),
    ).toEqual([
      [336, 432],
      [432, 432],
    ])
    expect(placeFindings(crowded, book).map((f) => f.kind)).toContain('late')
  })
  it('passes through its bend half-way, and is as long as its curve', () => {
    const bent = { from: { x: 0, y: 0 }, to: { x: 2, y: 0 }, through: { x: 1, y: 1 } }
    expect(at(onWay(bent, 0.5))).toEqual([1, 1])
    // A parabola of width 2 and height 1: sqrt(5) + asinh(2) / 2.
    expect(lengthOf(bent)).toBeCloseTo(Math.sqrt(5) + Math.asinh(2) / 2, 2)
    expect(lengthOf({ ...bent, through: null })).toBe(2)
  })
  it('forgets a dancer who is taken out, and mirrors who stands as elsewhere', () => {
    const r = done(DUET, (x) =>
      standAs(x, 576, standingIn(standing(x), x.formations[1] as never), true, newId),
    )
    expect(r.formations[2]?.spots.map((s) => [s.dancer, s.x, s.y])).toEqual([
      ['d0', -2, 2],
      ['d1', 2, 2],
    ])
    const alone = done(r, (x) => removeDancer(x, 'd1'))
    expect(alone.formations.flatMap((f) => f.spots.map((s) => s.dancer))).toEqual(['d0', 'd0', 'd0'])
    expect(facingAt(standing(r), 'd0', 0)).toBeNull()
  })
})

describe('does it go', () => {
  it('counts metres and steps of each way', () => {
    const [a] = effortsOf(standing(DUET), cuesOfDancers(DUET.dancers, danced(DUET)), book)
    expect([a?.travel.dancer, a?.metres, a?.steps, a?.each]).toEqual(['d0', 4, 4, 1])
  })
  it('finds who has to run, and mends it by leaving earlier', () => {
    const far = done(DUET, place(384, { d0: [3, 2] }), (r) =>
      bendWay(r, r.formations[1]?.id ?? '', 'd1', { x: 0, y: 4 }),
    )
    const found = placeFindings(far, book).find((f) => f.kind === 'far' && f.says.startsWith('A'))
    expect(found?.says).toBe('A has to run: 5 m in 4 steps to 1 of Eight 3, 1.3 m each.')
    const mended = done(far, (r) => found?.mend?.change(r) ?? r)
    expect(mended.formations[1]?.over).toBe(150)
    const none = done(
      stage(2, ['1 clap']),
      place(0, { d0: [-2, 2], d1: [2, 2] }),
      place(384, { d0: [-2, 4] }),
    )
    expect(placeFindings(none, book).map((f) => f.says)).toEqual([
      'A goes 2 m to 1 of Eight 3, and no step is written for it.',
    ])
  })
})

describe('many of one formation', () => {
  const rows = (n: number, from: number, to: number, other: number) =>
    done(
      stage(n),
      place(0, Object.fromEntries(Array.from({ length: n }, (_, i) => [`d${i}`, [from, 1 + i] as const]))),
      place(
        384,
        Object.fromEntries(Array.from({ length: n }, (_, i) => [`d${i}`, [to, other * (1 + i)] as const])),
      ),
    )
  const said = (r: Routine, kind: string) =>
    placeFindings(r, book)
      .filter((f) => f.kind === kind)
      .map((f) => f.says)
  it('are five told one by one, and how many more there are, each in its number', () => {
    const far = (n: number) => said(rows(n, -9, 9, 1), 'far')
    expect(far(5)).toHaveLength(5)
    expect(far(6).at(-1)).toBe('On the ways to 1 of Eight 3 there is one more way too far.')
    expect(far(8).at(-1)).toBe('On the ways to 1 of Eight 3 there are 3 more ways too far.')
    expect(far(8)).toHaveLength(6)
  })
  it('who meet are told in the same way', () => {
    // All on one spot: each with each.
    const met = said(rows(5, -1, 1, 0), 'meet')
    expect(met).toHaveLength(6)
    expect(met.at(-1)).toMatch(/^On the ways to 1 of Eight 3 there are \d+ more who meet\.$/)
  })
})

describe('who meets', () => {
  it('is told with the count, and mended by a bend that keeps 80 cm', () => {
    const [found, ...more] = placeFindings(DUET, book)
    expect(more).toEqual([])
    expect(found?.says).toBe('A and B meet on 7 of Eight 2: 0 cm apart.')
    const mended = done(DUET, (r) => found?.mend?.change(r) ?? r)
    expect(mended.formations[1]?.spots.filter((s) => s.through)).toHaveLength(1)
    expect(placeFindings(mended, book).filter((f) => f.kind === 'meet')).toEqual([])
    expect(leastBetween(standing(mended), 'd0', 'd1', { from: 288, to: 384 })).toBeGreaterThanOrEqual(0.8)
  })
  it('is left to partners, and comes back when it changes after it was let stand', () => {
    const together = { ...DUET, dancers: DUET.dancers.map((d, i) => ({ ...d, partner: `d${1 - i}` })) }
    expect(placeFindings(together, book)).toEqual([])
    expect(partnersApart(standing(DUET), together.dancers, { from: 0, to: 768 })).toEqual([
      { a: 'd0', b: 'd1', least: 0, most: 4 },
    ])
    const [found] = placeFindings(DUET, book)
    const stands = done(DUET, (r) => letStand(r, found?.about as never, ''))
    expect(placeFindings(stands, book)).toEqual([])
    const changed = done(stands, place(384, { d1: [-1.9, 2.3] }))
    expect(placeFindings(changed, book).map((f) => f.kind)).toEqual(['meet'])
    expect(findingKey(placeFindings(changed, book)[0]?.about as never)).not.toBe(
      findingKey(found?.about as never),
    )
  })
  it('knows the nearest of two who go straight, by hand and by brute force', () => {
    // One goes along x, the other crosses it a quarter later: 3-4-5.
    expect(nearest({ x: -3, y: 0 }, { x: 3, y: 0 }, { x: 0, y: 4 }, { x: 0, y: 4 })).toEqual({
      share: 0.5,
      metres: 4,
    })
    const spot = fc.record({ x: fc.integer({ min: -30, max: 30 }), y: fc.integer({ min: 0, max: 60 }) })
    fc.assert(
      fc.property(spot, spot, spot, spot, (a0, a1, b0, b1) => {
        const between = (p: Spot, q: Spot, t: number) => ({
          x: p.x + (q.x - p.x) * t,
          y: p.y + (q.y - p.y) * t,
        })
        const all = Array.from({ length: 401 }, (_, i) => {
          const [p, q] = [between(a0, a1, i / 400), between(b0, b1, i / 400)]
          return Math.hypot(p.x - q.x, p.y - q.y)
        })
        const least = Math.min(...all)
        const { metres } = nearest(a0, a1, b0, b1)
        expect(metres).toBeLessThanOrEqual(least + 1e-9)
        expect(metres).toBeGreaterThan(least - 0.5)
      }),
    )
  })
  it('finds the same meetings as looking at every pair at every moment', () => {
    const xy = fc.tuple(fc.integer({ min: -6, max: 6 }), fc.integer({ min: 1, max: 8 }))
    const rows = fc.array(fc.array(xy, { minLength: 5, maxLength: 5 }), { minLength: 2, maxLength: 4 })
    const base = stage(5)
    fc.assert(
      fc.property(rows, fc.boolean(), (list, bent) => {
        const list1 = list.map((row) => Object.fromEntries(row.map((p, i) => [`d${i}`, p] as const)))
        let r = done(base, ...list1.map((row, k) => place(192 * k, row)))
        if (bent) r = done(r, (x) => bendWay(x, x.formations[1]?.id ?? '', 'd0', { x: 0, y: 3 }))
        const s = standing(r)
        const found = new Set(meetings(s).map((m) => `${m.a} ${m.b}`))
        const brute = new Set<string>()
        const sure = new Set<string>()
        for (let t = 0; t <= 768; t += 1)
          for (let i = 0; i < 5; i++)
            for (let j = i + 1; j < 5; j++) {
              const [p, q] = [spotAt(s, `d${i}`, t), spotAt(s, `d${j}`, t)]
              const metres = p && q ? Math.hypot(p.x - q.x, p.y - q.y) : 9
              if (metres < 0.5) brute.add(`d${i} d${j}`)
              if (metres < 0.4) sure.add(`d${i} d${j}`)
            }
        for (const pair of sure) expect(found).toContain(pair)
        // Between two moments of the brute force two may come a little nearer still.
        for (const pair of found)
          if (!brute.has(pair)) {
            const m = meetings(s).find((x) => `${x.a} ${x.b}` === pair)
            expect(m?.metres).toBeGreaterThan(0.3)
          }
      }),
      { numRuns: 40 },
    )
  })
  it('proposes nothing that leads into a third', () => {
    const crowd = done(
      stage(6),
      place(0, { d0: [-2, 3], d1: [2, 3], d2: [0, 2.2], d3: [0, 3.8], d4: [0, 1.2], d5: [0, 4.8] }),
      place(384, { d0: [2, 3], d1: [-2, 3] }),
    )
    const s = standing(crowd)
    const meeting = meetings(s).find((m) => m.a === 'd0' && m.b === 'd1')
    const cure = meeting && cureOf(s, meeting)
    if (cure) {
      const mended = done(crowd, (r) => bendWay(r, cure.formation, cure.dancer, cure.through))
      expect(meetings(standing(mended)).length).toBeLessThan(meetings(s).length)
    }
    expect(meeting?.metres).toBe(0)
  })
})

describe('nine people in windows who become a V', () => {
  const walks = '1 walk R; 2 walk L; 3 walk R; 4 walk L; 5 walk R; 6 walk L; 7 walk R; 8 walk L'
  const nine = done(page(4, cuesOf([walks, walks])), (r) => addDancers(r, 9, ids('d')))
  const stood = (r: Routine, tick: number, list: readonly Spot[]) =>
    placeDancers(
      r,
      tick,
      r.dancers.map((d, i) => ({ dancer: d.id, ...(list[i] as Spot) })),
      newId,
    )
  const middle = Array.from({ length: 9 }, () => ({ x: 0, y: 3 }))
  const windows = arranged(middle, 'windows')
  const four: Edit = (r) => setOver(r, r.formations[1]?.id ?? '', 96)
  const metIn = (r: Routine) => placeFindings(r, book).filter((f) => f.kind === 'meet')
  it('meet less often where each takes the nearest place than in the order of their letters', () => {
    const became = (v: readonly Spot[]) =>
      metIn(
        done(
          nine,
          (r) => stood(r, 0, windows),
          (r) => stood(r, 192, v),
          four,
        ),
      ).length
    const v = arranged(middle, 'V')
    expect(became(nearestSpots(windows, v))).toBeLessThan(became(v))
  })
  it('meet where they go in the order of their letters, until every bend that is proposed was taken', () => {
    let r = done(
      nine,
      (x) => stood(x, 0, windows),
      (x) => stood(x, 192, arranged(middle, 'V')),
      four,
    )
    const met = () => metIn(r)
    expect(met().length).toBeGreaterThan(1)
    for (let i = 0; i < 12; i++) {
      const mend = met().find((f) => f.mend)?.mend
      if (!mend) break
      const before = met().length
      r = done(r, mend.change)
      expect(met().length).toBeLessThan(before)
    }
    expect(met()).toEqual([])
  })
})
