import { handle, idOf } from '@/server/handle'
import { removePreset } from '@/server/lessons'

/** Takes one away. */
export const DELETE = handle<{ id: string }>(async (_, params) => {
  await removePreset(idOf(params))
  return Response.json({ ok: true })
})
