import { setTimeout as pause } from 'node:timers/promises'
import type { Client } from '@libsql/client'
import { awayFault, isLocked, isLost } from './faults'

/**
 * So long the client itself waits for a database that is held by another process, in milliseconds: in its one thread, which is the
 * server's, so for a moment only.
 */
export const ASKED_MS = 20
/**
 * Then it is asked again, soon and not in step with others: a write holds it for some milliseconds. So much is waited between the tries in
 * all: the tries themselves take what a busy machine takes. Where each of them takes long, as where nobody answers at an address, some are
 * made all the same, and none is begun after so long.
 */
const [SOON_MS, LATE_MS, PATIENCE_MS, LAST_TRY_MS, LEAST_TRIES] = [3, 40, 5000, 60_000, 6]

/**
 * Runs something until nobody else holds the database and it was not lost on its way there. Lost with its answer it may have been
 * done: all that is written carries its own id or number, and is known when it comes again.
 * @throws what it throws once patience is over; Problem 503 `away` where the database does not answer
 */
export async function patiently<T>(
  client: Pick<Client, 'protocol' | 'reconnect'>,
  work: () => Promise<T>,
  patience = PATIENCE_MS,
): Promise<T> {
  const lastTry = Date.now() + LAST_TRY_MS
  for (let wait = SOON_MS, waited = 0, tries = 1; ; wait = Math.min(LATE_MS, wait * 1.5), tries++) {
    try {
      return await work()
    } catch (error) {
      const locked = isLocked(error)
      // A BEGIN that was refused stays begun in SQLite until it is collected, and whatever is read by its connection from then on
      // holds the state it was read from: the journal grows, and writing is refused (SQLITE_BUSY_SNAPSHOT). So the connections are
      // made anew before anything is read by them. Nobody else is in a transaction now.
      if (locked && client.protocol === 'file') client.reconnect()
      const lost = isLost(error)
      if (!(locked || lost)) throw error
      const isLate = tries >= LEAST_TRIES && Date.now() > lastTry
      if (waited > patience || isLate) throw lost ? awayFault() : error
      const pausing = wait * (0.5 + Math.random())
      waited += pausing
      await pause(pausing)
    }
  }
}

/**
 * Makes a client of a database at an address ask again where the way there was lost under a single statement: a connection that was quiet
 * for some seconds may have been closed by the other side, which is found out by using it. A statement on its own reads, says what
 * something is to be, or takes away: done twice it changes nothing more. What adds a row, or belongs together, is a transaction, and is
 * begun again as a whole by `patiently` around it.
 */
export function askingAgain(client: Client): Client {
  const execute = client.execute.bind(client) as (...asked: unknown[]) => ReturnType<Client['execute']>
  client.execute = (...asked: unknown[]) => patiently(client, () => execute(...asked))
  return client
}
