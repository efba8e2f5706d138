/* Where the tracked tempo goes from one to another. */

/** A tempo that changes by more than this from window to window has not drifted there. */
const LEAP = 0.02
/** Windows for which it is held before and after, and how nearly. */
const HELD = 8
const STEADY = 0.011

/** Stretches between the places where the tempo changes at once, from one that is held to another. @returns windows of the path */
export function tempiOf(periods: Float32Array): { from: number; to: number }[] {
  const held = (from: number) =>
    periods.subarray(from, from + HELD).every((p) => Math.abs(p / (periods[from] as number) - 1) < STEADY)
  const cuts = [0]
  for (let w = HELD; w <= periods.length - HELD; w++) {
    const octaves = Math.log2((periods[w] as number) / (periods[w - 1] as number))
    if (Math.abs(octaves - Math.round(octaves)) > Math.log2(1 + LEAP) && held(w - HELD) && held(w))
      cuts.push(w)
  }
  return cuts.map((from, i) => ({ from, to: cuts[i + 1] ?? periods.length }))
}
