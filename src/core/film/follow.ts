import type { Ratio, Seconds } from '../time'

/*
 * A picture that follows a sound: what is to be done with a video, as it is and as it should be. The device that shows it carries
 * it out; nothing here waits or listens.
 */

/** Pictures further from their sound than this are put there; what is nearer is caught up with. */
const FAR: Seconds = 0.18
/** Nearer than this nothing is done. */
const NEAR: Seconds = 0.008
/** A difference is caught up with in about this time, by going so much faster or slower at most. */
const [CATCH_UP, MOST]: [Seconds, Ratio] = [0.5, 0.3]
/** A still picture is put where it should be if it is off by more than a frame's part. */
const STILL: Seconds = 0.012
/** Speeds a browser plays at. */
const [SLOWEST, FASTEST]: [Ratio, Ratio] = [0.0625, 4]

/** A video as it is. */
export interface Shown {
  at: Seconds
  rate: Ratio
  playing: boolean
  /** It is being put somewhere. */
  seeking: boolean
}

/** What is to be seen: a place, and how fast it goes on from there. */
export interface Wanted {
  at: Seconds
  /** Seconds of film a second; 0 for a still. */
  rate: Ratio
}

export interface Followed {
  /** Where the video is put. */
  seek: Seconds | null
  rate: Ratio
  play: boolean
}

/**
 * What a video has to do to be where it should.
 * @param late how long a seek takes here, so that it is put where the sound will be by then
 */
export function follow(shown: Shown, wanted: Wanted, late: Seconds = 0.05): Followed {
  const off = shown.at - wanted.at
  if (wanted.rate <= 0)
    return {
      seek: !shown.seeking && Math.abs(off) > STILL ? wanted.at : null,
      rate: shown.rate,
      play: false,
    }
  const base = Math.min(FASTEST, Math.max(SLOWEST, wanted.rate))
  if (shown.seeking) return { seek: null, rate: base, play: true }
  if (Math.abs(off) > FAR * Math.max(1, wanted.rate))
    return { seek: Math.max(0, wanted.at + late * wanted.rate), rate: base, play: true }
  if (Math.abs(off) < NEAR) return { seek: null, rate: base, play: true }
  const bend = Math.max(-MOST, Math.min(MOST, -off / CATCH_UP / wanted.rate))
  return { seek: null, rate: Math.min(FASTEST, Math.max(SLOWEST, base * (1 + bend))), play: true }
}
