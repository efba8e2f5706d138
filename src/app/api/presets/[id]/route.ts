import { handle } from '@/server/handle'
import { removePreset } from '@/server/lessons'
import { idOf, may } from '@/server/may'

/** Takes one away. */
export const DELETE = handle<{ id: string }>(may.make, async (_, params) => {
  await removePreset(idOf(params))
  return Response.json({ ok: true })
})
