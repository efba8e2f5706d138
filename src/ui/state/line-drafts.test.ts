// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from 'vitest'
import { keepDrafts, keptDrafts } from './line-drafts'

afterEach(() => {
  vi.unstubAllGlobals()
  localStorage.clear()
})

describe('lines that were left', () => {
  it('are kept for each routine by itself, as they were left last', () => {
    keepDrafts('a', { '0 feet': '1 hop' }, keptDrafts('a'))
    keepDrafts('b', { '0 feet': '1 run', '192 arms': '2 clap' }, keptDrafts('b'))
    keepDrafts('a', { '0 arms': '3 snap' }, keptDrafts('a'))
    expect(keptDrafts('a')).toEqual({ '0 arms': '3 snap' })
    expect(keptDrafts('b')).toEqual({ '0 feet': '1 run', '192 arms': '2 clap' })
    keepDrafts('b', {}, keptDrafts('b'))
    expect([keptDrafts('b'), keptDrafts('c')]).toEqual([{}, {}])
  })
  it('of two windows stay both; what one has kept, or is done with, goes', () => {
    keepDrafts('a', { '0 feet': '1 hop' }, {})
    // Another window that was open before, and knows nothing of it.
    keepDrafts('a', { '192 feet': '1 run' }, {})
    expect(keptDrafts('a')).toEqual({ '0 feet': '1 hop', '192 feet': '1 run' })
    keepDrafts('a', { '0 feet': '2 hop' }, { '0 feet': '1 hop' })
    expect(keptDrafts('a')).toEqual({ '0 feet': '2 hop', '192 feet': '1 run' })
    keepDrafts('a', {}, { '0 feet': '2 hop' })
    expect(keptDrafts('a')).toEqual({ '192 feet': '1 run' })
  })
  it('are those of so many routines and lines, and no book', () => {
    for (let k = 0; k < 40; k++) keepDrafts(`r${k}`, { '0 feet': '1 hop' }, {})
    expect([keptDrafts('r9'), keptDrafts('r10')]).toEqual([{}, { '0 feet': '1 hop' }])
    // One that is left again is the last again.
    keepDrafts('r10', { '0 feet': '2 hop' }, keptDrafts('r10'))
    keepDrafts('r40', { '0 feet': '1 hop' }, keptDrafts('r40'))
    expect([keptDrafts('r10'), keptDrafts('r11')]).toEqual([{ '0 feet': '2 hop' }, {}])
    const many = Object.fromEntries(Array.from({ length: 70 }, (_, k) => [`${k} feet`, '1 hop']))
    keepDrafts('many', many, keptDrafts('many'))
    expect(Object.keys(keptDrafts('many'))).toEqual(Object.keys(many).slice(10))
    keepDrafts('long', { '0 feet': 'x'.repeat(100_001), '1 feet': 'x'.repeat(100_000) }, keptDrafts('long'))
    expect(Object.keys(keptDrafts('long'))).toEqual(['1 feet'])
  })
  it('are none where what is kept cannot be read, and nothing fails where nothing can be kept', () => {
    for (const text of ['{', '{"id":1}', '[{"id":"a","drafts":{"0 feet":5}}]']) {
      localStorage.setItem('azalea-left-lines', text)
      expect(keptDrafts('a')).toEqual({})
    }
    keepDrafts('a', { '0 feet': '1 hop' }, keptDrafts('a'))
    expect(keptDrafts('a')).toEqual({ '0 feet': '1 hop' })
    const none = () => {
      throw new Error('nothing is kept')
    }
    vi.stubGlobal('localStorage', { getItem: none, setItem: none })
    expect(() => keepDrafts('a', { '0 feet': '2 hop' }, keptDrafts('a'))).not.toThrow()
    expect(keptDrafts('a')).toEqual({})
  })
})
