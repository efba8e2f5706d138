import { isOwnHost } from './host'
import { objectPlace } from './settings'

/** What a page of Azalea may do in a browser. */
export interface Guard {
  /** Scripts of this page alone run: each carries this. */
  nonce: string
  policy: string
}

/**
 * The Content-Security-Policy of a page (W3C, Content Security Policy Level 3). Scripts by nonce; workers and their
 * WebAssembly from this server; styles also inline, as they are written while a page is used.
 * @param dev a development server evaluates its modules
 */
export function guardOf(nonce: string, dev: boolean): Guard {
  const films = filmsFrom()
  const policy = [
    "default-src 'none'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'${dev ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    `connect-src 'self' blob: data:${films}`,
    `media-src 'self' blob:${films}`,
    "worker-src 'self' blob:",
    "frame-src 'self'",
    "manifest-src 'self'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
    "object-src 'none'",
  ].join('; ')
  return { nonce, policy }
}

/** From where browsers read films themselves, beside this server; '' from nowhere else. */
function filmsFrom(): string {
  const place = objectPlace()
  if (!place?.direct) return ''
  const { endpoint, bucket, region } = place
  return ` ${endpoint ? new URL(endpoint).origin : `https://${bucket}.s3.${region}.amazonaws.com`}`
}

/** Answers of the program's routes are data: nothing in them runs, wherever they are opened. */
export const DATA_POLICY = "default-src 'none'; frame-ancestors 'none'; sandbox"
/** Practice pages are shown inside of the page that makes them, and nowhere else; their own policy is in them. */
export const INSIDE_POLICY = "frame-ancestors 'self'; sandbox allow-scripts"

/** Camera and microphone are the floor's; the rest of a device is nobody's (W3C, Permissions Policy). */
const permissions = (floor: boolean) => {
  const own = floor ? '(self)' : '()'
  return `camera=${own}, microphone=${own}, geolocation=(), display-capture=(), midi=(), usb=(), serial=(), bluetooth=(), payment=()`
}

/**
 * What is sent with an answer, whatever it is.
 * @param framed by whom it may be framed
 * @param floor it is a page of the floor, where one dances before a camera and speaks into a microphone
 */
export function headersFor(
  policy: string,
  framed: 'DENY' | 'SAMEORIGIN' = 'DENY',
  floor = false,
): [string, string][] {
  return [
    ['content-security-policy', policy],
    ['x-content-type-options', 'nosniff'],
    ['x-frame-options', framed],
    ['referrer-policy', 'no-referrer'],
    ['cross-origin-resource-policy', 'same-origin'],
    ['cross-origin-opener-policy', 'same-origin'],
    ['permissions-policy', permissions(floor)],
  ]
}

/** Why a request is not answered at all; null where it is. */
export const refusedBy = (host: string | null): string | null =>
  isOwnHost(host)
    ? null
    : 'Azalea is not known under this name. Open it by its address (http://localhost and its port), or name it in AZALEA_HOSTS when you start it.\n'
