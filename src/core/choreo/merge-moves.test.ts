import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Move, mergeMoves, namedMove } from '.'

const move = (id: string, name = id, caution: Move['caution'] = null): Move => ({
  ...namedMove(id, name),
  caution,
})
const BASE = ['roll', 'sway', 'kick'].map((name) => move(name))
const merged = (mine: readonly Move[], theirs: readonly Move[]) => mergeMoves(BASE, mine, theirs)
const names = (list: readonly Move[]) => list.map((m) => (m.caution ? `${m.name}: ${m.caution}` : m.name))

describe('two who change one list of moves', () => {
  it('both have what they added, changed and took away', () => {
    const mine = [move('roll', 'roll', 'neck'), move('kick'), move('m', 'lean')]
    const theirs = [...BASE.slice(0, 2), move('kick', 'kick', 'knee'), move('t', 'scoop')]
    expect(merged(mine, theirs)).toEqual({ moves: expect.anything(), clashes: [] })
    expect(names(merged(mine, theirs).moves)).toEqual(['roll: neck', 'kick: knee', 'scoop', 'lean'])
  })
  it('are told which moves both changed otherwise; those are as they are there', () => {
    const mine = [move('roll', 'roll', 'back'), ...BASE.slice(1)]
    const theirs = [move('roll', 'roll', 'neck'), ...BASE.slice(1)]
    const { moves, clashes } = merged(mine, theirs)
    expect([moves, clashes]).toEqual([theirs, ['roll']])
    expect(merged(BASE.slice(1), theirs).clashes).toEqual(['roll'])
    expect(merged(mine, BASE.slice(1)).clashes).toEqual(['roll'])
    expect(merged([...BASE, move('m', 'Lean', 'back')], [...BASE, move('t', 'lean')]).clashes).toEqual([
      'Lean',
    ])
  })
  it('have one move where both added or did the same', () => {
    const theirs = [...BASE, move('t', 'lean')]
    const twin = merged([...BASE, move('m', 'lean')], theirs)
    expect(twin).toEqual({ moves: theirs, clashes: [] })
    expect(twin.moves).toBe(theirs)
    expect(merged(BASE.slice(1), BASE.slice(1))).toEqual({ moves: BASE.slice(1), clashes: [] })
    expect(merged(BASE, theirs).moves).toBe(theirs)
  })
  it('come to the same moves whoever comes first, and to one’s own where the other did nothing', () => {
    const list = fc
      .array(fc.record({ id: fc.constantFrom('roll', 'sway', 'kick', 'a', 'b', 'c'), at: fc.nat(2) }), {
        maxLength: 6,
      })
      .map((all) => [
        ...new Map(
          all.map(({ id, at }) => [id, move(id, id, ([null, 'knee', 'neck'] as const)[at])]),
        ).values(),
      ])
    fc.assert(
      fc.property(list, list, (mine, theirs) => {
        const [one, other] = [merged(mine, theirs), mergeMoves(BASE, theirs, mine)]
        expect([...one.clashes].sort()).toEqual([...other.clashes].sort())
        const sorted = (l: readonly Move[]) => [...l].sort((a, b) => a.id.localeCompare(b.id))
        if (!one.clashes.length) expect(sorted(one.moves)).toEqual(sorted(other.moves))
        expect(sorted(merged(mine, BASE).moves)).toEqual(sorted(mine))
        expect(merged(BASE, theirs).moves).toBe(theirs)
        expect(new Set(one.moves.map((m) => m.id)).size).toBe(one.moves.length)
      }),
    )
  })
})
