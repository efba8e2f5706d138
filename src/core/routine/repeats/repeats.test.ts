import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Stretch, timeOfTick } from '../../time'
import {
  circleIn,
  clear,
  copied,
  danced,
  endRepeat,
  isOld,
  type LessonStep,
  madeAs,
  mirrorCue,
  mirrorMarked,
  mirrorText,
  oneHere,
  paste,
  type Repeat,
  type Routine,
  removeCue,
  repair,
  repairedBeats,
  rootsOf,
  setPhraseLength,
  setRepeat,
  shiftPhrases,
  USUAL,
  unlink,
  usersOf,
  written,
} from '..'
import type { Cue } from '../document/cue-schema'
import { cuesOf, ids, page, phrase } from '../hand.test-tools'

const said = (r: Routine, i: number) => {
  const p = phrase(r, i)
  return danced(r)
    .filter((c) => c.at >= p.start && c.at < p.end)
    .map((c) => [(c.at - p.start) / 24, c.layer, c.move, c.side])
}
const EIGHT = 192
const repeat = (id: string, at: number, length: number, from: number, mirrored = false): Repeat => ({
  id,
  to: { from: at, to: at + length },
  from,
  mirrored,
})
const asIn = (r: Routine, to: number, from: number, mirrored = false): Routine =>
  setRepeat(r, repeat(`r${to}`, to * EIGHT, EIGHT, from * EIGHT, mirrored), ids(`cut${to}-`))
/** Everything danced, without ids. */
const bare = (r: Routine) => danced(r).map((c) => ({ ...written(c), id: '' }))

const lesson: LessonStep = {
  made: madeAs('x'),
  kind: 'drill',
  stretch: null,
  runUp: 0,
  pass: 'all',
  speed: 1,
  sound: 'both',
  view: 'true',
  repetitions: 1,
  talk: 0,
  why: '',
  version: '',
  how: 'together' as const,
  calls: 'as set' as const,
  leadIn: 'clicks' as const,
  note: '',
  own: false,
}
const SECOND: Stretch = { from: EIGHT, to: 2 * EIGHT }
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
    expect(isOld(next, SECOND)).toBe(false)
    expect(isOld(r, SECOND)).toBe(true)
  })
  it('is replaced only by what is for the same people, in the same option and layer, and lies over it', () => {
    const base = asIn(page(2, cuesOf('1-2 step R; 5 touch L')), 1, 0)
    const moves = (what: Partial<Cue>) => {
      const own: Cue = { ...(cuesOf('1 own')[0] as Cue), id: 'own', at: EIGHT, ...what }
      return said({ ...base, cues: [...base.cues, own] }, 1).map(([at, , move]) => `${at} ${move}`)
    }
    expect(moves({})).toEqual(['0 own', '4 touch'])
    expect(moves({ at: EIGHT + 24 })).toEqual(['1 own', '4 touch'])
    expect(moves({ at: EIGHT + 48 })).toEqual(['0 step', '2 own', '4 touch'])
    expect(moves({ layer: 'arms' })).toEqual(['0 step', '0 own', '4 touch'])
    expect(moves({ role: 'leader' }).sort()).toEqual(['0 own', '0 step', '4 touch'])
    expect(moves({ option: 'harder' }).sort()).toEqual(['0 own', '0 step', '4 touch'])
    expect(moves({ option: 'base' })).toEqual(['0 own', '4 touch'])
  })
  it('is the same cue as before wherever nothing it is made of changed', () => {
    const r = asIn(asIn(page(3, cuesOf(['1 step R; 3 step L', '', '8 clap'])), 1, 0, true), 2, 1)
    const [first, second] = r.cues.filter((c) => c.move === 'step')
    const before = new Set(danced(r))
    const after = danced({ ...r, cues: r.cues.map((c) => (c === first ? { ...c, move: 'stamp' } : c)) })
    expect(after).toHaveLength(before.size)
    for (const c of after) expect([c.move, before.has(c)]).toEqual([c.move, c.move !== 'stamp'])
    // Another repeat is another, though it brings the same.
    const other = danced({ ...r, repeats: r.repeats.map((x) => ({ ...x, mirrored: !x.mirrored })) })
    const sides = (list: readonly Cue[]) => list.map((c) => `${c.at} ${c.side}`)
    expect(sides(other)).not.toEqual(sides([...before]))
    expect(other.filter((c) => c.at === second?.at)).toEqual([...before].filter((c) => c.at === second?.at))
  })
  it('of a repeat leads two hundred deep, no deeper', () => {
    const chain = (n: number) => {
      const r = page(n + 1, cuesOf('1 step'))
      return {
        ...r,
        repeats: Array.from({ length: n }, (_, i) => repeat(`r${i}`, (i + 1) * EIGHT, EIGHT, i * EIGHT)),
      }
    }
    expect(circleIn(chain(200).repeats)).toBeNull()
    expect(circleIn(chain(201).repeats)).not.toBeNull()
  })
  it('may be a part: the first half again in the second half of the same eight', () => {
    const r = setRepeat(page(1, cuesOf('1 step R; 2 touch L')), repeat('half', 96, 96, 0, true), ids())
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
    expect(() => setRepeat(page(1), repeat('s', 0, 96, 0), ids())).toThrow('circle')
    // Its place is named, wherever the first repeat of the page stands.
    expect(() => setRepeat(page(4), repeat('s', 2 * EIGHT, 96, 2 * EIGHT), ids())).toThrow(
      'Eight 3, 1 would be danced as itself',
    )
  })
  it('is judged count by count: what only looks like a circle is none', () => {
    // Each count as the one before it: the first counts go on through the eight.
    const on = setRepeat(page(1, cuesOf('1 step R; 2 touch L')), repeat('on', 48, 144, 0), ids())
    expect(said(on, 0).map((c) => c[2])).toEqual([
      'step',
      'touch',
      'step',
      'touch',
      'step',
      'touch',
      'step',
      'touch',
    ])
    // The first half of one as the second half of the other, and the other way round, meet nowhere.
    const crossed = setRepeat(
      setRepeat(page(2, cuesOf(['5 clap', '5 stamp'])), repeat('a', 0, 96, EIGHT + 96), ids()),
      repeat('b', EIGHT, 96, 96),
      ids(),
    )
    expect(said(crossed, 0).map((c) => c[2])).toEqual(['stamp', 'clap'])
    expect(said(crossed, 1).map((c) => c[2])).toEqual(['clap', 'stamp'])
    expect(circleIn([repeat('x', 0, 96, 96), repeat('y', 96, 96, 0)])).not.toBeNull()
    expect(circleIn([repeat('x', 480, 96, 576), repeat('y', 576, 96, 480)])).toBe(480)
    // Where two lie over one another, the one that begins later holds, also behind its end.
    const [long, back, short] = [
      repeat('long', 0, 300, 400),
      repeat('back', 600, 100, 200),
      repeat('short', 96, 96, 0),
    ]
    expect(circleIn([long, back])).toBe(200)
    expect(circleIn([long, back, short])).toBeNull()
  })
  it('may cover several phrases and parts of them; one set over it cuts only what it lies over', () => {
    const r = setRepeat(
      page(4, cuesOf(['1 step R; 8 clap', '1 kick L'])),
      repeat('long', 2 * EIGHT + 48, EIGHT, 48),
      ids(),
    )
    expect(said(r, 2).map((c) => [c[0], c[2]])).toEqual([[7, 'clap']])
    expect(said(r, 3).map((c) => [c[0], c[2]])).toEqual([[0, 'kick']])
    const cut = setRepeat(r, repeat('over', 2 * EIGHT + 96, 48, 0), ids('n'))
    expect(
      cut.repeats.map((x) => [x.to.from, x.to.to, x.from]).sort((a, b) => (a[0] ?? 0) - (b[0] ?? 0)),
    ).toEqual([
      [432, 480, 48],
      [480, 528, 0],
      [528, 624, 144],
    ])
    expect(said(cut, 2).map((c) => [c[0], c[2]])).toEqual([
      [4, 'step'],
      [7, 'clap'],
    ])
  })
  it('names its users, and ends with or without what it brought', () => {
    const r = asIn(page(2, cuesOf(FIRST)), 1, 0)
    expect(usersOf(r, { from: 0, to: EIGHT }).map((x) => x.to.from)).toEqual([EIGHT])
    expect(usersOf(r, SECOND)).toEqual([])
    expect(rootsOf(r, SECOND)).toEqual([{ from: 0, to: EIGHT }])
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
    at: fc.integer({ min: 0, max: 60 }).map((c) => c * 24),
    from: fc.integer({ min: 0, max: 60 }).map((c) => c * 24),
    counts: fc.integer({ min: 1, max: 20 }),
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
    try {
      r = setRepeat(r, repeat(`r${i}`, w.at, w.counts * 24, w.from, w.mirrored), ids(`x${i}-`))
    } catch (e) {
      if (!(e instanceof RangeError)) throw e
    }
  })
  return r
})
const stretches = fc
  .tuple(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 1, max: 400 }))
  .map(([from, length]) => ({ from, to: from + length }))

describe('always', () => {
  it('writing a repeat out changes nothing that is danced', () => {
    fc.assert(
      fc.property(routines, (r) => {
        for (const { id } of r.repeats) expect(bare(endRepeat(r, id, true, ids('x')))).toEqual(bare(r))
      }),
      { numRuns: 200 },
    )
  })
  it('what is unlinked is danced as before', () => {
    fc.assert(
      fc.property(routines, stretches, (r, s) => {
        const own = unlink(r, s, ids('u'))
        expect(bare(own)).toEqual(bare(r))
        expect(danced(own).some((c) => c.link && c.at >= s.from && c.at < s.to)).toBe(false)
      }),
      { numRuns: 200 },
    )
  })
  it('what is taken away, turned or pasted over linked cues happens there, and nowhere else', () => {
    const layers = ['feet'] as const
    const place = (r: Routine) => danced(r).map((c) => [c.at, c.layer, c.move, c.side])
    fc.assert(
      fc.property(routines, stretches, (r, s) => {
        const inside = (c: { at: number; layer: string }) =>
          c.at >= s.from && c.at < s.to && c.layer === 'feet'
        // Where what is marked is itself repeated elsewhere, that changes too, as it should.
        fc.pre(!usersOf(unlink(r, s, ids('p')), s).length)
        const rest = danced(r)
          .filter((c) => !inside(c))
          .map((c) => [c.at, c.layer, c.move, c.side])
        expect(place(clear(r, { ...s, layers }, ids('k')))).toEqual(rest)
        const turned = mirrorMarked(r, { ...s, layers }, ids('m'))
        const wanted = danced(r).map((c) => (inside(c) ? mirrorCue(c) : c))
        expect(place(turned).sort()).toEqual(wanted.map((c) => [c.at, c.layer, c.move, c.side]).sort())
      }),
      { numRuns: 150 },
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
  it('a repeat stays one where both its stretches keep their counts, and is written out, and said, where not', () => {
    const heard = Array.from({ length: 32 }, (_, i) => 1 + i * 0.5)
    const r = asIn(page(4, cuesOf(FIRST)), 2, 0)
    const gridded = (beats: number[]) => repair(r, heard, { kind: 'grid', from: 0, to: 32, beats }, ids('g'))
    const doubled = repair(r, heard, { kind: 'double' }, ids('d'))
    expect(doubled.said).toEqual([])
    expect(doubled.routine.repeats.map((x) => [x.to, x.from])).toEqual([[{ from: 768, to: 1152 }, 0]])
    // Three counts in the time of two, only where the repeat is danced.
    const torn = gridded([...heard.slice(0, 16), ...Array.from({ length: 24 }, (_, i) => 9 + i / 3)])
    expect(torn.said).toEqual([expect.stringContaining('was written out')])
    expect(torn.routine.repeats).toEqual([])
    expect(torn.routine.cues).toHaveLength(2 * r.cues.length)
    // The same over all of the song keeps it.
    expect(gridded(Array.from({ length: 48 }, (_, i) => 1 + i / 3)).routine.repeats).toHaveLength(1)
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
          expect(when(shiftPhrases(r, by))).toEqual(when(r))
          expect(when(oneHere(r, count))).toEqual(when(r))
          expect(when(setPhraseLength(r, 3, 6))).toEqual(when(r))
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
  const step = { stretch: { from: 2 * EIGHT, to: 4 * EIGHT } }
  const settings = { ...USUAL }
  const planned: Routine = {
    ...r,
    plans: [
      {
        id: 'plan',
        name: 'Plan',
        settings,
        group: '',
        goesOn: null,
        heads: null,
        gone: [],
        steps: [{ ...lesson, made: madeAs('rung 75', 384), ...step }],
      },
    ],
  }
  const twice = repair(planned, heard, { kind: 'double' }, ids('d')).routine

  it('dance repeats on the same sound', () => {
    expect(twice.phrases).toHaveLength(8)
    expect(inSeconds(twice)).toEqual(inSeconds(planned))
    expect(twice.repeats.map((x) => [x.to.from, x.to.to, x.from])).toEqual([[768, 1152, 0]])
  })
  it('take steps of lessons along, and what names them', () => {
    const moved = { made: madeAs('rung 75', 768), stretch: { from: 4 * EIGHT, to: 8 * EIGHT } }
    expect(twice.plans[0]?.steps[0]).toMatchObject(moved)
  })
  it('give the dance back when they follow each other', () => {
    const back = repair(twice, heard, { kind: 'halve', keep: 0 }, ids('h')).routine
    expect(inSeconds(back)).toEqual(inSeconds(planned))
    expect(back.phrases).toEqual(planned.phrases)
    expect(back.plans).toEqual(planned.plans)
  })
})

describe('cues that are linked', () => {
  const r = asIn(page(3, cuesOf(['1 step R; 3 clap; 5 kick L'])), 1, 0)
  const linked = danced(r).find((c) => c.at === EIGHT + 48) as (typeof r.cues)[0]
  it('are taken away one by one where they are danced', () => {
    const without = removeCue(r, linked.id, ids('n'))
    expect(said(without, 0).map((c) => c[2])).toEqual(['step', 'clap', 'kick'])
    expect(said(without, 1).map((c) => c[2])).toEqual(['step', 'kick'])
  })
  it('give way to what is pasted over them; a copy leaves the words it started on behind', () => {
    const sung = { ...(r.cues[0] as Cue), trigger: { kind: 'lyric' as const, mark: 'm' } }
    const song = { ...r, cues: [sung, ...r.cues.slice(1)] }
    const taken = copied(danced(song), { from: 0, to: 24, layers: ['feet'] })
    const { routine: pasted } = paste(song, taken, EIGHT + 48, ids('n'))
    expect(said(pasted, 1).map((c) => [c[0], c[2]])).toEqual([
      [0, 'step'],
      [2, 'step'],
      [4, 'kick'],
    ])
    expect(pasted.cues.filter((c) => c.trigger)).toEqual([sung])
  })
})
