/*
 * Keeps the pages of classes for days without a network (W3C, Service Workers): the newest one where the server answers, else the one
 * that was had last. Bundled by scripts/made.mjs; it serves everything below /c/.
 */

interface Answering extends Event {
  readonly request: Request
  respondWith(answer: Promise<Response>): void
  waitUntil(done: Promise<unknown>): void
}
interface Told extends MessageEvent {
  waitUntil(done: Promise<unknown>): void
}
declare const clients: { claim(): Promise<void> }
declare function skipWaiting(): Promise<void>

const SHELF = 'azalea class pages 1'
/** Who has a page waits so long for a newer one, in milliseconds: a network that is there and carries nothing is no network. */
const PATIENCE = 4000

const isPage = (path: string) => /^\/c\/[A-Za-z0-9_-]{24}$/.test(path)
const isPartOf = (path: string) => /^\/c\/[A-Za-z0-9_-]{24}\/manifest\.json$|^\/icon\.svg$/.test(path)

const unkept = () =>
  new Response('This page is not on this device yet, and there is no network.', {
    status: 503,
    headers: { 'content-type': 'text/plain; charset=utf-8' },
  })

/** What the server has, whole, and kept from then on; one that leads nowhere any more is let go. */
async function fetched(path: string, patience: number | null): Promise<Response> {
  const signal = patience === null ? null : AbortSignal.timeout(patience)
  const answer = await fetch(path, { cache: 'no-cache', credentials: 'omit', signal })
  // Taken in whole before it is shown: one that stops on its way is not the page.
  const whole = new Response(await answer.blob(), { status: answer.status, headers: answer.headers })
  const shelf = await caches.open(SHELF)
  if (answer.ok) await shelf.put(path, whole.clone())
  else if (answer.status === 404 || answer.status === 410) await shelf.delete(path)
  return whole
}

async function answered(path: string): Promise<Response> {
  const kept = await (await caches.open(SHELF)).match(path)
  try {
    const answer = await fetched(path, kept ? PATIENCE : null)
    return answer.status >= 500 && kept ? kept : answer
  } catch {
    return kept ?? unkept()
  }
}

addEventListener('install', () => skipWaiting())
addEventListener('activate', (event) => (event as Answering).waitUntil(clients.claim()))
addEventListener('fetch', (event) => {
  const asked = event as Answering
  const { request } = asked
  const { pathname, origin } = new URL(request.url)
  if (request.method !== 'GET' || origin !== location.origin) return
  if (request.mode === 'navigate' ? isPage(pathname) : isPartOf(pathname))
    asked.respondWith(answered(pathname))
})
addEventListener('message', (event) => {
  const told = event as Told
  const path: unknown = (told.data as { keep?: unknown } | null)?.keep
  if (typeof path === 'string' && isPage(path))
    told.waitUntil(Promise.all([path, `${path}/manifest.json`, '/icon.svg'].map((p) => fetched(p, null))))
})
