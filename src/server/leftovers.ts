import { randomUUID } from 'node:crypto'
import { mkdirSync } from 'node:fs'
import { open, readdir, rm, stat, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { dataDirectory } from './settings'
import type { FileStore } from './stores'

/*
 * Files that are worked with for a moment. Their names begin with the process that works with them, so that what a
 * process that was killed left behind is known as such by the next one.
 */

/** What of a living process is this old was forgotten by it: no upload and no backup takes so long. */
const FORGOTTEN_MS = 24 * 3600 * 1000

/** Files of this process, told apart from those of an earlier one that had the same number. */
const mine = `${process.pid}-${Date.now().toString(36)}`

const folder = (name: string) => {
  const dir = path.join(dataDirectory(), name)
  mkdirSync(dir, { recursive: true, mode: 0o700 })
  return dir
}

/** A name in the data directory for what is worked with for a moment; nothing is there yet. */
export const passingFile = (what: string) => path.join(folder('passing'), `${mine}.${randomUUID()}.${what}`)

/** Bytes as a file of this machine, as long as it is worked with. */
export async function asPassingFile<T>(
  bytes: AsyncIterable<Uint8Array>,
  work: (file: string) => Promise<T>,
): Promise<T> {
  const file = passingFile('part')
  const out = await open(file, 'wx', 0o600)
  try {
    try {
      for await (const chunk of bytes) await out.writeFile(chunk)
    } finally {
      await out.close()
    }
    return await work(file)
  } finally {
    await rm(file, { force: true })
  }
}

/** Marks that a file of sound was put in its place and its row is still to be written. */
export async function markKeeping(hash: string): Promise<() => Promise<void>> {
  const mark = path.join(folder('passing'), `${mine}.${hash}.keeping`)
  await writeFile(mark, '')
  return () => rm(mark, { force: true })
}

/**
 * Does something with a file that is brought into a store, marked so that what is left of it goes at the next sweep: the mark is taken
 * off by the work itself, or where it failed before anything was there.
 */
export async function marked<T>(
  store: Pick<FileStore, 'size'>,
  hash: string,
  work: (kept: () => Promise<void>) => Promise<T>,
): Promise<T> {
  const kept = await markKeeping(hash)
  try {
    return await work(kept)
  } catch (error) {
    if ((await store.size(hash).catch(() => 0)) === null) await kept()
    throw error
  }
}

function isAlive(name: string): boolean {
  if (name.startsWith(`${mine}.`)) return true
  const pid = Number(/^(\d+)-/.exec(name)?.[1])
  if (!pid || pid === process.pid) return false
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    // Of another user's process one only learns that it is there.
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}

/**
 * Takes away what processes that are gone left behind.
 * @param unused what to do with a file of sound whose row may never have been written
 */
export async function sweepPassing(unused: (hash: string) => Promise<void>, now = Date.now()): Promise<void> {
  const dir = folder('passing')
  for (const name of await readdir(dir)) {
    const file = path.join(dir, name)
    const old = async () => now - (await stat(file)).mtimeMs > FORGOTTEN_MS
    if (isAlive(name) && !(await old().catch(() => false))) continue
    const hash = /\.([0-9a-f]{64})\.keeping$/.exec(name)?.[1]
    if (hash) await unused(hash)
    await rm(file, { recursive: true, force: true })
  }
}

/** Keeps a folder below so many files: those not used for the longest go. */
export async function bounded(dir: string, most: number): Promise<void> {
  const names = await readdir(dir).catch(() => [])
  if (names.length <= most) return
  const aged = await Promise.all(
    names.map(async (name) => ({
      name,
      at: (await stat(path.join(dir, name)).catch(() => null))?.mtimeMs ?? 0,
    })),
  )
  aged.sort((a, b) => a.at - b.at)
  for (const { name } of aged.slice(0, names.length - most)) await rm(path.join(dir, name), { force: true })
}
