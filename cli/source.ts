import { type FileHandle, open } from 'node:fs/promises'
import path from 'node:path'
import type { Source } from '../src/decode/decode'

/** A file as it was named on the command line. */
export const placeOf = (file: string): string => path.resolve(process.env.AZALEA_CWD ?? '.', file)

/** Reads bytes of a file. */
const reading = (handle: FileHandle) => async (from: number, length: number) => {
  const { buffer, bytesRead } = await handle.read(Buffer.alloc(length), 0, length, from)
  return buffer.subarray(0, bytesRead)
}

/** Opens a file for some work. @param largest bytes it may have @throws Error in one sentence */
export async function withSource<T>(
  file: string,
  largest: number,
  work: (source: Source) => Promise<T>,
): Promise<T> {
  const handle = await open(placeOf(file))
  try {
    const { size } = await handle.stat()
    if (size > largest) throw new Error(`larger than ${Math.round(largest / 1024 ** 2)} MB`)
    return await work({ size, read: reading(handle) })
  } finally {
    await handle.close()
  }
}

/** What went wrong, in one line. */
export const why = (error: unknown): string =>
  (error instanceof Error ? error.message.split('\n')[0] : String(error)) ?? ''
