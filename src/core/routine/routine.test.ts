import fc from 'fast-check'
import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import {
  beginSection,
  type Cue,
  cuesIn,
  cueText,
  danceOf,
  emptyRoutine,
  everyEight,
  labelIn,
  layOut,
  moveCue,
  nextLetter,
  oneFromHere,
  oneHere,
  phraseAt,
  placeName,
  placePhrases,
  putCue,
  type Routine,
  RoutineSchema,
  removeCue,
  removeSection,
  repair,
  repairedBeats,
  setExcerpt,
  setPhraseLength,
  shiftPhrases,
} from '.'

const ids = () => {
  let n = 0
  return () => `id${n++}`
}
const beats = (n: number, bpm = 120, start = 1) => Array.from({ length: n }, (_, i) => start + (i * 60) / bpm)
const cue = (at: number, id = `c${at}`): Cue => ({
  id,
  at,
  length: 24,
  layer: 'feet',
  move: 'step',
  side: 'right',
  call: '',
})
const page = (counts = 64, one = 0): Routine =>
  layOut(
    emptyRoutine('Test'),
    { counts, starts: everyEight(one, counts), sections: [{ count: one, letter: 'A' }] },
    ids(),
  )
const lengths = (r: Routine) => r.phrases.map((p) => (p.pickUp ? -p.length : p.length))
/** Every count's number as the dancer says it, down the whole page. */
const numbers = (r: Routine) =>
  placePhrases(r).flatMap((p) =>
    Array.from({ length: p.phrase.length }, (_, i) => Number(labelIn(p, p.start + i * 24))),
  )

describe('laying out', () => {
  it('puts a pick-up before the first 1 and the rest behind the last eight', () => {
    expect(lengths(page(30, 3))).toEqual([-3, 8, 8, 8, 3])
    expect(numbers(page(30, 3)).slice(0, 5)).toEqual([6, 7, 8, 1, 2])
  })
  it('a phrase of 6 then an eight: labels 1-6, then 1-8, six counts later', () => {
    const r = setPhraseLength(page(64), 0, 6)
    const [six, eight] = placePhrases(r)
    expect(numbers(r).slice(0, 14)).toEqual([1, 2, 3, 4, 5, 6, 1, 2, 3, 4, 5, 6, 7, 8])
    expect((eight?.start ?? 0) - (six?.start ?? 0)).toBe(6 * 24)
  })
  it('names the place as a dancer says it', () => {
    const r = beginSection(page(64), 2 * 192, { name: '', kind: 'chorus', letter: 'B' }, ids())
    const at = phraseAt(placePhrases(r), 24 * 8 * 4 + 24 * 4 + 12)
    expect(at && placeName(at)).toBe('Chorus, eight 3')
    expect(at && labelIn(at, 24 * 8 * 4 + 24 * 4 + 12)).toBe('5&')
  })
  it('keeps an odd phrase that was heard, and fills a long gap with eights', () => {
    const heard = layOut(emptyRoutine('Test'), { counts: 40, starts: [0, 8, 12, 36], sections: [] }, ids())
    expect(lengths(heard)).toEqual([8, 4, 8, 8, 8, 4])
  })
  it('always covers exactly the counts it was given', () => {
    fc.assert(
      fc.property(fc.integer({ min: -20, max: 40 }), fc.integer({ min: 1, max: 400 }), (one, counts) => {
        expect(page(counts, one).phrases.reduce((n, p) => n + p.length, 0)).toBe(counts)
      }),
    )
  })
})

describe('moving the 1', () => {
  it('everywhere: the chosen count becomes a 1, and every eighth count from it', () => {
    for (let count = 0; count < 24; count++) {
      const r = oneHere(page(64, 3), count)
      const said = numbers(r)
      expect(said).toHaveLength(64)
      expect(said[count]).toBe(1)
      for (let i = count; i + 8 < 60; i += 8) expect(said[i]).toBe(1)
    }
  })
  it('keeps a spare four where it is while the ends absorb the move', () => {
    const spare = setPhraseLength(page(64), 2, 4)
    expect(lengths(spare)).toEqual([8, 8, 4, 8, 8, 8, 8, 8, 4])
    expect(lengths(shiftPhrases(spare, 2))).toEqual([-2, 8, 8, 4, 8, 8, 8, 8, 8, 2])
    expect(lengths(shiftPhrases(spare, -2))).toEqual([-6, 8, 4, 8, 8, 8, 8, 8, 6])
  })
  it('from here on: what is before stays', () => {
    expect(lengths(oneFromHere(page(32), 12))).toEqual([8, 4, 8, 8, 4])
    expect(lengths(oneFromHere(page(32), 16))).toEqual([8, 8, 8, 8])
  })
  it('there and back again says the same numbers, and never moves a cue off its sound', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 7 }), fc.integer({ min: 0, max: 7 }), (by, one) => {
        const r = putCue(page(64, one), cue(100))
        const there = shiftPhrases(r, by)
        expect(there.cues).toEqual(r.cues)
        expect(numbers(shiftPhrases(there, -by)).slice(8, 56)).toEqual(numbers(r).slice(8, 56))
      }),
    )
  })
  it('carries sections along', () => {
    const r = beginSection(page(64), 3 * 192, { name: 'Hook', kind: 'hook', letter: 'B' }, ids())
    const moved = placePhrases(shiftPhrases(r, -3)).find((p) => p.section?.name === 'Hook')
    expect(moved?.start).toBe((24 - 3) * 24)
  })
})

describe('repairing the beats', () => {
  const heard = beats(64)
  it('applies repairs in order and leaves the hearing alone', () => {
    const before = [...heard]
    const out = repairedBeats(heard, [{ kind: 'double' }, { kind: 'shift', seconds: 0.03 }])
    expect(out).toHaveLength(127)
    expect(out[1]).toBeCloseTo(1.28, 9)
    expect(heard).toEqual(before)
  })
  it('×2 and ÷2 keep every cue on its sound and undo each other', () => {
    const r = putCue(page(64, 4), cue(24 * 10 + 12))
    const twice = repair(r, heard, { kind: 'double' }, ids()).routine
    expect(twice.cues[0]?.at).toBe(2 * (24 * 10 + 12))
    const back = repair(twice, heard, { kind: 'halve', keep: 0 }, ids()).routine
    expect(repairedBeats(heard, back.repairs)).toEqual(heard)
    expect(back.cues[0]).toEqual(r.cues[0])
    expect(numbers(back)).toEqual(numbers(r))
  })
  it('lays the page out anew where there was no tempo, and only there, and says nothing of it', () => {
    const moved = { kind: 'shift' as const, seconds: 0.1 }
    const two = repair(page(64), [1, 1.5], moved, ids())
    expect(lengths(two.routine)).toEqual(lengths(page(64)))
    const none = repair(page(0), [], { kind: 'grid', from: 0, to: 0, beats: beats(16) }, ids())
    expect(lengths(none.routine)).toEqual([8, 8])
    expect(none.said).toEqual([])
  })
  it('÷2 may keep the other beat of each pair', () => {
    const r = repair(page(64), heard, { kind: 'halve', keep: 1 }, ids()).routine
    expect(repairedBeats(heard, r.repairs)[0]).toBe(heard[1])
  })
  it('gives nothing rather than a broken grid', () => {
    expect(repairedBeats([1], [{ kind: 'double' }])).toEqual([])
    expect(repairedBeats([], [])).toEqual([])
  })
})

describe('sections, excerpt, cues', () => {
  it('a second section on the same phrase replaces the first; letters run on', () => {
    const once = beginSection(page(64), 0, { name: 'Verse', kind: 'verse', letter: 'A' }, ids())
    expect(once.sections.map((s) => s.name)).toEqual(['Verse'])
    expect(nextLetter(once.sections)).toBe('B')
    expect(removeSection(once, once.sections[0]?.id ?? '').sections).toEqual([])
  })
  it('an excerpt may start before a 1 and never turns inside out', () => {
    const r = setExcerpt(page(64), 'start', 24 * 7)
    expect(danceOf(r)).toEqual({ from: 168, to: 1536 })
    expect(danceOf(setExcerpt(setExcerpt(r, 'end', 24 * 24), 'start', 24 * 30))).toEqual({
      from: 720,
      to: 1536,
    })
  })
  it('puts, moves, finds and takes away cues', () => {
    let r = putCue(putCue(page(64), cue(200)), cue(36))
    r = moveCue(r, 'c200', -8)
    expect(cuesIn(r.cues, { from: 0, to: 24 * 8 }).map((c) => c.at)).toEqual([36])
    expect(() => moveCue(r, 'c36', -48)).toThrow('on a count of the page')
    expect(removeCue(r, 'c36', ids()).cues.map((c) => c.at)).toEqual([192])
  })
  it('writes the side of a cue, and the other side in mirrored view', () => {
    expect([cueText(cue(0)), cueText(cue(0), true), cueText({ move: 'hold', side: 'none' })]).toEqual([
      'step R',
      'step L',
      'hold',
    ])
  })
})

const repeat = (id: string, from: number, length: number, source: number) => ({
  id,
  to: { from, to: from + length },
  from: source,
  mirrored: false,
})

describe('the border', () => {
  it('takes every routine the edits make', () => {
    const r = putCue(page(64, 3), cue(5))
    expect(v.parse(RoutineSchema, JSON.parse(JSON.stringify(r)))).toEqual(r)
  })
  it('refuses twins, strays and fractions', () => {
    const r = putCue(page(64), cue(24))
    const bad = [
      { ...r, cues: [cue(24), cue(24)] },
      { ...r, sections: [{ id: 's', at: 100, name: '', kind: 'verse', letter: 'A' }] },
      { ...r, cues: [cue(24.5)] },
      { ...r, cues: [{ ...cue(24), move: '  ' }] },
      { ...r, excerpt: { from: 48, to: 48 } },
      { ...r, repeats: [repeat('a', 0, 96, 384), repeat('b', 48, 96, 384)] },
      { ...r, title: '' },
    ]
    for (const b of bad) expect(v.safeParse(RoutineSchema, b).success).toBe(false)
  })
})
