import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { tickOfTime } from '../time'
import { glide, nextChange } from './glide'

const times = [0, 0.5, 1, 1.6, 2.2, 2.7]

describe('where a song that plays on will be', () => {
  it('is told at now, at every count, and at the end', () => {
    expect(glide(times, 0.25, 1, 1.5)).toEqual([
      { in: 0, tick: 12 },
      { in: 0.25, tick: 24 },
      { in: 0.75, tick: 48 },
      { in: 1.35, tick: 72 },
      { in: 1.5, tick: 78 },
    ])
  })

  it('takes twice as long at half the speed', () => {
    expect(glide(times, 0.25, 0.5, 1)).toEqual([
      { in: 0, tick: 12 },
      { in: 0.5, tick: 24 },
      { in: 1, tick: 36 },
    ])
  })

  it('lies on the count line at any moment between its points, which follow each other', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 2.5, noNaN: true }),
        fc.double({ min: 0.4, max: 1.1, noNaN: true }),
        fc.double({ min: 0.1, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (song, speed, ahead, share) => {
          const points = glide(times, song, speed, ahead)
          const t = share * ahead
          const k = points.findIndex((p, i) => i > 0 && p.in >= t)
          const [a, b] = [points[k - 1], points[k]]
          if (!a || !b) throw new Error('a moment without points')
          expect(b.in).toBeGreaterThanOrEqual(a.in)
          const tick = b.in > a.in ? a.tick + ((t - a.in) / (b.in - a.in)) * (b.tick - a.tick) : b.tick
          expect(tick).toBeCloseTo(tickOfTime(times, song + t * speed), 6)
        },
      ),
    )
  })
})

describe('how long until something changes', () => {
  const leg = {
    songStart: 0.5,
    speed: 0.75,
    body: 1.7 / 0.75,
    countIn: [
      { time: -2, tick: 0 },
      { time: -1, tick: 24 },
    ],
  } as unknown as Parameters<typeof nextChange>[1]

  it('in a count-in is the next count called, then the first of the dance', () => {
    expect(nextChange(times, leg, -2.5, 6)).toBeCloseTo(0.5, 9)
    expect(nextChange(times, leg, -1.25, 6)).toBeCloseTo(0.25, 9)
    expect(nextChange(times, leg, -0.4, 6)).toBeCloseTo(0.4, 9)
  })

  it('in the dance nothing changes before it, and something does just after', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: leg.body - 1e-6, noNaN: true }),
        fc.constantFrom(6, 12, 24),
        (into, grid) => {
          const wait = nextChange(times, leg, into, grid)
          const place = (t: number) =>
            Math.floor(tickOfTime(times, leg.songStart + t * leg.speed) / grid + 1e-6)
          expect(place(into + wait * (1 - 1e-9) - 1e-5)).toBeLessThanOrEqual(place(into))
          const after = into + wait + 1e-6
          expect(after >= leg.body || place(after) > place(into)).toBe(true)
        },
      ),
    )
  })
})
