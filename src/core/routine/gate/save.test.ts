import { describe, expect, it } from 'vitest'
import { judgeSave } from './save'

describe('a save of a document', () => {
  const asked = (save: number, revision: number) => ({ writer: 'window-a', save, revision })
  const last = { save: 3, revision: 7, hash: 'x' }
  it.each([
    ['the first of a window, on what is there', 7, null, asked(1, 7), 'x', 'write'],
    ['the first of a window, on what was there before', 7, null, asked(1, 6), 'x', 'conflict'],
    ['the next one, on what the last one made', 7, last, asked(4, 7), 'y', 'write'],
    ['the next one, on what was there before the last one', 7, last, asked(4, 6), 'y', 'conflict'],
    ['the last one again', 7, last, asked(3, 6), 'x', 'known'],
    ['the last one again, after somebody else saved', 9, last, asked(3, 6), 'x', 'known'],
    ['another under the number of the last one', 7, last, asked(3, 7), 'y', 'conflict'],
    ['one from before the last one', 7, last, asked(2, 5), 'y', 'overtaken'],
    ['the next one, after somebody else saved', 9, last, asked(4, 7), 'y', 'conflict'],
  ] as const)('%s', (_, revision, known, save, hash, verdict) => {
    expect(judgeSave(revision, known, save, hash)).toBe(verdict)
  })
})
