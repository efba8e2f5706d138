import { diskStore } from '@/server/audio-store'
import { handle, idOf } from '@/server/handle'
import { Problem } from '@/server/problem'
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
  const headers = {
    'content-type': song.mime,
    'accept-ranges': 'bytes',
    'x-size': String(size),
    'cache-control': 'private, max-age=31536000, immutable',
    etag: `"${song.hash}"`,
  }
  const range = /^bytes=(\d+)-(\d*)$/.exec(request.headers.get('range') ?? '')
  if (!range) return new Response(store.read(song.hash, 0, size - 1), { headers })
  const start = Number(range[1])
  const end = range[2] ? Math.min(size - 1, Number(range[2])) : size - 1
  if (start > end) return new Response(null, { status: 416, headers: { 'content-range': `bytes */${size}` } })
  return new Response(store.read(song.hash, start, end), {
    status: 206,
    headers: { ...headers, 'content-range': `bytes ${start}-${end}/${size}` },
  })
})
