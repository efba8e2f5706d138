import { refuseUnreadable } from './addresses'
import { settleNow } from './database'
import { endJobs, startJobs } from './job-turns'

/** The framework ends the process as soon as it answers nobody any more: what is being ended goes first. */
function endAfter(work: Promise<unknown>): void {
  const { exit } = process
  process.exit = ((code) => void work.finally(() => exit(code))) as typeof process.exit
}

/** What a server does once, before it answers and before it ends. */
export function startServer(): void {
  // What people teach is nobody else's on this machine.
  process.umask(0o077)
  refuseUnreadable()
  // Whoever ends the server copies its data next: nothing of it is left in the journal.
  const end = () => endAfter(endJobs().then(settleNow, settleNow))
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, end)
  startJobs()
}
