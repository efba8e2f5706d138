import type { FileStore } from './stores'

/** A file of a store that never changes. */
interface Kept {
  store: FileStore
  hash: string
  size: number
  mime: string
}

/** A file, whole or the range of it that is asked for (RFC 9110, section 14); ranges of many pieces are answered whole. */
export function answerRange(request: Request, { store, hash, size, mime }: Kept): Response {
  const headers = {
    'content-type': mime,
    'accept-ranges': 'bytes',
    'x-size': String(size),
    'cache-control': 'private, max-age=31536000, immutable',
    etag: `"${hash}"`,
  }
  const range = /^bytes=(\d*)-(\d*)$/.exec(request.headers.get('range') ?? '')
  if (!range || (!range[1] && !range[2])) {
    const whole = { ...headers, 'content-length': String(size) }
    return new Response(store.read(hash, 0, size - 1), { headers: whole })
  }
  // Without a beginning it is so many of the last bytes.
  const start = range[1] ? Number(range[1]) : Math.max(0, size - Number(range[2]))
  const end = range[1] && range[2] ? Math.min(size - 1, Number(range[2])) : size - 1
  if (start > end) return new Response(null, { status: 416, headers: { 'content-range': `bytes */${size}` } })
  return new Response(store.read(hash, start, end), {
    status: 206,
    headers: {
      ...headers,
      'content-length': String(end - start + 1),
      'content-range': `bytes ${start}-${end}/${size}`,
    },
  })
}
