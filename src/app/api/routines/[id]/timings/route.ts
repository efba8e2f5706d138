import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { logTiming, TimingSchema, timingLog } from '@/server/timings'

type Params = { id: string }

/** What the timing trainer measured on a routine, oldest first. */
export const GET = handle<Params>(may.routine('look'), async (_, params) =>
  Response.json(await timingLog(idOf(params))),
)

/** Adds one go. */
export const POST = handle<Params>(may.routine('look'), async (request, params) =>
  Response.json({ id: await logTiming(idOf(params), await body(request, TimingSchema)) }),
)
