/** One second-order section: `y = b0 x + b1 x1 + b2 x2 − a1 y1 − a2 y2`. */
export interface Section {
  b: readonly [number, number, number]
  a: readonly [number, number]
}

/**
 * The two sections of K-weighting (ITU-R BS.1770-5, annex 1: a shelf for the head, then a high-pass), for any rate. The recommendation
 * lists them for 48 kHz; what they were made from, so that 48 kHz gives its tables (a test), is after De Man, "Evaluation of
 * implementations of the EBU R128 loudness measurement", AES 2018.
 * @param rate samples a second
 */
export function weightingAt(rate: number): readonly [Section, Section] {
  return [shelf(rate), highPass(rate)]
}

function shelf(rate: number): Section {
  const [hz, gain, q] = [1681.974450955533, 3.999843853973347, 0.7071752369554196]
  const k = Math.tan((Math.PI * hz) / rate)
  const vh = 10 ** (gain / 20)
  const vb = vh ** 0.4996667741545416
  const a0 = 1 + k / q + k * k
  return {
    b: [(vh + (vb * k) / q + k * k) / a0, (2 * (k * k - vh)) / a0, (vh - (vb * k) / q + k * k) / a0],
    a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0],
  }
}

function highPass(rate: number): Section {
  const [hz, q] = [38.13547087602444, 0.5003270373238773]
  const k = Math.tan((Math.PI * hz) / rate)
  const a0 = 1 + k / q + k * k
  return { b: [1, -2, 1], a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0] }
}
