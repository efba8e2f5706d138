import fc from 'fast-check'
import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import {
  AnyRoutineSchema,
  emptyRoutine,
  FINDING_KINDS,
  type FindingAbout,
  madeAs,
  plainStep,
  readRoutine,
  USUAL,
} from '..'
import { fromVersion2 } from './version-2'

const { made: _, ...step } = plainStep({ made: madeAs('x'), kind: 'drill' })
const document = (dismissed: string[], steps: string[], gone: string[] = []) => ({
  ...emptyRoutine('Second'),
  version: 2,
  dismissed: dismissed.map((key) => ({ key, reason: 'so be it' })),
  plans: [{ id: 'p', name: 'Plan', settings: USUAL, gone, steps: steps.map((id) => ({ ...step, id })) }],
})

describe('a document of version 2', () => {
  it('says what its steps were made as, and where', () => {
    const ids = ['warm-up', 'rung @192 75', 'review @-24 @384 all', 'own x_Y-1', 'up @0 @96 slow', '@5']
    const [plan] = readRoutine(document([], ids, ['join @0 @192'])).routine.plans
    expect(plan?.steps.map((s) => s.made)).toEqual([
      madeAs('warm-up'),
      madeAs('rung 75', 192),
      madeAs('review all', -24, 384),
      madeAs('own x_Y-1'),
      madeAs('up slow', 0, 96),
      madeAs('step', 5),
    ])
    expect(plan?.gone).toEqual([madeAs('join', 0, 192)])
  })

  it('says what its findings are about; what no finding was ever called is looked at again', () => {
    const keys = [
      'weight|192,24,feet,step,left,,,,,|216,24,feet,a|3,4 step, odd,left,,,,,',
      'fast|0,12,arms,clap,none,,,,,|12,12,arms,clap,none,,,,,|0.25',
      'empty|-24|384',
      'nothing|1,2,x',
      'weight',
      '',
    ]
    const about = readRoutine(document(keys, [])).routine.dismissed.map((d) => d.about)
    expect(about).toEqual([
      {
        kind: 'weight',
        places: [
          { at: 192, length: 24, says: 'feet,step,left,,,,,' },
          { at: 216, length: 24, says: 'feet,a|3,4 step, odd,left,,,,,' },
        ],
      },
      {
        kind: 'fast',
        places: [
          { at: 0, length: 12, says: 'arms,clap,none,,,,,' },
          { at: 12, length: 12, says: 'arms,clap,none,,,,,' },
        ],
        limit: 0.25,
      },
      { kind: 'empty', places: [{ at: -24, length: 408, says: '' }] },
    ])
  })

  it('loses nothing that was let stand in the ordinary way of writing it', () => {
    const words = fc
      .string({ minLength: 1, maxLength: 20 })
      .map((s) => s.replace(/[|\p{C}\p{Z}]/gu, '') || 'x')
    const places = fc.array(
      fc.record({
        at: fc.integer({ min: -500, max: 5000 }),
        length: fc.integer({ min: 1, max: 96 }),
        says: words,
      }),
      { minLength: 1, maxLength: 2 },
    )
    const kind = fc.constantFrom(...FINDING_KINDS.filter((k) => k !== 'empty' && k !== 'fast'))
    fc.assert(
      fc.property(kind, places, (kind, places) => {
        const wanted: FindingAbout = { kind, places }
        const key = [kind, ...places.map((p) => `${p.at},${p.length},${p.says}`)].join('|')
        expect(readRoutine(document([key], [])).routine.dismissed[0]?.about).toEqual(wanted)
      }),
    )
  })

  it('is taken at a border, like one of this version; what is none is refused in words', () => {
    const second = document(['empty|0|48'], ['run'])
    const read = v.safeParse(AnyRoutineSchema, second)
    expect(read.output).toEqual(readRoutine(second).routine)
    expect(v.safeParse(AnyRoutineSchema, emptyRoutine('Now')).success).toBe(true)
    for (const bad of [null, 'x', { ...second, title: '' }, { ...second, version: 99 }]) {
      const refused = v.safeParse(AnyRoutineSchema, bad)
      expect([refused.success, refused.issues?.length]).toEqual([false, 1])
    }
  })

  it('is given back as it is where it is none', () => {
    const now = emptyRoutine('Now')
    for (const other of [now, null, 7, { version: 2, plans: 'none' }, { version: 1 }])
      expect(fromVersion2(other)).toBe(other)
    expect(fromVersion2({ version: 2, title: 'x' })).toEqual({ version: 3, title: 'x' })
  })
})
