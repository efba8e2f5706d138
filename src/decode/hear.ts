import { toMono } from '@/core/formats/wav'
import type { Hearing, Peaks } from '@/core/hear'
import { Listener } from '@/core/hear/listen'
import { decoded, type Source } from './decode'

/** Reading and decoding take most of the time. */
const DECODING = 0.8

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
  let furthest = 0
  const followed: Source = {
    size: source.size,
    read: (from, length) => {
      furthest = Math.max(furthest, from)
      return source.read(from, length)
    },
  }
  let listener: Listener | null = null
  for await (const pcm of decoded(followed)) {
    listener ??= new Listener(pcm.sampleRate)
    listener.add(toMono(pcm))
    if (listener.seconds > longest)
      throw new Error(`longer than ${longest / 60} minutes, the most that is heard`)
    progress(DECODING * (furthest / source.size))
  }
  if (!listener) throw new Error('no sound in this file')
  return listener.hear((share) => progress(DECODING + (1 - DECODING) * share))
}
