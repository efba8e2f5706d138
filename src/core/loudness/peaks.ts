/** Peaks are looked for at four places a sample, each by so many samples on either side (after ITU-R BS.1770-5, annex 2). */
const PLACES = 4
/** Samples looked at on either side of a peak. */
export const AROUND = 8

/** Weights of the samples around each place between two samples: a sinc under a Hann window. */
const WEIGHTS = Array.from({ length: PLACES - 1 }, (_, p) => {
  const shift = (p + 1) / PLACES
  const all = Float64Array.from({ length: 2 * AROUND }, (_, i) => {
    const x = i - AROUND + 1 - shift
    return (Math.sin(Math.PI * x) / (Math.PI * x)) * (0.5 + 0.5 * Math.cos((Math.PI * x) / (AROUND + 1)))
  })
  // A steady value between samples is that value.
  const sum = all.reduce((a, b) => a + b)
  return all.map((w) => w / sum)
})

/**
 * The highest peak at a sample and before the next.
 * @param least nothing below a quarter of this needs to be looked at closely: what lies between is not that much higher
 */
export function peakAt(sound: Float32Array, i: number, least = 0): number {
  let most = Math.abs(sound[i] ?? 0)
  if (most < least / 4 && Math.abs(sound[i + 1] ?? 0) < least / 4) return most
  for (const weights of WEIGHTS) {
    let between = 0
    for (let k = 0; k < weights.length; k++)
      between += (weights[k] as number) * (sound[i - AROUND + 1 + k] ?? 0)
    most = Math.max(most, Math.abs(between))
  }
  return most
}

/** The highest peak of a sound, between samples too, in decibels of full scale; −Infinity of silence. */
export function truePeakOf(channels: readonly Float32Array[]): number {
  let most = 0
  for (const c of channels) for (let i = 0; i < c.length; i++) most = Math.max(most, peakAt(c, i, most))
  return 20 * Math.log10(most)
}
