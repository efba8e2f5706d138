import { describe, expect, it } from 'vitest'
import { stretched } from './stretching'

const RATE = 44_100
const BEAT = 0.5
/** Short struck tones on a grid, over a low tone of 220 Hz. */
function struck(seconds: number): Float32Array {
  const out = Float32Array.from(
    { length: seconds * RATE },
    (_, i) => 0.1 * Math.sin((2 * Math.PI * 220 * i) / RATE),
  )
  for (let k = 0; k * BEAT < seconds - 0.2; k++)
    for (let i = 0; i < 4000; i++) {
      const at = Math.round(k * BEAT * RATE) + i
      out[at] = (out[at] as number) + 0.6 * Math.cos((2 * Math.PI * 1500 * i) / RATE) * Math.exp(-i / 500)
    }
  return out
}

/** Where the loudest 2 ms near a place lie, in seconds. */
function loudest(sound: Float32Array, near: number): number {
  let best = [0, 0] as [number, number]
  for (let at = Math.round((near - 0.04) * RATE); at < (near + 0.04) * RATE; at += 4) {
    let loud = 0
    for (let i = 0; i < 88; i++) loud += (sound[at + i] ?? 0) ** 2
    if (loud > best[0]) best = [loud, at]
  }
  return best[1] / RATE
}

describe('stretching', () => {
  it.each([0.5, 0.6, 0.75, 0.9, 1.1])(
    'at %f times the speed struck tones stay where they belong',
    async (speed) => {
      const sound = struck(12)
      const [from, frames] = [1.3, Math.round((9 / speed) * RATE)]
      const [left, right] = await stretched({ channels: [sound, sound], rate: RATE, from, speed, frames })
      expect(left).toHaveLength(frames)
      for (const side of [left, right] as Float32Array[])
        for (let k = 3; k * BEAT < 10; k++) {
          const at = (k * BEAT - from) / speed
          // What is struck is smeared by the stretching: by up to 8 ms at half the speed, as far as this can tell.
          expect(Math.abs(loudest(side, at) - at)).toBeLessThan(0.008)
        }
    },
  )

  it('keeps the pitch', async () => {
    const sound = Float32Array.from({ length: 6 * RATE }, (_, i) => Math.sin((2 * Math.PI * 440 * i) / RATE))
    const [out] = await stretched({ channels: [sound], rate: RATE, from: 1, speed: 0.7, frames: 4 * RATE })
    let turns = 0
    for (let i = RATE; i < 3 * RATE; i++)
      if ((out?.[i] as number) >= 0 && (out?.[i - 1] as number) < 0) turns++
    expect(turns / 2).toBeCloseTo(440, -0.5)
    // As loud as it was.
    expect(Math.max(...(out as Float32Array).subarray(RATE, RATE + 4000))).toBeGreaterThan(0.8)
  })

  it('is silent before and after the sound', async () => {
    const sound = struck(1)
    const [out] = await stretched({ channels: [sound], rate: RATE, from: -2, speed: 0.8, frames: 6 * RATE })
    const loud = (a: number, b: number) =>
      (out as Float32Array).subarray(a * RATE, b * RATE).reduce((most, x) => Math.max(most, Math.abs(x)), 0)
    expect(loud(0, 2.3)).toBeLessThan(1e-3)
    expect(loud(2.4, 3.7)).toBeGreaterThan(0.1)
    expect(loud(4, 6)).toBeLessThan(1e-3)
  })
})
