import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readWav } from '../formats/wav'
import { wordListener } from './recorded'
import { stressOf, trimmed } from './spoken'

const index = JSON.parse(readFileSync('public/voice/index.json', 'utf8')) as Record<
  string,
  { file: string; stress: number }
>

/** A spoken count as it ships with the app, made by a speech package that is not ours. */
function spokenCount(call: string) {
  const { sampleRate, channels } = readWav(new Uint8Array(readFileSync(`public/voice/${index[call]?.file}`)))
  return { rate: sampleRate, samples: channels[0] as Float32Array }
}

/** All counts one after the other, each with quiet around it, in a room that hums. */
function session(calls: readonly string[], gap: number) {
  const words = calls.map(spokenCount)
  const { rate } = words[0] as { rate: number }
  const quiet = Math.round(gap * rate)
  const length = words.reduce((n, w) => n + w.samples.length + quiet, quiet)
  const out = Float32Array.from({ length }, (_, i) => 0.002 * Math.sin((2 * Math.PI * 50 * i) / rate))
  let at = quiet
  for (const w of words) {
    for (let i = 0; i < w.samples.length; i++)
      out[at + i] = (out[at + i] as number) + 0.4 * (w.samples[i] as number)
    at += w.samples.length + quiet
  }
  return { rate, out }
}

describe('words that are recorded', () => {
  const calls = ['1', '2', '3', '4', '5', '6', '7', '8', '&']

  it.each([128, 1000, 4096])('are cut one by one, in blocks of %i', (size) => {
    const { rate, out } = session(calls, 0.6)
    const listen = wordListener(rate)
    const words = []
    for (let i = 0; i < out.length; i += size) {
      const word = listen(out.subarray(i, i + size))
      if (word) words.push(word)
    }
    expect(words).toHaveLength(calls.length)
    words.forEach((w, i) => {
      const whole = spokenCount(calls[i] as string)
      expect(Math.abs(trimmed(w).samples.length - whole.samples.length) / rate).toBeLessThan(0.06)
      expect(Math.abs(stressOf(trimmed(w)) - (index[calls[i] as string]?.stress as number))).toBeLessThan(
        0.02,
      )
    })
  })

  it('are none in a room without one, nor in a knock', () => {
    const listen = wordListener(16_000)
    expect(listen(new Float32Array(32_000))).toBeNull()
    const knock = new Float32Array(16_000)
    knock.fill(0.5, 8000, 8200)
    expect(listen(knock)).toBeNull()
  })
})
