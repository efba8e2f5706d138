import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../choreo'
import {
  danced,
  type LessonSettings,
  type LessonStep,
  setRepeat,
  setUsualBorder,
  stepKey,
  USUAL,
} from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { holds, TICKS_PER_COUNT } from '../time'
import {
  addDrill,
  changeSteps,
  cutFor,
  layLesson,
  loadOfCues,
  passesFor,
  setPasses,
  spanOf,
  taughtLike,
  wayOf,
} from '.'

const book = moveBook(STARTING_MOVES)
const EIGHT = 192
const times = Array.from({ length: 200 }, (_, i) => i * 0.6)
const cut = (line: string, what: Partial<LessonSettings> = { chunk: 'hard' }, from = 0, to = 8) => {
  const r = page(1, cuesOf([line]))
  const row = { from: from * 24, to: to * 24 }
  return cutFor({ ...USUAL, ...what }, book)(row, danced(r)).map((s) => [s.from / 24 + 1, s.to / 24])
}
const lay = (lines: readonly string[], what: Partial<LessonSettings>) =>
  layLesson(page(lines.length, cuesOf(lines)), times, book, { ...USUAL, minutes: 240, ...what }, () => 0)

const TWELVE =
  '1 step R; 1& step L; 2 kick R; 3 step R; 3e tap L; 4 step L; 5 step R; 6 step L; 6& tap R; 7 step R; 7a tap L; 8 jump'

describe('as hard as it is', () => {
  it('four slow steps are one chunk', () => {
    expect(cut('1 step R; 3 step L; 5 step R; 7 step L')).toEqual([[1, 8]])
  })
  it('twelve actions, some on e and a, are two halves', () => {
    expect(cut(TWELVE)).toEqual([
      [1, 4],
      [5, 8],
    ])
  })
  it('an eight that repeats one to the other side is not cut: it is a short drill', () => {
    const r = setRepeat(
      page(2, cuesOf([TWELVE])),
      { id: 'r', to: { from: EIGHT, to: 2 * EIGHT }, from: 0, mirrored: true },
      ids(),
    )
    const { steps } = layLesson(r, times, book, { ...USUAL, minutes: 240, chunk: 'hard' }, () => 0)
    const later = steps.filter((s) => s.stretch && s.stretch.from >= EIGHT && s.kind === 'drill')
    expect(later.map((s) => [s.why.includes('other side'), s.stretch?.to])).toEqual([
      [true, 2 * EIGHT],
      [true, 2 * EIGHT],
    ])
  })
  it('is never cut through a move where there is another place', () => {
    const line = '1 step R; 1& step L; 2 step R; 3-6 roll; 7 kick L; 7& kick R; 8 hop L; 8& jump'
    const pieces = cut(line, { chunk: 'hard', grade: 'children' })
    expect(pieces.length).toBeGreaterThan(1)
    // The middle of the eight lies in the roll.
    expect(pieces.map(([from]) => from).filter((n) => n && n > 3 && n <= 6)).toEqual([])
  })
  it('advanced dancers take more at once', () => {
    expect(cut(TWELVE, { chunk: 'hard', grade: 'advanced' })).toEqual([[1, 8]])
  })
  it('what was learned before weighs less', () => {
    const cues = cuesOf(['1 hop L; 2 wiggle; 3 wobble'])
    const known = new Set(['hop', 'wiggle', 'wobble'])
    expect(loadOfCues(cues, book, new Set()) - loadOfCues(cues, book, known)).toBe(1.5)
    expect(loadOfCues(cuesOf(['1 hold; 2& hop L; 3e hop R']), book, known)).toBe(1.5 + 2)
  })
})

describe('pieces of counts', () => {
  it.each<[LessonSettings['chunk'], [number, number], number[][]]>([
    [
      'two counts',
      [0, 8],
      [
        [1, 2],
        [3, 4],
        [5, 6],
        [7, 8],
      ],
    ],
    [
      'four counts',
      [0, 8],
      [
        [1, 4],
        [5, 8],
      ],
    ],
    [
      'four counts',
      [0, 6],
      [
        [1, 4],
        [5, 6],
      ],
    ],
    ['eight', [0, 8], [[1, 8]]],
    ['four counts', [6, 8], [[7, 8]]],
  ])('%s of %j', (chunk, [from, to], pieces) => {
    expect(cut('1 step R', { chunk }, from, to)).toEqual(pieces)
  })
  it('an entry on a sub-count goes with the count after it', () => {
    const row = { from: 7 * 24 + 12, to: EIGHT }
    expect(cutFor({ ...USUAL, chunk: 'two counts' }, book)(row, [])).toEqual([row])
  })
  it('of any row lie beside one another, none under a count', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('two counts' as const, 'four counts' as const, 'hard' as const),
        fc.integer({ min: 0, max: 100 }),
        fc.integer({ min: 24, max: 400 }),
        fc.constantFrom(TWELVE, '1 step R', '1-8 roll', '1& clap; 3 hop L; 4 hop R; 5e jump'),
        (chunk, from, length, line) => {
          const row = { from, to: from + length }
          const cues = danced(page(3, cuesOf([line, line, line]))).filter(
            (c) => c.at >= from && c.at < row.to,
          )
          const pieces = cutFor({ ...USUAL, chunk, grade: 'children' }, book)(row, cues)
          expect(pieces[0]?.from).toBe(from)
          expect(pieces.at(-1)?.to).toBe(row.to)
          pieces.forEach((p, i) => {
            if (i) expect(p.from).toBe(pieces[i - 1]?.to)
            expect(p.to - p.from).toBeGreaterThanOrEqual(Math.min(length, TICKS_PER_COUNT))
          })
        },
      ),
    )
  })
})

describe('a lesson of a few counts at a time', () => {
  const LINE = '1 step R; 2 touch L; 3 step L; 4 touch R; 5 step R; 6 touch L; 7 step L; 8 touch R'
  const spans = (steps: ReturnType<typeof lay>['steps'], kind: string) =>
    steps
      .filter((s) => s.kind === kind && s.stretch)
      .map((s) => [(s.stretch?.from ?? 0) / 24 + 1, (s.stretch?.to ?? 0) / 24])

  it('shows the eight once, breaks it down two by two, and adds up from its top', () => {
    const { steps } = lay([LINE], { chunk: 'two counts', order: 'whole body' })
    expect(spans(steps, 'show')).toEqual([[1, 8]])
    expect(spans(steps, 'break down')).toEqual([
      [1, 2],
      [3, 4],
      [5, 6],
      [7, 8],
    ])
    const up = steps.filter((s) => s.why === 'Counts added up.')
    expect(up.map((s) => [(s.stretch?.from ?? 0) / 24 + 1, (s.stretch?.to ?? 0) / 24, s.speed])).toEqual([
      ...[
        [1, 4, 0.75],
        [1, 4, 1],
      ],
      ...[
        [1, 6, 0.75],
        [1, 6, 1],
      ],
      ...[
        [1, 8, 0.75],
        [1, 8, 1],
      ],
    ])
  })
  it('the last two alone, or the joins alone', () => {
    const two = lay([LINE], { chunk: 'two counts', order: 'whole body', review: 'last two' }).steps
    expect(
      two.filter((s) => s.why === 'Counts added up.' && s.speed === 1).map((s) => s.stretch?.from),
    ).toEqual([...[0, 48, 96]])
    const joins = lay([LINE], { chunk: 'two counts', order: 'whole body', review: 'join' }).steps
    expect(spans(joins, 'join')).toEqual([
      [3, 4],
      [5, 6],
      [7, 8],
    ])
    expect(joins.filter((s) => s.kind === 'join').map((s) => s.runUp)).toEqual([2, 2, 2])
  })
  it('taught backwards it adds up to the end', () => {
    const { steps } = lay([LINE], { chunk: 'four counts', order: 'whole body', backward: true })
    expect(spans(steps, 'break down')).toEqual([
      [5, 8],
      [1, 4],
    ])
    const up = steps.filter((s) => s.why === 'Counts added up.')
    expect(up.map((s) => s.stretch)).toEqual([
      { from: 0, to: 192 },
      { from: 0, to: 192 },
    ])
  })
  it('each new pair of counts is danced at tempo before a run or check holds it', () => {
    for (const chunk of ['two counts', 'four counts', 'hard'] as const)
      for (const review of ['top', 'last two', 'join', 'checkpoints'] as const)
        for (const backward of [false, true]) {
          const { steps } = lay([LINE, TWELVE, LINE], { chunk, review, backward })
          const danced: { from: number; to: number }[] = []
          for (const s of steps) {
            if (!s.stretch || !s.repetitions) continue
            const from = s.stretch.from - s.runUp * 24
            if (s.kind === 'run' || s.kind === 'checkpoint')
              for (let at = s.stretch.from; at + 48 <= s.stretch.to; at += 24)
                expect(
                  danced.some((d) => d.from <= at && d.to >= at + 48),
                  `${chunk}, ${review}, ${backward}: ${at / 24} before ${stepKey(s)}`,
                ).toBe(true)
            else if (s.speed === 1 && s.pass === 'all' && s.kind !== 'show')
              danced.push({ from, to: s.stretch.to })
          }
        }
  })
})

describe('a dance that leans over its borders', () => {
  const LINE = '1 step R; 2 touch L; 3 step L; 4 touch R; 5 step R; 6 touch L; 7 step L; 8 hold; 8& hop R'
  const leaning = setUsualBorder(page(4, cuesOf([LINE, LINE, LINE, LINE])), { lean: 12, resolve: 0 }).routine
  const steps = (what: Partial<LessonSettings>) =>
    layLesson(leaning, times, book, { ...USUAL, minutes: 600, ...what }, () => 0).steps
  const begins = [0, 180, 372, 564]
  const ends = [180, 372, 564, 768]
  it.each(['eight', 'two', 'part', 'four counts', 'two counts', 'hard'] as const)(
    'is cut by %s so that every piece begins with its pick-up and leaves the next one its own',
    (chunk) => {
      for (const { stretch, kind } of steps({ chunk, review: 'top' })) {
        if (!stretch) continue
        const [from, to] = [stretch.from % 192, stretch.to % 192]
        // Inside an eight pieces meet on counts.
        if (!begins.includes(stretch.from)) expect([kind, from % 24, from !== 0]).toEqual([kind, 0, true])
        if (!ends.includes(stretch.to)) expect([kind, to % 24, to !== 0]).toEqual([kind, 0, true])
      }
    },
  )
  it('is all taught, each pick-up with what it leads into', () => {
    const taught = steps({ chunk: 'four counts' }).flatMap((s) =>
      s.kind === 'break down' && s.stretch ? [s.stretch] : [],
    )
    expect(taught.map((s) => [s.from, s.to])).toEqual([
      [0, 96],
      [96, 180],
      [180, 288],
      [288, 372],
      [372, 480],
      [480, 564],
      [564, 672],
      [672, 768],
    ])
  })
  it('is put together from whole counts before a join', () => {
    const join = steps({ chunk: 'eight' }).find((s) => s.kind === 'join')
    expect(join?.stretch?.from).toBe(180)
    expect(join && spanOf(join, leaning)?.from).toBe(72)
  })
  it('says an eight again that is danced again, with its own pick-up', () => {
    const third = { from: 384, to: 576 }
    const empty = { ...leaning, cues: leaning.cues.filter((c) => !holds(third, c.at)) }
    const r = setRepeat(empty, { id: 'r', to: third, from: 0, mirrored: false }, ids())
    const { steps: list } = layLesson(r, times, book, { ...USUAL, minutes: 600, chunk: 'eight' }, () => 0)
    expect(list.filter((s) => s.kind === 'break down').map((s) => s.stretch?.from)).toEqual([0, 180, 564])
  })
})

describe('passes', () => {
  const both = [
    ...cuesOf(['1 step R; 2 step L', '1 step R; 2 step L']),
    ...cuesOf(['1 wave', '1 wave'], 'arms'),
  ]
  const order = (settings: Partial<LessonSettings>) =>
    layLesson(page(2, both), times, book, { ...USUAL, minutes: 240, ...settings }, () => 0)
      .steps.filter((s) => s.pass !== 'all')
      .map((s) => [s.pass, (s.stretch?.from ?? 0) / EIGHT])

  it('are taken in one order here and in another there', () => {
    const passes = setPasses(USUAL, { from: EIGHT, to: 2 * EIGHT }, ['arms', 'feet', 'look', 'head']).passes
    expect(order({ passes })).toEqual([
      ['feet', 0],
      ['arms', 0],
      ['arms', 1],
      ['feet', 1],
      ['look', 1],
    ])
    expect(order({ passes: [{ stretch: { from: 0, to: EIGHT }, passes: [] }] })).toEqual([
      ['feet', 1],
      ['arms', 1],
    ])
  })
  it('are the usual ones again when nothing is chosen', () => {
    const one = setPasses(USUAL, { from: 0, to: 2 * EIGHT }, ['arms'])
    const two = setPasses(one, { from: EIGHT, to: 2 * EIGHT }, null)
    expect(two.passes).toEqual([{ stretch: { from: 0, to: EIGHT }, passes: ['arms'] }])
    expect(passesFor(setPasses(one, { from: 0, to: 2 * EIGHT }, null), [])).toEqual([])
  })
})

describe('a way to teach', () => {
  it('goes to another dance without the places of this one, which keeps its own', () => {
    const here = setPasses({ ...USUAL, minutes: 45 }, { from: 0, to: EIGHT }, ['arms'])
    expect(wayOf(here)).toEqual({ ...USUAL, minutes: 45 })
    const taken = taughtLike(here, {
      ...USUAL,
      minutes: 90,
      passes: [{ stretch: { from: 5, to: 6 }, passes: [] }],
    })
    expect(taken).toEqual({ ...USUAL, minutes: 90, passes: here.passes })
  })
})

describe('steps by hand', () => {
  const plan = {
    id: 'p',
    name: 'P',
    settings: USUAL,
    group: '',
    goesOn: null,
    heads: null,
    gone: [],
    steps: lay(['1 step R'], {}).steps,
  }
  it('several are changed alike, and are one’s own', () => {
    const [a, b] = plan.steps.slice(1, 3).map(stepKey) as [string, string]
    const next = changeSteps(plan, new Set([a, b]), { speed: 0.5, how: 'small' })
    expect(next.steps.filter((s) => s.own).map((s) => [stepKey(s), s.speed, s.how])).toEqual([
      [a, 0.5, 'small'],
      [b, 0.5, 'small'],
    ])
  })
  it('a drill of any counts is added beside one, or at the end', () => {
    const stretch = { from: 30, to: 77 }
    const at = (beside: string | null) =>
      addDrill(plan, stretch, beside, () => 'x').steps.findIndex((s) => stepKey(s) === 'own x')
    expect(at(stepKey(plan.steps[1] as LessonStep))).toBe(2)
    expect(at(null)).toBe(plan.steps.length)
    expect(addDrill(plan, stretch, null, () => 'x').steps.at(-1)).toMatchObject({
      stretch,
      own: true,
      kind: 'drill',
    })
  })
})
