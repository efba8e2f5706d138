import { createReadStream } from 'node:fs'
import { rm, stat } from 'node:fs/promises'
import type { S3Client } from '@aws-sdk/client-s3'
import { wordsOf } from '@/core/formats/said'
import { isLost } from './faults'
import { Problem } from './problem'
import type { ObjectPlace } from './settings'
import type { FileStore } from './stores'

/*
 * Files in an object store that speaks S3 (Amazon S3 API reference, 2006-03-01): put in parts, read in ranges. Names are the same as on
 * a disk, so that a folder may be copied there as it is.
 */

/** Bytes of a part: the least S3 takes is 5 MiB. */
const PART = 8 * 1024 * 1024
/** A link to a file is good for so long, in seconds. */
const LINK = 3600

// On globalThis: pages and routes are bundled apart.
const shared = globalThis as { azaleaObjects?: { key: string; client: Promise<S3Client> } }

/** How the store is spoken to. */
export const clientConfig = ({ endpoint, region, silence }: ObjectPlace) => ({
  region,
  ...(endpoint ? { endpoint, forcePathStyle: true } : {}),
  // Stores other than Amazon's know no checksums in trailers.
  requestChecksumCalculation: 'WHEN_REQUIRED' as const,
  responseChecksumValidation: 'WHEN_REQUIRED' as const,
  // Where neither a connection nor an answer comes, whoever waits is told; by itself the SDK waits for ever.
  requestHandler: { connectionTimeout: silence, socketTimeout: silence },
})

/** The client is loaded where there is such a store: it is large. */
function clientOf(place: ObjectPlace): Promise<S3Client> {
  const { endpoint, region, silence } = place
  const key = `${endpoint} ${region} ${silence}`
  if (shared.azaleaObjects?.key !== key)
    shared.azaleaObjects = {
      key,
      client: import('@aws-sdk/client-s3').then(({ S3Client }) => new S3Client(clientConfig(place))),
    }
  return shared.azaleaObjects.client
}

const statusOf = (error: unknown) =>
  (error as { $metadata?: { httpStatusCode?: number } }).$metadata?.httpStatusCode ?? 0

/** Has the store asked. @throws Problem 503 `away` where it does not answer, or cannot now: it was asked three times by then */
async function answered<T>(asking: Promise<T>): Promise<T> {
  try {
    return await asking
  } catch (error) {
    const isAway = isLost(error) || statusOf(error) >= 500 || (error as Error).name === 'TimeoutError'
    if (!isAway) throw error
    console.error(`the store of files: ${wordsOf(error)}`)
    throw new Problem(
      503,
      'The place where Azalea keeps songs and films does not answer. Nothing was changed. Try again once it does.',
      'away',
    )
  }
}

/**
 * A folder of the store.
 * @param receive takes bytes in as a file of this machine, as a store on a disk does: they are looked at before they are kept
 */
export function storeFar(place: ObjectPlace, folder: string, receive: FileStore['receive']): FileStore {
  const { bucket, prefix } = place
  const named = (hash: string) => {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('not a content hash')
    return { Bucket: bucket, Key: `${prefix}${folder}/${hash}` }
  }
  async function size(hash: string): Promise<number | null> {
    const [client, { HeadObjectCommand }] = await Promise.all([clientOf(place), import('@aws-sdk/client-s3')])
    try {
      return (await answered(client.send(new HeadObjectCommand(named(hash))))).ContentLength ?? null
    } catch (error) {
      if (statusOf(error) === 404) return null
      throw error
    }
  }
  /** Puts a file there that is not there yet: one that was cut off is none. */
  async function put(file: string, hash: string): Promise<void> {
    if ((await size(hash)) === (await stat(file)).size) return
    const [client, { Upload }] = await Promise.all([clientOf(place), import('@aws-sdk/lib-storage')])
    const params = { ...named(hash), Body: createReadStream(file) }
    await answered(new Upload({ client, params, partSize: PART, queueSize: 2 }).done())
  }
  /** An address at which it is read for a while. */
  async function signed(hash: string, answer: { ResponseContentType?: string } = {}): Promise<string> {
    const [client, { GetObjectCommand }, { getSignedUrl }] = await Promise.all([
      clientOf(place),
      import('@aws-sdk/client-s3'),
      import('@aws-sdk/s3-request-presigner'),
    ])
    return getSignedUrl(client, new GetObjectCommand({ ...named(hash), ...answer }), { expiresIn: LINK })
  }
  return {
    async receive(bytes) {
      const incoming = await receive(bytes)
      const stage = () => incoming.asFile((file) => put(file, incoming.hash))
      // Looked for again: it may have been taken away meanwhile, with what it was of.
      return { ...incoming, stage, keep: stage }
    },
    size,
    read: (hash, start, end) => {
      const at = named(hash)
      return readFar(async () => {
        const [client, { GetObjectCommand }] = await Promise.all([
          clientOf(place),
          import('@aws-sdk/client-s3'),
        ])
        const asked = new GetObjectCommand({ ...at, Range: `bytes=${start}-${end}` })
        const { Body } = await answered(client.send(asked))
        if (!Body) throw new Error('the store answered without a body')
        return Body.transformToWebStream() as ReadableStream<Uint8Array>
      })
    },
    async remove(hash) {
      const [client, { DeleteObjectCommand }] = await Promise.all([
        clientOf(place),
        import('@aws-sdk/client-s3'),
      ])
      await answered(client.send(new DeleteObjectCommand(named(hash))))
    },
    async adopt(file, hash) {
      await put(file, hash)
      await rm(file, { force: true })
    },
    stage: put,
    link: async (hash, mime) => (place.direct ? signed(hash, { ResponseContentType: mime }) : null),
    reach: (hash) => signed(hash),
  }
}

/** A stream that is asked for when somebody reads: the answer to a HEAD request has a body nobody does. */
function readFar(open: () => Promise<ReadableStream<Uint8Array>>): ReadableStream<Uint8Array> {
  let reader: ReadableStreamDefaultReader<Uint8Array> | null = null
  return new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        reader ??= (await open()).getReader()
        const { done, value } = await reader.read()
        if (done) controller.close()
        else controller.enqueue(value)
      },
      cancel: (why) => reader?.cancel(why),
    },
    { highWaterMark: 0 },
  )
}
