import * as v from 'valibot'
import { accept, invitedBy, Password } from '@/server/accounts'
import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'

const Body = v.object({ password: Password })

/** Whom a link invites. */
export const GET = handle<{ id: string }>(may.unsigned, async (_, params) =>
  Response.json(await invitedBy(idOf(params))),
)

/** Takes the link up, with a password. */
export const POST = handle<{ id: string }>(may.unsigned, async (request, params) => {
  const { password } = await body(request, Body)
  return Response.json(await accept(idOf(params), password))
})
