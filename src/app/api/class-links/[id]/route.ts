import * as v from 'valibot'
import { closeLink, removeLink, renewLink, reopenLink } from '@/server/class-links'
import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'

type Params = { id: string }

const How = v.object({ be: v.picklist(['closed', 'open', 'new']) })
const DO = { closed: closeLink, open: reopenLink, new: renewLink } as const

/** Closes a class's link, opens it again, or makes it anew. */
export const PATCH = handle<Params>(may.ownLink, async (request, params) => {
  await DO[(await body(request, How)).be](idOf(params))
  return Response.json({})
})

/** Takes it away, with what waits. */
export const DELETE = handle<Params>(may.ownLink, async (_, params) => {
  await removeLink(idOf(params))
  return Response.json({})
})
