import { type FileHandle, open } from 'node:fs/promises'
import type { Source } from './decode'

/** Reads bytes of a file. */
const reading = (handle: FileHandle) => async (from: number, length: number) => {
  const { buffer, bytesRead } = await handle.read(Buffer.alloc(length), 0, length, from)
  return buffer.subarray(0, bytesRead)
}

/** Reads bytes of what lies at an address, by ranges (RFC 9110, section 14). */
const fetching = (url: string) => async (from: number, length: number) => {
  const answer = await fetch(url, { headers: { range: `bytes=${from}-${from + length - 1}` } })
  // Nothing of it lies there.
  if (answer.status === 416) return new Uint8Array(0)
  if (answer.status !== 206) throw new Error(`its store answered ${answer.status}`)
  return new Uint8Array(await answer.arrayBuffer())
}

/** How large it is what lies at an address. */
async function sizeAt(url: string): Promise<number> {
  const answer = await fetch(url, { headers: { range: 'bytes=0-0' } })
  await answer.body?.cancel()
  const size = /\/(\d+)$/.exec(answer.headers.get('content-range') ?? '')?.[1]
  if (answer.status !== 206 || !size) throw new Error(`its store answered ${answer.status}`)
  return Number(size)
}

/** Opens what another program of this machine said where it is: the path of a file, or an address. @throws Error in one sentence */
export async function withPlace<T>(
  place: string,
  largest: number,
  work: (source: Source) => Promise<T>,
): Promise<T> {
  if (!/^https?:\/\//.test(place)) return withFile(place, largest, work)
  const size = await sizeAt(place)
  if (size > largest) throw new Error(`larger than ${Math.round(largest / 1024 ** 2)} MB`)
  return work({ size, read: fetching(place) })
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
