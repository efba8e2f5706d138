import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import {
  addDancers,
  bendWay,
  changeDancer,
  commit,
  type Edit,
  freeLetters,
  goAfterAnother,
  leaveSpots,
  moveFormation,
  placeDancers,
  type Routine,
  RoutineSchema,
  removeDancer,
  setSpace,
} from '..'
import { ids, page } from '../hand.test-tools'

const newId = ids('f')
const two = addDancers(page(4), 2, ids('d'))
const at =
  (tick: number, x = 1) =>
  (r: Routine): Routine =>
    placeDancers(
      r,
      tick,
      [
        { dancer: 'd0', x: -x, y: 1 },
        { dancer: 'd1', x, y: 1, facing: 4 },
      ],
      newId,
    )
const why = (r: Routine, edit: Edit) => {
  const done = commit(r, edit)
  return done.done ? null : done.why
}
const read = (r: unknown) => {
  const done = v.safeParse(RoutineSchema, JSON.parse(JSON.stringify(r)))
  return done.success ? null : done.issues[0].message
}

describe('dancers', () => {
  it('get letters nobody has, and after Z with a number', () => {
    expect(freeLetters(['B', 'C'], 3)).toEqual(['A', 'D', 'E'])
    expect(freeLetters([], 28).slice(24)).toEqual(['Y', 'Z', 'A2', 'B2'])
    expect(addDancers(two, 1, ids('x')).dancers.map((d) => d.letters)).toEqual(['A', 'B', 'C'])
    expect(why(two, (r) => addDancers(r, 59, ids('y')))).toMatch(/at most 60 dancers/)
  })
  it('are each other’s partners, and whoever was one before is none', () => {
    const three = addDancers(two, 1, ids('x'))
    const paired = changeDancer(three, 'd0', { partner: 'd1' })
    expect(paired.dancers.map((d) => d.partner)).toEqual(['d1', 'd0', null])
    expect(changeDancer(paired, 'd0', { partner: 'x0' }).dancers.map((d) => d.partner)).toEqual([
      'x0',
      null,
      'd0',
    ])
    expect(changeDancer(paired, 'd1', { partner: null }).dancers.map((d) => d.partner)).toEqual([
      null,
      null,
      null,
    ])
    expect(removeDancer(paired, 'd1').dancers.map((d) => d.partner)).toEqual([null, null])
    expect(why(paired, (r) => changeDancer(r, 'd0', { partner: 'd0' }))).toMatch(/partner/)
    expect(changeDancer(paired, 'nobody', { name: 'x' })).toBe(paired)
  })
})

describe('formations', () => {
  it('begin on counts of the page, and are kept to the centimetre', () => {
    const r = at(192, 1.23456)(two)
    expect(r.formations[0]?.spots).toEqual([
      { dancer: 'd0', x: -1.23, y: 1 },
      { dancer: 'd1', x: 1.23, y: 1, facing: 4 },
    ])
    expect(why(two, at(-24))).toMatch(/on a count of the page/)
    expect(why(two, at(24 * 40))).toMatch(/on a count of the page/)
    expect(placeDancers(two, 0, [{ dancer: 'nobody', x: 0, y: 0 }], newId)).toBe(two)
  })
  it('keep what was said of ways when somebody stands elsewhere', () => {
    const id = (r: Routine) => r.formations[1]?.id ?? ''
    const r = at(192, 2)(at(0)(two))
    const bent = bendWay(r, id(r), 'd0', { x: 0, y: 3 })
    const later = goAfterAnother(bent, id(r), ['d1', 'd0'], 48)
    expect(at(192, 3)(later).formations[1]?.spots).toEqual([
      { dancer: 'd0', x: -3, y: 1, through: { x: 0, y: 3 }, later: 48 },
      { dancer: 'd1', x: 3, y: 1, facing: 4 },
    ])
    const back = goAfterAnother(bendWay(later, id(r), 'd0', null), id(r), ['d0', 'd1'], 0)
    expect(back.formations[1]?.spots[0]).toEqual({ dancer: 'd0', x: -2, y: 1 })
    expect(leaveSpots(r, id(r), ['d0']).formations[1]?.spots.map((s) => s.dancer)).toEqual(['d1'])
  })
  it('do not stand on one another', () => {
    const r = at(192)(at(0)(two))
    expect(why(r, (x) => moveFormation(x, x.formations[1]?.id ?? '', 0))).toMatch(/stands there already/)
    expect(moveFormation(r, r.formations[1]?.id ?? '', 48).formations.map((f) => f.at)).toEqual([0, 48])
  })
  it('are read only where they agree with the dancers', () => {
    const r = at(0)(two)
    expect(read(r)).toBeNull()
    const [f] = r.formations
    const [spot] = f?.spots ?? []
    expect(read({ ...r, dancers: [] })).toBe('A spot is of nobody.')
    expect(read({ ...r, formations: [f, f] })).toBe('Two formations share an id.')
    expect(read({ ...r, formations: [f, { ...f, id: 'other' }] })).toBe('Two formations stand at one place.')
    expect(read({ ...r, formations: [{ ...f, spots: [spot, spot] }] })).toBe('A dancer stands at two spots.')
    expect(read({ ...r, dancers: [...r.dancers, r.dancers[0]] })).toBe('Two dancers share an id.')
    expect(read({ ...r, formations: [{ ...f, spots: [{ ...spot, x: 1e9 }] }] })).not.toBeNull()
    expect(read({ ...r, space: { ...r.space, room: { width: 0, depth: 3 } } })).not.toBeNull()
    expect(setSpace(r, { plain: 'side' }).space).toEqual({ ...r.space, plain: 'side' })
  })
})
