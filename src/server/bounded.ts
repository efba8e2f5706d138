import path from 'node:path'
import { pathToFileURL } from 'node:url'

/** What a process of its own may use: seconds of a processor, and megabytes in all. */
export interface Bounds {
  seconds: number
  megabytes: number
}

/**
 * Nobody waits longer than this for a process, in ms: one that hangs without using the processor would hold its turn for ever. A
 * busy machine does not come near it.
 */
export const LONGEST_MS = 30 * 60 * 1000

/** How a script is run by Node within bounds (scripts/bounds.mjs). */
export function boundedRun(script: string, args: readonly string[], { seconds, megabytes }: Bounds) {
  const bounds = pathToFileURL(path.resolve(/* turbopackIgnore: true */ 'scripts/bounds.mjs')).href
  return {
    command: process.execPath,
    args: ['--no-warnings', '--import', bounds, script, ...args],
    env: { ...process.env, AZALEA_BOUNDS: `${seconds} ${megabytes}` },
  }
}

/** How a process ended: well, over its bounds, of itself, or it could not be begun because the machine has no room. */
export type End = 'well' | 'over' | 'crashed' | 'no room'

/** Codes of a machine that cannot begin another process now (POSIX.1-2024, <errno.h>). */
const NO_ROOM = new Set(['EAGAIN', 'ENOMEM', 'EMFILE', 'ENFILE'])

/** @param error of `execFile`, or what a `close` event says */
export function endOf(error: unknown): End {
  if (!error) return 'well'
  const { code, signal } = error as { code?: unknown; signal?: unknown }
  if (signal === 'SIGXCPU') return 'over'
  if (typeof code === 'string' && NO_ROOM.has(code)) return 'no room'
  return code === 0 && !signal ? 'well' : 'crashed'
}
