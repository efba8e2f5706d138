import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { timeOfTick } from '../../time'
import { LIMITS } from '../document/limits'
import type { Routine } from '../document/schema'
import { commit } from '../gate/commit'
import { Refused } from '../gate/refused'
import { page } from '../hand.test-tools'
import { bringMarks, bringSent, learnersOn, removeLearner, withLearnersOf } from './learner-edits'
import { bySound, rebase } from './rebase'

const times = Array.from({ length: 65 }, (_, i) => 10 + i * 0.5 + 0.003 * (i % 3))
let n = 0
const newId = () => `id${n++}`
const sent = (learner: string, made: string, ...marks: [number, number, boolean][]) => ({
  learner,
  made,
  marks: marks.map(([from, to, sits]) => ({
    ...{ from: timeOfTick(times, from), to: timeOfTick(times, to), sits },
    at: made,
  })),
})
const NOW = new Date('2026-11-22T10:00:00.000Z')
const [EARLY, LATE] = ['2026-11-20T10:00:00.000Z', '2026-11-21T10:00:00.000Z']

describe('what learners send back', () => {
  it('lands on the counts it was said of, whatever they are', () => {
    fc.assert(
      fc.property(fc.integer({ min: -48, max: 1500 }), fc.integer({ min: 1, max: 400 }), (from, length) => {
        const r = bringMarks(page(8, []), sent('Mara', LATE, [from, from + length, false]), times, newId, NOW)
        expect(r.learners[0]?.marks[0]?.stretch).toEqual({ from, to: from + length })
      }),
    )
  })
  it('replaces what the same learner said before, and refuses what is older', () => {
    const first = bringMarks(page(4, []), sent('Mara', EARLY, [0, 192, false]), times, newId, NOW)
    const both = bringMarks(first, sent('Bo', EARLY, [0, 192, false]), times, newId, NOW)
    const later = bringMarks(both, sent(' mara ', LATE, [0, 192, true]), times, newId, NOW)
    expect(later.learners.map((x) => [x.name, x.marks.map((m) => m.sits)])).toEqual([
      ['Bo', [false]],
      ['mara', [true]],
    ])
    expect(later.learners[1]?.id).toBe(first.learners[0]?.id)
    expect(() => bringMarks(later, sent('MARA', EARLY, [0, 24, true]), times, newId, NOW)).toThrow(Refused)
    // The same file a second time changes nothing that could be seen.
    expect(bringMarks(later, sent('mara', LATE, [0, 192, true]), times, newId, NOW).learners).toHaveLength(2)
    expect(removeLearner(later, 'none').learners).toHaveLength(2)
    expect(removeLearner(later, later.learners[0]?.id ?? '').learners.map((x) => x.name)).toEqual(['mara'])
  })
  it('is of the same learner where a device sends it again under another name', () => {
    const first = bringSent(page(4, []), 'device', sent('Mara', EARLY, [0, 192, false]), times, NOW)
    const later = bringSent(first, 'device', sent('Mara K.', LATE, [0, 192, true]), times, NOW)
    expect(later.learners.map((x) => [x.id, x.name])).toEqual([['device', 'Mara K.']])
    // Two devices of one learner are one learner, known by the first.
    const both = bringSent(later, 'other', sent('mara k.', LATE, [0, 24, true]), times, NOW)
    expect(both.learners.map((x) => [x.id, x.name])).toEqual([['device', 'mara k.']])
    // What was said before and comes late changes nothing.
    expect(() => bringSent(later, 'device', sent('Mara', EARLY, [0, 24, true]), times, NOW)).toThrow(Refused)
    expect(bringSent(later, 'device', sent('Mara K.', LATE, [0, 192, true]), times, NOW)).toEqual(later)
  })
  it('of a clock that is wrong is refused in words, and shuts out nothing where it is here already', () => {
    const far = sent('Mara', '9999-12-31T10:00:00.000Z', [0, 192, false])
    expect(() => bringMarks(page(4, []), far, times, newId, NOW)).toThrow('which is not yet')
    const here = bringMarks(page(4, []), far, times, newId, new Date('9999-12-31T12:00:00.000Z'))
    const mended = bringMarks(here, sent('Mara', LATE, [0, 192, true]), times, newId, NOW)
    expect(mended.learners.map((x) => x.made)).toEqual([LATE])
  })
  it('comes from elsewhere as the later of each', () => {
    const here = [sent('Mara', LATE, [0, 192, true]), sent('Bo', EARLY, [0, 192, true])]
    const there = [sent('mara', EARLY, [0, 192, false]), sent('BO', LATE, [0, 24, false]), sent('Ina', EARLY)]
    const [a, b] = [here, there].map((all) =>
      all.reduce<Routine>((x, s) => bringMarks(x, s, times, newId, NOW), page(4, [])),
    )
    const both = withLearnersOf(a as Routine, (b as Routine).learners)
    expect(both.learners.map((x) => [x.name, x.made])).toEqual([
      ['Mara', LATE],
      ['BO', LATE],
      ['Ina', EARLY],
    ])
    expect(withLearnersOf(both, (b as Routine).learners)).toBe(both)
  })
  it('is refused where nothing is counted, and passes the gate', () => {
    const none = commit(page(4, []), (r) =>
      bringMarks(r, sent('Mara', EARLY, [0, 192, true]), [], newId, NOW),
    )
    expect(none).toMatchObject({ done: false })
    const done = commit(page(4, []), (r) =>
      bringMarks(r, sent('Mara', EARLY, [0, 192, true]), times, newId, NOW),
    )
    expect(done.done && (done.routine as Routine).learners).toHaveLength(1)
  })
  it('goes where its sound goes when the counts are mended', () => {
    const r = bringMarks(page(8, []), sent('Mara', LATE, [0, 192, false]), times, newId, NOW)
    const twice = times.flatMap((t, i) => [t, ...(i < 64 ? [(t + (times[i + 1] as number)) / 2] : [])])
    const there = rebase(r, bySound(times, twice), 129, newId).routine
    expect(there.learners[0]?.marks[0]?.stretch).toEqual({ from: 0, to: 384 })
  })
  it('of a full class never makes a routine too large to be saved', () => {
    const marks = Array.from(
      { length: LIMITS.learnerMarks },
      (_, i) => [i * 24, i * 24 + 192, i % 2 === 0] as [number, number, boolean],
    )
    const full = Array.from({ length: LIMITS.learners }, (_, i) =>
      sent(`${i} ${'x'.repeat(70)}`, LATE, ...marks),
    ).reduce<Routine>((r, s) => bringMarks(r, s, times, newId, NOW), page(4, []))
    // The server takes eight megabytes at once; most of them are the dance's.
    expect(JSON.stringify(full.learners).length).toBeLessThan(2.5e6)
    const more = commit(full, (r) => bringMarks(r, sent('One more', LATE), times, newId, NOW))
    expect(more).toMatchObject({ done: false })
    expect(more.done || more.why).toMatch(/learners/)
  })
  it('is added up by stretch, what does not sit with most first', () => {
    const r = [
      sent('Mara', EARLY, [0, 192, true], [192, 384, false]),
      sent('Bo', EARLY, [0, 192, false], [192, 384, false]),
      sent('Ina', EARLY, [0, 192, true]),
    ].reduce<Routine>((x, s) => bringMarks(x, s, times, newId, NOW), page(4, []))
    expect(learnersOn(r.learners)).toEqual([
      { stretch: { from: 192, to: 384 }, notYet: ['Mara', 'Bo'], sits: [] },
      { stretch: { from: 0, to: 192 }, notYet: ['Bo'], sits: ['Mara', 'Ina'] },
    ])
  })
})
