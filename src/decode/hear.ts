import type { Hearing, Peaks } from '@/core/hear'
import { Listener } from '@/core/hear/listen'
import { SoundLine } from '@/core/match'
import type { Source } from './decode'
import { soundIn } from './film-sound'

/** Reading and decoding take most of the time. */
const DECODING = 0.8

/** A listener that hears from the very beginning of a file, as players play it. */
function hearing(rate: number) {
  const listener = new Listener(rate)
  return { listener, line: new SoundLine((samples) => listener.add(samples), rate) }
}

/**
 * Hears a file while it is decoded: its sound is never there as a whole.
 * @param longest seconds of sound it may have
 * @param progress called with the share done, 0..1
 * @throws Error with one sentence for people where it is no sound that can be read, or too long
 */
export async function hearSource(
  source: Source,
  longest: number,
  progress: (share: number) => void = () => {},
): Promise<{ hearing: Hearing; peaks: Peaks }> {
  let heard: { listener: Listener; line: SoundLine } | null = null
  for await (const piece of soundIn(source)) {
    heard ??= hearing(piece.rate)
    // What says that it lies hours away is not waited for in silence.
    if (piece.at <= longest) heard.line.lay(piece)
    if (piece.at > longest || heard.listener.seconds > longest)
      throw new Error(`longer than ${longest / 60} minutes, the most that is heard`)
    progress(DECODING * piece.share)
  }
  if (!heard) throw new Error('no sound in this file')
  return heard.listener.hear((share) => progress(DECODING + (1 - DECODING) * share))
}
