import { execFile } from 'node:child_process'
import * as v from 'valibot'
import { type Bounds, boundedRun, type End, endOf, LONGEST_MS } from './bounded'
import { yielding } from './turns'

/** What a reader's process says of a file; or how it ended without saying anything. */
export type ReadFile<T> = { end: 'well'; said: T } | { end: Exclude<End, 'well'> }

/**
 * Has a file read by a program in a process of its own, within bounds; once more where it crashed: it may have been ended by
 * something that has nothing to do with the file.
 * @param schema what it says, as JSON on its output
 * @param heap megabytes of its own objects
 */
export async function readBounded<S extends v.GenericSchema>(
  schema: S,
  { script, args, bounds, heap }: { script: string; args: readonly string[]; bounds: Bounds; heap: number },
): Promise<ReadFile<v.InferOutput<S>>> {
  const run = boundedRun(script, args, bounds)
  const once = () =>
    new Promise<ReadFile<v.InferOutput<S>>>((resolve) => {
      const child = execFile(
        run.command,
        [`--max-old-space-size=${heap}`, ...run.args],
        { timeout: LONGEST_MS, killSignal: 'SIGKILL', maxBuffer: 4 * 1024 ** 2, env: run.env },
        (error, out) => {
          const end = endOf(error)
          const said = v.safeParse(v.pipe(v.string(), v.parseJson(), schema), out)
          if (end === 'well') resolve(said.success ? { end, said: said.output } : { end: 'crashed' })
          else resolve({ end })
        },
      )
      yielding(child)
    })
  const first = await once()
  return first.end === 'crashed' ? once() : first
}
