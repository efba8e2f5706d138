import { describe, expect, it } from 'vitest'
import { commit } from '../gate/commit'
import { cuesOf, ids, page } from '../hand.test-tools'
import {
  danced,
  eachOf,
  eachTime,
  placePhrases,
  putEach,
  type Routine,
  removeEach,
  setApart,
  setRepeat,
  standEach,
} from '../index'

// Counts of half a second; "hey" is sung on 3 of eights 1, 2 and 4, and a shade early on the & of 6 of eight 3.
const times = Array.from({ length: 33 }, (_, i) => i * 0.5)
const hey = (id: string, at: number, text = 'Hey!') => ({ id, at, end: null, kind: 'lyric' as const, text })
const section = (id: string, at: number, letter: string) => ({
  id,
  at,
  name: '',
  kind: 'chorus' as const,
  letter,
})
const routine: Routine = {
  ...page(4, cuesOf('3 punch up R', 'arms')),
  marks: [hey('a', 1), hey('b', 5, 'hey'), hey('c', 10.74, 'HEY!!'), hey('d', 13), hey('x', 2, 'you')],
  sections: [section('s1', 0, 'A'), section('s2', 192, 'B'), section('s3', 384, 'A')],
}
const of = (r: Routine) => eachTime(r, placePhrases(r), times, r.cues[0] as Routine['cues'][0])
const stood = (r: Routine = routine) => standEach(r, r.cues[0]?.id ?? '', of(r).marks, ids('n'))
const at = (r: Routine) => danced(r).map((c) => [c.at, c.move])

describe('each time', () => {
  it('is found by what is sung where the cue stands, however it is written, and by its count in the sections of its letter', () => {
    const { mark, marks, letter, sections } = of(routine)
    expect([mark?.id, letter]).toEqual(['a', 'A'])
    expect(marks.map((p) => [p.mark?.id, p.at])).toEqual([
      ['a', 48],
      ['b', 240],
      ['c', 516],
      ['d', 624],
    ])
    expect(sections).toEqual([
      { at: 48, mark: null },
      { at: 432, mark: null },
    ])
    const alone = { ...routine, cues: cuesOf('6 clap', 'arms'), sections: [] }
    expect(of(alone)).toEqual({ mark: null, marks: [], letter: '', sections: [] })
  })
  it('stands at all of them in one edit, each started by its word, and is undone as one', () => {
    const done = commit(routine, () => stood())
    expect(done.done && at(done.routine)).toEqual([48, 240, 516, 624].map((t) => [t, 'punch up']))
    expect(
      stood()
        .cues.map((c) => c.trigger?.mark)
        .sort(),
    ).toEqual(['a', 'b', 'c', 'd'])
    // Said again it is refused: it stands there already.
    expect(commit(stood(), (r) => standEach(r, r.cues[0]?.id ?? '', of(r).marks, ids('m')))).toMatchObject({
      done: false,
      why: 'It is danced at all of these places already. Nothing was changed.',
    })
  })
  it('is not written where a repeat brings it', () => {
    const r = setRepeat(routine, { id: 'r', to: { from: 192, to: 384 }, from: 0, mirrored: false }, ids())
    expect(at(stood(r)).map(([t]) => t)).toEqual([48, 240, 516, 624])
    expect(stood(r).cues).toHaveLength(3)
  })
})

describe('a cue of many places', () => {
  const [first, second] = stood().cues.sort((a, b) => a.at - b.at) as [Routine['cues'][0], Routine['cues'][0]]
  const moves = (r: Routine) =>
    [...r.cues].sort((a, b) => a.at - b.at).map((c) => `${c.move} ${c.length} ${c.side}`)
  it('is changed at all of them', () => {
    const r = putEach(stood(), { ...first, move: 'reach', tip: 'high' })
    expect(moves(r)).toEqual(Array(4).fill('reach 24 right'))
    expect(r.cues.every((c) => c.tip === 'high')).toBe(true)
    expect(
      putEach(r, {
        ...(r.cues.find((c) => c.id === first.id) as typeof first),
        tip: undefined,
      } as never).cues.some((c) => 'tip' in c && c.tip),
    ).toBe(false)
  })
  it('keeps what differs at one of them', () => {
    const one = { ...stood(), cues: stood().cues.map((c) => (c.id === second.id ? { ...c, length: 48 } : c)) }
    expect(moves(putEach(one, { ...first, length: 12, move: 'snap' }))).toEqual([
      'snap 12 right',
      'snap 48 right',
      'snap 12 right',
      'snap 12 right',
    ])
  })
  it('is let go of one by one, and taken away as one', () => {
    const r = setApart(stood(), second.id)
    expect(eachOf(r.cues, first)).toHaveLength(3)
    expect(moves(putEach(r, { ...first, move: 'snap' }))[1]).toBe('punch up 24 right')
    expect(removeEach(r, first.id).cues.map((c) => c.id)).toEqual([second.id])
    // The last of two is alone then, and knows it.
    const two = { ...stood(), cues: stood().cues.filter((c) => c.id === first.id || c.id === second.id) }
    expect(setApart(two, second.id).cues.some((c) => c.each)).toBe(false)
    expect(setApart(routine, 'none')).toBe(routine)
  })
})
