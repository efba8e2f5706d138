import { describe, expect, it } from 'vitest'
import { LIMITS } from '../routine'
import {
  firstChosen,
  markOfChosen,
  type PracticeEvent,
  type PracticeKept,
  type PracticeState,
  stepPractice,
  withMark,
  withoutMark,
} from './practice'

const times = Array.from({ length: 65 }, (_, k) => 10 + k * 0.5)
const SEEN = {
  stretch: { from: 48, to: 24 * 40 },
  times,
  mirrored: true,
  name: ({ from, to }: { from: number; to: number }) => `${from / 24} to ${to / 24}`,
}
interface Kept extends PracticeKept {
  name: string
}
const AT_FIRST: PracticeState<Kept> = {
  kept: { marks: [], speed: 0.75, mirrored: null, name: 'Mara' },
  chosen: { from: 48, to: 240 },
  anchor: null,
  removed: null,
  said: '',
}
const run = (...events: PracticeEvent<Kept>[]) =>
  events.reduce((state, e) => stepPractice(state, e, SEEN), AT_FIRST)
const mark = (from: number, sits = true, at = '2026-11-27T10:00:00Z') => ({ from, to: from + 1, sits, at })

describe('what is practised', () => {
  it('is at first the first row, with the next where that is a pick-up alone', () => {
    const rows = [
      { from: 0, length: 48 },
      { from: 48, length: 192 },
    ]
    expect(firstChosen({ from: 0, to: 960 }, rows)).toEqual({ from: 0, to: 240 })
    expect(firstChosen({ from: 48, to: 960 }, rows)).toEqual({ from: 48, to: 240 })
    expect(firstChosen({ from: 0, to: 48 }, [rows[0] as (typeof rows)[0]])).toEqual({ from: 0, to: 48 })
  })
  it('is a row, or as far as a further one, either way', () => {
    const row = (from: number, further: boolean) =>
      ({ kind: 'row', stretch: { from, to: from + 192 }, further }) as const
    expect(run(row(432, false)).chosen).toEqual({ from: 432, to: 624 })
    expect(run(row(432, true)).chosen).toEqual({ from: 48, to: 624 })
    expect(run(row(432, false), row(240, true)).chosen).toEqual({ from: 240, to: 624 })
    expect(run({ kind: 'count', tick: 96 }, row(432, false)).anchor).toBeNull()
  })
  it('is from one count to another, within what the page is of', () => {
    const count = (tick: number) => ({ kind: 'count', tick }) as const
    expect(run(count(96))).toMatchObject({ chosen: { from: 96, to: 120 }, anchor: 96 })
    expect(run(count(96), count(192))).toMatchObject({ chosen: { from: 96, to: 216 }, anchor: null })
    expect(run(count(192), count(96)).chosen).toEqual({ from: 96, to: 216 })
    // The third begins anew.
    expect(run(count(96), count(192), count(300))).toMatchObject({
      chosen: { from: 300, to: 324 },
      anchor: 300,
    })
    expect(run(count(24 * 39 + 12)).chosen.to).toBe(24 * 40)
    expect(run(count(0)).chosen.from).toBe(48)
    expect(run(count(96), { kind: 'all' })).toMatchObject({ chosen: SEEN.stretch, anchor: null })
    expect(run(count(96), { kind: 'choose', stretch: { from: 72, to: 96 } })).toMatchObject({
      chosen: { from: 72, to: 96 },
      anchor: null,
    })
  })
})

describe('how it is practised', () => {
  it('goes slower and faster in steps, between the slowest and the fastest', () => {
    const speed = (...by: number[]) =>
      run(...by.map((n): PracticeEvent<Kept> => ({ kind: 'faster', by: n }))).kept.speed
    expect([speed(5), speed(-5), speed(5, 5, 5), speed(100), speed(-100)]).toEqual([0.8, 0.7, 0.9, 1.1, 0.4])
  })
  it('is turned from how the page was made, and keeps what else is kept', () => {
    expect(run({ kind: 'turn' }).kept).toEqual({ ...AT_FIRST.kept, mirrored: false })
    expect(run({ kind: 'turn' }, { kind: 'turn' }).kept.mirrored).toBe(true)
    expect(run({ kind: 'change', what: { name: 'Ona' } }).kept).toEqual({ ...AT_FIRST.kept, name: 'Ona' })
    expect(run({ kind: 'say', words: 'hello' }).said).toBe('hello')
  })
})

describe('what a learner says', () => {
  const says = (sits: boolean, at = '2026-11-27T10:00:00Z') => ({ kind: 'mark', sits, at }) as const
  it('is kept in seconds of the song, told, and taken back by saying it again', () => {
    const one = run(says(true))
    expect(one.kept.marks).toEqual([{ from: 11, to: 15, sits: true, at: '2026-11-27T10:00:00Z' }])
    expect([one.said, markOfChosen(one, times)?.sits]).toEqual(['2 to 10: it sits.', true])
    const other = run(says(true), says(false))
    expect([other.kept.marks.map((m) => m.sits), other.said]).toEqual([[false], '2 to 10: not yet.'])
    const none = run(says(true), says(true))
    expect([none.kept.marks, none.said]).toEqual([[], 'Nothing is said of 2 to 10 any more.'])
    expect(markOfChosen(AT_FIRST, times)).toBeUndefined()
  })
  it('is taken out, and put back once', () => {
    const one = run(says(true)).kept.marks[0]
    if (!one) throw new Error('no mark')
    const out = run(says(true), { kind: 'take out', mark: one })
    expect([out.kept.marks, out.removed]).toEqual([[], one])
    const back = run(says(true), { kind: 'take out', mark: one }, { kind: 'bring back' })
    expect([back.kept.marks, back.removed]).toEqual([[one], null])
    expect(run({ kind: 'bring back' })).toBe(AT_FIRST)
    // What is said next is not mixed up with what was taken out.
    expect(run(says(true), { kind: 'take out', mark: one }, says(false)).removed).toBeNull()
  })
  it('of the same counts gives way, and of too many the oldest', () => {
    const many = Array.from({ length: LIMITS.learnerMarks }, (_, k) => mark(k))
    const next = withMark(many, mark(9999))
    expect([next.length, next[0]?.from, next.at(-1)?.from]).toEqual([LIMITS.learnerMarks, 1, 9999])
    expect(withMark([mark(1), mark(2)], mark(1, false)).map((m) => [m.from, m.sits])).toEqual([
      [2, true],
      [1, false],
    ])
    expect(withoutMark([mark(1), { ...mark(1), to: 9 }], mark(1))).toEqual([{ ...mark(1), to: 9 }])
  })
})
