import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { clockText } from '../../time'
import type { Section } from '../document/song-schema'
import { emptyRoutine, placePhrases, readPointing, stretchName } from '../index'

const eight = { length: 8, feel: 'straight' as const, pickUp: false }
const section = (at: number, kind: Section['kind'], letter: string, name = ''): Section => ({
  ...{ id: `s${at}`, at: at * 24, kind, letter, name },
})
const cue = (count: number, move: string, layer: 'feet' | 'arms' = 'feet', length = 24) => ({
  ...{ id: `c${count}${layer}${move}`, at: count * 24, length, layer, move },
})
const routine = {
  ...emptyRoutine('x'),
  phrases: Array.from({ length: 8 }, () => eight),
  // Verse, chorus, verse, chorus, each two eights.
  sections: [
    section(0, 'verse', 'A'),
    section(16, 'chorus', 'B'),
    section(32, 'verse', 'A'),
    section(48, 'chorus', 'B'),
  ],
  parts: [
    { id: 'p1', at: 0, name: 'Part one' },
    { id: 'p2', at: 20 * 24, name: 'Part two' },
    { id: 'p3', at: 40 * 24, name: 'The walk home' },
  ],
  cues: [
    cue(0, 'walk forward', 'feet', 96),
    cue(4, 'kick right'),
    cue(6, 'kick left'),
    cue(6, 'kick arms', 'arms'),
    cue(10, 'turn', 'feet', 48),
    cue(18.5, 'kick high'),
    cue(50, 'turn'),
  ],
  marks: [
    { id: 'm1', at: 12.02, end: null, kind: 'sound' as const, text: 'bell' },
    { id: 'm2', at: 20, end: null, kind: 'sound' as const, text: 'bell' },
    { id: 'm3', at: 8, end: null, kind: 'lyric' as const, text: 'bell' },
  ],
} as unknown as ReturnType<typeof emptyRoutine>
const placed = placePhrases(routine)
const times = Array.from({ length: 65 }, (_, k) => k / 2)
const here = placed[1] ?? null
const meant = (text: string) => readPointing({ routine, placed, times, here }, text)
const counts = (text: string) => meant(text).map(({ stretch: s }) => [s.from / 24, s.to / 24])

describe('pointing by one’s own names', () => {
  it.each([
    ['Part two', [20, 40]],
    ['part two, first four', [20, 24]],
    ['the walk home, last 8', [56, 64]],
    ['B2', [24, 32]],
    ['b2, first two', [24, 26]],
    ['turn', [10, 12]],
    ['the turn', [10, 12]],
    ['second kick', [6, 7]],
    ['the 3rd kick', [18.5, 19.5]],
    ['last turn', [50, 51]],
    ['kick high', [18.5, 19.5]],
    ['walk forward to the second kick', [0, 7]],
    ['from the kick until the turn', [4, 10]],
    ['from 5 to the turn', [12, 51]],
    ['until the second kick', [0, 6]],
    ['the second bell', [40, 41]],
    ['0:04', [8, 16]],
    ['0:04.5', [9, 10]],
    ['0:12 to 0:16', [24, 40]],
    ['chorus, first four', [16, 20]],
    ['3 to 8', [10, 16]],
    ['all', [0, 56]],
    ['Everything', [0, 56]],
    ['all of the dance', [0, 56]],
    ['the whole dance', [0, 56]],
    ['the whole song', [0, 64]],
    ['from the top', [0, 56]],
    ['from the top to the turn', [0, 12]],
    ['from the second kick to the end', [6, 56]],
    ['part two to the end', [20, 56]],
    ['until the end', [0, 55]],
  ])('“%s” is first of all counts %j', (text, first) => {
    expect(counts(text)[0]).toEqual(first)
  })
  it('offers every way it can be taken: all such moves, both sections of a letter, to the end of the eight or the dance', () => {
    expect(counts('kick')).toEqual([
      [4, 5],
      [6, 7],
      [18.5, 19.5],
    ])
    expect(counts('B')).toEqual([
      [16, 32],
      [48, 64],
    ])
    expect(counts('A1')).toEqual([
      [0, 8],
      [32, 40],
    ])
    expect(counts('from the second kick')).toEqual([
      [6, 8],
      [6, 56],
    ])
    // Where the dance is over, to the end of the eight alone.
    expect(counts('from 0:30')).toEqual([[60, 64]])
    expect(counts('bell').length).toBe(2)
    expect(counts('part')).toEqual([
      [0, 20],
      [20, 40],
    ])
  })
  it('says why where nothing is called so', () => {
    expect(() => meant('the somersault')).toThrow('“somersault” names no place')
    expect(() => meant('fifth kick')).toThrow('names no place')
    expect(() => meant('Z1')).toThrow()
    expect(() => meant('')).toThrow('Say which counts')
    expect(() => meant('part two, first 30')).toThrow()
  })
  it('takes what the page prints as that: rows, times of rows, letters', () => {
    fc.assert(
      fc.property(fc.nat(7), fc.integer({ min: 1, max: 8 }), (i, n) => {
        const row = placed[i] as (typeof placed)[number]
        const own = { from: row.start, to: row.end }
        expect(meant(stretchName(placed, own))[0]?.stretch).toEqual(own)
        expect(meant(clockText(times[row.start / 24] as number))[0]?.stretch).toEqual(own)
        const letter = `${row.section?.letter}${row.inSection}`
        expect(meant(letter).map((m) => m.stretch)).toContainEqual(own)
        const part = { from: row.start, to: row.start + 24 * n }
        expect(meant(stretchName(placed, part))[0]?.stretch).toEqual(part)
      }),
    )
  })
})
