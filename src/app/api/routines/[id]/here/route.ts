import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { HereSchema, tellPresence } from '@/server/presence'

/** Says that a window has the routine open, and asks who else has it. */
export const POST = handle<{ id: string }>(may.routine('look'), async (request, params) =>
  Response.json(await tellPresence(idOf(params), await body(request, HereSchema))),
)
