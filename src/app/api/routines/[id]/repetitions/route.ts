import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { logOf, logRepetition, RepetitionSchema } from '@/server/routines'

type Params = { id: string }

/** The log of a routine, oldest first. */
export const GET = handle<Params>(may.routine('look'), async (_, params) =>
  Response.json(await logOf([idOf(params)])),
)

/** Adds a repetition to the log. */
export const POST = handle<Params>(may.routine('look'), async (request, params) =>
  Response.json({ id: await logRepetition(idOf(params), await body(request, RepetitionSchema)) }),
)
