import { mkdirSync } from 'node:fs'
import path from 'node:path'
import { pathToFileURL } from 'node:url'

/** Largest song file taken, in bytes. */
export const LARGEST_SONG = 200 * 1024 * 1024
/** Largest backup taken through the page, in bytes; the command line takes any. */
export const LARGEST_BACKUP = 16 * 1024 ** 3
/** Longest song taken, in seconds. */
export const LONGEST_SONG = 20 * 60

/** Where Azalea keeps its files; made when missing. */
export function dataDirectory(): string {
  const dir = path.resolve(/* turbopackIgnore: true */ process.env.AZALEA_DATA ?? 'data')
  mkdirSync(dir, { recursive: true })
  return dir
}

/** The database: a libSQL address, by default a file in the data directory. */
export function databaseUrl(): string {
  return process.env.AZALEA_DATABASE_URL ?? pathToFileURL(path.join(dataDirectory(), 'azalea.db')).href
}
