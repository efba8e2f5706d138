import { removeRoutine, unbinRoutine } from '@/server/bin'
import { handle } from '@/server/handle'
import { idOf, may } from '@/server/may'

/** Takes a routine out of the bin. */
export const PUT = handle<{ id: string }>(may.binned, async (_, params) => {
  await unbinRoutine(idOf(params))
  return Response.json({ ok: true })
})

/** Takes it away for good. */
export const DELETE = handle<{ id: string }>(may.binned, async (_, params) => {
  await removeRoutine(idOf(params))
  return Response.json({ ok: true })
})
