import { describe, expect, it } from 'vitest'
import { danced, emptyRoutine, madeAs, placePhrases, readRoutine, stretchName, USUAL } from '..'

/** A document as version 1 kept it: repeats, sections and steps named phrases by their ids. */
const document = () => ({
  ...emptyRoutine('Old one'),
  version: 1,
  phrases: ['lead', 'a', 'b', 'c'].map((id, i) => ({
    id,
    length: i ? 8 : 2,
    feel: 'straight',
    pickUp: i === 0,
  })),
  sections: [
    { id: 's2', phrase: 'b', name: 'Hook', kind: 'hook', letter: 'B' },
    { id: 's1', phrase: 'lead', name: '', kind: 'verse', letter: 'A' },
    { id: 's3', phrase: 'gone', name: '', kind: 'verse', letter: 'C' },
  ],
  excerpt: { start: 24, end: 24 * 26 },
  cues: [
    { id: 'c1', at: 48, length: 24, layer: 'feet', move: 'step', side: 'right', call: '' },
    { id: 'c2', at: 48 + 168, length: 24, layer: 'feet', move: 'kick', side: 'left', call: '' },
  ],
  repeats: [
    { id: 'r1', phrase: 'b', at: 0, length: 192, source: 'a', from: 0, mirrored: false },
    { id: 'r2', phrase: 'c', at: 96, length: 96, source: 'a', from: 96, mirrored: true },
    { id: 'r3', phrase: 'gone', at: 0, length: 96, source: 'a', from: 0, mirrored: false },
  ],
  plans: [
    {
      id: 'p',
      name: 'Plan',
      settings: USUAL,
      gone: ['show b', 'rest'],
      steps: [
        {
          id: 'warm-up',
          kind: 'warm-up',
          first: '',
          last: '',
          runUp: 0,
          layer: 'all',
          speed: 1,
          sound: 'both',
          view: 'true',
          repetitions: 0,
          talk: 60,
          why: '',
          own: false,
        },
        {
          id: 'rung a 75',
          kind: 'drill',
          first: 'a',
          last: 'b',
          runUp: 4,
          layer: 'feet',
          speed: 0.75,
          sound: 'both',
          view: 'true',
          repetitions: 2,
          talk: 0,
          why: '',
          own: true,
        },
        {
          id: 'rung gone 75',
          kind: 'drill',
          first: 'gone',
          last: 'b',
          runUp: 0,
          layer: 'all',
          speed: 0.75,
          sound: 'both',
          view: 'true',
          repetitions: 2,
          talk: 0,
          why: '',
          own: false,
        },
      ],
    },
  ],
})

describe('a document of version 1', () => {
  const { routine, phrases } = readRoutine(document())
  const placed = placePhrases(routine)
  it('dances what it danced, on the same counts', () => {
    expect(danced(routine).map((c) => [c.at, c.move, c.side])).toEqual([
      [48, 'step', 'right'],
      [216, 'kick', 'left'],
      [240, 'step', 'right'],
      [408, 'kick', 'left'],
      [600, 'kick', 'right'],
    ])
  })
  it('has its sections, its dance and its lessons where they were; what named a phrase that was gone is left out', () => {
    expect(routine.sections.map((s) => [s.at, s.letter])).toEqual([
      [0, 'A'],
      [240, 'B'],
    ])
    expect(routine.excerpt).toEqual({ from: 24, to: 624 })
    expect(routine.repeats.map((r) => [r.to.from, r.to.to, r.from])).toEqual([
      [240, 432, 48],
      [528, 624, 144],
    ])
    const [plan] = routine.plans
    expect(plan?.gone).toEqual([madeAs('show', 240), madeAs('rest')])
    expect(
      plan?.steps.map((s) => [s.made, s.stretch && stretchName(placed, s.stretch), s.pass, s.runUp]),
    ).toEqual([
      [madeAs('warm-up'), null, 'all', 0],
      [madeAs('rung 75', 48), 'Verse, eight 1 to Hook, eight 1', 'feet', 4],
    ])
  })
  it('tells where its phrases lay, for the log', () => {
    expect([...(phrases ?? [])].map(([id, s]) => [id, s.from, s.to])).toEqual([
      ['lead', 0, 48],
      ['a', 48, 240],
      ['b', 240, 432],
      ['c', 432, 624],
    ])
  })
  it('read and written is of this version, and is read again as it is', () => {
    expect(readRoutine(JSON.parse(JSON.stringify(routine)))).toEqual({ routine, phrases: null })
  })
  it('is refused where it cannot be read, and so is one of a newer version', () => {
    expect(() => readRoutine({ ...document(), phrases: 'none' })).toThrow()
    expect(() => readRoutine({ ...routine, version: 4 })).toThrow()
    expect(() => readRoutine(null)).toThrow()
  })
})
