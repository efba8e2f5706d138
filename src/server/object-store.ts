import { createReadStream } from 'node:fs'
import { rm, stat } from 'node:fs/promises'
import type { S3Client } from '@aws-sdk/client-s3'
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
export const clientConfig = ({ endpoint, region }: ObjectPlace) => ({
  region,
  ...(endpoint ? { endpoint, forcePathStyle: true } : {}),
  // Stores other than Amazon's know no checksums in trailers.
  requestChecksumCalculation: 'WHEN_REQUIRED' as const,
  responseChecksumValidation: 'WHEN_REQUIRED' as const,
})

/** The client is loaded where there is such a store: it is large. */
function clientOf(place: ObjectPlace): Promise<S3Client> {
  const { endpoint, region } = place
  const key = `${endpoint} ${region}`
  if (shared.azaleaObjects?.key !== key)
    shared.azaleaObjects = {
      key,
      client: import('@aws-sdk/client-s3').then(({ S3Client }) => new S3Client(clientConfig(place))),
    }
  return shared.azaleaObjects.client
}

const isMissing = (error: unknown) =>
  (error as { $metadata?: { httpStatusCode?: number } }).$metadata?.httpStatusCode === 404

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
      return (await client.send(new HeadObjectCommand(named(hash)))).ContentLength ?? null
    } catch (error) {
      if (isMissing(error)) return null
      throw error
    }
  }
  /** Puts a file there that is not there yet: one that was cut off is none. */
  async function put(file: string, hash: string): Promise<void> {
    if ((await size(hash)) === (await stat(file)).size) return
    const [client, { Upload }] = await Promise.all([clientOf(place), import('@aws-sdk/lib-storage')])
    const params = { ...named(hash), Body: createReadStream(file) }
    await new Upload({ client, params, partSize: PART, queueSize: 2 }).done()
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
        const { Body } = await client.send(new GetObjectCommand({ ...at, Range: `bytes=${start}-${end}` }))
        if (!Body) throw new Error('the store answered without a body')
        return Body.transformToWebStream() as ReadableStream<Uint8Array>
      })
    },
    async remove(hash) {
      const [client, { DeleteObjectCommand }] = await Promise.all([
        clientOf(place),
        import('@aws-sdk/client-s3'),
      ])
      await client.send(new DeleteObjectCommand(named(hash)))
    },
    async adopt(file, hash) {
      await put(file, hash)
      await rm(file, { force: true })
    },
    stage: put,
    async link(hash, mime) {
      if (!place.direct) return null
      const [client, { GetObjectCommand }, { getSignedUrl }] = await Promise.all([
        clientOf(place),
        import('@aws-sdk/client-s3'),
        import('@aws-sdk/s3-request-presigner'),
      ])
      const asked = new GetObjectCommand({ ...named(hash), ResponseContentType: mime })
      return getSignedUrl(client, asked, { expiresIn: LINK })
    },
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
