import * as v from 'valibot'
import { body, handle, idOf } from '@/server/handle'
import { addRoutine, copyRoutine } from '@/server/routines'

const Body = v.union([v.object({ songId: v.string() }), v.object({ copyOf: v.string() })])

/** Begins a further routine on a song, or copies one. */
export const POST = handle(async (request) => {
  const asked = await body(request, Body)
  const id =
    'songId' in asked
      ? await addRoutine(idOf({ id: asked.songId }))
      : await copyRoutine(idOf({ id: asked.copyOf }))
  return Response.json({ id })
})
