import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { timeOfTick } from '../../time'
import {
  backToHeard,
  beginSection,
  type Cue,
  canRepair,
  countBy,
  emptyRoutine,
  everyEight,
  type HeardGrid,
  insertPhrase,
  joinPhrase,
  labelIn,
  layOut,
  moveSection,
  placePhrases,
  putCue,
  type Repair,
  type Routine,
  rehear,
  repair,
  repairedBeats,
  repairedGrid,
  sameAsSection,
  setFeel,
  setPhraseLength,
  splitPhrase,
  takeSection,
} from '..'

const ids = (mark = 'id') => {
  let n = 0
  return () => `${mark}${n++}`
}
const every = (n: number, period = 0.5, from = 1) => Array.from({ length: n }, (_, k) => from + k * period)
const page = (counts = 64, usual = 8): Routine =>
  layOut(
    { ...emptyRoutine('Test'), usual },
    { counts, starts: everyEight(0, counts, usual), sections: [{ count: 0, letter: 'A' }] },
    ids(),
  )
const lengths = (r: Routine) => r.phrases.map((p) => (p.pickUp ? -p.length : p.length))
const cue = (at: number): Cue => ({
  id: `c${at}`,
  at,
  length: 24,
  layer: 'feet',
  move: 'step',
  side: 'right',
  call: '',
})

describe('repairs that do not fit what was heard', () => {
  it('are left out, and the rest stands; what can never be a grid is none', () => {
    const over = { kind: 'shift' as const, seconds: 0.25 }
    // The second of two pins would put a beat before the first.
    const [held, torn]: Repair[] = [1, 0.9].map((at, i) => ({ kind: 'pin', beat: 4 * i, at }))
    const through = (...repairs: (Repair | undefined)[]) =>
      repairedGrid(
        every(8),
        repairs.filter((r) => r !== undefined),
      )
    expect(through(over).beats[0]).toBe(1.25)
    expect(through(held, torn, over)).toEqual(through(held, over))
    expect(through(held, over).pins).toHaveLength(1)
    expect(repairedGrid([1], [])).toEqual({ beats: [], pins: [] })
    expect(repairedGrid([1, 1], [over])).toEqual({ beats: [], pins: [] })
  })
})

describe('pins', () => {
  const heard = every(33)
  const pin = (beat: number, at: number): Repair => ({ kind: 'pin', beat, at })
  it('the first moves the whole grid; a second stretches between them and carries on beyond', () => {
    expect(repairedBeats(heard, [pin(8, 5.1)])).toEqual(heard.map((t) => expect.closeTo(t + 0.1, 9)))
    const two = repairedBeats(heard, [pin(8, 5), pin(24, 13.4)])
    expect(two.slice(0, 9)).toEqual(heard.slice(0, 9))
    expect(two[16]).toBeCloseTo(9.2, 9)
    expect((two[32] as number) - (two[24] as number)).toBeCloseTo(4, 9)
  })
  it('nothing beyond the next pin moves', () => {
    const held = [pin(8, 5), pin(24, 13)]
    const { beats, pins } = repairedGrid(heard, [...held, pin(16, 9.2)])
    expect(pins).toEqual([8, 16, 24])
    beats.forEach((t, k) => {
      if (k <= 8 || k >= 24) expect(t).toBeCloseTo(heard[k] as number, 9)
    })
    expect(beats[12]).toBeCloseTo(7.1, 9)
  })
  it('one that would put beats out of order, or nearer than a tenth of a second, is refused', () => {
    expect(canRepair(heard, [pin(8, 5)], pin(9, 4.9))).toBe(false)
    expect(canRepair(heard, [pin(8, 5)], pin(9, 5.05))).toBe(false)
    expect(canRepair(heard, [pin(8, 5)], pin(9, 5.2))).toBe(true)
    const r = { ...page(33), repairs: [pin(8, 5)] }
    expect(() => repair(r, heard, pin(9, 4.9), ids())).toThrow('follow one another')
  })
  it('whatever is pinned, pins stay where they were put and beats in order', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 32 }), fc.integer({ min: -240, max: 240 })), {
          maxLength: 8,
        }),
        (list) => {
          const done: Repair[] = []
          const held = new Map<number, number>()
          for (const [beat, ms] of list) {
            const at = (repairedBeats(heard, done)[beat] as number) + ms / 1000
            if (!canRepair(heard, done, pin(beat, at))) continue
            done.push(pin(beat, at))
            held.set(beat, at)
          }
          const { beats } = repairedGrid(heard, done)
          expect(beats).toHaveLength(33)
          for (const [beat, at] of held) expect(beats[beat]).toBeCloseTo(at, 9)
          for (let k = 1; k < beats.length; k++) expect(beats[k]).toBeGreaterThan(beats[k - 1] as number)
        },
      ),
    )
  })
  it('leaves out what would make more counts than any song has', () => {
    const doubled = Array.from({ length: 20 }, () => ({ kind: 'double' as const }))
    const grid = { kind: 'grid' as const, from: 0, to: 9999, beats: [0, 36_000] }
    const many = repairedBeats(heard, [grid, ...doubled])
    expect(many.length).toBeGreaterThan(10_000)
    expect(many.length).toBeLessThanOrEqual(40_000)
  })
  it('a shift from a beat on leaves those before; twice and half keep the pins', () => {
    const moved = repairedBeats(heard, [{ kind: 'shift', seconds: 0.05, from: 10 }])
    expect([moved[9], moved[10]]).toEqual([heard[9], expect.closeTo((heard[10] as number) + 0.05, 9)])
    expect(repairedGrid(heard, [pin(8, 5), { kind: 'double' }]).pins).toEqual([16])
    expect(repairedGrid(heard, [pin(8, 5), { kind: 'halve', keep: 1 }]).pins).toEqual([])
  })
})

describe('a stretch of new beats', () => {
  const heard = every(65)
  it('with the same beats a little moved keeps every phrase and cue on its count', () => {
    const r = putCue(setPhraseLength(page(65), 1, 4), cue(24 * 20 + 12))
    const beats = heard.map((t) => t + 0.04 * Math.sin(t))
    const next = repair(r, heard, { kind: 'grid', from: 0, to: 65, beats }, ids('n')).routine
    expect(lengths(next)).toEqual(lengths(r))
    expect(next.cues).toEqual(r.cues)
  })
  it('with other beats keeps cues on their sound, and phrases at the nearest beat', () => {
    const r = putCue(page(65), cue(24 * 40))
    const sound = timeOfTick(heard, 24 * 40)
    // The last half is counted a third faster.
    const beats = every(44, 0.375, 17)
    const next = repair(r, heard, { kind: 'grid', from: 32, to: 65, beats }, ids('n')).routine
    const grid = repairedBeats(heard, next.repairs)
    expect(Math.abs(timeOfTick(grid, next.cues[0]?.at ?? 0) - sound)).toBeLessThan(0.01)
    expect(next.phrases.reduce((n, p) => n + p.length, 0)).toBe(grid.length)
  })
  it('leaves every phrase itself: its feel and its section, also where beats are added', () => {
    const named = beginSection(page(65), 4 * 192, { name: 'Hook', kind: 'hook', letter: 'B' }, ids('s'))
    const r = setFeel(setPhraseLength(named, 3, 12), 5, 'triplet')
    const followed = heard.map((t) => t + 0.3 * Math.sin(t / 9))
    const same = repair(r, heard, { kind: 'grid', from: 0, to: 65, beats: followed }, ids('n')).routine
    expect(same.phrases).toEqual(r.phrases)
    const front = repair(r, heard, { kind: 'grid', from: 0, to: 0, beats: [0, 0.5] }, ids('n')).routine
    expect(lengths(front).slice(0, 6)).toEqual([-2, 8, 8, 8, 12, 8])
    expect(front.phrases.slice(1).map((p) => p.feel)).toEqual(r.phrases.map((p) => p.feel))
    expect(front.sections).toEqual(r.sections.map((s) => ({ ...s, at: s.at + 48 })))
  })
  it('where nothing was heard lays the page out on what was tapped', () => {
    const next = repair(
      emptyRoutine('Silent'),
      [],
      { kind: 'grid', from: 0, to: 0, beats: every(20) },
      ids(),
    ).routine
    expect(lengths(next)).toEqual([8, 8, 4])
    expect(repairedBeats([], next.repairs)).toEqual(every(20))
  })
  it('is forgotten again: back to what was heard', () => {
    const r = putCue(page(65), cue(24 * 10))
    const twice = repair(r, heard, { kind: 'double' }, ids('d')).routine
    const shifted = repair(twice, heard, { kind: 'shift', seconds: 0.02 }, ids('s')).routine
    const back = backToHeard(shifted, heard, ids('b')).routine
    expect(back.repairs).toEqual([])
    expect(back.cues[0]?.at).toBeCloseTo(24 * 10, -1)
    expect(backToHeard(r, heard, ids()).routine).toBe(r)
  })
})

describe('phrases of any length', () => {
  it('split and joined again are as before; sections at the joint go', () => {
    const r = splitPhrase(page(32), 11)
    expect(lengths(r)).toEqual([8, 3, 5, 8, 8])
    const named = beginSection(r, 11 * 24, { name: 'X', kind: 'part', letter: 'B' }, ids())
    const { routine: joined, said } = joinPhrase(named, 1)
    expect(said).toEqual(['The section “X” began there, and went: its phrases belong to the one before.'])
    expect(lengths(joined)).toEqual([8, 8, 8, 8])
    expect(joined.sections).toHaveLength(1)
    expect(splitPhrase(r, 8)).toBe(r)
  })
  it('4 more counts move what follows on, and cues stay on their sound', () => {
    const r = putCue(page(32), cue(24 * 17))
    const next = insertPhrase(r, 2, 4)
    expect(lengths(next)).toEqual([8, 8, 4, 8, 4])
    expect(next.cues).toEqual(r.cues)
  })
  it('a waltz counts in sixes or threes, from here on or everywhere, and the 1 moves by that', () => {
    expect(lengths(page(32, 6))).toEqual([6, 6, 6, 6, 6, 2])
    expect(lengths(countBy(page(32), 6, null))).toEqual([6, 6, 6, 6, 6, 2])
    expect(lengths(countBy(page(32), 3, 2))).toEqual([8, 8, 3, 3, 3, 3, 3, 1])
    const triplet = setFeel(page(32), 0, 'triplet')
    expect(labelIn(placePhrases(triplet)[0] as never, 8)).toBe('1&')
  })
})

describe('sections', () => {
  const r = takeSection(
    page(64),
    [
      { count: 0, letter: 'A', kind: 'verse' },
      { count: 16, letter: 'B', kind: 'chorus' },
      { count: 40, letter: 'A', kind: 'verse' },
    ],
    ids('s'),
  )
  it('stand in order, whichever was begun first', () => {
    const begun = [768, 0, 384].reduce(
      (x, at) => beginSection(x, at, { name: `at ${at}`, kind: 'part', letter: 'A' }, ids(`b${at}`)),
      page(64),
    )
    expect(begun.sections.map((s) => s.at)).toEqual([0, 384, 768])
  })
  it('are taken over where they were heard', () => {
    expect(r.sections.map((s) => [s.kind, s.at])).toEqual([
      ['verse', 0],
      ['chorus', 2 * 192],
      ['verse', 5 * 192],
    ])
  })
  it('are taken over one guess at a time: named where they begin, begun where none does, the rest stays', () => {
    const plain = takeSection(
      page(64),
      [
        { count: 0, letter: 'A' },
        { count: 16, letter: 'B' },
      ],
      ids('p'),
    )
    const one = takeSection(
      plain,
      [
        { count: 17, letter: 'B', kind: 'chorus' },
        { count: 48, letter: 'B', kind: 'chorus' },
      ],
      ids('q'),
    )
    expect(one.sections.map((s) => [s.at / 192, s.letter, s.kind])).toEqual([
      [0, 'A', 'part'],
      [2, 'B', 'chorus'],
      [6, 'B', 'chorus'],
    ])
    expect(one.sections.slice(0, 2).map((s) => s.id)).toEqual(plain.sections.map((s) => s.id))
  })
  it('begin a phrase earlier or later, never across a neighbour', () => {
    const later = moveSection(r, r.sections[1]?.id ?? '', 1)
    expect(later.sections[1]?.at).toBe(3 * 192)
    const much = [1, 1, 1].reduce((x) => moveSection(x, later.sections[1]?.id ?? '', 1), later)
    expect(much.sections[1]?.at).toBe(4 * 192)
  })
  it('same as another: letter, kind, name and the lengths of its phrases', () => {
    const odd = setPhraseLength(r, 0, 6)
    const same = sameAsSection(odd, odd.sections[2]?.id ?? '', odd.sections[0]?.id ?? '')
    const rows = placePhrases(same).filter((p) => p.section?.id === odd.sections[2]?.id)
    expect(rows[0]?.phrase.length).toBe(6)
    expect(same.sections[2]?.letter).toBe('A')
  })
})

describe('hearing a song again', () => {
  const grid = (version: number, beats: number[], starts: number[]): HeardGrid => ({
    version,
    beats,
    proposal: { counts: beats.length, starts, sections: [] },
  })
  const old = grid(2, every(64), everyEight(0, 64))
  const now = grid(3, every(64, 0.5, 1.02), everyEight(4, 64))
  const fresh = layOut(emptyRoutine('Again'), old.proposal, ids())
  it('lays out anew what nobody touched', () => {
    const next = rehear(putCue(fresh, cue(48)), old, now, ids('n')).routine
    expect(next.heardWith).toBe(3)
    expect(lengths(next)[0]).toBe(-4)
    expect(next.cues.map((c) => c.at)).toEqual([48])
  })
  it('keeps phrases set by hand', () => {
    const touched = setPhraseLength(fresh, 1, 4)
    expect(lengths(rehear(touched, old, now, ids('n')).routine).slice(0, 3)).toEqual([8, 4, 8])
  })
  it('leaves repaired beats alone altogether', () => {
    const repaired = repair(fresh, old.beats, { kind: 'shift', seconds: 0.01 }, ids()).routine
    expect(() => rehear(repaired, old, now, ids('n'))).toThrow('set right by hand')
  })
})
