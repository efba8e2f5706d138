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
/** Largest sheet asked for, with its pictures, and largest that is set, in bytes. */
export const LARGEST_SHEET = 24 * 1024 * 1024
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

/** Whether this process takes heavy work that is asked for; one that only answers leaves it to others (AZALEA_JOBS=0). */
export const takesJobs = (): boolean => process.env.AZALEA_JOBS !== '0'

/** Where files are kept that lie in an object store. */
export interface ObjectPlace {
  bucket: string
  /** What all names begin with: '' or something that ends with a stroke. */
  prefix: string
  /** Of a store that is not Amazon's. */
  endpoint: string | null
  region: string
  /** Films are read from there by browsers themselves. */
  direct: boolean
  /** A store that says nothing for so long, in ms, is away. */
  silence: number
}

/** A store that is busy putting a part away says nothing for some seconds. In seconds. */
const SILENCE = 60

/**
 * The object store, where one is set (AZALEA_STORE=s3://bucket/prefix); null where files lie in the data directory. Its keys are read as
 * the AWS SDK reads them (AWS_ACCESS_KEY_ID and the like).
 */
export function objectPlace(): ObjectPlace | null {
  const text = process.env.AZALEA_STORE
  if (!text) return null
  const named = /^s3:\/\/([a-z0-9][a-z0-9.-]{1,61}[a-z0-9])(?:\/(.*))?$/.exec(text)
  if (!named)
    throw new Error('AZALEA_STORE is no address of an object store: s3://bucket or s3://bucket/folder.')
  const folder = (named[2] ?? '').replace(/\/+$/, '')
  return {
    bucket: named[1] as string,
    prefix: folder ? `${folder}/` : '',
    endpoint: process.env.AZALEA_STORE_ENDPOINT || null,
    region: process.env.AWS_REGION || 'us-east-1',
    direct: process.env.AZALEA_STORE_DIRECT === '1',
    silence: 1000 * (Number(process.env.AZALEA_STORE_SILENCE) || SILENCE),
  }
}
