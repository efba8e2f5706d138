import { describe, expect, it } from 'vitest'
import { drillTimeline } from '../drill'
import { addMarks, placePhrases } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { callsOf } from '.'

const times = Array.from({ length: 16 }, (_, i) => i * 0.5)
const r = addMarks(
  page(2, cuesOf('1 step R; 3& cross behind L [behind]; 5 clap')),
  [{ kind: 'lyric', at: 4.02, end: null, text: 'hold on' }],
  ids('m'),
)
const placed = placePhrases(r)
/** The words by place, without what they are for. */
const words = (c: ReturnType<typeof callsOf>) => [...c.words].map(([at, { word }]) => [at, word])
const calls = (called: typeof r.called, mirrored = false, calledAhead = false) =>
  callsOf({ called, calledAhead }, r.cues, r.marks, times, placed, mirrored)

describe('what is called', () => {
  it('is numbers, the moves, your own calls among numbers, or the lyric', () => {
    expect(words(calls('numbers'))).toEqual([])
    expect(words(calls('words'))).toEqual([
      [0, 'step R'],
      [60, 'behind'],
      [96, 'clap'],
    ])
    expect(calls('words').wordsOnly).toBe(true)
    expect(words(calls('mix'))).toEqual([[60, 'behind']])
    expect(calls('mix').wordsOnly).toBe(false)
    expect(words(calls('lyric'))).toEqual([[192, 'hold on']])
  })
  it('says both arms in one breath, and of other layers the first alone', () => {
    const of = (line: string, layer: 'arms' | 'feet') =>
      words(callsOf({ called: 'words', calledAhead: false }, cuesOf(line, layer), [], times, placed, false))
    expect(of('1 punch R; 1 fist L; 2 clap', 'arms')).toEqual([
      [0, 'punch R, fist L'],
      [24, 'clap'],
    ])
    expect(of('1 punch R; 1 fist R', 'arms')).toEqual([[0, 'punch R']])
    expect(of('1 step R; 1 step L', 'feet')).toEqual([[0, 'step R']])
  })
  it('is mirrored with the view', () => {
    expect(calls('words', true).words.get(0)?.word).toBe('step L')
  })
  it('is told a count ahead where that is wanted', () => {
    // Of step R on the 1 nothing can be told inside the phrase; of 3& on the 2, of 5 on the 4.
    expect(words(calls('words', false, true))).toEqual([
      [-24, 'step R'],
      [24, 'behind'],
      [72, 'clap'],
    ])
  })
  it('told ahead, calls the first move too: in the count-in, on the count before it', () => {
    const range = { times, placed, from: 0, to: 192, cues: r.cues.map((c) => c.at) }
    const t = drillTimeline({ ...range, ...calls('words', false, true) }, 1, 4)
    expect(t.countIn.map((e) => e.call)).toEqual(['5', '6', '7', 'step R'])
    // Not ahead, what belongs to the phrase before is not called while counting in.
    const second = { ...range, from: 192, to: 384, cues: [192] }
    expect(drillTimeline({ ...second, ...calls('words') }, 1, 4).countIn.map((e) => e.call)).toEqual([
      '5',
      '6',
      '7',
      '8',
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
