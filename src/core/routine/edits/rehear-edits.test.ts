import { describe, expect, it } from 'vitest'
import { emptyRoutine } from '../document/schema'
import { namesInWords } from '../gate/refused'
import { cuesOf, ids, page } from '../hand.test-tools'
import { type HeardGrid, layOutHeard, rehear } from './rehear-edits'
import { rename } from './settings-edits'

const heard = (version: number, start: number, counts = 24, one = 0): HeardGrid => ({
  version,
  beats: Array.from({ length: counts }, (_, k) => start + 0.5 * k),
  proposal: {
    counts,
    starts: [one, one + 8, one + 16].filter((s) => s < counts),
    sections: [{ count: one, letter: 'A' }],
  },
})
const OLD = heard(1, 1)
// Four beats were missed in front: every old count is four later.
const NOW = heard(2, -1, 28, 4)
const laid = { ...layOutHeard(emptyRoutine('x'), OLD, ids()), cues: cuesOf('1 step; 5 clap') }
const lengths = (r: { phrases: { length: number; pickUp: boolean }[] }) =>
  r.phrases.map((p) => (p.pickUp ? -p.length : p.length))

describe('a song heard again', () => {
  it('is laid out anew where nobody touched the page; what is danced stays at its sound', () => {
    const { routine, said } = rehear(laid, OLD, NOW, ids('n'))
    expect(lengths(routine)).toEqual([-4, 8, 8, 8])
    expect(routine.cues.map((c) => c.at)).toEqual([96, 192])
    expect([routine.heardWith, said]).toEqual([2, []])
    expect(routine.sections.map((s) => [s.at, s.letter])).toEqual([[96, 'A']])
  })
  it.each([
    [
      'a phrase was cut',
      {
        ...laid,
        phrases: [
          ...page(2).phrases,
          ...page(1).phrases.map((p) => ({ ...p, length: 4 })),
          ...page(1).phrases.map((p) => ({ ...p, length: 4 })),
        ],
      },
    ],
    ['a section was named', { ...laid, sections: laid.sections.map((s) => ({ ...s, name: 'Hook' })) }],
    [
      'a section is of a kind',
      { ...laid, sections: laid.sections.map((s) => ({ ...s, kind: 'verse' as const })) },
    ],
  ])('keeps phrases and sections where %s', (_, touched) => {
    const { routine } = rehear(touched, OLD, NOW, ids('n'))
    expect(routine.sections.map((s) => s.id)).toEqual(touched.sections.map((s) => s.id))
    expect(lengths(routine).slice(1)).toEqual(lengths(touched))
    expect(routine.cues.map((c) => c.at)).toEqual([96, 192])
  })
  it('is laid out anew though what was laid out had sections, and no id is given twice', () => {
    const two: HeardGrid = {
      ...OLD,
      proposal: {
        ...OLD.proposal,
        sections: [
          { count: 0, letter: 'A' },
          { count: 8, letter: 'B' },
        ],
      },
    }
    const before = { ...layOutHeard(emptyRoutine('x'), two, ids()), cues: cuesOf('1 step') }
    const { routine } = rehear(before, two, NOW, ids('n'))
    expect(lengths(routine)).toEqual([-4, 8, 8, 8])
    expect(new Set(routine.sections.map((s) => s.id)).size).toBe(routine.sections.length)
  })
  it('keeps a pick-up that was made by hand, and the 1 moves where none was', () => {
    const later = heard(2, 1, 24, 4)
    const made = { ...laid, phrases: laid.phrases.map((p, i) => ({ ...p, pickUp: i === 0 })) }
    expect(lengths(rehear(laid, OLD, later, ids('n')).routine)).toEqual([-4, 8, 8, 4])
    expect(lengths(rehear(made, OLD, later, ids('n')).routine)).toEqual([-8, 8, 8])
  })
  it('is refused where beats were set by hand, or none were found this time', () => {
    const repaired = { ...laid, repairs: [{ kind: 'shift' as const, seconds: 0.1 }] }
    expect(() => rehear(repaired, OLD, NOW, ids())).toThrow('set right by hand')
    expect(() => rehear(laid, OLD, heard(2, 0, 1), ids())).toThrow('No steady beat was found')
  })
  it('is laid out where there were no beats before', () => {
    const { routine } = rehear(rename(emptyRoutine('x'), 'Song', ''), heard(1, 0, 0), NOW, ids())
    expect([routine.title, ...lengths(routine)]).toEqual(['Song', -4, 8, 8, 8])
  })
})

describe('names in words', () => {
  it('are three at most, and how many more', () => {
    expect(namesInWords(['a'])).toBe('a')
    expect(namesInWords(['a', 'b', 'c'])).toBe('a, b, c')
    expect(namesInWords(['a', 'b', 'c', 'd', 'e'])).toBe('a, b, c and 2 more')
  })
})
