import { describe, expect, it } from 'vitest'
import { drillTimeline } from '../drill'
import { addMarks, placePhrases } from '../routine'
import { callsOf } from '.'
import { cuesOf, ids, page } from './hand.test-tools'

const times = Array.from({ length: 16 }, (_, i) => i * 0.5)
const r = addMarks(
  page(2, cuesOf('1 step R; 3& cross behind L [behind]; 5 clap')),
  [{ kind: 'lyric', at: 4.02, end: null, text: 'hold on' }],
  ids('m'),
)
const placed = placePhrases(r)
const calls = (called: typeof r.called, mirrored = false, calledAhead = false) =>
  callsOf({ called, calledAhead }, r.cues, r.marks, times, placed, mirrored)

describe('what is called', () => {
  it('is numbers, the moves, your own calls among numbers, or the lyric', () => {
    expect([...calls('numbers').words]).toEqual([])
    expect([...calls('words').words]).toEqual([
      [0, 'step R'],
      [60, 'behind'],
      [96, 'clap'],
    ])
    expect(calls('words').wordsOnly).toBe(true)
    expect([...calls('mix').words]).toEqual([[60, 'behind']])
    expect(calls('mix').wordsOnly).toBe(false)
    expect([...calls('lyric').words]).toEqual([[192, 'hold on']])
  })
  it('is mirrored with the view', () => {
    expect(calls('words', true).words.get(0)).toBe('step L')
  })
  it('is told a count ahead where that is wanted', () => {
    // Of step R on the 1 nothing can be told inside the phrase; of 3& on the 2, of 5 on the 4.
    expect([...calls('words', false, true).words]).toEqual([
      [-24, 'step R'],
      [24, 'behind'],
      [72, 'clap'],
    ])
  })
  it('stands in the timeline on its place, sub-counts too; counts without a word are silent or numbered', () => {
    const range = { times, placed, from: 0, to: 192, cues: r.cues.map((c) => c.at) }
    const said = (called: typeof r.called) =>
      drillTimeline({ ...range, ...calls(called) }, 1, 4).counts.map((e) => e.call)
    expect(said('numbers')).toEqual(['1', '2', '3', '&', '4', '5', '6', '7', '8'])
    expect(said('words')).toEqual(['step R', '', '', 'behind', '', 'clap', '', '', ''])
    // "behind" is spoken over the 4, which is only clicked.
    expect(said('mix')).toEqual(['1', '2', '3', 'behind', '', '5', '6', '7', '8'])
  })
})
