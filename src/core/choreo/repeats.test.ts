import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Cue, LessonStep, Routine } from '../routine'
import {
  mirrorCue,
  mirrorText,
  oneHere,
  placePhrases,
  repair,
  repairedBeats,
  setPhraseLength,
  shiftPhrases,
  USUAL,
} from '../routine'
import { timeOfTick } from '../time'
import { danced, endRepeat, isOld, setRepeat, usersOf, wholeRepeat, written } from '.'
import { cuesOf, ids, page, phrase } from './hand.test-tools'

const said = (r: Routine, i: number) => {
  const p = phrase(r, i)
  return danced(r)
    .filter((c) => c.at >= p.start && c.at < p.end)
    .map((c) => [(c.at - p.start) / 24, c.layer, c.move, c.side])
}
const asIn = (r: Routine, to: number, from: number, mirrored = false): Routine => {
  const repeat = wholeRepeat(
    placePhrases(r),
    phrase(r, to).phrase.id,
    phrase(r, from).phrase.id,
    mirrored,
    ids(`r${to}-`),
  )
  if (!repeat) throw new Error('no repeat')
  return setRepeat(r, repeat)
}
/** Everything danced, without ids. */
const bare = (r: Routine) => danced(r).map((c) => ({ ...written(c), id: '' }))

const lesson: LessonStep = {
  id: 'x',
  kind: 'drill',
  first: '',
  last: '',
  runUp: 0,
  layer: 'all',
  speed: 1,
  sound: 'both',
  view: 'true',
  repetitions: 1,
  talk: 0,
  why: '',
  own: false,
}
const FIRST = ['1 step R; 2 touch L; 3 step L; 4 touch R; 5-8 grapevine R']

describe('a repeat', () => {
  it('dances a phrase as another, to the other side if wanted, and follows it', () => {
    const r = asIn(asIn(page(3, cuesOf(FIRST)), 1, 0), 2, 1, true)
    expect(said(r, 1)).toEqual(said(r, 0))
    expect(said(r, 2)[0]).toEqual([0, 'feet', 'step', 'left'])
    const changed = { ...r, cues: r.cues.map((c) => (c.move === 'touch' ? { ...c, move: 'kick' } : c)) }
    expect(said(changed, 2)[1]).toEqual([1, 'feet', 'kick', 'right'])
  })
  it('may have an ending of its own: what is written replaces its layer there, and is marked', () => {
    const r = asIn(page(2, [...cuesOf(FIRST), ...cuesOf('1 clap', 'arms')]), 1, 0)
    const own: Cue = { ...(cuesOf('5-8 turn')[0] as Cue), id: 'own', at: 192 + 96 }
    const next = { ...r, cues: [...r.cues, own] }
    expect(said(next, 1).map((c) => c[2])).toEqual(['step', 'clap', 'touch', 'step', 'touch', 'turn'])
    expect(danced(next).find((c) => c.id === 'own')?.differs).toBe(true)
    expect(isOld(next, phrase(next, 1))).toBe(false)
    expect(isOld(r, phrase(r, 1))).toBe(true)
  })
  it('may be a part: the first half again in the second half of the same eight', () => {
    const r = setRepeat(page(1, cuesOf('1 step R; 2 touch L')), {
      id: 'half',
      phrase: 'p0',
      at: 96,
      length: 96,
      source: 'p0',
      from: 0,
      mirrored: true,
    })
    expect(said(r, 0)).toEqual([
      [0, 'feet', 'step', 'right'],
      [1, 'feet', 'touch', 'left'],
      [4, 'feet', 'step', 'left'],
      [5, 'feet', 'touch', 'right'],
    ])
  })
  it('is refused in a circle, with the reason', () => {
    const r = asIn(page(3, cuesOf(FIRST)), 1, 0)
    expect(() => asIn(r, 0, 1)).toThrow('circle')
    expect(() => asIn(asIn(r, 2, 1), 0, 2)).toThrow('circle')
    const same = { id: 's', phrase: 'p0', at: 0, length: 96, source: 'p0', from: 48, mirrored: false }
    expect(() => setRepeat(page(1), same)).toThrow('circle')
  })
  it('names its users, and ends with or without what it brought', () => {
    const r = asIn(page(2, cuesOf(FIRST)), 1, 0)
    expect(usersOf(r, 'p0').map((x) => x.phrase)).toEqual(['p1'])
    const id = r.repeats[0]?.id ?? ''
    expect(said(endRepeat(r, id, false, ids()), 1)).toEqual([])
    expect(said(endRepeat(r, id, true, ids('n')), 1)).toEqual(said(r, 1))
    expect(endRepeat(r, 'none', true, ids())).toBe(r)
  })
})

const moves = fc.constantFrom('step', 'touch', 'clap', 'look left', 'turn ½ right', 'hold')
const cues = fc.uniqueArray(
  fc.record({
    at: fc.integer({ min: 0, max: 64 * 4 - 1 }).map((q) => q * 6),
    length: fc.constantFrom(12, 24, 48, 120),
    layer: fc.constantFrom('feet' as const, 'arms' as const),
    move: moves,
    side: fc.constantFrom('left' as const, 'right' as const, 'none' as const),
    call: fc.constant(''),
  }),
  { maxLength: 30, selector: (c) => `${c.at} ${c.layer}` },
)
const repeats = fc.array(
  fc.record({
    phrase: fc.integer({ min: 0, max: 7 }),
    source: fc.integer({ min: 0, max: 7 }),
    at: fc.constantFrom(0, 48, 96),
    from: fc.constantFrom(0, 96),
    length: fc.constantFrom(96, 192),
    mirrored: fc.boolean(),
  }),
  { maxLength: 8 },
)
/** Routines of eight eights with any repeats that make no circle. */
const routines = fc.tuple(cues, repeats).map(([list, wanted]) => {
  let r = page(
    8,
    list.map((c, i) => ({ ...c, id: `c${i}` })),
  )
  wanted.forEach((w, i) => {
    const repeat = {
      ...w,
      id: `r${i}`,
      phrase: `p${w.phrase}`,
      source: `p${w.source}`,
      length: Math.min(w.length, 192 - w.at),
    }
    try {
      r = setRepeat(r, repeat)
    } catch (e) {
      if (!(e instanceof RangeError)) throw e
    }
  })
  return r
})

describe('always', () => {
  it('writing a repeat out changes nothing that is danced', () => {
    fc.assert(
      fc.property(routines, (r) => {
        for (const { id } of r.repeats) expect(bare(endRepeat(r, id, true, ids('x')))).toEqual(bare(r))
      }),
      { numRuns: 200 },
    )
  })
  it('mirroring twice is the identity, of cues and of words', () => {
    fc.assert(
      fc.property(routines, (r) => {
        for (const c of r.cues) expect(mirrorCue(mirrorCue(c))).toEqual(c)
      }),
    )
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (t) => {
        expect(mirrorText(mirrorText(t))).toBe(t)
      }),
    )
    expect(mirrorText('step R, look left over the brightest LR rightly; Right!')).toBe(
      'step L, look right over the brightest LR rightly; Left!',
    )
  })
  it('renumbering moves no cue off its sound', () => {
    const heard = Array.from({ length: 64 }, (_, i) => 0.4 + i * 0.55)
    fc.assert(
      fc.property(
        routines,
        fc.integer({ min: -7, max: 7 }),
        fc.integer({ min: 0, max: 63 }),
        (r, by, count) => {
          const when = (x: Routine) =>
            x.cues.map((c) => [c.id, timeOfTick(repairedBeats(heard, x.repairs), c.at)])
          expect(when(shiftPhrases(r, by, ids('n')))).toEqual(when(r))
          expect(when(oneHere(r, count, ids('n')))).toEqual(when(r))
          expect(when(setPhraseLength(r, 'p3', 6, ids('n')))).toEqual(when(r))
        },
      ),
    )
  })
})

describe('twice and half as many counts', () => {
  const heard = Array.from({ length: 32 }, (_, i) => 1 + i * 0.5)
  const inSeconds = (r: Routine) =>
    danced(r).map((c) => [timeOfTick(repairedBeats(heard, r.repairs), c.at), c.layer, c.move, c.side])
  const r = asIn(page(4, cuesOf(FIRST)), 2, 0, true)
  const step = { first: phrase(r, 2).phrase.id, last: phrase(r, 3).phrase.id }
  const settings = { ...USUAL }
  const planned: Routine = {
    ...r,
    plans: [
      {
        id: 'plan',
        name: 'Plan',
        settings,
        gone: [],
        steps: [{ ...lesson, ...step }],
      },
    ],
  }
  const twice = repair(planned, heard, { kind: 'double' }, ids('d'))

  it('dance repeats on the same sound, in as many pieces as there are phrases now', () => {
    expect(twice.phrases).toHaveLength(8)
    expect(inSeconds(twice)).toEqual(inSeconds(planned))
    expect(twice.repeats.map((x) => x.length)).toEqual([192, 192])
  })
  it('keep phrases that begin where one began, and what lessons say of them', () => {
    expect(twice.phrases.filter((_, i) => i % 2 === 0).map((p) => p.id)).toEqual(r.phrases.map((p) => p.id))
    expect(twice.plans[0]?.steps[0]).toMatchObject({ first: step.first, last: phrase(twice, 7).phrase.id })
  })
  it('give the dance back when they follow each other', () => {
    const back = repair(twice, heard, { kind: 'halve', keep: 0 }, ids('h'))
    expect(inSeconds(back)).toEqual(inSeconds(planned))
    expect(back.phrases).toEqual(planned.phrases)
    expect(back.plans).toEqual(planned.plans)
  })
})
