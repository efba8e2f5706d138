import { subscribe } from 'node:diagnostics_channel'
import type { IncomingMessage } from 'node:http'

/** What cannot be read as an address is asked for as this: nothing is there. */
const NOWHERE = '/no-such-address'

/**
 * An address that can be decoded: the same, or one where nothing is, in the same part of the program.
 * @param url path and query as they were sent
 */
export function readableUrl(url: string): string {
  try {
    decodeURIComponent(url.split('?', 1)[0] as string)
    return url
  } catch {
    return url.startsWith('/api/') ? `/api${NOWHERE}` : NOWHERE
  }
}

/**
 * Addresses whose percent signs name no letters (RFC 3986, 2.1; RFC 3629) are unknown ones, not faults: the framework
 * answers them with an error of the server's before anything of the program is asked. Node tells of each request before
 * it is handed on (the channel `http.server.request.start`).
 */
export function refuseUnreadable(): void {
  subscribe('http.server.request.start', (message) => {
    const { request } = message as { request: IncomingMessage }
    if (request.url) request.url = readableUrl(request.url)
  })
}
