/* Two at one routine, with every edit there is. */
import fc from 'fast-check'
import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { DANCE_EDITS, dice, PAGE_EDITS, start, timesOf } from './edits.test-tools'
import {
  alike,
  type Cue,
  changeCues,
  commit,
  type Edit,
  type FindingAbout,
  layOutHeard,
  mergeRoutines,
  type Phrase,
  putCue,
  type Routine,
  RoutineSchema,
  removeCue,
  totalCounts,
} from './routine'

const ALL = { ...PAGE_EDITS, ...DANCE_EDITS }
const cue = (id: string, at: number, more: Partial<Cue> = {}): Cue => ({
  ...{ id, at, length: 24, layer: 'arms', move: id, side: 'none', call: '' },
  ...more,
})
function done(r: Routine, ...edits: readonly Edit[]): Routine {
  return edits.reduce((now, edit) => {
    const next = commit(now, edit)
    if (!next.done) throw new Error(next.why)
    return next.routine
  }, r)
}
function merged(base: Routine, mine: Routine, theirs: Routine, prefer?: 'mine' | 'theirs') {
  const result = mergeRoutines(base, mine, theirs, prefer)
  if (!result.done) throw new Error(result.why)
  return result
}
const moves = (r: Routine) => r.cues.map((c) => c.move).sort()
const BASE = start()
const place =
  (c: Cue): Edit =>
  (r) =>
    putCue(r, c)

describe('two at one routine', () => {
  it('what both said otherwise is theirs, or mine where that is asked for, and told either way', () => {
    const titled = (title: string) => ({ ...BASE, title })
    for (const [prefer, title] of [
      [undefined, 'Theirs'],
      ['theirs', 'Theirs'],
      ['mine', 'Mine'],
    ] as const) {
      const { routine, clashes } = merged(BASE, titled('Mine'), titled('Theirs'), prefer)
      expect([routine.title, clashes]).toEqual([
        title,
        [{ field: 'title', at: null, mine: 'Mine', theirs: 'Theirs' }],
      ])
    }
    expect(merged(BASE, titled('Same'), titled('Same')).clashes).toEqual([])
  })
  it('both have what they did on different counts', () => {
    const mine = done(BASE, place(cue('mine', 960)))
    const theirs = done(BASE, place(cue('theirs', 1200)), (r) => ({ ...r, title: 'Renamed' }))
    const { routine, clashes } = merged(BASE, mine, theirs)
    expect(clashes).toEqual([])
    expect(moves(routine)).toEqual([...moves(BASE), 'mine', 'theirs'].sort())
    expect(routine.title).toBe('Renamed')
  })
  it('where one did nothing, or the same, what came of it is the other’s itself: there is nothing to save', () => {
    const theirs = done(BASE, place(cue('theirs', 1200)), (r) => ({ ...r, title: 'Renamed' }))
    const read = JSON.parse(JSON.stringify(theirs)) as Routine
    expect(merged(BASE, BASE, read).routine).toBe(read)
    expect(merged(BASE, theirs, read).routine).toBe(read)
    expect(merged(theirs, theirs, read).routine).toBe(read)
    expect(merged(BASE, done(BASE, place(cue('mine', 960))), read).routine).not.toBe(read)
  })
  it('are asked where both touched the same counts of a layer, and nowhere else', () => {
    const mine = done(BASE, place(cue('mine', 960)), place(cue('also-mine', 1100)))
    const theirs = done(BASE, place(cue('theirs', 972)))
    const { routine, clashes } = merged(BASE, mine, theirs)
    expect(clashes).toEqual([{ field: 'cues', at: 960, mine: 'mine', theirs: 'theirs' }])
    expect(moves(routine)).toEqual([...moves(BASE), 'also-mine', 'theirs'].sort())
    expect(moves(merged(BASE, mine, theirs, 'mine').routine)).toEqual(
      [...moves(BASE), 'also-mine', 'mine'].sort(),
    )
    const other = done(BASE, place(cue('feet', 960, { layer: 'feet' })))
    expect(merged(BASE, mine, other).clashes).toEqual([])
  })
  it('are asked where one changed what the other took away', () => {
    const [first] = BASE.cues as [Cue]
    const mine = done(BASE, (r) => changeCues(r, new Set([first.id]), (c) => ({ ...c, call: 'loud' })))
    const theirs = done(BASE, (r) => removeCue(r, first.id, () => 'none'))
    const { clashes } = merged(BASE, mine, theirs)
    expect(clashes).toEqual([{ field: 'cues', at: first.at, mine: first.move, theirs: '' }])
    expect(merged(BASE, mine, theirs, 'mine').routine.cues.some((c) => c.call === 'loud')).toBe(true)
    expect(merged(BASE, mine, theirs).routine.cues.some((c) => c.id === first.id)).toBe(false)
  })
  it('are not asked where both did the very same', () => {
    const [first] = BASE.cues as [Cue]
    const both = () => done(BASE, (r) => changeCues(r, new Set([first.id]), (c) => ({ ...c, call: 'loud' })))
    const { routine, clashes } = merged(BASE, both(), both())
    expect(clashes).toEqual([])
    expect(routine.cues.filter((c) => c.call === 'loud')).toHaveLength(1)
  })
  it('are not asked where both moved a cue alike, and one wrote on the counts it left', () => {
    const [first] = BASE.cues as [Cue]
    const moved = done(BASE, place({ ...first, at: 1200 }))
    const written = done(moved, place(cue('after', first.at, { layer: first.layer })))
    for (const [mine, theirs] of [
      [moved, written],
      [written, moved],
    ] as const) {
      const { routine, clashes } = merged(BASE, mine, theirs)
      expect(clashes).toEqual([])
      expect(moves(routine)).toEqual(moves(written))
    }
  })
  it('let one finding stand once, in whatever order it was written down', () => {
    const letStand = (about: FindingAbout): Routine => ({
      ...BASE,
      dismissed: [{ about, reason: 'so be it' }],
    })
    const places = [{ at: 0, length: 24, says: 'feet' }]
    const mine = { ...letStand({ kind: 'fast', limit: 0.25, places }), title: 'Mine' }
    const { routine, clashes } = merged(BASE, mine, letStand({ limit: 0.25, places, kind: 'fast' }))
    expect([routine.dismissed.length, clashes]).toEqual([1, []])
  })
  it('are not asked where both heard one song and laid it out alike, also where one wrote on it then', () => {
    const heard = {
      version: 9,
      beats: Array.from({ length: 40 }, (_, i) => i / 2),
      proposal: { counts: 40, starts: [0, 8, 16, 24, 32], sections: [{ count: 0, letter: 'A' }] },
    }
    let ids = 0
    const unheard = { ...BASE, heardWith: 0, phrases: [], repairs: [], sections: [], cues: [], repeats: [] }
    const laid = () => done(unheard, (r) => layOutHeard(r, heard, () => `its-own-${ids++}`))
    const mine = laid()
    const theirs = done(laid(), place(cue('theirs', 96)))
    expect(mine.sections).not.toEqual(theirs.sections)
    const { routine, clashes } = merged(unheard, mine, theirs)
    expect(clashes).toEqual([])
    expect(routine).toBe(theirs)
    const back = merged(unheard, theirs, mine)
    expect(back.clashes).toEqual([])
    expect(back.routine.sections).toEqual(mine.sections)
    expect(moves(back.routine)).toEqual(['theirs'])
  })
  it('are not asked where both wrote the same, also where more names it: dancers and where they stand', () => {
    const dancer = (id: string, name: string, partner: string | null) => ({
      ...{ id, name, letters: name, role: '', partner },
    })
    const both = (who: string) =>
      done(BASE, (r) => ({
        ...r,
        dancers: [dancer(`${who}-a`, 'A', null), dancer(`${who}-b`, 'B', `${who}-a`)],
        formations: [{ id: `${who}-f`, at: 0, name: '', spots: [{ dancer: `${who}-b`, x: 1, y: 1 }] }],
      }))
    // One more that says the same is mine alone.
    const mine = done(both('mine'), (r) => ({ ...r, dancers: [...r.dancers, dancer('mine-c', 'A', null)] }))
    const theirs = both('theirs')
    const { routine, clashes } = merged(BASE, mine, theirs)
    expect(clashes).toEqual([])
    expect(routine.dancers).toEqual([...theirs.dancers, dancer('mine-c', 'A', null)])
    expect(routine.formations).toEqual(theirs.formations)
    expect(merged(BASE, theirs, mine).routine).toBe(mine)
  })
  it('made the same: one, though one of the two comes from the server with its fields in another order', () => {
    const two: string[] = []
    for (const [name, edit] of Object.entries(ALL)) {
      const one = (who: string) => {
        const result = commit(BASE, edit(dice([1, 5, 9, 13, 17], who)))
        return result.done ? result.routine : BASE
      }
      const [mine, theirs] = [one('mine'), fromServer(one('theirs'))]
      const { routine, clashes } = merged(BASE, mine, theirs)
      if (clashes.length || !alike(routine, theirs)) two.push(name)
    }
    // A step that is written by hand is one's own, whatever it says.
    expect(two).toEqual(['addStep', 'addDrill'])
  })
  it('are asked where one counts the song otherwise while the other writes on the counts', () => {
    const theirs = done(BASE, (r) => ({ ...r, repairs: [{ kind: 'halve', keep: 0 } as never] }))
    const mine = done(BASE, place(cue('mine', 960)))
    // Halved without taking the dance along, as a raw document might be.
    expect(merged(BASE, mine, theirs).clashes).toMatchObject([{ field: 'phrases', at: null }])
    expect(merged(BASE, mine, theirs, 'mine').routine).toBe(mine)
  })
  it('are told what differs of how each counts: phrases of another length, repairs, which hearing', () => {
    const words = (change: Partial<Routine>, here = BASE) => {
      const mine = done(here, place(cue('mine', 960)))
      const [clash] = merged(here, mine, { ...here, ...change }).clashes
      return [clash?.mine, clash?.theirs]
    }
    expect(words({ heardWith: BASE.heardWith + 1 })).toEqual([
      `heard by version ${BASE.heardWith}`,
      `heard by version ${BASE.heardWith + 1}`,
    ])
    const [first, ...rest] = BASE.phrases as [Phrase, ...Phrase[]]
    const cut = { phrases: [{ ...first, length: 4 }, ...rest], heardWith: BASE.heardWith + 1 }
    expect(words(cut)[1]).toBe(
      `phrases: ${rest.length + 1}, 1 of them not of 8 counts; heard by version ${BASE.heardWith + 1}`,
    )
    expect(words({ repairs: [{ kind: 'halve', keep: 0 } as never] })).toEqual([
      'repairs of the beat: 0',
      'repairs of the beat: 1',
    ])
    // Nothing of that differs: all of it is said.
    const withFirst = (what: Partial<Phrase>) => ({ ...BASE, phrases: [{ ...first, ...what }, ...rest] })
    const [both] = merged(BASE, withFirst({ feel: 'triplet' }), withFirst({ pickUp: true })).clashes
    expect(both?.mine).toBe(
      `phrases: ${rest.length + 1}; repairs of the beat: 0; heard by version ${BASE.heardWith}`,
    )
  })
})

const numbers = fc.array(fc.nat(1000), { minLength: 4, maxLength: 10 })
const some = (of: Record<string, unknown>) =>
  fc.array(fc.record({ name: fc.constantFrom(...Object.keys(of)), numbers }), { minLength: 1, maxLength: 6 })

/** What somebody did, edit by edit, as far as the gate let it. */
function did(list: readonly { name: string; numbers: readonly number[] }[], prefix: string): Routine {
  let now = BASE
  for (const [i, { name, numbers: n }] of list.entries()) {
    const made = (ALL as Record<string, (d: ReturnType<typeof dice>) => Edit>)[name] as (
      d: ReturnType<typeof dice>,
    ) => Edit
    const result = commit(now, made(dice(n, `${prefix}-${i}`)))
    if (result.done) now = result.routine
  }
  return now
}
/** The same for what says the same, in whatever order it was written. */
const asText = (x: unknown) =>
  JSON.stringify(x, (_, value: unknown) =>
    value && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  )
/** As a routine comes from the server: read, each field where the schema has it. */
const fromServer = (r: Routine) => v.parse(RoutineSchema, JSON.parse(JSON.stringify(r)))

describe('any edits of two', () => {
  it('come to what one did, where the other did nothing', () => {
    fc.assert(
      fc.property(some(ALL), (list) => {
        const mine = did(list, 'mine')
        expect(merged(BASE, mine, BASE).routine).toEqual(mine)
        expect(merged(BASE, BASE, mine).routine).toEqual(mine)
        // As it comes from the server: a copy, and given back as that very one.
        const read = JSON.parse(asText(mine)) as Routine
        expect(merged(BASE, BASE, read).routine).toBe(read)
        expect(merged(BASE, mine, read).routine).toBe(read)
      }),
      { numRuns: 60 },
    )
  })
  it('come to a routine that can be saved, the same whoever comes first, with all of both where nothing clashed', () => {
    fc.assert(
      fc.property(some(ALL), some(ALL), (a, b) => {
        const [mine, theirs] = [did(a, 'mine'), fromServer(did(b, 'theirs'))]
        const result = mergeRoutines(BASE, mine, theirs)
        const turned = mergeRoutines(BASE, theirs, mine)
        if (!result.done || !turned.done) return
        const saved = v.safeParse(RoutineSchema, JSON.parse(asText(result.routine)))
        expect(saved.issues).toBeUndefined()
        const times = timesOf(result.routine)
        if (times.length > 1) expect(totalCounts(result.routine.phrases)).toBe(times.length)
        expect(result.clashes.length > 0).toBe(turned.clashes.length > 0)
        if (result.clashes.length || result.said.length || turned.said.length) return
        // What both made alike is called as the other calls it.
        const was = new Map(BASE.cues.map((c) => [c.id, asText(c)]))
        const texts = (r: Routine) => r.cues.map((c) => asText(was.has(c.id) ? c : { ...c, id: '' })).sort()
        expect(texts(result.routine)).toEqual(texts(turned.routine))
        // Each cue somebody wrote or changed is there as they have it; what somebody took away is gone; nothing is doubled.
        const now = new Map(result.routine.cues.map((c) => [c.id, asText(c)]))
        expect(now.size).toBe(result.routine.cues.length)
        for (const side of [mine, theirs]) {
          const there = new Map(side.cues.map((c) => [c.id, asText(c)]))
          for (const [id, text] of there)
            if (was.has(id) && was.get(id) !== text) expect(now.get(id)).toBe(text)
          for (const id of was.keys()) if (!there.has(id)) expect(now.has(id)).toBe(false)
          const made = texts({ ...side, cues: side.cues.filter((c) => !was.has(c.id)) })
          expect(texts(result.routine)).toEqual(expect.arrayContaining(made))
        }
      }),
      { numRuns: 150 },
    )
  })
  it('follow one of the two wherever both touched the same', () => {
    fc.assert(
      fc.property(some(DANCE_EDITS), some(DANCE_EDITS), (a, b) => {
        const [mine, theirs] = [did(a, 'mine'), did(b, 'theirs')]
        for (const prefer of ['mine', 'theirs'] as const) {
          const result = mergeRoutines(BASE, mine, theirs, prefer)
          if (!result.done) continue
          const ids = result.routine.cues.map((c) => c.id)
          expect(new Set(ids).size).toBe(ids.length)
        }
      }),
      { numRuns: 60 },
    )
  })
})
