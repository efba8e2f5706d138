import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { clockText } from '../../time'
import type { Section } from '../document/song-schema'
import { placePhrases, stretchName, tickName } from '../index'
import { readPiece, readPlace } from './go-to'

const eight = { length: 8, feel: 'straight' as const, pickUp: false }
const section = (at: number, kind: Section['kind'], letter: string, name = ''): Section => ({
  ...{ id: letter + at, at: at * 24, kind, letter, name },
})
// Intro of 1, verse of 3, chorus of 2, verse of 3, chorus of 2, a hook of 1.
const placed = placePhrases({
  phrases: [{ ...eight, length: 2, pickUp: true }, ...Array.from({ length: 12 }, () => eight)],
  sections: [
    section(2, 'intro', 'A'),
    section(10, 'verse', 'B'),
    section(34, 'chorus', 'C'),
    section(50, 'verse', 'B'),
    section(74, 'chorus', 'C'),
    section(90, 'part', 'D', 'Hook'),
  ],
  usual: 8,
})
const times = Array.from({ length: 98 }, (_, k) => 1 + k / 2)
const there = (text: string) => tickName(placed, readPlace(placed, times, text, placed[1] ?? null))

describe('going to a place', () => {
  it.each([
    ['chorus', 'Chorus, eight 1, 1'],
    ['Chorus, 2nd', 'Chorus, 2nd, eight 1, 1'],
    ['chorus 2', 'Chorus, 2nd, eight 1, 1'],
    ['chorus 2, 5', 'Chorus, 2nd, eight 1, 5'],
    ['verse 2, 3', 'Verse, 2nd, eight 3, 1'],
    ['verse 2 3 7', 'Verse, 2nd, eight 3, 7'],
    ['cho 2', 'Chorus, 2nd, eight 1, 1'],
    ['hook 1', 'Hook, eight 1, 1'],
    ['hook 1, 4', 'Hook, eight 1, 4'],
    ['Verse, eight 2, 3&', 'Verse, eight 2, 3&'],
    ['5', 'Intro, eight 1, 5'],
  ])('%s', (text, place) => {
    expect(there(text)).toBe(place)
  })
  it.each([
    ['0:01', 'Opening, pick-up, 7'],
    ['0:00', 'Opening, pick-up, 7'],
    ['0:06', 'Verse, eight 1, 1'],
    ['0:06.2', 'Verse, eight 1, 1'],
    ['0:05,97', 'Verse, eight 1, 1'],
    ['6.5 s', 'Verse, eight 1, 2'],
    ['0.18', 'Chorus, eight 1, 1'],
    ['0:50', 'Hook, eight 1, 8'],
  ])('at %s', (text, place) => {
    expect(there(text)).toBe(place)
  })
  it('a time leads to the count it is printed for: of a row first, with tenths of any count', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.35, max: 1.2, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        (period, from) => {
          const own = Array.from({ length: 98 }, (_, k) => from + k * period)
          const to = (text: string) => readPlace(placed, own, text, null) / 24
          for (const p of placed) {
            const printed = clockText(own[p.start / 24] as number)
            expect(clockText(own[to(printed)] as number)).toBe(printed)
            // Two rows never share a second: an eight is longer.
            if (p.index > 1) expect(to(printed)).toBe(p.start / 24)
          }
          own.forEach((t, k) => {
            expect(to(clockText(t, true))).toBe(k)
          })
        },
      ),
    )
  })
  it('says what there is not', () => {
    expect(() => there('3:20')).toThrow('The counts end at 0:49')
    expect(() => there('chorus 9')).toThrow('There is no “chorus 9”')
    expect(() => there('bridge 2')).toThrow('names no place')
    expect(() => there('hook 3')).toThrow('There is no “hook 3”')
    expect(() => readPlace([], [], '1:00', null)).toThrow('Nothing is counted yet')
  })
})

describe('a piece of the dance by name', () => {
  const piece = (text: string) => stretchName(placed, readPiece(placed, text, placed[4] ?? null))
  it.each([
    ['the 2nd chorus', 'Chorus, 2nd'],
    ['second chorus', 'Chorus, 2nd'],
    ['chorus 2', 'Chorus, 2nd'],
    ['the 2nd chorus, first four', 'Chorus, 2nd, eight 1, 1 to 4'],
    ['2nd verse, last 2', 'Verse, 2nd, eight 3, 7 to 8'],
    ['verse 2, 3', 'Verse, 2nd, eight 3'],
    ['verse 2, 3, the last four counts', 'Verse, 2nd, eight 3, 5 to 8'],
    ['hook first eight', 'Hook, eight 1'],
    ['chorus, eight 2, 3 to 8', 'Chorus, eight 2, 3 to 8'],
    ['eight 2', 'Verse, eight 2'],
    ['3 to 5', 'Verse, eight 3, 3 to 5'],
    ['chorus 2, 5', 'Chorus, 2nd, eight 1, 5'],
    ['hook 1, 4', 'Hook, eight 1, 4'],
    ['the hook', 'Hook, eight 1'],
  ])('%s', (text, name) => {
    expect(piece(text)).toBe(name)
  })
  it.each([
    ['the 5th chorus', 'There is no'],
    ['hook, first 12', 'has no 12 counts'],
    ['nothing at all', 'names no place'],
    ['first four', 'names no place'],
  ])('%s is refused', (text, why) => {
    expect(() => piece(text)).toThrow(why)
  })
})
