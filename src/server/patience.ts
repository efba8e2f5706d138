import { setTimeout as pause } from 'node:timers/promises'
import type { Client } from '@libsql/client'
import { isLocked, isLost } from './faults'

/**
 * A database that is held by another program is asked again so often, with pauses that grow. The client itself waits in
 * its one thread, which is the server's: it is told to wait for a moment only (`ASKED_MS`).
 */
export const [ASKED_MS, PATIENCE_MS]: [number, number] = [40, 5000]

/**
 * Runs something until nobody else holds the database and it was not lost on its way there. Lost with its answer it may have been
 * done: all that is written carries its own id or number, and is known when it comes again.
 * @throws what it throws once patience is over
 */
export async function patiently<T>(client: Client, work: () => Promise<T>): Promise<T> {
  const end = Date.now() + PATIENCE_MS
  for (let wait = 20; ; wait = Math.min(400, wait * 2)) {
    try {
      return await work()
    } catch (error) {
      const locked = isLocked(error)
      if (!(locked || isLost(error)) || Date.now() > end) throw error
      // Not in step with another process that waits too.
      await pause(wait * (0.5 + Math.random()))
      // A connection that was refused may go on standing on the old state until its statement is collected, and is refused from
      // then on each time another process wrote (SQLITE_BUSY_SNAPSHOT): it is made anew. Nobody else is in a transaction now.
      if (locked && client.protocol === 'file') client.reconnect()
    }
  }
}
