import { describe, expect, it } from 'vitest'
import { evenClock } from './clock'

/** A device that tells its time in steps, read at uneven moments. */
function read(step: number, until: number, truth: (fine: number) => number) {
  const out: { real: number; told: number }[] = []
  let fine = 100
  const stepped = () => Math.floor(truth(fine) / step) * step
  const clock = evenClock(stepped, () => fine)
  for (let i = 0; fine < 100 + until; i++) {
    out.push({ real: truth(fine), told: clock() })
    fine += 0.004 + 0.011 * ((i * 0.618) % 1)
  }
  return out
}

describe('the even clock', () => {
  it('tells the true time within a millisecond where the device only knows it to 12', () => {
    const reads = read(0.012, 3, (f) => f - 90).slice(40)
    expect(Math.max(...reads.map((r) => Math.abs(r.told - r.real)))).toBeLessThan(0.001)
  })

  it('follows a device that is 100 millionths slow, for a minute', () => {
    const reads = read(0.01, 60, (f) => (f - 90) * 0.9999).slice(40)
    expect(Math.max(...reads.map((r) => Math.abs(r.told - r.real)))).toBeLessThan(0.0015)
  })

  it('begins anew when the device stood still', () => {
    const reads = read(0.01, 4, (f) => (f < 102 ? f - 90 : f < 103 ? 12 : f - 91))
    const after = reads.filter((r) => r.real > 12.5)
    expect(Math.max(...after.map((r) => Math.abs(r.told - r.real)))).toBeLessThan(0.002)
    // While it stands still, no further on than what counts as lost.
    expect(Math.max(...reads.filter((r) => r.real === 12).map((r) => r.told - 12))).toBeLessThan(0.07)
  })
})
