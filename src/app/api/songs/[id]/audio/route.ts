import { diskStore } from '@/server/file-store'
import { handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { Problem } from '@/server/problem'
import { answerRange } from '@/server/ranges'
import { songById } from '@/server/songs'

/** The bytes of a song, whole or a range of them. */
export const GET = handle<{ id: string }>(may.song('look'), async (request, params) => {
  const song = await songById(idOf(params))
  const store = diskStore()
  const size = await store.size(song.hash)
  if (size === null)
    throw new Problem(
      410,
      'The audio file of this song is missing from the data directory. The routine is kept; drop the same file on the shelf to bring it back.',
      'audio-missing',
    )
  return answerRange(request, { store, hash: song.hash, size, mime: song.mime })
})
