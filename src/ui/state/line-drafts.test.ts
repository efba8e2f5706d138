// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from 'vitest'
import { keepDrafts, keptDrafts } from './line-drafts'

afterEach(() => {
  vi.unstubAllGlobals()
  localStorage.clear()
})

describe('lines that were left', () => {
  it('are kept for each routine by itself, as they were left last', () => {
    keepDrafts('a', { '0 feet': '1 hop' })
    keepDrafts('b', { '0 feet': '1 run', '192 arms': '2 clap' })
    keepDrafts('a', { '0 arms': '3 snap' })
    expect(keptDrafts('a')).toEqual({ '0 arms': '3 snap' })
    expect(keptDrafts('b')).toEqual({ '0 feet': '1 run', '192 arms': '2 clap' })
    keepDrafts('b', {})
    expect([keptDrafts('b'), keptDrafts('c')]).toEqual([{}, {}])
  })
  it('are those of so many routines and lines, and no book', () => {
    for (let k = 0; k < 40; k++) keepDrafts(`r${k}`, { '0 feet': '1 hop' })
    expect([keptDrafts('r9'), keptDrafts('r10')]).toEqual([{}, { '0 feet': '1 hop' }])
    // One that is left again is the last again.
    keepDrafts('r10', { '0 feet': '2 hop' })
    keepDrafts('r40', { '0 feet': '1 hop' })
    expect([keptDrafts('r10'), keptDrafts('r11')]).toEqual([{ '0 feet': '2 hop' }, {}])
    const many = Object.fromEntries(Array.from({ length: 70 }, (_, k) => [`${k} feet`, '1 hop']))
    keepDrafts('many', many)
    expect(Object.keys(keptDrafts('many'))).toEqual(Object.keys(many).slice(10))
    keepDrafts('long', { '0 feet': 'x'.repeat(100_001), '1 feet': 'x'.repeat(100_000) })
    expect(Object.keys(keptDrafts('long'))).toEqual(['1 feet'])
  })
  it('are none where what is kept cannot be read, and nothing fails where nothing can be kept', () => {
    for (const text of ['{', '{"id":1}', '[{"id":"a","drafts":{"0 feet":5}}]']) {
      localStorage.setItem('azalea-left-lines', text)
      expect(keptDrafts('a')).toEqual({})
    }
    keepDrafts('a', { '0 feet': '1 hop' })
    expect(keptDrafts('a')).toEqual({ '0 feet': '1 hop' })
    const none = () => {
      throw new Error('nothing is kept')
    }
    vi.stubGlobal('localStorage', { getItem: none, setItem: none })
    expect(() => keepDrafts('a', { '0 feet': '2 hop' })).not.toThrow()
    expect(keptDrafts('a')).toEqual({})
  })
})
