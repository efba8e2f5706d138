import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { withoutFilms, withoutLearners, withoutLessons } from '../../handout'
import {
  type Cue,
  type DancedCue,
  danced,
  emptyRoutine,
  type Film,
  type Routine,
  RoutineSchema,
  rebase,
  sameDancedCue,
} from '..'
import { ids } from '../hand.test-tools'
import { CUE_FIELD_NAMES, CUE_FIELDS } from './cue-fields'
import { FIELD_NAMES, FIELDS, fieldsWhere, LIST_NAMES, SINGLE_NAMES } from './fields'

/** A cue that says everything there is to say. */
const FULL: Required<Cue> = {
  id: 'c',
  at: 24,
  length: 36,
  layer: 'feet',
  move: 'step left',
  side: 'left',
  call: 'left',
  trigger: { kind: 'lyric', mark: 'm' },
  step: 'turn',
  turn: { to: 'left', eighths: 4 },
  way: 'back left',
  metres: 0.5,
  facing: 2,
  level: 'low',
  quality: 'soft to the left',
  look: 'left',
  role: 'leader',
  option: 'easier',
  tip: 'left knee',
  mistake: 'right knee',
  caution: 'knee',
  mirrored: true,
  each: 'group',
}
/** Of each field something else that it may say. */
const OTHER: Required<Cue> = {
  id: 'd',
  at: 48,
  length: 24,
  layer: 'arms',
  move: 'touch',
  side: 'right',
  call: '',
  trigger: { kind: 'sound', mark: null },
  step: 'hold',
  turn: { to: 'left', eighths: 2 },
  way: 'forward',
  metres: 2,
  facing: 0,
  level: 'high',
  quality: 'x',
  look: 'x',
  role: 'x',
  option: 'harder',
  tip: 'x',
  mistake: 'x',
  caution: 'neck',
  mirrored: false,
  each: 'other',
}

const FILM: Film = {
  ...{ id: 'f', file: 'film-file', name: 'Studio', whose: '', side: 'front', mirrored: false, filmed: null },
  ...{ seconds: 20, frameRate: 30, searched: true },
  takes: [{ from: 1, to: 9, at: 4, rate: 1, sure: 0.4, by: 'sound' }],
  notes: [{ id: 'n', at: 48, seconds: 3, text: 'wrist' }],
}

const withCues = (...cues: Cue[]): Routine => ({
  ...emptyRoutine('x'),
  phrases: Array.from({ length: 8 }, () => ({ length: 8, feel: 'straight' as const, pickUp: false })),
  cues,
})

describe('the fields of a routine', () => {
  it('are each a single thing or a list, and an empty routine has them all, as usual', () => {
    const empty = emptyRoutine('x', 'y')
    expect([...SINGLE_NAMES, ...LIST_NAMES].sort()).toEqual([...FIELD_NAMES].sort())
    expect(Object.keys(empty)).toEqual(['version', ...FIELD_NAMES])
    expect(v.parse(RoutineSchema, empty)).toEqual(empty)
    for (const name of FIELD_NAMES) {
      if (name === 'title' || name === 'credit') continue
      expect(empty[name]).toEqual(FIELDS[name].usual)
    }
    // What is usual is nobody's own: two routines do not share a list.
    expect(empty.cues).not.toBe(emptyRoutine('x').cues)
  })

  it('may be left out of a document where they are not needed, and not where they are', () => {
    for (const name of FIELD_NAMES) {
      const { [name]: _, ...rest } = emptyRoutine('x')
      const read = v.safeParse(RoutineSchema, rest)
      expect([name, read.success]).toEqual([name, !FIELDS[name].needed])
      if (read.success) expect(read.output[name]).toEqual(FIELDS[name].usual)
    }
  })

  it('leave the house as they say', () => {
    const learners = [{ id: 'l', name: 'Mara', made: '2026-11-20T10:00:00Z', marks: [] }]
    const courses = [{ id: 'k', group: 'Mon', dates: ['2026-11-20T10:00'], minutes: 60, standsBy: null }]
    const r: Routine = { ...withCues(FULL), learners, courses, films: [FILM], gear: 'pads' }
    expect(withoutFilms(r)).toEqual({ ...r, films: [] })
    expect(fieldsWhere((f) => f.file === 'with films')).toEqual(['films'])
    expect(withoutLearners(r)).toEqual({ ...r, learners: [] })
    expect(withoutLessons(r)).toEqual({ ...r, courses: [] })
    expect(fieldsWhere((f) => f.file === 'never')).toEqual(['learners'])
    expect(fieldsWhere((f) => f.file === 'unless left out')).toEqual(['plans', 'courses'])
  })

  it('stay the very same where they do not go along with the counts', () => {
    const r = { ...withCues(FULL), gear: 'pads', marks: [], room: 'wide' }
    const { routine } = rebase(r, (tick) => tick + 24, 65, ids())
    for (const name of fieldsWhere((f) => f.along === 'stays')) expect(routine[name]).toBe(r[name])
    expect(routine.cues).toEqual([{ ...FULL, at: 48 }])
    // A note on a film stays on what it was written of; the takes lie in the song's own seconds.
    const filmed = rebase({ ...r, films: [FILM] }, (tick) => tick + 24, 65, ids()).routine.films[0]
    expect(filmed).toEqual({ ...FILM, notes: [{ ...FILM.notes[0], at: 72 }] })
  })

  it('are the same object, a cue that does not move', () => {
    const cue = { ...FULL }
    expect(rebase(withCues(cue), (tick) => tick, 64, ids()).routine.cues[0]).toBe(cue)
  })
})

describe('the fields of a cue', () => {
  it('tell two danced cues apart, each of them, also where a repeat brings them', () => {
    for (const name of CUE_FIELD_NAMES) {
      const changed = { ...FULL, [name]: OTHER[name] }
      const repeats = [{ id: 'r', to: { from: 192, to: 384 }, from: 0, mirrored: false }]
      const [before, after] = [FULL, changed].map((c) => danced({ cues: [c], repeats }))
      const [a, b] = [before?.[1], after?.[1]]
      if (!a || !b) throw new Error('the repeat brought nothing')
      // What is not danced stays where it is written.
      expect([name, sameDancedCue(a, b)]).toEqual([name, !(name === 'id' || CUE_FIELDS[name].danced)])
      expect([name, sameDancedCue(before?.[0] as DancedCue, after?.[0] as DancedCue)]).toEqual([name, false])
      expect(sameDancedCue(a, { ...a })).toBe(true)
    }
  })

  it('are carried through repeats where they are danced', () => {
    const repeats = [{ id: 'r', to: { from: 192, to: 384 }, from: 0, mirrored: false }]
    const linked = danced({ cues: [FULL], repeats })[1]
    for (const name of CUE_FIELD_NAMES) {
      if (name === 'id' || name === 'at') continue
      expect([name, linked?.[name]]).toEqual([name, CUE_FIELDS[name].danced ? FULL[name] : undefined])
    }
    expect([linked?.id, linked?.at, linked?.link]).toEqual(['r/c', 216, { repeat: 'r', cue: 'c' }])
  })
})
