import { diskStore } from '@/server/file-store'
import { handle, idOf } from '@/server/handle'
import { Problem } from '@/server/problem'
import { answerRange } from '@/server/ranges'
import { songById } from '@/server/songs'

/** The bytes of a song, whole or a range of them. */
export const GET = handle<{ id: string }>(async (request, params) => {
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
