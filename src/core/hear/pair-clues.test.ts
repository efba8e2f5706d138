import { describe, expect, it } from 'vitest'
import { BASS, type BeatFeatures, TIMBRE } from './features'
import { pairClues } from './pair-clues'

const N = 96
/** Features of beats that all sound the same. */
const plain = (): BeatFeatures => {
  const curve = () => new Float32Array(N).fill(0.5)
  const rows = (width: number) => new Float32Array(N * width).fill(0.3)
  return {
    beats: N,
    ...{ timbre: rows(TIMBRE), chroma: rows(12), bass: rows(BASS) },
    ...{ low: curve(), mid: curve(), high: curve(), all: curve() },
    ...{ busy: curve(), loudness: curve(), shine: curve() },
  }
}
const every8 = (first: number) => Array.from({ length: N / 8 }, (_, i) => first + 8 * i)
/** The place in the eight where a clue is largest on the average. */
function place(f: BeatFeatures, name: string): number {
  const curve = pairClues(f)[name] as Float32Array
  const mean = Array.from({ length: 8 }, (_, r) => every8(r).reduce((s, k) => s + (curve[k] as number), 0))
  return mean.indexOf(Math.max(...mean))
}

describe.each([0, 2, 3, 4])('what is on count %i of the eight', (first) => {
  it('is told by a cymbal that rings away', () => {
    const f = plain()
    for (const k of every8(first)) f.shine.set([2, 1.4, 0.9].slice(0, N - k), k)
    expect(place(f, 'top of brighter 2')).toBe(first)
    expect(place(f, 'rings away')).toBe(first)
  })
  it('is told by the chord and the bass that are home', () => {
    const f = plain()
    // Eight beats of two chords: the first a little longer than the other.
    for (let k = 0; k < N; k++) {
      const home = (k - first + 8) % 8 === 0
      f.chroma.set(
        new Float32Array(12).map((_, c) => Number(home ? c % 4 === 0 : c % 4 < 2) * 0.4),
        k * 12,
      )
      f.bass.set(
        new Float32Array(BASS).map((_, b) => Number(home || b < 4)),
        k * BASS,
      )
    }
    expect(place(f, 'bass home')).toBe(first)
    const other = (first + 4) % 8
    const curve = pairClues(f).home as Float32Array
    expect(curve[40 + first]).not.toBe(curve[40 + other])
  })
  it('is told by sections that are busier, louder and of another sound', () => {
    const f = plain()
    // Every sixteen beats a little fuller.
    for (let k = 0; k < N; k++) {
      const step = Math.floor((k - first + 16) / 16)
      f.busy[k] = step
      f.loudness[k] = 0.1 * step
      f.timbre.fill(0.2 * step, k * TIMBRE, (k + 1) * TIMBRE)
    }
    for (const name of ['busier 8', 'louder 8', 'middle louder 8', 'top of louder 4', 'top of timbre 2'])
      expect([name, place(f, name)]).toEqual([name, first])
  })
})
