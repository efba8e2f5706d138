import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { day, dayAndHour, id, instant, line, lines, name, oneLine } from './text-schema'

describe('a text', () => {
  it('that is a name is one line, whatever it brings', () => {
    expect(v.parse(line(200), 'DTSTART:1\r\nEND:VEVENT\u2028x\u0085y\u0000z')).toBe(
      'DTSTART:1 END:VEVENT x y z',
    )
    expect(v.parse(name(200, 'none'), ' \u0000 Box step\n')).toBe('Box step')
    expect(v.is(name(200, 'none'), '\n\u0000')).toBe(false)
    expect(v.is(line(3), 'four')).toBe(false)
  })
  it('keeps characters of any script, and of half of one a sign that it cannot be read', () => {
    expect(oneLine('ステップ 👯‍♀️ é')).toBe('ステップ 👯‍♀️ é')
    expect(oneLine('half \uD83D')).toBe('half \uFFFD')
    expect(oneLine('\uDC6F and 👯')).toBe('\uFFFD and 👯')
    expect(encodeURIComponent(oneLine('\uDC6F'))).toBe('%EF%BF%BD')
  })
  it('of lines keeps them', () => {
    expect(v.parse(lines(100), 'one\n\ttwo\u0007\r\nthree')).toBe('one\n\ttwo \r\nthree')
  })
})

describe('an id', () => {
  it.each(['a', 'V1StGXR8_Z5jdHi6B-myT', 'start-½-turn', 'pas.de.bourrée'])('may be %s', (text) => {
    expect(v.is(id, text)).toBe(true)
  })
  it.each(['', 'a b', 'a\nEND:VCALENDAR', 'a/b', 'a<b', 'x'.repeat(41)])('may not be “%s”', (text) => {
    expect(v.is(id, text)).toBe(false)
  })
})

describe('a time', () => {
  it.each([
    [day, '2028-02-29', true],
    [day, '2027-02-29', false],
    [day, '2026-13-01', false],
    [dayAndHour, '2026-11-27T19:30', true],
    [dayAndHour, '2026-11-31T19:30', false],
    [dayAndHour, '2026-11-27T24:00', false],
    [instant, '2026-11-20T10:00:00.000Z', true],
    [instant, '2026-02-30T10:00:00.000Z', false],
    [instant, '2026-11-20', false],
    [instant, 'yesterday', false],
  ])('is one of the calendar (%#)', (schema, text, is) => {
    expect(v.is(schema as v.GenericSchema, text)).toBe(is)
  })
})
