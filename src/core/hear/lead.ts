import type { Seconds } from '../time'
import { FRAME_RATE, type Spectrum } from './spectrum'

/** Silence that is heard before the sound: without it a song whose sound begins with the file has no first stroke. */
export const LEAD: Seconds = 0.5
/** The beat on which the sound sets in may be found so much earlier. */
export const EARLY: Seconds = 0.04

const LEAD_FRAMES = LEAD * FRAME_RATE

/** The same without the silence before it. */
export function soundItself(s: Spectrum): Spectrum {
  return {
    ...{ frames: s.frames - LEAD_FRAMES, bands: s.bands },
    ...{ log: s.log.subarray(LEAD_FRAMES * s.bands), chroma: s.chroma.subarray(LEAD_FRAMES * 12) },
    ...{ loudness: s.loudness.subarray(LEAD_FRAMES), peak: s.peak.subarray(LEAD_FRAMES) },
  }
}

/** A part of the sound as if it stood alone, with the same silence before it. @param from, to frames of the sound itself */
export function soundAlone(s: Spectrum, from: number, to: number): Spectrum {
  const both = (rows: Float32Array, width: number) => {
    const out = new Float32Array((LEAD_FRAMES + to - from) * width)
    out.set(rows.subarray(0, LEAD_FRAMES * width))
    out.set(rows.subarray((LEAD_FRAMES + from) * width, (LEAD_FRAMES + to) * width), LEAD_FRAMES * width)
    return out
  }
  return {
    ...{ frames: LEAD_FRAMES + to - from, bands: s.bands },
    ...{ log: both(s.log, s.bands), chroma: both(s.chroma, 12) },
    ...{ loudness: both(s.loudness, 1), peak: both(s.peak, 1) },
  }
}
