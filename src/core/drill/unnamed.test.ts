import { describe, expect, it } from 'vitest'
import type { Routine, Voice } from '../routine'
import { cuesOf, page } from '../routine/hand.test-tools'
import { unnamed } from './unnamed'

const said = (...at: number[]): Voice => ({
  ...{ id: 'v', stretch: { from: 0, to: 192 }, recording: 'recording', exact: false },
  pieces: at.map((t, i) => ({ at: t, from: i, stress: i + 0.1, to: i + 0.5 })),
})
const routine = (voice: Voice, line = ''): Routine => ({
  ...page(2, line ? cuesOf(line) : []),
  voices: [voice],
})
const places = (r: Routine, within?: { from: number; to: number }) =>
  unnamed(r, within).map((u) => [u.at, u.length])

// A count has 24 ticks; by hand.
describe('what was said and has no move yet', () => {
  it('stands on the count or the half it was meant on, up to what is said next', () => {
    expect(places(routine(said(0.8, 23, 37, 48.5, 150)))).toEqual([
      [0, 24],
      [24, 12],
      [36, 12],
      [48, 96],
      [150, 96],
    ])
  })
  it('is told from what has a move, whatever its layer, and lasts up to the next one', () => {
    expect(places(routine(said(0, 24, 48), '2 clap; 4 step R'))).toEqual([
      [0, 24],
      [48, 24],
    ])
    expect(places(routine(said(0, 24), '1 step R; 2 step L'))).toEqual([])
  })
  it('is one where two pieces fall together, and only of the counts that are asked for', () => {
    expect(places(routine(said(0, 1, 24)))).toEqual([
      [0, 24],
      [24, 96],
    ])
    expect(places(routine(said(0, 24, 48)), { from: 20, to: 48 })).toEqual([[24, 24]])
  })
  it('said exactly, it is drawn onto the nearest place that has a name', () => {
    expect(places(routine({ ...said(5, 31), exact: true }))).toEqual([
      [6, 24],
      [30, 96],
    ])
  })
})
