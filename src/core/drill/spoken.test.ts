import { describe, expect, it } from 'vitest'
import { readAloud, sayable, stressOf, trimmed } from '.'

const RATE = 16_000
/** Silence, a soft hiss, then a loud voiced tone from 0.3 s to 0.6 s, silence again. */
const word = () => {
  const samples = new Float32Array(RATE)
  for (let i = 0.1 * RATE; i < 0.3 * RATE; i++) samples[i] = 0.02 * (i % 2 ? 1 : -1)
  for (let i = 0.3 * RATE; i < 0.6 * RATE; i++) samples[i] = 0.4 * Math.sin((2 * Math.PI * 150 * i) / RATE)
  return { rate: RATE, samples }
}

describe('a spoken word', () => {
  it('is cut to its sound and as loud as all others', () => {
    const cut = trimmed(word())
    expect(cut.samples.length / RATE).toBeGreaterThan(0.29)
    expect(cut.samples.length / RATE).toBeLessThan(0.56)
    expect(Math.max(...cut.samples)).toBeCloseTo(0.9, 2)
    expect(Math.abs(cut.samples.at(-1) ?? 1)).toBeLessThan(0.02)
  })
  it('has its stress where its voice begins, not where it hisses', () => {
    expect(Math.abs(stressOf(word()) - 0.3)).toBeLessThan(0.02)
    expect(stressOf(word(), 0.25)).toBeLessThan(0.25)
  })
  it('that is silent stays as it is', () => {
    const silent = { rate: RATE, samples: new Float32Array(1000) }
    expect(trimmed(silent)).toBe(silent)
    expect(stressOf(silent)).toBe(0)
  })
  it.each([
    ['step R', 'step right'],
    ['pivot ½ left', 'pivot half left'],
    ['pas de bourrée', 'pas de bourree'],
    ['kick & ball', 'kick and ball'],
    ['LR; "go"', 'LR go'],
    ['???', ''],
  ])('%j is read aloud as %j', (call, said) => {
    expect(readAloud(call)).toBe(said)
  })
})

describe('what the voice can say', () => {
  it.each(['step', 'pas chassé', 'turn ½ L', 'zwölf', '5, 6 & 7', ''])('%j', (text) => {
    expect(sayable(text)).toBe(true)
  })
  it.each(['шаг', 'step назад', 'サビ', 'βήμα'])('not %j', (text) => {
    expect(sayable(text)).toBe(false)
  })
})
