import { Problem } from './problem'

/*
 * What is wrong with the machine, told in words with what to do. Codes of SQLite (sqlite.org/rescode.html) and of the
 * file system (POSIX.1-2024, <errno.h>).
 */

const FULL =
  'The disk Azalea keeps its data on is full. What you did is not saved. Free some space, then go on: it is sent again.'
const READ_ONLY =
  'Azalea may not write into its data directory. What you did is not saved. Give it the right to, then go on: it is sent again.'
const LOCKED =
  'Another program holds Azalea’s database. What you did is not saved yet. Close that program (a copy or a backup of the data directory may take a moment), then go on: it is sent again.'
const AWAY =
  'Azalea’s database does not answer. What you did is not saved yet. Once it answers, go on: it is sent again.'
const BROKEN =
  'Azalea’s database is damaged and was not changed any further. Keep a copy of the data directory, then bring your last backup (npm run restore) into a fresh one.'

const FAULTS: readonly [RegExp, () => Problem][] = [
  [/^(SQLITE_FULL|ENOSPC|EDQUOT)/, () => new Problem(507, FULL, 'full')],
  [
    /^(SQLITE_READONLY|SQLITE_PERM|SQLITE_CANTOPEN|EROFS|EACCES|EPERM)/,
    () => new Problem(503, READ_ONLY, 'read-only'),
  ],
  [/^(SQLITE_BUSY|SQLITE_LOCKED)/, () => new Problem(503, LOCKED, 'locked')],
  [/^(SQLITE_CORRUPT|SQLITE_NOTADB)/, () => new Problem(500, BROKEN, 'damaged')],
]

/** Where a file cannot even be opened, the client tells SQLite's code by its number. */
const UNOPENED = /open connection to local database .*: (\d+)\b/
const NUMBERS: Readonly<Record<string, string>> = {
  5: 'SQLITE_BUSY',
  8: 'SQLITE_READONLY',
  11: 'SQLITE_CORRUPT',
  13: 'SQLITE_FULL',
  14: 'SQLITE_CANTOPEN',
  26: 'SQLITE_NOTADB',
}

/** Codes of an error and of what lies behind it. */
function codesOf(error: unknown): string[] {
  const codes: string[] = []
  for (let e = error, depth = 0; e instanceof Error && depth < 6; e = e.cause, depth++) {
    const { code, extendedCode } = e as { code?: unknown; extendedCode?: unknown }
    for (const c of [code, extendedCode]) if (typeof c === 'string') codes.push(c)
    // Some layers keep the code in their words alone.
    const named = /\b(SQLITE_[A-Z]+|ENOSPC|EROFS)\b/.exec(e.message)
    if (named) codes.push(named[1] as string)
    const number = NUMBERS[UNOPENED.exec(e.message)?.[1] ?? '']
    if (number) codes.push(number)
  }
  return codes
}

/** A fault of the machine in words; null where it is none of these. */
export function faultOf(error: unknown): Problem | null {
  const codes = codesOf(error)
  const known = FAULTS.find(([pattern]) => codes.some((c) => pattern.test(c)))
  return known ? known[1]() : null
}

/** The way to a database at an address was lost, or there is none at this moment: codes of libSQL's client, of POSIX and of Node's fetch. */
const LOST =
  /^(STREAM_EXPIRED|STREAM_CLOSED|TRANSACTION_CLOSED|HRANA_CLOSED_ERROR|ECONNRESET|ECONNREFUSED|EPIPE|ETIMEDOUT|EAI_AGAIN|UND_ERR_(SOCKET|CONNECT_TIMEOUT|HEADERS_TIMEOUT))/

/** True where the way to a database at an address was lost, and with it the transaction that was under way. */
export const isLost = (error: unknown) => codesOf(error).some((c) => LOST.test(c))

/** What is told where it stays so. */
export const awayFault = () => new Problem(503, AWAY, 'away')

/** True where somebody else holds the database at this moment. */
export const isLocked = (error: unknown) => codesOf(error).some((c) => /^SQLITE_(BUSY|LOCKED)/.test(c))
