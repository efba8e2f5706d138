import { afterEach, describe, expect, it, vi } from 'vitest'
import { moveBook, STARTING_MOVES } from '@/core/choreo'
import { cueSheet, usualContents } from '@/core/handout'
import { placePhrases } from '@/core/routine'
import { cuesOf, page } from '@/core/routine/hand.test-tools'
import { withMark, withoutMark } from '@/core/station/practice'
import { timeOfTick } from '@/core/time'
import { keep, marksFile, readKept } from './kept'
import { type CardCount, countsOfRow, nowAndNext, stretchOf } from './rows'

const times = Array.from({ length: 33 }, (_, i) => 5 + i * 0.6)

describe('a card', () => {
  it('reads each count with what begins on it or before the next', () => {
    const r = page(2, [
      ...cuesOf(['1 step R; 2& kick L; 3-4 walk R', '']),
      ...cuesOf(['3 reach up R', ''], 'arms'),
    ])
    const contents = { ...usualContents(r), stretch: { from: 0, to: 192 }, short: false }
    const [row] = cueSheet(r, times, moveBook(STARTING_MOVES), contents)
    const counts = countsOfRow(row as NonNullable<typeof row>, placePhrases(r))
    expect(counts.map((c) => c.label)).toEqual(['1', '2', '3', '4', '5', '6', '7', '8'])
    expect(counts[1]?.cues).toEqual([{ between: '&', layer: '', text: 'kick L', until: '' }])
    expect(counts[2]?.cues).toEqual([
      { between: '', layer: '', text: 'walk R', until: 'to 4' },
      { between: '', layer: 'arms', text: 'reach up R', until: '' },
    ])
    expect(counts[3]?.cues).toEqual([])
    expect(counts[0]?.weight).toBe('R')
  })
  it('finds the counts a mark is of again by their seconds', () => {
    const stretch = { from: 48, to: 120 }
    const mark = { from: timeOfTick(times, stretch.from), to: timeOfTick(times, stretch.to) }
    expect(stretchOf(times, mark)).toEqual(stretch)
  })
})

describe('what is shown large', () => {
  const count = (n: number, text = ''): CardCount => ({
    ...{ tick: n * 24, label: String(n + 1), weight: '' },
    cues: text ? [{ between: '', layer: '', text, until: '' }] : [],
  })
  const all = [
    count(6, 'before'),
    count(7),
    count(8, 'step'),
    count(9),
    count(10, 'turn'),
    count(11),
    count(12, 'after'),
  ]
  const chosen = { from: 8 * 24, to: 12 * 24 }
  const at = (n: number, countedIn = false, again = true) =>
    nowAndNext(all, chosen, { tick: n * 24, countedIn }, again)
  it('is what is danced of the chosen counts, the first of them while they are counted in', () => {
    expect(at(6, true)).toEqual({ now: '', next: 'step' })
    expect(nowAndNext(all, chosen, null, true)).toEqual({ now: '', next: 'step' })
    expect(at(8)).toEqual({ now: 'step', next: 'turn' })
    expect(at(9)).toEqual({ now: 'step', next: 'turn' })
    expect(at(11)).toEqual({ now: 'turn', next: 'step' })
    expect(at(11, false, false)).toEqual({ now: 'turn', next: '' })
  })
})

describe('what a device keeps', () => {
  afterEach(() => vi.unstubAllGlobals())
  const mark = (from: number, sits: boolean) => ({ from, to: from + 4, sits, at: '2026-11-26T10:00:00.000Z' })
  it('is read back; broken or refused it begins anew, and says that nothing is kept', () => {
    const store = new Map<string, string>()
    vi.stubGlobal('localStorage', {
      getItem: (k: string) => store.get(k) ?? null,
      setItem: (k: string, x: string) => store.set(k, x),
    })
    const kept = { ...readKept('a'), name: 'Ina', speed: 0.6, marks: [mark(1, true)] }
    expect(keep('a', kept)).toBe(true)
    expect(readKept('a')).toEqual(kept)
    // Each page keeps its own.
    expect(readKept('b').marks).toEqual([])
    for (const broken of ['{', '{"speed": 9}', '{"marks": [{"from": 3, "to": 1}]}', 'null']) {
      for (const key of store.keys()) store.set(key, broken)
      expect(readKept('a')).toMatchObject({ name: '', speed: 0.75, marks: [] })
    }
    vi.stubGlobal('localStorage', {
      getItem: () => {
        throw new Error('refused')
      },
      setItem: () => {
        throw new Error('refused')
      },
    })
    expect(readKept('a').marks).toEqual([])
    expect(keep('a', kept)).toBe(false)
  })
  it('has one judgement of the same counts, and goes back under a name', () => {
    const all = withMark(withMark([mark(1, false)], mark(9, true)), mark(1, true))
    expect(all.map((m) => [m.from, m.sits])).toEqual([
      [9, true],
      [1, true],
    ])
    expect(withoutMark(all, mark(9, false))).toEqual([mark(1, true)])
    const sent = marksFile('routine-one', { ...readKept('none'), name: ' Ina ', marks: all }, new Date(0))
    expect(sent).toMatchObject({ azalea: 'marks', id: 'routine-one', learner: 'Ina', marks: all })
  })
})
