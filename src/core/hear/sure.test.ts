import { describe, expect, it } from 'vitest'
import type { Hearing } from './hearing'
import { doubtAt, doubts, songDoubt, wordsFor, wordsForDoubt } from './sure'

const of = (beats: number[], ones: number[], beat = 0.95) =>
  doubts({
    sure: { beats, ones },
    confidence: { beats: beat, one: ones[0] ?? 0 },
    phrases: beats.map((_, i) => 8 * i),
  })

describe('what the whole song leaves in doubt', () => {
  const song = (beats: number, one: number) => songDoubt({ confidence: { beats, one } })
  it('is its beat before its 1, and nothing where it is sure of both', () => {
    expect(song(0.95, 0.95)).toBeNull()
    expect(song(0.5, 0.2)).toEqual({ of: 'beat', sure: 0.5 })
    expect(song(0.95, 0.3)).toEqual({ of: '1', sure: 0.3 })
  })
})

describe('what asks for a look', () => {
  it('is nothing where the whole song is alike, sure or not', () => {
    expect(of([0.95, 0.95, 0.94], [0.9, 0.92, 0.9])).toEqual([null, null, null])
    // Which of two bars begins the eight is open, everywhere alike.
    expect(of([0.95, 0.95, 0.95], [0.51, 0.5, 0.52])).toEqual([null, null, null])
    expect(of([0.5, 0.52, 0.51], [0.9, 0.9, 0.9], 0.52)).toEqual([null, null, null])
  })
  it('is the phrase whose 1 is less sure than the song’s', () => {
    const list = of([0.95, 0.95, 0.95, 0.95], [0.9, 0.9, 0.3, 0.9])
    expect(list.map((d) => d?.of ?? null)).toEqual([null, null, '1', null])
    expect(list[2]?.sure).toBeCloseTo(1 / 3, 6)
  })
  it('is the phrase whose strokes leave the beat', () => {
    expect(of([0.95, 0.4, 0.95], [0.9, 0.9, 0.9]).map((d) => d?.of ?? null)).toEqual([null, 'beat', null])
    // The weaker of two reasons is not told.
    expect(of([0.95, 0.4, 0.95], [0.9, 0.2, 0.9])[1]?.of).toBe('1')
  })
  it('is nothing that an older hearing did not say', () => {
    expect(
      doubts({ sure: { beats: [], ones: [] }, confidence: { beats: 0.9, one: 0.9 }, phrases: [0, 8] }),
    ).toEqual([null, null])
  })
})

describe('how sure', () => {
  it('is told in four words, and the lower of two at a border is not', () => {
    const told = [1, 0.9, 0.89, 0.7, 0.69, 0.5, 0.49, 0].map(wordsFor)
    expect(told).toEqual([
      ...['sure', 'sure', 'fairly sure', 'fairly sure', 'a guess, check it', 'a guess, check it'],
      ...['uncertain, check it', 'uncertain, check it'],
    ])
  })
  it('is asked of the phrase that begins at a beat', () => {
    const h = {
      sure: { beats: [0.95, 0.4], ones: [0.9, 0.9] },
      confidence: { beats: 0.95, one: 0.9 },
      phrases: [4, 12],
    } as Hearing
    expect([doubtAt(h, 4), doubtAt(h, 12)?.of, doubtAt(h, 8)]).toEqual([null, 'beat', null])
    expect(wordsForDoubt({ of: '1', sure: 0.333 })).toContain('33 % sure')
    expect(wordsForDoubt({ of: 'beat', sure: 0.333 })).toContain('lost for a while')
  })
})
