import { expect, it } from 'vitest'
import { isFloor } from './address'

it.each([
  ['/r/abc/floor', true],
  ['/r/a/floor', true],
  ['/r//floor', false],
  ['/r/a/b/floor', false],
  ['/r/abc/floors', false],
  ['/x/r/abc/floor', false],
  ['/r/abc/cue', false],
])('%s is a page of the floor: %s', (path, floor) => {
  expect(isFloor(path)).toBe(floor)
})
