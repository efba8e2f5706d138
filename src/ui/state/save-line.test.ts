import { expect, it } from 'vitest'
import { SaveLine } from './save-line'

it('counts its saves, each on the revision that was answered last', () => {
  const line = new SaveLine(4)
  const first = line.next()
  expect(first).toEqual({ revision: 4, writer: first.writer, save: 1 })
  expect(line.next()).toEqual({ ...first, save: 2 })
  expect(line.hear({ writer: first.writer, revision: 5 } as never)).toBe(true)
  expect(line.next()).toEqual({ ...first, save: 3, revision: 5 })
  expect([line.revision, line.saves]).toEqual([5, 3])
  expect(new SaveLine(4).next().writer).not.toBe(first.writer)
})

it('hears nothing of a window it does not stand on', () => {
  const line = new SaveLine(4)
  expect(line.standsOn('another')).toBe(false)
  expect(line.hear({ writer: 'another', revision: 9 } as never)).toBe(false)
  expect(line.revision).toBe(4)
})

it('goes on from windows that are gone, after the last of their saves, until one of its own is answered', () => {
  const line = new SaveLine(1)
  const { writer } = line.next()
  line.goOnFrom({ revision: 6, after: ['gone', 'gone-later'] })
  expect(line.next()).toEqual({ revision: 6, writer, save: 2, after: 'gone-later' })
  expect(['gone', 'gone-later', writer, 'another'].map((w) => line.standsOn(w))).toEqual([
    true,
    true,
    true,
    false,
  ])
  // Theirs may still be answered: it stands on them.
  expect(line.hear({ writer: 'gone', revision: 7 } as never)).toBe(true)
  expect(line.next()).toEqual({ revision: 7, writer, save: 3, after: 'gone-later' })
  expect(line.hear({ writer, revision: 8 } as never)).toBe(true)
  expect(line.next()).toEqual({ revision: 8, writer, save: 4 })
  // Where all of theirs were answered there is nothing to come after.
  line.goOnFrom({ revision: 9, after: ['x'] })
  line.goOnFrom({ revision: 10, after: [] })
  expect(line.next()).toStrictEqual({ revision: 10, writer, save: 5 })
  expect(line.standsOn('gone')).toBe(false)
})
