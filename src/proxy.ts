import { type NextRequest, NextResponse } from 'next/server'
import { isFloor } from '@/core/floor/address'
import { guardOf, headersFor, refusedBy } from '@/server/guard'

/**
 * Everything but the routes of the program and the pages of classes: a proxy takes bodies in whole, which may be songs. Those look at
 * the name they are asked under themselves (server/handle), and send headers of their own.
 */
export const config = { matcher: '/((?!api/|c/[A-Za-z0-9_-]{24}).*)' }

/** Stands before everything this server answers: only under its own names, and with what a browser must know. */
export function proxy(request: NextRequest): NextResponse {
  const refused = refusedBy(request.headers.get('host'))
  const nonce = btoa(String.fromCharCode(...crypto.getRandomValues(new Uint8Array(18))))
  const { policy } = guardOf(nonce, process.env.NODE_ENV === 'development')
  const headers = new Headers(request.headers)
  // Pages learn the nonce of their scripts from here.
  headers.set('content-security-policy', policy)
  const answer = refused
    ? new NextResponse(refused, { status: 421, headers: { 'content-type': 'text/plain; charset=utf-8' } })
    : NextResponse.next({ request: { headers } })
  const floor = isFloor(request.nextUrl.pathname)
  for (const [name, value] of headersFor(policy, 'DENY', floor)) answer.headers.set(name, value)
  return answer
}
