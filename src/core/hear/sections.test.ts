import { describe, expect, it } from 'vitest'
import { type BeatFeatures, TIMBRE } from './features'
import { noiseFrom } from './made-band.test-tools'
import { findSections } from './sections'

/** An eight by how it sounds: as many as there are letters; small ones are breaks. */
interface Eight {
  sound: string
  beats?: number
}

const eights = (sounds: string): Eight[] => [...sounds].map((sound) => ({ sound }))

/** What beats of such eights sound like, each a little otherwise, and where the eights begin. */
function played(list: readonly Eight[]): { f: BeatFeatures; starts: number[] } {
  const random = noiseFrom(5)
  const starts: number[] = []
  const timbre: number[] = []
  let beats = 0
  for (const { sound, beats: long = 8 } of list) {
    starts.push(beats)
    beats += long
    for (let k = 0; k < long; k++)
      for (let c = 0; c < TIMBRE; c++)
        timbre.push((sound.charCodeAt(0) % TIMBRE === c ? 1 : 0) + 0.05 * random())
  }
  const none = new Float32Array(beats)
  const f = { beats, timbre: Float32Array.from(timbre), chroma: new Float32Array(12 * beats).fill(0.29) }
  const rest = {
    bass: none,
    low: none,
    mid: none,
    high: none,
    all: none,
    busy: none,
    loudness: none,
    shine: none,
  }
  return { f: { ...f, ...rest }, starts }
}

/** Letters with how many phrases each section has. */
function formOf(list: readonly Eight[]): string {
  const { f, starts } = played(list)
  const found = findSections(f, starts).map((s) => ({ letter: s.letter, from: starts.indexOf(s.beat) }))
  return found.map((s, i) => `${s.letter}${(found[i + 1]?.from ?? starts.length) - s.from}`).join(' ')
}

describe('sections', () => {
  it('begin where the sound changes, and have one letter where they sound alike', () => {
    expect(formOf(eights('AAAABBBBAAAABBBBBBBBCCCC'))).toBe('A4 B4 A4 B8 C4')
  })
  it('begin after the break that leads to them, not with it', () => {
    expect(formOf(eights('AAAbBBBaAAAbBBBB'))).toMatch(/^A4 .4 .4 .4$/)
  })
  it('are of any length where nothing else changes', () => {
    expect(formOf(eights('AAAAABBBBBBB'))).toBe('A5 B7')
    expect(formOf(eights('AAAAAAABBBBBCCCCCCCC'))).toBe('A7 B5 C8')
  })
  it('are one where all sounds alike', () => {
    expect(formOf(eights('AAAAAAAAAAAAAAAA'))).toBe('A16')
  })
  it('are no longer for a spare bar within them', () => {
    // Eight whole ones and a spare bar: with it the break would do as well.
    const spare = [...eights('AAAA'), { sound: 'A', beats: 4 }, ...eights('AAAbBBBBAAAA')]
    expect(formOf(spare)).toMatch(/^A9 /)
  })
  it('have fours of eights also where one eight is longer, as between songs that were cut together', () => {
    const cut = [...eights('AAAbBBBaAAA'), { sound: 'b', beats: 11 }, ...eights('BBBB')]
    expect(formOf(cut)).toMatch(/^A4 .4 .4 .4$/)
  })
  it('of few eights are one', () => {
    expect(formOf(eights('ABC'))).toBe('A3')
    expect(formOf([])).toBe('')
  })
})
