import { open, rm } from 'node:fs/promises'
import { Readable } from 'node:stream'
import type { ReadableStream as NodeStream } from 'node:stream/web'
import { passingFile } from './leftovers'
import { Problem } from './problem'

/** A stream of Node's as the body of an answer, read as it is asked for. @param done when it ended or nobody reads on */
export function answerOf(stream: Readable, done: () => Promise<void>): ReadableStream<Uint8Array> {
  const pieces = stream[Symbol.asyncIterator]() as AsyncIterator<Buffer>
  return new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        try {
          const next = await pieces.next()
          if (!next.done) return controller.enqueue(new Uint8Array(next.value))
          controller.close()
        } catch (error) {
          controller.error(error)
        }
        await done()
      },
      async cancel() {
        stream.destroy()
        await done()
      },
    },
    { highWaterMark: 1 },
  )
}

/**
 * The body of a request as a file of its own, as long as it is worked with.
 * @param most bytes; counted while they come
 * @throws Problem 413, 415
 */
export async function withBodyFile<T>(
  request: Request,
  most: number,
  work: (file: string) => Promise<T>,
): Promise<T> {
  if (!request.body) throw new Problem(415, 'The file is empty. Nothing was changed.')
  const file = passingFile('part')
  const out = await open(file, 'wx', 0o600)
  try {
    let bytes = 0
    try {
      for await (const chunk of Readable.fromWeb(request.body as NodeStream)) {
        bytes += (chunk as Uint8Array).byteLength
        if (bytes > most) throw new Problem(413, 'This file is too large. Nothing was changed.')
        await out.writeFile(chunk as Uint8Array)
      }
    } finally {
      await out.close()
    }
    return await work(file)
  } finally {
    await rm(file, { force: true })
  }
}
