import { diskStore } from './file-store'
import { type HearingEnd, hearFile } from './hear-song'
import { keepHearingIn } from './hearings'
import { BACK_LATER, type Work } from './job-runner'
import { asPassingFile } from './leftovers'
import { Problem } from './problem'
import { songById } from './songs'

const HERE_INSTEAD = 'This device listens itself.'
/** The bytes of a song, until nobody waits for what comes of them. */
async function* bytesOf(
  { hash, bytes }: { hash: string; bytes: number },
  signal: AbortSignal,
): AsyncGenerator<Uint8Array> {
  for await (const chunk of diskStore().read(hash, 0, bytes - 1)) {
    signal.throwIfAborted()
    yield chunk
  }
}

/** Hears the song of a job. @param hear by which program */
export const hearJob =
  (hear: typeof hearFile = hearFile): Work =>
  async ({ songId }, tell, signal) => {
    const song = await songById(songId)
    const came: HearingEnd = await asPassingFile(bytesOf(song, signal), (file) => hear(file, tell, signal))
    if ('problem' in came)
      throw new Problem(422, `The server cannot read this song: ${came.problem}. ${HERE_INSTEAD}`, 'unread')
    if ('made' in came) {
      const { hearing, peaks } = came.made
      const data = JSON.stringify(hearing)
      return (tx) => keepHearingIn(tx, songId, hearing.version, data, Buffer.from(peaks, 'base64'))
    }
    if (came.end === 'stopped' || came.end === 'no room') return BACK_LATER
    throw new Problem(
      422,
      came.end === 'over'
        ? `Hearing this song takes more time or memory than any does. ${HERE_INSTEAD}`
        : `The server’s listener ended unexpectedly. ${HERE_INSTEAD}`,
      came.end,
    )
  }
