import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { tickOfTime } from '../time'
import { glide } from './glide'

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
