import type { Seconds } from '../core/time'

/** Further behind than this, the sound has stopped for a while and the clock begins anew. */
const LOST: Seconds = 0.06
/** What was learned longer ago is forgotten: two clocks are never of quite the same speed. */
const MEMORY: Seconds = 0.4

/**
 * An audio clock without its steps. A device tells its time once a buffer, so that it stands still for ten milliseconds
 * or more and then leaps; the fine clock of the page, moved along by the most the device was ever ahead of it, runs evenly.
 * @param device seconds of the audio clock, in steps
 * @param fine seconds of an even clock with any origin
 */
export function evenClock(device: () => Seconds, fine: () => Seconds): () => Seconds {
  let seen: { at: Seconds; ahead: Seconds }[] = []
  return () => {
    const [t, now] = [device(), fine()]
    const here = t - now
    seen = seen.filter((s) => s.at > now - MEMORY)
    const ahead = seen.reduce((most, s) => Math.max(most, s.ahead), here)
    if (ahead - here > LOST) seen = []
    seen.push({ at: now, ahead: here })
    return now + (seen.length === 1 ? here : ahead)
  }
}
