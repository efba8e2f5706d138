import { publicUrl } from './settings'

/** Addresses by number: a page of somebody else's name cannot pretend to be one. */
const BY_NUMBER = /^(?:\d{1,3}(?:\.\d{1,3}){3}|\[[0-9a-f:.]+\])$/i

/**
 * True where a request names this server: by number, as localhost, or by a name it was given (AZALEA_HOST, AZALEA_HOSTS, AZALEA_PUBLIC_URL).
 * Any other name may be pointed at this machine by whoever owns it, whose pages could then read and write everything.
 * @param host the Host header, with or without a port
 */
export function isOwnHost(host: string | null): boolean {
  const name = (host ?? '').replace(/:\d+$/, '').toLowerCase()
  if (BY_NUMBER.test(name) || name === 'localhost' || name.endsWith('.localhost')) return true
  const given = [
    process.env.AZALEA_HOST,
    publicUrl()?.hostname,
    ...(process.env.AZALEA_HOSTS ?? '').split(/[\s,]+/),
  ]
  return name !== '' && given.some((g) => g?.toLowerCase() === name)
}
