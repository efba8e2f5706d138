import * as v from 'valibot'
import type { Contents } from '@/core/handout'
import { ApiError, Failure } from './ask-server'
import { personHeaders } from './person'

/** What of a dance is asked for, as the server reads it in an address. */
export const askedIn = ({ stretch, ...what }: Contents, more: Record<string, string | boolean> = {}) =>
  new URLSearchParams(
    Object.entries({ ...stretch, ...what, ...more }).map(([k, x]) => [
      k,
      typeof x === 'boolean' ? (x ? '1' : '0') : String(x),
    ]),
  )

/**
 * Gets a hand-out.
 * @param more headers of what is asked for
 * @throws ApiError in words for people; DOMException where it was stopped
 */
export async function fetchMade(
  url: string,
  signal: AbortSignal,
  sent?: object,
  more: Record<string, string> = {},
): Promise<Response> {
  const headers = { ...personHeaders(), ...more }
  const init = sent ? { method: 'POST', body: JSON.stringify(sent), signal, headers } : { signal, headers }
  const response = await fetch(url, init).catch((error: unknown) => {
    if (error instanceof DOMException) throw error
    throw new ApiError('Azalea’s server does not answer. Start it again, then try once more.', 'offline')
  })
  if (!response.ok) {
    const known = v.safeParse(Failure, await response.json().catch(() => null))
    throw new ApiError(
      known.success ? known.output.error.message : `The server answered with an error (${response.status}).`,
      'failed',
    )
  }
  return response
}

/** A practice page, its voice still to be put in. */
export const fetchPracticePage = async (id: string, contents: Contents, signal: AbortSignal) =>
  (await fetchMade(`/api/routines/${id}/practice?${askedIn(contents)}`, signal)).text()
