import { spawn } from 'node:child_process'
import path from 'node:path'
import { createInterface } from 'node:readline'
import * as v from 'valibot'
import { base64Text } from '@/core/formats/base64'
import { HearingSchema } from '@/core/hear'
import { boundedRun, type End, endOf, LONGEST_MS } from './bounded'
import { LONGEST_SONG } from './settings'
import { yielding } from './turns'

/** What was heard in a file, its pictures as base64. */
const HeardSchema = v.object({ hearing: HearingSchema, peaks: base64Text(2_000_000) })
export type HeardFile = v.InferOutput<typeof HeardSchema>

const Line = v.pipe(
  v.string(),
  v.parseJson(),
  v.union([v.object({ share: v.number() }), v.object({ problem: v.string() }), HeardSchema]),
)

/** What came of it: heard, no sound that can be read here, or the end of its process. */
export type HearingEnd =
  | { heard: HeardFile }
  | { problem: string }
  | { end: Exclude<End, 'well'> | 'stopped' }

/** Twenty minutes of sound take a minute of a processor, and 300 MB. */
const BOUNDS = { seconds: 300, megabytes: 900 }
/** Of its own objects, in MB. */
const HEAP_MB = 400
const LISTENER = '.made/hear.mjs'

/**
 * Hears a song file in a process of its own, within bounds.
 * @param tell how far it is, 0..1
 * @param signal ends the process at once
 * @param script the listener's program
 */
export function hearFile(
  file: string,
  tell: (share: number) => void,
  signal: AbortSignal,
  script = path.resolve(/* turbopackIgnore: true */ LISTENER),
  bounds = BOUNDS,
): Promise<HearingEnd> {
  const run = boundedRun(script, [file, String(LONGEST_SONG)], bounds)
  return new Promise((resolve) => {
    const child = spawn(run.command, [`--max-old-space-size=${HEAP_MB}`, ...run.args], {
      ...{ env: run.env, stdio: ['ignore', 'pipe', 'ignore'], signal, timeout: LONGEST_MS },
      killSignal: 'SIGKILL',
    })
    let last: v.InferOutput<typeof Line> | null = null
    let failed: unknown = null
    createInterface({ input: child.stdout }).on('line', (text) => {
      const line = v.safeParse(Line, text)
      if (!line.success) return
      last = line.output
      if ('share' in last) tell(last.share)
    })
    child.on('error', (error) => {
      failed = error
    })
    child.on('close', (code, killedBy) => {
      if (signal.aborted) return resolve({ end: 'stopped' })
      const end = endOf(failed ?? (code === 0 && !killedBy ? null : { code, signal: killedBy }))
      if (end !== 'well') return resolve({ end })
      if (last && 'hearing' in last) return resolve({ heard: last })
      resolve(last && 'problem' in last ? last : { end: 'crashed' })
    })
    if (child.pid) yielding(child)
  })
}
