import * as v from 'valibot'
import { body, handle, idOf } from '@/server/handle'
import { addRoutine } from '@/server/routines'

/** Begins a further routine on a song. */
export const POST = handle(async (request) => {
  const { songId } = await body(request, v.object({ songId: v.string() }))
  return Response.json({ id: await addRoutine(idOf({ id: songId })) })
})
