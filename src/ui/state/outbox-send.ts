import { ApiError, request } from './api'
import { type Entry, SendFailure } from './outbox'

/** Codes of what passes by itself, or once somebody sees to the machine: what waits is sent again. */
const PASSING = new Set(['offline', 'failed', 'full', 'read-only', 'locked', 'damaged'])

/** What an error of the server's means for an entry. */
function refusalOf(error: unknown, document: string): SendFailure {
  const why = error instanceof Error ? error.message : String(error)
  if (!(error instanceof ApiError)) return new SendFailure(why, 'later')
  if (PASSING.has(error.code)) return new SendFailure(why, 'later')
  // A document that was taken away elsewhere waits for the person: it may be kept as a new one.
  const held = error.code === 'conflict' || (error.code === 'missing' && document !== '')
  return new SendFailure(why, held ? 'conflict' : 'refused', error.code)
}

/** Sends one entry to the server. @throws SendFailure */
export async function sendEntry({ method, url, body, document }: Entry): Promise<unknown> {
  try {
    return await request(url, {
      method,
      headers: { 'content-type': 'application/json' },
      body,
    })
  } catch (error) {
    throw refusalOf(error, document)
  }
}
