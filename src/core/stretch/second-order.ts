/**
 * A filter of second order that lets pass what is high, or what is low (Bristow-Johnson, Audio EQ Cookbook; Q of one over root two).
 * @returns b0, b1, b2, a1, a2, as a0 is one
 */
export function secondOrder(hz: number, isHigh: boolean, rate: number): Float64Array {
  const w = (2 * Math.PI * Math.min(hz, rate * 0.45)) / rate
  const alpha = Math.sin(w) * Math.SQRT1_2
  const cos = Math.cos(w)
  const edge = isHigh ? 1 + cos : 1 - cos
  const b1 = isHigh ? -edge : edge
  return Float64Array.of(edge / 2, b1, edge / 2, -2 * cos, 1 - alpha).map((x) => x / (1 + alpha))
}
