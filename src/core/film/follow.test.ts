import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { follow, type Shown } from '.'

/** A video that does as it is told: a seek takes a while, a speed is kept at once. */
function played(
  shown: Shown,
  from: number,
  speed: number,
  seconds: number,
  seekTakes: number,
  every = 1 / 60,
): number[] {
  const off: number[] = []
  let [at, rate, busy] = [shown.at, shown.rate, 0]
  let put: number | null = null
  for (let t = 0; t < seconds; t += every) {
    const wanted = { at: from + t * speed, rate: speed }
    if (busy > 0) {
      busy -= every
      if (busy <= 0 && put !== null) [at, put] = [put, null]
    }
    const told = follow({ at, rate, playing: true, seeking: busy > 0 }, wanted, seekTakes)
    rate = told.rate
    if (told.seek !== null) [put, busy] = [told.seek, seekTakes]
    off.push(at - wanted.at)
    if (busy <= 0) at += rate * every
  }
  return off
}

describe('a picture that follows a sound', () => {
  it('is within a frame of it a second and a half later, from wherever it was, at any speed', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 60, noNaN: true }),
        fc.double({ min: 0.4, max: 1.1, noNaN: true }),
        fc.double({ min: 0.02, max: 0.12, noNaN: true }),
        (at, speed, seekTakes) => {
          const off = played({ at, rate: 1, playing: true, seeking: false }, 20, speed, 3, seekTakes)
          for (const o of off.slice(150)) expect(Math.abs(o)).toBeLessThan(0.02)
        },
      ),
    )
  })

  it('is never put anywhere while it only runs a little off', () => {
    const told = follow({ at: 10.1, rate: 1, playing: true, seeking: false }, { at: 10, rate: 1 })
    expect(told.seek).toBeNull()
    expect(told.rate).toBeLessThan(1)
    expect(
      follow({ at: 9.95, rate: 1, playing: true, seeking: false }, { at: 10, rate: 1 }).rate,
    ).toBeGreaterThan(1)
    expect(follow({ at: 10.004, rate: 0.98, playing: true, seeking: false }, { at: 10, rate: 1 }).rate).toBe(
      1,
    )
  })

  it('is put once, not again while it is on its way', () => {
    const far = { at: 3, rate: 1, playing: true, seeking: false }
    expect(follow(far, { at: 10, rate: 0.5 }, 0.1).seek).toBe(10.05)
    expect(follow({ ...far, seeking: true }, { at: 10, rate: 0.5 }, 0.1).seek).toBeNull()
  })

  it('stands still on a still', () => {
    const shown = { at: 3, rate: 1, playing: true, seeking: false }
    expect(follow(shown, { at: 7, rate: 0 })).toEqual({ seek: 7, rate: 1, play: false })
    expect(follow({ ...shown, at: 7.005 }, { at: 7, rate: 0 }).seek).toBeNull()
  })
})
