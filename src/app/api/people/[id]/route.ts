import * as v from 'valibot'
import { linkFor, setRole } from '@/server/accounts'
import { erasePerson } from '@/server/erase'
import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { ROLES } from '@/server/school-schema'
import { me } from '@/server/who'

const Body = v.object({ role: v.picklist(ROLES) })

/** A link by which somebody sets another password. */
export const POST = handle<{ id: string }>(may.govern, async (_, params) =>
  Response.json({ link: await linkFor(idOf(params), me().name) }),
)

/** Makes somebody something else in the school. */
export const PATCH = handle<{ id: string }>(may.govern, async (request, params) => {
  await setRole(idOf(params), (await body(request, Body)).role, me().name)
  return Response.json({ ok: true })
})

/** Erases an account with all that is its. */
export const DELETE = handle<{ id: string }>(may.govern, async (_, params) => {
  await erasePerson(idOf(params))
  return Response.json({ ok: true })
})
