import * as v from 'valibot'
import { body, handle } from '@/server/handle'
import { idOf, may, mayRoutine, maySong } from '@/server/may'
import { addRoutine, copyRoutine } from '@/server/routines'
import { me } from '@/server/who'

const id = v.string()
const Body = v.union([v.object({ id, songId: id }), v.object({ id, copyOf: id })])

/** Begins a further routine on a song, or copies one. */
export const POST = handle(may.make, async (request) => {
  const asked = await body(request, Body)
  const as = idOf(asked)
  if ('songId' in asked) {
    const song = idOf({ id: asked.songId })
    await maySong(me(), song, 'own')
    return Response.json({ id: await addRoutine(song, as) })
  }
  const other = idOf({ id: asked.copyOf })
  await mayRoutine(me(), other, 'own')
  const id = await copyRoutine(other, as)
  return Response.json({ id })
})
