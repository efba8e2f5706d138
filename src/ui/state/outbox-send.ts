import { wordsOf } from '@/core/formats/said'
import { ApiError, request } from './ask-server'
import { bodyOf, type Entry } from './entry'
import { SendFailure } from './outbox-state'

/** Codes of what is the machine's, and passes by itself or once somebody sees to it: nothing is sent meanwhile. */
const MACHINE = new Set(['offline', 'full', 'read-only', 'locked', 'damaged', 'busy', 'away', 'signed-out'])

/** What an error of the server's means for an entry. */
function failureOf(error: unknown, document: string): SendFailure {
  const why = wordsOf(error)
  if (!(error instanceof ApiError)) return new SendFailure(why, 'later', '', true)
  const { code } = error
  if (MACHINE.has(code)) return new SendFailure(why, 'later', code, code === 'offline')
  // A fault of the program's may be of what was sent: it comes with this entry alone.
  if (code === 'failed') return new SendFailure(why, 'itself', code)
  if (code === 'unanswered') return new SendFailure(why, 'itself', code, true)
  if (code === 'overtaken') return new SendFailure(why, 'overtaken', code)
  // A document that was taken away elsewhere waits for the person: it may be kept as a new one.
  const held = code === 'conflict' || (code === 'missing' && document !== '')
  return new SendFailure(why, held ? 'conflict' : 'refused', code)
}

/** A browser refuses to send more than this once a page is closed, in bytes (Fetch Standard, 64 KiB); a little is left over for others. */
const MOST_KEPT_ALIVE = 60_000

/** Sends one entry to the server; it arrives also where the page is closed meanwhile, unless it is too long. @throws SendFailure */
export async function sendEntry(entry: Entry): Promise<unknown> {
  const body = bodyOf(entry)
  try {
    return await request(entry.url, {
      method: entry.method,
      headers: { 'content-type': 'application/json' },
      body,
      keepalive: new Blob([body]).size <= MOST_KEPT_ALIVE,
    })
  } catch (error) {
    throw failureOf(error, entry.document)
  }
}
