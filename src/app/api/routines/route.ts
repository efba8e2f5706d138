import * as v from 'valibot'
import { body, handle, idOf } from '@/server/handle'
import { addRoutine, copyRoutine } from '@/server/routines'

const id = v.string()
const Body = v.union([v.object({ id, songId: id }), v.object({ id, copyOf: id })])

/** Begins a further routine on a song, or copies one. */
export const POST = handle(async (request) => {
  const asked = await body(request, Body)
  const as = idOf(asked)
  const id =
    'songId' in asked
      ? await addRoutine(idOf({ id: asked.songId }), as)
      : await copyRoutine(idOf({ id: asked.copyOf }), as)
  return Response.json({ id })
})
