import os from 'node:os'
import { Problem } from './problem'

/** How much less of a busy processor such a process gets than the server: somebody waits for it too. */
const NICE = 5

/** Lets a process wait for the server, whose answers are short. */
export function yielding<P extends { pid?: number | undefined }>(child: P): P {
  try {
    if (child.pid) os.setPriority(child.pid, NICE)
  } catch {
    // It has ended already, or nobody may say so here.
  }
  return child
}

/**
 * Lets so many pieces of work run at one time; others wait, up to a number.
 * @throws Problem 503 where too many wait already
 */
export function turns(atOnce: number, most: number, busy: string): <T>(work: () => Promise<T>) => Promise<T> {
  let running = 0
  const waiting: (() => void)[] = []
  return async (work) => {
    if (running < atOnce) running++
    else {
      if (waiting.length >= most) throw new Problem(503, busy, 'busy')
      await new Promise<void>((go) => waiting.push(go))
    }
    try {
      return await work()
    } finally {
      const next = waiting.shift()
      if (next) next()
      else running--
    }
  }
}
