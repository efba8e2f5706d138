import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cuesOf, page } from '../choreo/hand.test-tools'
import { beginSection, ofLayer, placePhrases, type Routine } from '../routine'
import { rangeName, rangeOf, repetitionsLeft } from './plan'

const four = page(4)
const placed = placePhrases(four)
const range = (first: number, last: number, excerpt: Routine['excerpt'] = null, runUp?: number) =>
  rangeOf({ placed }, { excerpt }, { first, last, ...(runUp === undefined ? {} : { runUp }) })

// Eights of 192 ticks, by hand.
describe('what a drill plays', () => {
  it('is whole phrases, with its run-up before the first, never before the song', () => {
    expect(range(1, 2)).toEqual({ from: 192, to: 576 })
    expect(range(1, 1, null, 4)).toEqual({ from: 96, to: 384 })
    expect(range(0, 0, null, 4)).toEqual({ from: 0, to: 192 })
    expect(range(1, 9)).toEqual({ from: 0, to: 0 })
  })
  it('begins and ends where the dance does, inside a phrase or before it', () => {
    // Danced from the 8 of the first eight to the 4 of the third.
    const dance = { start: 168, end: 480 }
    expect(range(0, 0, dance)).toEqual({ from: 168, to: 192 })
    expect(range(2, 2, dance)).toEqual({ from: 384, to: 480 })
    expect(range(1, 1, dance)).toEqual({ from: 192, to: 384 })
    expect(range(0, 1, { start: 200, end: 768 })).toEqual({ from: 200, to: 384 })
    // A phrase outside the dance is drilled whole.
    expect(range(3, 3, dance)).toEqual({ from: 576, to: 768 })
  })
  it('always holds something, inside the phrases and their run-up', () => {
    const phrase = fc.integer({ min: 0, max: 3 })
    const tick = fc.integer({ min: 0, max: 767 })
    fc.assert(
      fc.property(phrase, phrase, tick, tick, fc.integer({ min: 0, max: 32 }), (a, b, x, y, runUp) => {
        const [first, last] = [Math.min(a, b), Math.max(a, b)]
        const excerpt = { start: Math.min(x, y), end: Math.max(x, y) + 1 }
        const { from, to } = range(first, last, excerpt, runUp)
        expect(from).toBeLessThan(to)
        expect(from).toBeGreaterThanOrEqual(Math.max(0, first * 192 - runUp * 24))
        expect(to).toBeLessThanOrEqual((last + 1) * 192)
      }),
    )
  })
  it('is named by its section once', () => {
    const ids = (() => {
      let n = 0
      return () => `s${n++}`
    })()
    const verse = { name: '', kind: 'verse', letter: 'A' } as const
    const chorus = { name: '', kind: 'chorus', letter: 'B' } as const
    const phrase = (i: number) => four.phrases[i]?.id ?? ''
    const song = beginSection(beginSection(four, phrase(0), verse, ids), phrase(2), chorus, ids)
    const [a, b, c] = placePhrases(song)
    if (!a || !b || !c) throw new Error('no page')
    expect(rangeName(a, a)).toBe('Verse, eight 1')
    expect(rangeName(a, b)).toBe('Verse, eight 1 to eight 2')
    expect(rangeName(b, c)).toBe('Verse, eight 2 to Chorus, eight 1')
  })
})

describe('a drill that was interrupted', () => {
  it('goes on with those not danced; a part that is left does not count', () => {
    expect(repetitionsLeft(4, 1, true)).toBe(3)
    expect(repetitionsLeft(4, 1, false)).toBe(4)
    expect(repetitionsLeft(4, 4, true)).toBe(1)
    expect(repetitionsLeft(undefined, 7, false)).toBeUndefined()
  })
})

describe('a layer that is drilled', () => {
  const cues = [...cuesOf('1 step R'), ...cuesOf('1 clap', 'arms'), ...cuesOf('1 sway R', 'body')]
  it('is arms, or all that is not arms, or everything; nothing twice, nothing lost', () => {
    const layers = (layer?: 'feet' | 'arms' | 'all') => ofLayer(cues, layer).map((c) => c.layer)
    expect(layers('arms')).toEqual(['arms'])
    expect(layers('feet')).toEqual(['feet', 'body'])
    expect(layers('all')).toEqual(['feet', 'arms', 'body'])
    expect(layers()).toEqual(layers('all'))
  })
})
