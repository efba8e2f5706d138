import { setTimeout as pause } from 'node:timers/promises'
import type { Client } from '@libsql/client'
import { isLocked, isLost } from './faults'

/**
 * So long the client itself waits for a database that is held by another process, in milliseconds: in its one thread, which is the
 * server's, so for a moment only.
 */
export const ASKED_MS = 20
/** Then it is asked again, soon and not in step with others: a write holds it for some milliseconds. And for so long in all. */
const [SOON_MS, LATE_MS, PATIENCE_MS] = [3, 40, 5000]

/**
 * Runs something until nobody else holds the database and it was not lost on its way there. Lost with its answer it may have been
 * done: all that is written carries its own id or number, and is known when it comes again.
 * @throws what it throws once patience is over
 */
export async function patiently<T>(client: Client, work: () => Promise<T>): Promise<T> {
  const end = Date.now() + PATIENCE_MS
  for (let wait = SOON_MS; ; wait = Math.min(LATE_MS, wait * 1.5)) {
    try {
      return await work()
    } catch (error) {
      const locked = isLocked(error)
      // A BEGIN that was refused stays begun in SQLite until it is collected, and whatever is read by its connection from then on
      // holds the state it was read from: the journal grows, and writing is refused (SQLITE_BUSY_SNAPSHOT). So the connections are
      // made anew before anything is read by them. Nobody else is in a transaction now.
      if (locked && client.protocol === 'file') client.reconnect()
      if (!(locked || isLost(error)) || Date.now() > end) throw error
      await pause(wait * (0.5 + Math.random()))
    }
  }
}
