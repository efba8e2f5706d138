import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { ShareSchema, share, sharesOf } from '@/server/shares'

type Params = { id: string }

/** With whom a routine is shared. */
export const GET = handle<Params>(may.routine('own'), async (_, params) =>
  Response.json(await sharesOf(idOf(params))),
)

/** Shares it, or takes it back. */
export const PUT = handle<Params>(may.routine('own'), async (request, params) => {
  await share(idOf(params), await body(request, ShareSchema))
  return Response.json(await sharesOf(idOf(params)))
})
