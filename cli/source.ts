import path from 'node:path'
import type { Source } from '../src/decode/decode'
import { withFile } from '../src/decode/file'

/** A file as it was named on the command line. */
export const placeOf = (file: string): string => path.resolve(process.env.AZALEA_CWD ?? '.', file)

/** Opens a file as it was named on the command line. @param largest bytes it may have @throws Error in one sentence */
export const withSource = <T>(
  file: string,
  largest: number,
  work: (source: Source) => Promise<T>,
): Promise<T> => withFile(placeOf(file), largest, work)

/** What went wrong, in one line. */
export const why = (error: unknown): string =>
  (error instanceof Error ? error.message.split('\n')[0] : String(error)) ?? ''
