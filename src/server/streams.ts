import type { Readable } from 'node:stream'
import { asPassingFile } from './leftovers'
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

/** So much of a body nobody wants any more is still taken from who sends it. */
const THROWN_AWAY = 512 * 1024 ** 2

/**
 * The body of a request. Who leaves early, refusing it, answers at once; what is still being sent is taken and thrown
 * away, because a browser looks at an answer only when all is sent, and waits for seconds where nobody takes it.
 */
export async function* bodyOf(body: ReadableStream<Uint8Array>): AsyncGenerator<Uint8Array> {
  const reader = body.getReader()
  let all = false
  try {
    for (let next = await reader.read(); !next.done; next = await reader.read()) yield next.value
    all = true
  } finally {
    if (!all) throwAway(reader)
  }
}

/** Answers without a look at the body. */
export const refuseBody = (body: ReadableStream<Uint8Array> | null): void => {
  if (body) throwAway(body.getReader())
}

async function throwAway(reader: ReadableStreamDefaultReader<Uint8Array>): Promise<void> {
  try {
    let bytes = 0
    for (let next = await reader.read(); !next.done && bytes < THROWN_AWAY; next = await reader.read())
      bytes += next.value.byteLength
    await reader.cancel()
  } catch {
    // It was left by its sender.
  }
}

/** Bytes as they come, as long as they are not too many. @throws Problem 413 */
async function* counted(body: AsyncIterable<Uint8Array>, most: number): AsyncGenerator<Uint8Array> {
  let bytes = 0
  for await (const chunk of body) {
    bytes += chunk.byteLength
    if (bytes > most) throw new Problem(413, 'This file is too large. Nothing was changed.')
    yield chunk
  }
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
  return asPassingFile(counted(bodyOf(request.body), most), work)
}
