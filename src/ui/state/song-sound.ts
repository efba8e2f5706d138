import { base64Of } from '@/core/formats/base64'
import { hasTrace } from './api'
import { matchSong } from './match'
import { putTrace } from './saved'

/**
 * Sees to it that the server knows how a song sounds, so that another copy of it is known elsewhere; worked out once.
 * @param audio the song, asked for only where it is needed
 * @throws DOMException where it was stopped
 */
export async function keepSoundOf(
  songId: string,
  audio: () => Promise<AudioBuffer>,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<void> {
  if (await hasTrace(songId)) return
  const { trace } = await matchSong(await audio(), null, progress, signal)
  await putTrace(songId, base64Of(trace))
}
