import * as v from 'valibot'
import { changePassword, Password } from '@/server/accounts'
import { erasePerson } from '@/server/erase'
import { body, handle } from '@/server/handle'
import { may } from '@/server/may'
import { provePassword } from '@/server/sign-in'
import { me } from '@/server/who'

const now = v.pipe(v.string(), v.maxLength(1000))
const Change = v.object({ now, next: Password })
const Erase = v.object({ now })

/** Another password; the one there is has to be known. */
export const PUT = handle(may.account, async (request) => {
  const asked = await body(request, Change)
  await provePassword(request.headers, me(), asked.now)
  await changePassword(me().id, asked.next)
  return Response.json({ ok: true })
})

/** Erases one's own account with all that is its; the password has to be known. */
export const DELETE = handle(may.account, async (request) => {
  const asked = await body(request, Erase)
  await provePassword(request.headers, me(), asked.now)
  await erasePerson(me().id)
  return Response.json({ ok: true })
})
