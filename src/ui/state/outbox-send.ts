import { ApiError, request } from './api'
import { type Entry, SendFailure } from './outbox'

/** What an error of the server's means for an entry. */
function refusalOf(error: unknown): SendFailure {
  const why = error instanceof Error ? error.message : String(error)
  if (!(error instanceof ApiError)) return new SendFailure(why, 'later')
  if (error.code === 'offline' || error.code === 'failed') return new SendFailure(why, 'later')
  return new SendFailure(why, error.code === 'conflict' ? 'conflict' : 'refused')
}

/** Sends one entry to the server. @throws SendFailure */
export async function sendEntry({ method, url, body }: Entry): Promise<unknown> {
  try {
    return await request(url, {
      method,
      headers: { 'content-type': 'application/json' },
      body,
    })
  } catch (error) {
    throw refusalOf(error)
  }
}
