import { describe, expect, it } from 'vitest'
import { moveBook, namedMove, STARTING_MOVES } from '../choreo'
import { type CountedRow, counted, type LoggedRepetition } from '../drill'
import { type Pass, setRepeat, USUAL } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { newMoves, nextLesson, taughtIn } from '.'

const book = moveBook(STARTING_MOVES)
const EIGHT = '1 step R; 2 touch L; 3 step L; 4 touch R; 5 step R; 6 touch L; 7 step L; 8 touch R'
const times = Array.from({ length: 100 }, (_, i) => i * 0.6)
const DAY = 24 * 3600 * 1000
const NOW = 400 * DAY
let n = 0
const row = (
  eight: number,
  speed: number,
  mark: LoggedRepetition['mark'],
  daysAgo = 7,
  pass: Pass = 'all',
): LoggedRepetition => ({
  ...{
    id: `r${n++}`,
    doneAt: NOW - daysAgo * DAY + n,
    kind: 'drill',
    label: `Eight ${eight + 1}`,
    pass,
    speed,
  },
  ...{ from: eight * 4.8, to: (eight + 1) * 4.8, seconds: 5, mark, looped: false, slips: [], corrects: null },
})
const rows = (...list: LoggedRepetition[]): CountedRow[] => counted(list, times)
const dance = page(5, cuesOf(Array(5).fill(EIGHT)))
const next = (log: CountedRow[], what: Partial<typeof USUAL> = {}, r = dance) =>
  nextLesson(r, times, book, { ...USUAL, minutes: 240, order: 'whole body', ...what }, log, NOW)
const at = (s: { stretch: { from: number; to: number } | null }) => (s.stretch?.from ?? -192) / 192

describe('the next lesson', () => {
  it('begins with what sat least, at the speed that comes next, and goes on where the last one stopped', () => {
    const { steps } = next(
      rows(
        row(0, 0.75, 'clean'),
        row(0, 0.75, 'clean'),
        row(1, 0.75, 'missed'),
        ...[row(2, 0.6, 'clean'), row(2, 0.6, 'clean')],
      ),
    )
    expect(steps[0]?.kind).toBe('warm-up')
    const review = steps.filter((s) => s.made.what.startsWith('review'))
    expect(review.map((s) => [at(s), s.speed, s.why])).toEqual([
      [1, 0.65, 'It did not sit yet.'],
      [2, 0.7, 'It sat at 60 %.'],
      [0, 0.85, 'It sat at 75 %.'],
    ])
    expect(steps.filter((s) => s.kind === 'show').map(at)).toEqual([3, 4])
    // Nothing new comes before what is danced again.
    expect(steps.findIndex((s) => s.kind === 'show')).toBeGreaterThan(steps.indexOf(review.at(-1) as never))
  })

  it('what sits at tempo and was danced just now is not danced again', () => {
    const { steps } = next(rows(row(0, 1, 'clean', 0), row(0, 1, 'clean', 0)))
    expect(steps.filter((s) => s.made.what.startsWith('review'))).toEqual([])
    expect(steps.filter((s) => s.kind === 'show').map(at)).toEqual([1, 2, 3, 4])
  })

  it('what was left for long comes back, and a part of the body is drilled as a part', () => {
    const { steps } = next(
      rows(...[1, 1].map((s) => row(0, s, 'clean', 60)), row(1, 0.6, 'shaky', 7, 'arms')),
    )
    expect(steps.filter((s) => s.made.what.startsWith('review')).map((s) => [at(s), s.pass])).toEqual([
      [0, 'all'],
      [1, 'arms'],
    ])
  })

  it('where calls fade, what sat is danced without any', () => {
    const log = rows(row(0, 1, 'clean', 60), row(0, 1, 'clean', 60), row(1, 0.6, 'missed'))
    const review = next(log, { calling: 'fading' }).steps.filter((s) => s.made.what.startsWith('review'))
    expect(review.map((s) => [at(s), s.calls])).toEqual([
      [0, 'none'],
      [1, 'numbers'],
    ])
  })

  it('review takes two fifths at most, and the minutes are kept', () => {
    const many = rows(...Array.from({ length: 5 }, (_, i) => row(i, 0.5, 'missed')))
    const short = next(many, { minutes: 5 })
    expect(short.seconds).toBeLessThanOrEqual(5 * 60)
    const reviewed = short.steps.filter((s) => s.made.what.startsWith('review')).length
    expect(reviewed).toBeGreaterThan(0)
    expect(reviewed).toBeLessThan(5)
    const all = next(many, { minutes: 60 }).steps
    expect(all.filter((s) => s.made.what.startsWith('review'))).toHaveLength(5)
    expect(all.some((s) => s.kind === 'show')).toBe(false)
  })

  it('a repeat of what was taught is not taught again', () => {
    const repeated = setRepeat(
      page(3, cuesOf([EIGHT, '', '1 jump'])),
      { id: 'r', to: { from: 192, to: 384 }, from: 0, mirrored: false },
      ids(),
    )
    const { steps } = next(rows(row(0, 0.75, 'clean')), {}, repeated)
    expect(steps.filter((s) => s.kind === 'show').map(at)).toEqual([2])
  })

  it('what does not fit is named, without what was taught', () => {
    const { left } = next(rows(row(0, 0.75, 'clean')), { minutes: 10 })
    expect(left.length).toBeGreaterThan(0)
    expect(left.some((s) => s.from === 0)).toBe(false)
  })

  it('knows what was drilled, not what was run', () => {
    const log = rows(row(0, 1, 'clean'), { ...row(1, 1, 'clean'), kind: 'run' })
    expect(taughtIn(log)).toEqual([{ from: 0, to: 192 }])
  })
})

describe('moves new to a class', () => {
  const own = moveBook([
    ...STARTING_MOVES,
    { ...namedMove('c', 'kettle step'), needs: ['ball-change'], learn: 'lesson 4' },
    { ...namedMove('d', 'pour'), grade: 'much' },
  ])
  const r = page(3, cuesOf(['1 step R; 3& kettle step L; 5-8 pour', '1 kick R; 2 pour', '1 kettle step R']))
  const names = (taught: { from: number; to: number }[]) =>
    newMoves(r, own, taught).map((m) => [m.move.name, m.stretch.from / 24 + 1, m.stretch.to / 24])
  it('are those that ask for practice or for other moves, where the dance has them first', () => {
    expect(names([])).toEqual([
      ['kettle step', 3, 4],
      ['pour', 5, 8],
      ['kick', 9, 10],
    ])
  })
  it('are not those it danced before, wherever that was', () => {
    expect(names([{ from: 192, to: 384 }])).toEqual([['kettle step', 3, 4]])
    expect(names([{ from: 0, to: 576 }])).toEqual([])
  })
})
