import { describe, expect, it } from 'vitest'
import { letterOf } from './letters'
import { nextPartName, partAt } from './parts'

describe('letters of sections', () => {
  it.each([
    [0, 'A'],
    [25, 'Z'],
    [26, 'AA'],
    [51, 'AZ'],
    [52, 'BA'],
    [701, 'ZZ'],
    [702, 'AAA'],
  ])('%i: %s', (n, letter) => expect(letterOf(n)).toBe(letter))
})

describe('own parts', () => {
  const part = (at: number, name: string) => ({ id: name, at, name })
  it('reach to the next one; of two at one place the later one counts', () => {
    const parts = [part(48, 'b'), part(0, 'a'), part(48, 'c')]
    expect([-1, 0, 47, 48, 900].map((t) => partAt(parts, t)?.name ?? null)).toEqual([
      null,
      'a',
      'a',
      'c',
      'c',
    ])
  })
  it('are named by the first number nobody used', () => {
    expect(nextPartName([part(0, 'Part 1'), part(9, 'Part 3')])).toBe('Part 2')
  })
})
