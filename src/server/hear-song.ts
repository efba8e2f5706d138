import path from 'node:path'
import * as v from 'valibot'
import { base64Text } from '@/core/formats/base64'
import { HearingSchema } from '@/core/hear'
import { LONGEST_SONG } from './settings'
import { type LongEnd, runTelling } from './told-process'

/** What was heard in a file, its pictures as base64. */
const HeardSchema = v.object({ hearing: HearingSchema, peaks: base64Text(2_000_000) })
export type HeardFile = v.InferOutput<typeof HeardSchema>

export type HearingEnd = LongEnd<HeardFile>

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
export const hearFile = (
  file: string,
  tell: (share: number) => void,
  signal: AbortSignal,
  script = path.resolve(/* turbopackIgnore: true */ LISTENER),
  bounds = BOUNDS,
): Promise<HearingEnd> =>
  runTelling({ script, args: [file, String(LONGEST_SONG)], bounds, heap: HEAP_MB }, HeardSchema, tell, signal)
