import { chmodSync, mkdirSync, statSync } from 'node:fs'
import path from 'node:path'
import { pathToFileURL } from 'node:url'

/** Largest song file taken, in bytes. */
export const LARGEST_SONG = 200 * 1024 * 1024
/** Largest film taken, in bytes, and the longest, in seconds. */
export const LARGEST_FILM = 4 * 1024 ** 3
export const LONGEST_FILM = 3 * 3600
/** Largest page handed out to a class, in bytes. */
export const LARGEST_PAGE = 8 * 1024 * 1024
/** Largest backup taken through the page, in bytes; the command line takes any. */
export const LARGEST_BACKUP = 64 * 1024 ** 3
/** Sampling rates a song may have, in hertz. */
export const SOUND_RATES = [1000, 768_000] as const
/** Longest song taken, in seconds. */
export const LONGEST_SONG = 20 * 60

/** Where Azalea keeps its files; made when missing. */
export function dataDirectory(): string {
  const dir = path.resolve(/* turbopackIgnore: true */ process.env.AZALEA_DATA ?? 'data')
  mkdirSync(dir, { recursive: true, mode: 0o700 })
  // Whoever made it: what people teach, and their recordings, are nobody else's on this machine.
  if (statSync(dir).mode & 0o077)
    try {
      chmodSync(dir, 0o700)
    } catch {
      // A disk without rights, or somebody else's directory: it stays as it is.
    }
  return dir
}

/** What a database on a server asks for. */
export const databaseToken = (): string | undefined => process.env.AZALEA_DATABASE_TOKEN

/** What whoever reads the metrics has to know; nobody reads them where it is not set. */
export const metricsToken = (): string | undefined => process.env.AZALEA_METRICS_TOKEN || undefined

/** The database: a libSQL address, by default a file in the data directory. */
export function databaseUrl(): string {
  return process.env.AZALEA_DATABASE_URL ?? pathToFileURL(path.join(dataDirectory(), 'azalea.db')).href
}

/** Where people find this server from elsewhere: then one signs in. Null where it is used on this machine alone. */
export function publicUrl(): URL | null {
  const text = process.env.AZALEA_PUBLIC_URL
  if (!text) return null
  const url = URL.canParse(text) ? new URL(text) : null
  // Serving without sign-in where one was asked for would be the worst way to fail.
  if (!url || !/^https?:$/.test(url.protocol))
    throw new Error('AZALEA_PUBLIC_URL is no address that begins with https:// or http://.')
  return url
}
