import { describe, expect, it } from 'vitest'
import { cuesOf, page } from '../hand.test-tools'
import { danceOf } from './dance'

const counts = (r: Parameters<typeof danceOf>[0]) => {
  const { from, to } = danceOf(r)
  return [from / 24, to / 24]
}

describe('where the dance begins and ends', () => {
  it('is all that is counted before there is a cue', () => {
    expect(counts(page(5))).toEqual([0, 40])
    expect(counts(page(0))).toEqual([0, 1])
  })
  it('is the phrases that have cues', () => {
    expect(counts(page(6, cuesOf(['', '', '3 step R', '', '1 clap'])))).toEqual([16, 40])
    expect(counts(page(6, cuesOf(['', '6 step R'])))).toEqual([8, 16])
  })
  it('counts what is repeated', () => {
    const r = page(6, cuesOf(['', '1 step R']))
    const to = { from: 4 * 192, to: 5 * 192 }
    expect(counts({ ...r, repeats: [{ id: 'r', to, from: 192, mirrored: false }] })).toEqual([8, 40])
  })
  it('begins with what leads into its first phrase', () => {
    expect(counts(page(6, cuesOf(['', '8& hop L', '1 step R'])))).toEqual([15, 24])
    expect(counts(page(6, cuesOf(['', '5 hop L', '1 step R'])))).toEqual([12, 24])
    expect(counts(page(6, cuesOf(['', '4 hop L', '1 step R'])))).toEqual([8, 24])
  })
  it('is what was set, where it was', () => {
    const r = { ...page(6, cuesOf(['', '1 step R'])), excerpt: { from: 24, to: 900 } }
    expect(danceOf(r)).toEqual({ from: 24, to: 900 })
  })
})
