import fc from 'fast-check'
import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../choreo'
import {
  addDancers,
  CUE_FIELD_NAMES,
  CUE_FIELDS,
  changeDancer,
  FIELDS,
  fieldsWhere,
  placeDancers,
  type Routine,
  setRepeat,
} from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import {
  countsInCopy,
  cueSheet,
  NotOpened,
  PageStillsSchema,
  type PracticePage,
  PracticePageSchema,
  pageCalls,
  pageContents,
  pageHtml,
  pageWords,
  practicePage,
  readMarksFile,
  timesInCopy,
  usualContents,
  withStills,
  withVoice,
} from '.'

const book = moveBook(STARTING_MOVES)
const times = Array.from({ length: 65 }, (_, i) => 10 + i * 0.5)
const SHELL = '<title><!--title--></title><s id="data"><!--page--></s><s id="voice"><!--voice--></s>'

const dance = (): Routine => {
  const cues = cuesOf(['1 step R; 2 touch L; 3-4 walk L', '1 kick R; 4& hop L', '5 jump'])
  const r: Routine = {
    ...page(
      5,
      cues.map((c, i) => (i === 0 ? { ...c, tip: 'soft </script> knees', role: 'leader' } : c)),
    ),
    lyrics: 'a line not tapped in yet',
    leadWords: 'ready go',
    marks: [
      { id: 'a', at: 10.2, end: null, kind: 'lyric', text: 'inside' },
      { id: 'b', at: 30, end: null, kind: 'lyric', text: 'outside' },
    ],
    learners: [{ id: 'x', name: 'Mara', made: '2026-11-20T10:00:00Z', marks: [] }],
  }
  return setRepeat(r, { id: 'r', to: { from: 576, to: 768 }, from: 0, mirrored: true }, ids()) as Routine
}
const made = (r: Routine, what: Partial<ReturnType<typeof usualContents>> = {}): PracticePage =>
  practicePage('routine1', r, times, book, { ...usualContents(r), ...what }, 'AAAA', ids(), new Date(0))

describe('a practice page', () => {
  it('holds what was chosen, written out, and nothing beside it', () => {
    const p = made(dance(), { stretch: { from: 576, to: 768 } })
    expect(p.routine.cues.map((c) => [c.at, c.move, c.side])).toEqual([
      [576, 'step', 'left'],
      [600, 'touch', 'right'],
      [624, 'walk', 'right'],
    ])
    expect(p.routine).toMatchObject({
      repeats: [],
      plans: [],
      courses: [],
      learners: [],
      lyrics: '',
      parts: [],
    })
    const text = JSON.stringify(p)
    for (const kept of ['Mara', 'outside', 'inside', 'kick', 'not tapped in'])
      expect(text).not.toContain(kept)
    expect(JSON.stringify(made(dance()))).toContain('inside')
  })
  it('holds no field that stays home, and of a cue only what may be seen', () => {
    const full = { ...dance(), gear: 'pads', room: 'wide', parts: [{ id: 'p', at: 0, name: 'Part' }] }
    const cues = full.cues.map((c) => ({
      ...c,
      trigger: { kind: 'lyric' as const, mark: 'a' },
      tip: 'low',
      caution: 'knee' as const,
    }))
    const { routine } = made({ ...full, cues }, { tips: false })
    for (const name of fieldsWhere((f) => f.page === 'home'))
      expect([name, routine[name]]).toEqual([name, FIELDS[name].usual])
    for (const name of fieldsWhere((f) => f.page === 'shown')) expect(routine[name]).toEqual(full[name])
    const said = new Set(routine.cues.flatMap((c) => Object.keys(c)))
    for (const name of CUE_FIELD_NAMES)
      if (CUE_FIELDS[name].page !== 'shown' && name !== 'id')
        expect([name, said.has(name)]).toEqual([name, false])
    expect(routine.cues.map((c) => c.id)).toEqual(routine.cues.map((_, i) => `c${i}`))
    expect(made({ ...full, cues }, { tips: true }).routine.cues[0]).toMatchObject({
      tip: 'low',
      caution: 'knee',
    })
  })

  it('says tips and words sung where they were asked for', () => {
    const with_ = JSON.stringify(made(dance()))
    const without = JSON.stringify(made(dance(), { tips: false, lyric: false }))
    for (const said of ['knees', 'inside']) {
      expect(with_).toContain(said)
      expect(without).not.toContain(said)
    }
  })
  it('is read back as it was written, whatever its words are', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 60, unit: 'binary' }), (words) => {
        const title = `x${words}</script><!--page-->`
        const p = made({ ...dance(), title })
        const html = pageHtml(SHELL, p)
        const data = /<s id="data">([\s\S]*?)<\/s><s id="voice">/.exec(html)?.[1] ?? ''
        expect(data).not.toContain('<')
        expect((JSON.parse(data) as PracticePage).routine.title).toBe(title)
        expect(html.indexOf('<title>') < html.indexOf('</title>')).toBe(true)
      }),
    )
    expect(v.safeParse(PracticePageSchema, JSON.parse(JSON.stringify(made(dance())))).success).toBe(true)
  })
  it('takes its voice once', () => {
    const html = pageHtml(SHELL, made(dance()))
    const voice = {
      file: 'AA',
      click: 0.3,
      calls: { '</s>': [0, 1, 0.5] as [number, number, number] },
      recordings: {},
    }
    const whole = withVoice(html, voice)
    expect(whole).not.toContain('<!--')
    expect(whole.match(/<\/s>/g)).toHaveLength(2)
    expect(() => withVoice(whole, voice)).toThrow()
  })
  it('takes pictures of its counts, once, each of a size', () => {
    const shell = `${SHELL}<!--stills-->`
    const stills = { mirrored: true, pictures: { '0': 'AAAA', '-24': 'AAAA' } }
    expect(v.is(PageStillsSchema, stills)).toBe(true)
    const whole = withStills(pageHtml(shell, made(dance())), stills)
    expect(whole).toContain(JSON.stringify(stills))
    expect(() => withStills(whole, stills)).toThrow()
    for (const wrong of [{ x: 'AAAA' }, { '0': 'no base 64!' }, { '0': 'A'.repeat(60_004) }])
      expect(v.is(PageStillsSchema, { mirrored: false, pictures: wrong })).toBe(false)
  })
  it('shows the same dance as the sheet it was made from, on both sides', () => {
    const r = dance()
    const p = made(r)
    for (const mirrored of [false, true]) {
      const there = cueSheet(r, times, book, { ...usualContents(r), mirrored, short: false })
      const here = cueSheet(p.routine, p.times, moveBook(p.moves), pageContents(p, mirrored))
      expect(here.map((x) => [x.lanes, x.notes, x.feet])).toEqual(
        there.map((x) => [x.lanes, x.notes, x.feet]),
      )
    }
  })
  it('calls the moves to the side that is seen, numbers, or nothing', () => {
    const p = made(dance(), { stretch: { from: 0, to: 192 } })
    expect([...pageCalls(p, 'words', false, times).words.values()].map((c) => c.word)[0]).toBe('step R')
    expect([...pageCalls(p, 'words', true, times).words.values()].map((c) => c.word)[0]).toBe('step L')
    expect(pageCalls(p, 'none', false, times)).toMatchObject({ wordsOnly: true })
    expect(pageCalls(p, 'numbers', false, times).words.size).toBe(0)
    expect(pageWords(p)).toEqual(expect.arrayContaining(['ready', 'go', 'step R', 'step L', 'step']))
  })
})

describe('counts in another copy, for playing a stretch', () => {
  const take = (from: number, to: number, at: number) => ({ from, to, at, rate: 1, sure: 1 })
  it('are those of the copy, wherever they are all there', () => {
    const places = countsInCopy(times, [take(0, 60, 3)])
    const found = timesInCopy(times, places, { from: 0, to: 192 })
    expect(found?.map((t) => Math.round(t * 1e6) / 1e6)).toEqual(times.map((t) => t - 3))
  })
  it('go on as in the song where the copy goes on otherwise, and are none where a part is left out', () => {
    // Counts 20 to 39 are left out: what follows comes right after.
    const places = times.map((t, i) => (i < 20 ? t : i < 40 ? null : t - 10))
    const after = timesInCopy(times, places, { from: 40 * 24, to: 48 * 24 })
    expect(after?.[40]).toBe(20)
    expect(after?.[39]).toBe(19.5)
    expect(after?.[36]).toBe(18)
    expect(timesInCopy(times, places, { from: 16 * 24, to: 24 * 24 })).toBeNull()
    expect(timesInCopy(times, places, { from: 24 * 24, to: 32 * 24 })).toBeNull()
    // The last count of the part before is there, its end goes on as in the song.
    expect(timesInCopy(times, places, { from: 16 * 24, to: 20 * 24 })?.[20]).toBe(20)
  })
  it('are none where something else was put between, and always follow one another', () => {
    const between = times.map((t, i) => (i < 20 ? t : t + 15))
    expect(timesInCopy(times, between, { from: 16 * 24, to: 24 * 24 })).toBeNull()
    fc.assert(
      fc.property(
        fc.array(fc.option(fc.integer({ min: 0, max: 80 })), { minLength: 65, maxLength: 65 }),
        fc.integer({ min: 0, max: 60 }),
        (raw, count) => {
          const found = timesInCopy(times, raw, { from: count * 24, to: (count + 4) * 24 })
          if (found) for (let i = 1; i < 65; i++) expect(found[i]).toBeGreaterThan(found[i - 1] as number)
        },
      ),
    )
  })
})

describe('what comes back from a practice page', () => {
  const file = {
    ...{ azalea: 'marks', version: 1, made: '2026-11-20T10:00:00.000Z', id: 'routine1', learner: 'Mara' },
    marks: [{ from: 10, to: 14, sits: false, at: '2026-11-20T09:00:00.000Z' }],
  }
  const read = (what: unknown, id = 'routine1') => readMarksFile(JSON.stringify(what), id)
  it('is read, and refused in words where it is something else', () => {
    expect(read(file)).toEqual(file)
    expect(() => readMarksFile('{', 'routine1')).toThrow('cannot be read')
    expect(() => read({ azalea: 'routine', version: 1 })).toThrow('nothing a practice page saved')
    expect(() => read({ ...file, version: 2 })).toThrow('newer')
    expect(() => read(file, 'another1')).toThrow('another dance')
    expect(() => read({ ...file, learner: ' ' })).toThrow('nobody’s name')
    expect(() => read({ ...file, marks: [{ ...file.marks[0], to: 10 }] })).toThrow('ends after it begins')
    expect(() => read({ ...file, marks: [{ ...file.marks[0], from: 1e9 }] })).toThrow(NotOpened)
  })
  it('has who stands where by letters alone, where that is ticked', () => {
    const two = addDancers(page(4, cuesOf('1 walk R')), 2, ids('d'))
    const named = changeDancer(two, 'd0', { name: 'Ann Somebody', partner: 'd1' })
    const at = (r: Routine, tick: number) =>
      placeDancers(
        r,
        tick,
        [
          { dancer: 'd0', x: -1, y: 1 },
          { dancer: 'd1', x: 1, y: 1 },
        ],
        ids(`f${tick}-`),
      )
    const r = at(at(named, 0), 384)
    const contents = { ...usualContents(r), stretch: { from: 0, to: 192 } }
    const made = (plans: boolean) => practicePage('p', r, times, book, { ...contents, plans }, '', ids('n'))
    expect(made(true).routine.dancers.map((d) => [d.name, d.partner])).toEqual([
      ['A', null],
      ['B', null],
    ])
    expect(made(true).routine.formations.map((f) => f.at)).toEqual([0])
    expect(JSON.stringify(made(true))).not.toContain('Somebody')
    expect(made(false).routine.dancers).toEqual([])
    const rows = cueSheet(made(true).routine, times, book, pageContents(made(true), true))
    expect(rows[0]?.plans[0]?.says).toContain('A 1 m right of the middle')
  })
})
