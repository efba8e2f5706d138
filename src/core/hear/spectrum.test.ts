import { describe, expect, it } from 'vitest'
import { FRAME_RATE, spectrum } from './spectrum'

const RATE = 22_050
/** A second and a half of noise, the same each time. */
const noise = Float32Array.from({ length: 1.5 * RATE }, (_, i) => (((i * 7919) % 1009) / 1009 - 0.5) * 0.8)
const still = () => {}

describe('what is heard of a sound', () => {
  it('has silence after it: its last frames are as where zeros follow', () => {
    const longer = new Float32Array(noise.length + RATE)
    longer.set(noise)
    const [alone, followed] = [spectrum(noise, RATE, still), spectrum(longer, RATE, still)]
    expect(alone.frames).toBe(1.5 * FRAME_RATE)
    expect(alone.log).toEqual(followed.log.slice(0, alone.log.length))
    expect(alone.chroma).toEqual(followed.chroma.slice(0, alone.chroma.length))
  })
  it('has silence before it: with a lead, it is as where zeros come first', () => {
    const lead = FRAME_RATE
    const later = new Float32Array(RATE + noise.length)
    later.set(noise, RATE)
    const [led, zeros] = [spectrum(noise, RATE, still, lead), spectrum(later, RATE, still)]
    expect(led.frames).toBe(zeros.frames)
    expect(led.log).toEqual(zeros.log)
    // Nothing of the sound reaches its first frames.
    expect(led.log.slice(0, 90 * led.bands).every((x) => x === 0)).toBe(true)
  })
})
