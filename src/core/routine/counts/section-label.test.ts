import { describe, expect, it } from 'vitest'
import { paste } from '../edits/cue-edits'
import { beginPart, removePart } from '../edits/part-edits'
import { cuesOf, ids, page } from '../hand.test-tools'
import { countsBars, readSectionLabel } from './section-label'

describe('a label of a section', () => {
  it.each([
    ['Chorus', { letter: 'A', kind: 'chorus', name: '' }],
    ['chorus', { letter: 'A', kind: 'chorus', name: '' }],
    ['Chorus 2', { letter: 'A', kind: 'chorus', name: 'Chorus 2' }],
    ['The hook', { letter: 'A', kind: 'part', name: 'The hook' }],
    ['B verse: first words', { letter: 'B', kind: 'verse', name: 'first words' }],
    ['- bridge', { letter: '', kind: 'bridge', name: '' }],
    ['A12 verse', { letter: 'A12', kind: 'verse', name: '' }],
    // A letter has three characters at most.
    ['FINAL chorus', { letter: 'A', kind: 'part', name: 'FINAL chorus' }],
  ])('“%s”', (text, read) => {
    expect(readSectionLabel(text, new Map())).toEqual(read)
  })
  it('has the letter of an equal one before, else the next', () => {
    const letters = new Map<string, string>()
    expect(['Hook', 'Chorus', 'Hook'].map((t) => readSectionLabel(t, letters).letter)).toEqual([
      'A',
      'B',
      'A',
    ])
  })
})

describe('numbers of a grid', () => {
  it.each<[readonly number[] | null, boolean]>([
    [null, false],
    [[1, 2, 3, 4, 1, 2, 3, 4, 1], true],
    [[1, 2, 3, 4, 1, 2, 3, 4], false],
    [[1, 2, 3, 4, 5, 6, 7, 8, 1, 2, 1, 2, 1], false],
    [[1, 1, 1], true],
    [[2, 3, 4], false],
  ])('%j count bars: %s', (numbers, bars) => {
    expect(countsBars(numbers)).toBe(bars)
  })
})

describe('a part of the dance', () => {
  it('is taken away alone; its place, begun again, has the new name', () => {
    const two = beginPart(beginPart(page(2), 192, 'Two', ids('b')), 0, 'One', ids('a'))
    expect(two.parts.map((p) => p.name)).toEqual(['One', 'Two'])
    expect(removePart(two, two.parts[0]?.id ?? '').parts.map((p) => p.name)).toEqual(['Two'])
    expect(removePart(two, 'none').parts).toHaveLength(2)
    const named = beginPart(two, 192, 'Second', ids('c')).parts
    expect(named.map((p) => [p.id, p.name])).toEqual([
      ['a0', 'One'],
      ['b0', 'Second'],
    ])
  })
})

describe('what is pasted', () => {
  const copy = { length: 192, cues: cuesOf('1 step; 8 clap') }
  it('lies where it is put; what would lie beyond the counts stays out, and is said', () => {
    const whole = paste(page(2), copy, 192, ids('n'))
    expect(whole.said).toEqual([])
    expect(whole.routine.cues.map((c) => [c.id, c.at])).toEqual([
      ['n0', 192],
      ['n1', 360],
    ])
    const part = paste(page(2), copy, 360, ids('n'))
    expect(part.routine.cues.map((c) => c.at)).toEqual([360])
    expect(part.said).toEqual(['“clap” would stand off the counts of the song, and was not pasted.'])
  })
  it('is refused where nothing of it would lie on the counts', () => {
    expect(() => paste(page(2), copy, 384, ids())).toThrow('There is nothing to paste here.')
    expect(() => paste(page(0), copy, 0, ids())).toThrow('There is nothing to paste here.')
  })
})
