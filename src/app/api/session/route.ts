import { whoAsks } from '@/server/asking'
import { body, handle } from '@/server/handle'
import { may } from '@/server/may'
import { SignInSchema, signIn, signOut } from '@/server/sign-in'
import { isSchool, me } from '@/server/who'

const withCookies = (answer: Response, cookies: readonly string[]) => {
  for (const cookie of cookies) answer.headers.append('set-cookie', cookie)
  answer.headers.set('cache-control', 'no-store')
  return answer
}

/** Who is signed in, if one signs in here. */
export const GET = handle(may.everybody, async (request) =>
  withCookies(
    Response.json({ school: isSchool(), who: isSchool() ? await whoAsks(request.headers) : null }),
    [],
  ),
)

/** Signs in. */
export const POST = handle(may.unsigned, async (request) => {
  const { cookies, who } = await signIn(request.headers, await body(request, SignInSchema))
  return withCookies(Response.json({ who }), cookies)
})

/** Signs out; with `?everywhere` on all devices. */
export const DELETE = handle(may.account, async (request) => {
  const everywhere = new URL(request.url).searchParams.has('everywhere')
  const answer = withCookies(Response.json({ ok: true }), await signOut(request.headers, me(), everywhere))
  // What this browser keeps of what was theirs is nobody's who comes after.
  answer.headers.set('clear-site-data', '"cache"')
  return answer
})
