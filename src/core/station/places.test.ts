import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../choreo'
import { cuesOfDancers, standingOf } from '../places'
import { commit, danced, type Routine } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import {
  formationHere,
  PLACES_AT_FIRST,
  type PlacesEvent,
  type PlacesState,
  spotsHere,
  stepPlaces,
} from './places'

const book = moveBook(STARTING_MOVES)

/** Places of a page of their own: what is asked for is done. */
class Places {
  state: PlacesState = PLACES_AT_FIRST
  did: string[] = []
  tick = 0
  readonly newId = ids('n')
  constructor(public routine: Routine = page(4, cuesOf('1 walk R; 2 walk L'))) {}
  get seen() {
    const { dancers, formations } = this.routine
    const standing = standingOf(formations, cuesOfDancers(dancers, danced(this.routine)), book)
    return { tick: this.tick, from: 24, dancers, standing, newId: this.newId }
  }
  send(...events: readonly PlacesEvent[]): this {
    for (const event of events) {
      const { state, effects } = stepPlaces(this.state, event, this.seen)
      this.state = state
      for (const e of effects) {
        this.did.push(e.did)
        const done = commit(this.routine, e.change)
        if (!done.done) throw new Error(done.why)
        this.routine = done.routine
      }
    }
    return this
  }
  at(tick: number): this {
    this.tick = tick
    return this
  }
  get spots() {
    return spotsHere(this.seen).map((s) => [s.x, s.y])
  }
  get ids() {
    return this.routine.dancers.map((d) => d.id)
  }
}
/** Two rows of two, set up by hand. */
const four = () => {
  const p = new Places().send({ kind: 'add', n: 4 })
  p.did = []
  return p
}

describe('who stands where', () => {
  it('begins with a row where the dance begins; more stand behind', () => {
    const p = new Places().send({ kind: 'add', n: 2 }).send({ kind: 'add', n: 1 })
    expect(p.did).toEqual(['add 2 dancers', 'add a dancer'])
    expect(p.routine.dancers.map((d) => d.letters)).toEqual(['A', 'B', 'C'])
    expect([p.routine.formations.length, p.routine.formations[0]?.at]).toEqual([1, 24])
    expect(p.spots).toEqual([
      [-0.6, 2],
      [0.6, 2],
      [0, 3.2],
    ])
  })
  it('chooses by press, several with more, all, none, and goes from one to the next', () => {
    const p = four()
    const [a, b, , d] = p.ids as [string, string, string, string]
    const chosen = (...e: PlacesEvent[]) => p.send(...e).state.chosen
    expect(chosen({ kind: 'choose', dancer: a, more: false })).toEqual([a])
    expect(chosen({ kind: 'choose', dancer: b, more: true })).toEqual([a, b])
    expect(chosen({ kind: 'choose', dancer: a, more: true })).toEqual([b])
    expect(chosen({ kind: 'choose all' })).toEqual(p.ids)
    expect(chosen({ kind: 'choose none' }, { kind: 'step', by: -1 })).toEqual([d])
    expect(chosen({ kind: 'step', by: 1 })).toEqual([a])
    expect(p.did).toEqual([])
  })
  it('moves who is chosen, by keys to the centimetre and pulled to half metres', () => {
    const p = four()
    const [a, b] = p.ids as [string, string]
    p.send(
      { kind: 'choose', dancer: b, more: false },
      { kind: 'pull', of: 'dancers', dancer: a, by: { x: 0.1, y: -0.5 } },
      { kind: 'let go', free: true },
    )
    expect(p.state.chosen).toEqual([a])
    expect(p.spots[0]).toEqual([-1.7, 1.5])
    // Pulled, another one is chosen; it lands on half a metre, who is chosen with it keeps the distance.
    p.send({ kind: 'choose', dancer: b, more: true })
    p.send(
      { kind: 'pull', of: 'dancers', dancer: b, by: { x: 0.9, y: 0.9 } },
      { kind: 'let go', free: false },
    )
    expect([p.spots[1], p.spots[0]]).toEqual([
      [0.5, 3],
      [-0.6, 2.5],
    ])
    p.send({ kind: 'pull', of: 'dancers', dancer: b, by: { x: 0.13, y: 0 } }, { kind: 'let go', free: true })
    expect(p.spots[1]).toEqual([0.63, 3])
    const before = p.did.length
    p.send(
      { kind: 'pull', of: 'dancers', dancer: b, by: { x: 1, y: 0 } },
      { kind: 'give up' },
      { kind: 'let go', free: true },
    )
    expect([p.did.length, p.state.pulled]).toEqual([before, null])
  })
  it('begins a formation at the cursor, named, moved, taken out', () => {
    const p = four().at(192)
    p.send({ kind: 'new formation' }, { kind: 'new formation' }, { kind: 'name', name: 'Arrow' })
    expect(p.did).toEqual(['a new formation', 'name a formation'])
    expect(p.routine.formations.map((f) => [f.at, f.name])).toEqual([
      [24, ''],
      [192, 'Arrow'],
    ])
    p.send({ kind: 'arrange', as: 'V' }).at(0)
    expect(p.spots[0]).toEqual([-1.8, 2])
    p.at(300).send({ kind: 'move formation' }, { kind: 'over', counts: 4 })
    expect(p.routine.formations.map((f) => [f.at, f.over])).toEqual([
      [24, undefined],
      [300, 96],
    ])
    p.send({ kind: 'over', counts: null }, { kind: 'remove formation' })
    expect(p.routine.formations.map((f) => f.at)).toEqual([24])
    expect(formationHere(p.seen)?.at).toBe(24)
  })
  it('stands as elsewhere and on the other side, exchanged, after another, and as before', () => {
    const p = four().at(192)
    const [a, b] = p.ids as [string, string]
    const first = p.routine.formations[0]?.id ?? ''
    p.send({ kind: 'choose', dancer: a, more: false }, { kind: 'choose', dancer: b, more: true })
    p.send({ kind: 'new formation' }, { kind: 'arrange', as: 'exchange' })
    expect(p.spots.slice(0, 2)).toEqual([
      [-0.6, 2],
      [-1.8, 2],
    ])
    expect(p.routine.formations[1]?.spots).toHaveLength(2)
    p.send({ kind: 'after another', counts: 2 })
    expect(p.routine.formations[1]?.spots.map((s) => s.later)).toEqual([undefined, 48])
    p.send({ kind: 'pull', of: 'bend', dancer: a, by: { x: 0, y: 1 } }, { kind: 'let go', free: true })
    expect(p.routine.formations[1]?.spots[0]?.through).toEqual({ x: -1.2, y: 3 })
    p.send({ kind: 'straight' }, { kind: 'stay' })
    expect(p.routine.formations[1]?.spots).toEqual([])
    p.at(384).send({ kind: 'as in', formation: first, otherSide: true })
    expect(p.spots[0]).toEqual([1.8, 2])
    p.send({ kind: 'as in', formation: p.routine.formations[2]?.id ?? '', otherSide: false })
    expect(p.routine.formations).toHaveLength(3)
  })
  it('takes dancers out, and asks for nothing where nobody is', () => {
    const p = four()
    p.send({ kind: 'take out' })
    expect(p.did).toEqual([])
    p.send({ kind: 'choose', dancer: p.ids[0] ?? '', more: false }, { kind: 'take out' })
    expect([p.ids.length, p.state.chosen]).toEqual([3, []])
    const none = new Places().send(
      { kind: 'new formation' },
      { kind: 'arrange', as: 'row' },
      { kind: 'name', name: 'x' },
      { kind: 'step', by: 1 },
    )
    expect([none.did, none.state.chosen]).toEqual([[], []])
  })
})
