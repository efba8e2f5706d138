import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { printBeats, readBeats } from '../../formats/beat-text'
import { timeOfTick } from '../../time'
import {
  addMarks,
  beginPart,
  bringGrid,
  bringSections,
  changeMark,
  commit,
  countNumbers,
  countsBars,
  emptyRoutine,
  heardInStretch,
  layOut,
  moveSectionByCounts,
  nextPartName,
  partAt,
  placePhrases,
  putCue,
  type Routine,
  readSectionLabel,
  repair,
  repairedBeats,
  SECTION_KINDS,
  sectionLabel,
  shiftPhrases,
  snapMarks,
} from '..'

const ids = () => {
  let n = 0
  return () => `id${n++}`
}
const heard = Array.from({ length: 64 }, (_, i) => 1 + i / 2)
const page = (starts = [0, 8, 16, 24, 32, 40, 48, 56]) =>
  layOut(emptyRoutine('x'), { counts: 64, starts, sections: [] }, ids())
const lengths = (r: Routine) => r.phrases.map((p) => p.length)

describe('a grid brought along', () => {
  it('sets beats and phrases as one repair, and keeps cues on their sound', () => {
    const cue = { id: 'c', at: 240, length: 24, layer: 'feet', move: 'step', side: 'left', call: '' } as const
    const r = putCue(page(), cue)
    const beats = Array.from({ length: 40 }, (_, i) => 0.8 + i * 0.75)
    const numbers = beats.map((_, i) => ((i + 2) % 6) + 1)
    const next = bringGrid(r, heard, { beats, numbers, sections: [] }, false, ids()).routine
    const grid = repairedBeats(heard, next.repairs)
    expect(grid).toEqual(beats)
    expect(next.repairs).toHaveLength(1)
    expect(lengths(next)).toEqual([4, 6, 6, 6, 6, 6, 6])
    expect(next.phrases[0]?.pickUp).toBe(true)
    const moved = next.cues[0]?.at ?? 0
    expect(Math.abs(timeOfTick(grid, moved) - timeOfTick(heard, 240))).toBeLessThan(0.75 / 24)
  })
  it('exported as text and brought back changes nothing', () => {
    const length = fc.integer({ min: 1, max: 32 })
    fc.assert(
      fc.property(
        fc.array(length, { minLength: 2, maxLength: 12 }),
        fc.integer({ min: 0, max: 7 }),
        (list, pick) => {
          const newId = ids()
          const phrases = [
            ...(pick ? [{ length: pick, pickUp: true }] : []),
            ...list.map((n) => ({ length: n, pickUp: false })),
          ].map((p) => ({ ...p, feel: 'straight' as const }))
          const total = phrases.reduce((n, p) => n + p.length, 0)
          const beats = Array.from({ length: total }, (_, i) => 0.37 + i * 0.51)
          const r: Routine = { ...emptyRoutine('x'), phrases }
          const back = readBeats(printBeats(beats, countNumbers(r)))
          expect(bringGrid(r, beats, back, false, newId).routine).toEqual(r)
        },
      ),
    )
  })
  it('counted in bars makes one phrase of two', () => {
    const numbers = heard.map((_, i) => ((i + 1) % 4) + 1)
    expect(countsBars(numbers)).toBe(true)
    expect(countsBars(numbers.map((_, i) => (i % 8) + 1))).toBe(false)
    const next = bringGrid(page(), heard, { beats: heard, numbers, sections: [] }, true, ids()).routine
    expect(lengths(next)).toEqual([3, 8, 8, 8, 8, 8, 8, 8, 5])
  })
  it('begins with a pick-up as it was counted before, or with usual phrases where that is long', () => {
    const r = page()
    const threes = { ...r, phrases: r.phrases.map((p, i) => (i ? p : { ...p, feel: 'triplet' as const })) }
    const from = (first: number) => {
      const numbers = heard.map((_, i) => (i < first ? 2 : ((i - first) % 8) + 1))
      return bringGrid(threes, heard, { beats: heard, numbers, sections: [] }, false, ids()).routine.phrases
    }
    const shown = (first: number) => from(first).map((p) => `${p.pickUp ? '-' : ''}${p.length}`)
    expect(from(3)[0]).toEqual({ length: 3, feel: 'triplet', pickUp: true })
    expect(shown(32).slice(0, 2)).toEqual(['-32', '8'])
    expect(shown(36).slice(0, 6)).toEqual(['-4', '8', '8', '8', '8', '8'])
    expect(from(0)[0]).toEqual({ length: 8, feel: 'triplet', pickUp: false })
  })
  it('keeps sections beside where they began, when its phrases begin elsewhere', () => {
    const r = page()
    const verse = {
      id: 's',
      at: 2 * 192,
      name: 'Mine',
      kind: 'verse' as const,
      letter: 'A',
    }
    const numbers = heard.map((_, i) => ((i + 6) % 8) + 1)
    const next = bringGrid(
      { ...r, sections: [verse] },
      heard,
      { beats: heard, numbers, sections: [] },
      false,
      ids(),
    ).routine
    const begun = commit(r, () => next)
    if (!begun.done) throw new Error(begun.why)
    const at = placePhrases(begun.routine).find((p) => p.section?.name === 'Mine')
    expect(at?.start).toBe(18 * 24)
  })
  it('is refused where beats lie too near or do not follow one another', () => {
    const bring = (beats: number[]) => () =>
      bringGrid(page(), heard, { beats, numbers: null, sections: [] }, false, ids())
    expect(bring([1, 1.05, 2])).toThrow('nearer than a tenth of a second')
    expect(bring([2, 1])).toThrow('do not follow')
  })
  it('places sections on the nearest count and cuts the phrase there', () => {
    const { routine: r, said } = bringSections(
      { ...page(), sections: [{ id: 'old', at: 0, name: 'Mine', kind: 'chorus', letter: 'A' }] },
      heard,
      [
        { start: 1.02, text: 'Intro' },
        { start: 7.1, text: 'refrain' },
        { start: 13, text: 'refrain' },
        { start: 900, text: 'beyond the end' },
      ],
      ids(),
    )
    expect(said).toEqual(['“Mine” gives way to the sections that were brought.'])
    expect(lengths(r)).toEqual([8, 4, 4, 8, 8, 8, 8, 8, 8])
    expect(r.sections.map((s) => [s.letter, s.kind, s.name])).toEqual([
      ['A', 'intro', ''],
      ['B', 'part', 'refrain'],
      ['B', 'part', 'refrain'],
    ])
  })
  it('reads back every section label it prints', () => {
    fc.assert(
      fc.property(
        fc.stringMatching(/^[A-Z][0-9]?$/),
        fc.constantFrom(...SECTION_KINDS),
        fc.oneof(fc.constant(''), fc.stringMatching(/^[a-z][a-z: ]{0,10}[a-z]$/)),
        (letter, kind, name) => {
          expect(readSectionLabel(sectionLabel({ letter, kind, name }), new Map())).toEqual({
            letter,
            kind,
            name,
          })
        },
      ),
    )
  })
})

describe('back to what was heard for a stretch', () => {
  it('puts the heard beats back there and keeps repairs elsewhere', () => {
    const late = repair(page(), heard, { kind: 'shift', seconds: 0.05 }, ids()).routine
    const next = heardInStretch(late, heard, 16, 32, ids()).routine
    const grid = repairedBeats(heard, next.repairs)
    expect(grid.slice(16, 32)).toEqual(heard.slice(16, 32))
    expect(grid[15]).toBeCloseTo((heard[15] as number) + 0.05, 9)
    expect(grid[32]).toBeCloseTo((heard[32] as number) + 0.05, 9)
    expect(lengths(next)).toEqual(lengths(late))
  })
})

describe('a section moved by counts', () => {
  it('takes counts from its first phrase to the one before', () => {
    const r: Routine = { ...page(), sections: [] }
    const with2 = {
      ...r,
      sections: [{ id: 's', at: 2 * 192, name: '', kind: 'verse' as const, letter: 'A' }],
    }
    expect(lengths(moveSectionByCounts(with2, 's', 2)).slice(0, 4)).toEqual([8, 10, 6, 8])
    expect(lengths(moveSectionByCounts(with2, 's', -1)).slice(0, 4)).toEqual([8, 7, 9, 8])
    expect(() => moveSectionByCounts(with2, 's', 8)).toThrow('no more counts')
  })
})

describe('marks', () => {
  const lyric = { kind: 'lyric', at: 3.1234567, end: 4.2, text: ' hold on ' } as const
  it('stand on whole milliseconds, in order, and stay at their sound when counts are moved', () => {
    const newId = ids()
    const r = addMarks(page(), [lyric, { kind: 'sound', at: 2, end: null, text: 'clap' }], newId)
    expect(r.marks.map((m) => [m.at, m.end, m.text])).toEqual([
      [2, null, 'clap'],
      [3.123, 4.2, 'hold on'],
    ])
    expect(shiftPhrases(r, 3).marks).toBe(r.marks)
    expect(repair(r, heard, { kind: 'double' }, newId).routine.marks).toBe(r.marks)
  })
  it('take their end along, and snap to the nearest named place', () => {
    const r = addMarks(page(), [lyric], ids())
    const id = r.marks[0]?.id ?? ''
    expect(changeMark(r, id, { at: 4.123 }, heard).marks[0]).toMatchObject({ at: 4.123, end: 5.2 })
    // Counts lie half a second apart, so named places lie 125 ms apart: 3.123 is 2 ms off one.
    expect(snapMarks(r, heard, placePhrases(r), 'lyric').marks[0]?.at).toBe(3.125)
    expect(snapMarks(r, heard, placePhrases(r), 'sound')).toBe(r)
  })
  it('take the cues along that start on them', () => {
    const r = addMarks(page(), [lyric], ids())
    const id = r.marks[0]?.id ?? ''
    const cue = {
      id: 'c',
      at: 102,
      length: 24,
      layer: 'arms',
      move: 'reach',
      side: 'none',
      call: '',
    } as const
    const tied = putCue(putCue(r, { ...cue, trigger: { kind: 'lyric', mark: id } }), { ...cue, id: 'free' })
    const moved = changeMark(tied, id, { at: 3.623 }, heard)
    expect(moved.cues.map((c) => c.at)).toEqual([126, 102])
  })
  it('without words are not added', () => {
    const r = page()
    expect(addMarks(r, [{ ...lyric, text: '  ' }], ids())).toBe(r)
  })
})

describe('parts of the dance', () => {
  it('begin anywhere, keep their order, and move with their sound', () => {
    const newId = ids()
    const r = beginPart(beginPart(page(), 192, 'Part 2', newId), 12, 'Part 1', newId)
    expect(r.parts.map((p) => p.at)).toEqual([12, 192])
    expect(nextPartName(r.parts)).toBe('Part 3')
    expect(partAt(r.parts, 100)?.name).toBe('Part 1')
    expect(partAt(r.parts, 5)).toBeNull()
    expect(beginPart(r, 12, 'warm', newId).parts).toHaveLength(2)
    expect(repair(r, heard, { kind: 'double' }, newId).routine.parts.map((p) => p.at)).toEqual([24, 384])
  })
})
