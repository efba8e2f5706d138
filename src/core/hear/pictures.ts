import type { Peaks } from './hearing'

/** First hearing version that keeps onsets beside peaks and loudness. */
const WITH_ONSETS = 3

/** Peaks, loudness and onsets one after the other, as they are stored. */
export function packPeaks({ peak, loudness, onset }: Peaks): Uint8Array {
  const out = new Uint8Array(peak.length * 3)
  out.set(peak)
  out.set(loudness, peak.length)
  out.set(onset, peak.length * 2)
  return out
}

/** The curves of stored bytes; songs heard before onsets were kept have none. @param version of the hearing */
export function unpackPeaks(bytes: Uint8Array, version: number): Peaks {
  const curves = version >= WITH_ONSETS ? 3 : 2
  const n = Math.floor(bytes.length / curves)
  return {
    frameRate: 100,
    peak: bytes.subarray(0, n),
    loudness: bytes.subarray(n, 2 * n),
    onset: curves === 3 ? bytes.subarray(2 * n, 3 * n) : new Uint8Array(0),
  }
}
