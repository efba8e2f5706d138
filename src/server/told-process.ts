import { spawn } from 'node:child_process'
import { createInterface } from 'node:readline'
import * as v from 'valibot'
import { type Bounds, boundedRun, type End, endOf, LONGEST_MS } from './bounded'
import { yielding } from './turns'

/** A program that works for long, in a process of its own, within bounds. */
export interface LongRun {
  script: string
  args: readonly string[]
  bounds: Bounds
  /** Of its own objects, in MB. */
  heap: number
}

/** What came of it: what it made, why it cannot be made, or the end of its process. */
export type LongEnd<T> = { made: T } | { problem: string } | { end: Exclude<End, 'well'> | 'stopped' }

/** What a line says; null for what is none of these. */
function lineOf<T>(text: string, Made: v.GenericSchema<unknown, T>) {
  const json = v.safeParse(v.pipe(v.string(), v.parseJson()), text)
  if (!json.success) return null
  const told = v.safeParse(
    v.union([v.object({ share: v.number() }), v.object({ problem: v.string() })]),
    json.output,
  )
  if (told.success) return told.output
  const made = v.safeParse(Made, json.output)
  return made.success ? { made: made.output } : null
}

/**
 * Runs a program that prints lines of JSON: how far it is (`share`), and at last what it made, or why it cannot (`problem`).
 * @param Made what it makes
 * @param tell how far it is, 0..1
 * @param signal ends the process at once
 */
export function runTelling<T>(
  { script, args, bounds, heap }: LongRun,
  Made: v.GenericSchema<unknown, T>,
  tell: (share: number) => void,
  signal: AbortSignal,
): Promise<LongEnd<T>> {
  const run = boundedRun(script, args, bounds)
  return new Promise((resolve) => {
    const child = spawn(run.command, [`--max-old-space-size=${heap}`, ...run.args], {
      ...{ env: run.env, stdio: ['ignore', 'pipe', 'ignore'], signal, timeout: LONGEST_MS },
      killSignal: 'SIGKILL',
    })
    let last: { made: T } | { problem: string } | null = null
    let failed: unknown = null
    createInterface({ input: child.stdout }).on('line', (text) => {
      const said = lineOf(text, Made)
      if (!said) return
      if ('share' in said) tell(said.share)
      // What it says last counts: an answer with more after it is none.
      last = 'share' in said ? null : said
    })
    child.on('error', (error) => {
      failed = error
    })
    child.on('close', (code, killedBy) => {
      if (signal.aborted) return resolve({ end: 'stopped' })
      const end = endOf(failed ?? (code === 0 && !killedBy ? null : { code, signal: killedBy }))
      resolve(end === 'well' ? (last ?? { end: 'crashed' }) : { end })
    })
    if (child.pid) yielding(child)
  })
}
