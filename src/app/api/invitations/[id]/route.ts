import * as v from 'valibot'
import { withdraw } from '@/server/accounts'
import { handle } from '@/server/handle'
import { may } from '@/server/may'

const Id = v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'An id has a wrong form.'))

/** Takes an invitation back. */
export const DELETE = handle<{ id: string }>(may.govern, async (_, { id }) => {
  await withdraw(v.parse(Id, id))
  return Response.json({ ok: true })
})
