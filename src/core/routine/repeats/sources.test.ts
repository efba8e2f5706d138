import { describe, expect, it } from 'vitest'
import { danced, placePhrases, type Routine } from '..'
import { beginSection } from '../edits/section-edits'
import { cuesOf, ids, page } from '../hand.test-tools'
import { sources, targetOf } from './sources'

const EIGHT = 192
const lines = ['1 step R; 2 tap L', '1 kick L; 3 hold; 5 clap; 6 jump; 7 run R', '', '1 wave']
const begun = (r: Routine, at: number, kind: 'verse' | 'chorus', letter: string) =>
  beginSection(r, at * EIGHT, { name: '', kind, letter }, ids(`s${at}-`))
const r = begun(begun(begun(page(9, cuesOf(lines)), 0, 'verse', 'A'), 3, 'chorus', 'B'), 5, 'verse', 'A')
const placed = placePhrases(r)
const times = Array.from({ length: 73 }, (_, k) => 2 + k / 2)
const find = (text: string) => sources(placed, danced(r), times, text, placed[4] ?? null)
const names = (text: string) => find(text).map((s) => s.name)

describe('what may be repeated', () => {
  it('is every section of several phrases and every phrase, with its time and first moves', () => {
    expect(find('').slice(0, 3)).toEqual([
      { name: 'Verse', stretch: { from: 0, to: 3 * EIGHT }, at: 2, words: 'step R, tap L, kick L' },
      { name: 'Verse, eight 1', stretch: { from: 0, to: EIGHT }, at: 2, words: 'step R, tap L' },
      {
        ...{ name: 'Verse, eight 2', stretch: { from: EIGHT, to: 2 * EIGHT }, at: 6 },
        words: 'kick L, hold, clap',
      },
    ])
    expect(names('')).toHaveLength(9 + 3)
    expect(find('').at(3)?.words).toBe('')
    expect(sources(placed, [], [], '', null)[0]?.at).toBe(null)
  })

  it('is found by words of its name or its moves', () => {
    expect(names('kick')).toEqual(['Verse', 'Verse, eight 2'])
    expect(names('clap kick')).toEqual(['Verse, eight 2'])
    expect(names('chorus wave')).toEqual(['Chorus', 'Chorus, eight 1'])
    expect(names('no such thing')).toEqual([])
  })

  it('a place that is named comes first, also one the list has not', () => {
    expect(names('verse 2')[0]).toBe('Verse, 2nd')
    expect(names('the 2nd verse, first four')).toEqual(['Verse, 2nd, eight 1, 1 to 4'])
    expect(names('chorus')).toEqual(['Chorus', 'Chorus, eight 1', 'Chorus, eight 2'])
  })
})

describe('where it is danced again', () => {
  const at = (source: [number, number], here: number, marked: [number, number] | null = null) => {
    const p = placed[here]
    if (!p) throw new Error('no phrase')
    const stretch = ([from, to]: [number, number]) => ({ from: from * 24, to: to * 24 })
    const t = targetOf(placed, stretch(source), p, marked && stretch(marked))
    return [t.from / 24, t.to / 24]
  }
  it('is the phrase, or as much of it as the source has', () => {
    expect(at([0, 8], 4)).toEqual([32, 40])
    expect(at([0, 4], 4)).toEqual([32, 36])
  })
  it('is as many phrases as a section has, up to the end of the section that begins there', () => {
    expect(at([0, 24], 5)).toEqual([40, 64])
    expect(at([0, 24], 3)).toEqual([24, 40])
    expect(at([0, 24], 7)).toEqual([56, 72])
  })
  it('is what is marked, as far as both go', () => {
    expect(at([0, 24], 5, [42, 46])).toEqual([42, 46])
    expect(at([0, 2], 5, [42, 46])).toEqual([42, 44])
  })
})
