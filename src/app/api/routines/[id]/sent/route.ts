import * as v from 'valibot'
import { takenIn, waitingFor } from '@/server/class-links'
import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'

type Params = { id: string }

const Taken = v.object({
  id: v.pipe(v.string(), v.maxLength(40)),
  receivedAt: v.pipe(v.string(), v.isoTimestamp()),
})

/** What learners sent by the links of who asks, and waits. */
export const GET = handle<Params>(may.taught, async (_, params) =>
  Response.json(await waitingFor(idOf(params))),
)

/** It was taken into the routine, or let go. */
export const POST = handle<Params>(may.taught, async (request, params) => {
  const { id, receivedAt } = await body(request, Taken)
  await takenIn(idOf(params), id, receivedAt)
  return Response.json({})
})
