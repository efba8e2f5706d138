import fc from 'fast-check'
import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { DANCE_EDITS, dice, heardOf, PAGE_EDITS, start, timesOf } from './edits.test-tools'
import {
  addMarks,
  bringGrid,
  type Cue,
  commit,
  danced,
  dancedCount,
  emptyRoutine,
  type PastStep,
  placePhrases,
  putCue,
  type Routine,
  RoutineSchema,
  readPast,
  readRoutine,
  repair,
  setRepeat,
  totalCounts,
  writePast,
} from './routine'
import { ids } from './routine/hand.test-tools'
import { timeOfTick } from './time'

const ALL = { ...PAGE_EDITS, ...DANCE_EDITS }
type Name = keyof typeof ALL

/** Functions beside edits in the same files that ask or help, and are no edits. */
const NO_EDITS = new Set(
  'filled leadOf proposedSections everyEight fitTo copied copiedDance lineOf withDetail repair wayOf taughtLike calledVoices eachTime eachOf learnersOn hasSent withLearnersOf cutTake takeThrough filmNotesAt withFilmsOf freeLetters onCentimetres mirrorSpot'.split(
    ' ',
  ),
)

interface Moment {
  key: string
  tick: number
  time: number
}
function moments(r: Routine): Moment[] {
  const times = timesOf(r)
  if (times.length < 2) return []
  return danced(r)
    .map((c) => ({
      key: `${c.layer}|${c.side}|${c.move}`,
      tick: c.at,
      time: timeOfTick(times, c.at),
    }))
    .sort((a, b) => (a.key < b.key ? -1 : a.key > b.key ? 1 : a.time - b.time))
}

/** In ticks: rounding (a half), the nearest place with a name (one), and what a repeat may be off (one). */
const NEAR = 2.6

/** A count lies at most this much of itself from where it lay, when counts go with their beats. */
const WITH_BEATS = 0.36

/** Cues that are no longer danced at their moment, nor on their count. */
function moved(before: Routine, after: Routine): Moment[] {
  const [was, now] = [moments(before), moments(after)]
  const period = Math.max(...timesOf(after).map((t, i, all) => (i ? t - (all[i - 1] as number) : 0)), 0.5)
  // The same beats, of which some now are before the first: all counts by the same number, none far.
  const [first, second] = [was[0], now[0]]
  const by = first && second ? second.tick - first.tick : 0
  const withBeats = was.every((m, i) => {
    const n = now[i]
    return n && n.key === m.key && n.tick === m.tick + by && Math.abs(n.time - m.time) <= WITH_BEATS * period
  })
  if (by % 24 === 0 && withBeats) return []
  return was.filter((m, i) => {
    const n = now[i]
    if (n && n.key === m.key && (n.tick === m.tick || Math.abs(n.time - m.time) <= (NEAR * period) / 24))
      return false
    return true
  })
}

/** What holds after every edit, whatever it was. */
function sound(r: Routine) {
  const saved = v.safeParse(RoutineSchema, JSON.parse(JSON.stringify(r)))
  expect(saved.issues?.map((i) => `${v.getDotPath(i)}: ${i.message}`)).toBeUndefined()
  expect(saved.output).toEqual(r)
  const times = timesOf(r)
  if (times.length > 1) expect(totalCounts(r.phrases)).toBe(times.length)
  const placed = placePhrases(r)
  placed.forEach((p, i) => {
    expect(p.start).toBe(placed[i - 1]?.end ?? 0)
  })
}

const names = Object.keys(ALL) as Name[]
const sequence = fc.array(
  fc.record({
    name: fc.constantFrom(...names),
    numbers: fc.array(fc.nat(1_000_000), { minLength: 6, maxLength: 12 }),
  }),
  { minLength: 1, maxLength: 14 },
)

describe('every edit', () => {
  it('is in the list: a new one that is not fails here', () => {
    const files = import.meta.glob<Record<string, unknown>>('./**/*-edits.ts', { eager: true })
    expect(Object.keys(files).length).toBeGreaterThan(9)
    const exported = Object.values(files).flatMap((m) =>
      Object.entries(m).flatMap(([name, value]) => (typeof value === 'function' ? [name] : [])),
    )
    const known = new Set<string>([...names, ...NO_EDITS])
    expect(exported.filter((name) => !known.has(name))).toEqual([])
  })
  it('in any order leaves a routine that can be saved, its phrases without holes over all counts', () => {
    fc.assert(
      fc.property(sequence, (steps) => {
        let r = start()
        steps.forEach(({ name, numbers }, i) => {
          const done = commit(r, ALL[name](dice(numbers, `e${i}`)))
          if (done.done) {
            r = done.routine
            sound(r)
          } else expect(done.why).toMatch(/Nothing was changed\.$/)
        })
      }),
      { numRuns: 300 },
    )
  })
  it('can be taken back and done again after the page was loaded anew', () => {
    fc.assert(
      fc.property(sequence, fc.nat(14), (steps, back) => {
        const states: PastStep[] = [{ routine: start(), did: 'begun' }]
        steps.forEach(({ name, numbers }, i) => {
          const last = states.at(-1) as PastStep
          const done = commit(last.routine, ALL[name](dice(numbers, `e${i}`)))
          if (done.done && done.routine !== last.routine) states.push({ routine: done.routine, did: name })
        })
        const at = Math.max(0, states.length - 1 - back)
        const { routine, did } = states[at] as PastStep
        const known = { did, past: states.slice(0, at), future: states.slice(at + 1).reverse() }
        // What the server sends for it: the same, of other objects.
        const loaded = readRoutine(JSON.parse(JSON.stringify(routine))).routine
        const found = readPast(writePast(routine, known, 1e7), loaded)
        // Another hearing of the song is not gone back to.
        const kept = (list: readonly PastStep[]) =>
          list.slice(list.findLastIndex((x) => x.routine.heardWith !== routine.heardWith) + 1)
        expect(found).toEqual({ did, past: kept(known.past), future: kept(known.future) })
      }),
      { numRuns: 200 },
    )
  })
  it('takes away no named section without saying so, where that was not what was asked', () => {
    const asked = new Set<Name>(['removeSection', 'beginSection', 'takeSection', 'sameAsSection', 'layOut'])
    fc.assert(
      fc.property(sequence, (steps) => {
        let r = start()
        steps.forEach(({ name, numbers }, i) => {
          const done = commit(r, ALL[name](dice(numbers, `e${i}`)))
          if (!done.done) return
          const told = done.said.join(' ').toLowerCase()
          const gone = r.sections.filter(
            (s) => s.name && !done.routine.sections.some((x) => x.name === s.name),
          )
          // Named, or as one of many.
          if (!asked.has(name) && !/ and \d+ more/.test(told))
            for (const s of gone)
              expect({ name, told }).toEqual({ name, told: expect.stringContaining(s.name.toLowerCase()) })
          r = done.routine
        })
      }),
      { numRuns: 300 },
    )
  })
  it('of the page leaves every danced cue at its moment of the song, or on its count, or names it', () => {
    fc.assert(
      fc.property(sequence, (steps) => {
        let r = start()
        steps.forEach(({ name, numbers }, i) => {
          const done = commit(r, ALL[name](dice(numbers, `e${i}`)))
          if (!done.done) return
          if (name in PAGE_EDITS) {
            const off = moved(r, done.routine)
            const told = done.said.join(' ')
            // Named by its words, or as one of many.
            const named = (m: Moment) =>
              told.includes(`“${m.key.split('|')[2]}”`) || / and \d+ more/.test(told)
            expect({ name, off: off.filter((m) => !named(m)), told }).toEqual({ name, off: [], told })
          }
          r = done.routine
        })
      }),
      { numRuns: 300 },
    )
  })
})

// Each of these once made a document that could not be saved, or a page with holes.
describe('the gate', () => {
  const heard = heardOf(emptyRoutine('x'))
  const done = (r: Routine, ...edits: ((r: Routine) => ReturnType<Parameters<typeof commit>[1]>)[]) => {
    const said: string[] = []
    for (const edit of edits) {
      const next = commit(r, edit)
      if (!next.done) throw new Error(next.why)
      r = next.routine
      said.push(...next.said)
    }
    sound(r)
    return { r, said: said.join(' ') }
  }
  const cue = (what: Partial<Cue>): Cue => ({
    ...{ id: 'new', at: 0, length: 24, layer: 'feet', move: 'long roll', side: 'none', call: '', ...what },
  })

  it('keeps any number of repairs: the same grid, in fewer of them', () => {
    let r = start()
    for (let k = 0; k < 450; k++) {
      const beat = k % 60
      const by = k % 2 ? 0.012 : -0.009
      const change =
        k % 3
          ? { kind: 'pin' as const, beat, at: (timesOf(r)[beat] as number) + by }
          : { kind: 'shift' as const, seconds: by, from: beat }
      const before = timesOf(r)
      r = done(r, (x) => repair(x, heard, change, ids())).r
      const after = timesOf(r)
      expect(after[beat]).toBeCloseTo((before[beat] as number) + by, 6)
    }
    expect(r.repairs.length).toBeLessThanOrEqual(200)
  })
  it('adds up shifts in a row, and takes both away where they cancel', () => {
    const press = (seconds: number) => (x: Routine) => repair(x, heard, { kind: 'shift', seconds }, ids())
    expect(done(start(), press(0.01), press(0.01), press(0.01)).r.repairs).toEqual([
      { kind: 'shift', seconds: expect.closeTo(0.03, 9) },
    ])
    expect(done(start(), press(0.01), press(-0.01)).r.repairs).toEqual([])
  })
  it('cuts a cue that would last too long after doubling, and says so', () => {
    const { r, said } = done(
      start(),
      (x) => putCue(x, cue({ length: 24 * 40 })),
      (x) => repair(x, heard, { kind: 'double' }, ids()),
    )
    expect(r.cues.find((c) => c.id === 'new')?.length).toBe(24 * 64)
    expect(said).toContain('“long roll” would last more than 64 counts')
  })
  it('takes cues far in front of a grid that begins late along, and a page back again', () => {
    const beats = Array.from({ length: 40 }, (_, k) => 60 + k * 0.4)
    const late = done(start(), (x) => repair(x, heard, { kind: 'grid', from: 0, to: 72, beats }, ids()))
    expect(Math.min(...late.r.cues.map((c) => c.at))).toBeLessThan(-64 * 24)
    expect(moved(start(), late.r)).toEqual([])
    const back = done(late.r, (x) => PAGE_EDITS.backToHeard(dice([1], 'b'))(x))
    expect(moved(start(), back.r)).toEqual([])
    expect(Math.max(...back.r.phrases.map((p) => p.length))).toBeLessThanOrEqual(32)
  })
  it('keeps what is danced at its sound when a short grid of nearly the same tempo is brought', () => {
    const r = start()
    const beats = Array.from({ length: 15 }, (_, k) => 12 + 0.49 * k)
    const brought = (x: Routine) => bringGrid(x, heard, { beats, numbers: null, sections: [] }, false, ids())
    const after = done(r, brought).r
    expect(moved(r, after)).toEqual([])
    expect(moments(after).some((m, i) => m.tick !== moments(r)[i]?.tick)).toBe(true)
  })
  it('refuses what would be more to dance than anybody can, and knows how much that is before it is made', () => {
    // Fifteen full counts, danced again and again: each repeat as long as all before it.
    const cues = Array.from({ length: 5760 }, (_, k) => cue({ id: `c${k}`, at: k % 360, length: 1 }))
    const repeats = Array.from({ length: 10 }, (_, k) => ({
      ...{ id: `r${k}`, from: 0, mirrored: false },
      to: { from: 360 * 2 ** k, to: 360 * 2 ** (k + 1) },
    }))
    const few = { ...emptyRoutine('x'), cues, repeats: repeats.slice(0, 3) }
    expect(dancedCount(few)).toBe(46_080)
    expect(danced(few)).toHaveLength(46_080)
    const many = { ...few, repeats }
    expect(dancedCount(many)).toBe(5760 * 2 ** 10)
    expect(commit(few, () => many)).toEqual({
      done: false,
      why: 'With its repeats there would be more than 50,000 cues to dance. Nothing was changed.',
    })
    expect(() => readRoutine(many)).toThrow('more than 50,000 cues')
    const heap = { ...few, cues: cues.map((c) => ({ ...c, at: 0 })) }
    expect(() => readRoutine(heap)).toThrow('More than 400 cues would stand on one count.')
    const named = { ...few, cues: cues.map((c, k) => ({ ...c, role: `dancer ${k % 61}` })) }
    expect(() => readRoutine(named)).toThrow('more than 60 roles')
  })
  it('counts what is danced as it is danced, where nothing written replaces it', () => {
    fc.assert(
      fc.property(sequence, (steps) => {
        let r = start()
        for (const { name, numbers } of steps) {
          const done = commit(r, ALL[name](dice(numbers, 'e')))
          if (done.done) r = done.routine
        }
        expect(dancedCount(r)).toBeGreaterThanOrEqual(danced(r).length)
        // Every cue of somebody of their own, and short: nothing replaces another.
        const apart = { ...r, cues: r.cues.map((c, i) => ({ ...c, role: `one ${i}`, length: 1 })) }
        expect(dancedCount(apart)).toBe(danced(apart).length)
      }),
      { numRuns: 100 },
    )
  })
  it('refuses what is larger than can be saved, and lets what is too large become smaller', () => {
    const full = (n: number): Routine => ({
      ...emptyRoutine('x'),
      cues: Array.from({ length: n }, (_, k) => cue({ id: `c${k}`, at: k, tip: '“'.repeat(990) })),
    })
    const large = full(2900)
    const bytes = (r: Routine) => Buffer.byteLength(JSON.stringify(r))
    expect(bytes(large)).toBeGreaterThan(8.3e6)
    const refused = commit(start(), () => large)
    expect(refused).toMatchObject({
      done: false,
      why: expect.stringMatching(/larger than can be saved \(8\.\d MB/),
    })
    const smaller = commit(large, (r) => ({ ...r, cues: r.cues.slice(1) }))
    expect(smaller.done).toBe(true)
    expect(commit(large, (r) => ({ ...r, gear: 'shoes' })).done).toBe(false)
    const most = full(2600)
    expect(commit(start(), () => most).done).toBe(true)
    expect(bytes(most)).toBeLessThan(8 * 1024 * 1024)
  })
  it('letters more sections than the alphabet has letters', () => {
    const many = Array.from({ length: 60 }, (_, k) => ({ start: 1 + k * 0.55, text: `part number ${k}` }))
    const { r } = done(start(), (x) => PAGE_EDITS.bringSections(dice([39], 'b'))({ ...x }))
    expect(r.sections.length).toBeGreaterThan(26)
    expect(many.length).toBe(60)
    expect(new Set(r.sections.map((s) => s.letter)).size).toBe(r.sections.length)
  })
  it('refuses in words what cannot be kept', () => {
    const why = (edit: (r: Routine) => Routine) => {
      const result = commit(start(), edit)
      return result.done ? '' : result.why
    }
    expect(why((r) => putCue(r, cue({ move: 'x'.repeat(201) })))).toMatch(/longer than can be kept/)
    expect(why((r) => ({ ...r, cues: [...r.cues, cue({ at: 0.5 })] }))).toMatch(/cannot be kept/)
    expect(why((r) => addMarks(r, [{ kind: 'sound', at: -61, end: null, text: 'x' }], ids()))).toMatch(
      /far outside/,
    )
    const cues = Array.from({ length: 20_001 }, (_, k) => cue({ id: `c${k}` }))
    expect(why((r) => ({ ...r, cues }))).toMatch(/20,001 cues; 20,000 is the most/)
  })
  it('halves a page with repeats of odd lengths: all of it is danced as it was', () => {
    const odd = setRepeat(
      start(),
      { id: 'odd', to: { from: 6 * 192 + 7, to: 6 * 192 + 100 }, from: 1, mirrored: true },
      ids('o'),
    )
    const { r } = done(odd, (x) => repair(x, heard, { kind: 'halve', keep: 1 }, ids('h')))
    expect(moved(odd, r)).toEqual([])
  })
  it('says which section has no phrase of its own any more', () => {
    const { r, said } = done(
      start(),
      (x) => PAGE_EDITS.shiftPhrases(dice([0], 'x'))(x),
      (x) => ({
        ...x,
        phrases: [
          { length: 32, feel: 'straight', pickUp: false },
          { length: 32, feel: 'straight', pickUp: false },
          { length: 8, feel: 'straight', pickUp: false },
        ],
        sections: [
          ...x.sections.slice(0, 1),
          { id: 'near', at: 100, name: 'Near', kind: 'hook', letter: 'C' },
        ],
      }),
    )
    expect(r.sections.map((s) => s.at)).toEqual([0])
    expect(said).toContain('“Near”')
  })
  it('puts a section in the middle of a phrase where that phrase begins', () => {
    const middle = { id: 'middle', at: 32 * 24 + 16 * 24, name: 'Middle', kind: 'hook', letter: 'C' } as const
    const { r } = done(start(), (x) => ({
      ...x,
      phrases: [32, 32, 8].map((length) => ({ length, feel: 'straight' as const, pickUp: false })),
      sections: [...x.sections.slice(0, 1), middle],
    }))
    expect(r.sections.map((s) => s.at)).toEqual([0, 32 * 24])
  })
})
