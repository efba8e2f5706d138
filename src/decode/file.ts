import { type FileHandle, open } from 'node:fs/promises'
import type { Source } from './decode'

/** Reads bytes of a file. */
const reading = (handle: FileHandle) => async (from: number, length: number) => {
  const { buffer, bytesRead } = await handle.read(Buffer.alloc(length), 0, length, from)
  return buffer.subarray(0, bytesRead)
}

/** Opens a file of this machine for some work. @param largest bytes it may have @throws Error in one sentence */
export async function withFile<T>(
  file: string,
  largest: number,
  work: (source: Source) => Promise<T>,
): Promise<T> {
  const handle = await open(file)
  try {
    const { size } = await handle.stat()
    if (size > largest) throw new Error(`larger than ${Math.round(largest / 1024 ** 2)} MB`)
    return await work({ size, read: reading(handle) })
  } finally {
    await handle.close()
  }
}
