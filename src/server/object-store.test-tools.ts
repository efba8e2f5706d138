/* A stand-in for an object store (package @20minutes/s3rver): what it is given it keeps as files of a folder. */
import { existsSync, mkdirSync, readdirSync } from 'node:fs'
import path from 'node:path'
import S3rver from '@20minutes/s3rver'

export const BUCKET = 'azalea-files'
/** What it calls its files, after their names. */
const ENDING = '._S3rver_object'

/** Begins one on a free port; what is asked of it is signed with its own keys. */
export async function objectServer(dir: string): Promise<{ url: string; end: () => Promise<void> }> {
  mkdirSync(dir, { recursive: true })
  const options = { port: 0, address: '127.0.0.1', silent: true, directory: dir }
  const server = new S3rver({ ...options, configureBuckets: [{ name: BUCKET, configs: [] }] })
  const { port } = await server.run()
  return { url: `http://127.0.0.1:${port}`, end: () => server.close() }
}

/** The names of the files it keeps in a folder. */
export function objectsIn(dir: string, folder: string): string[] {
  const at = path.join(dir, BUCKET, folder)
  if (!existsSync(at)) return []
  return readdirSync(at).flatMap((f) => (f.endsWith(ENDING) ? f.slice(0, -ENDING.length) : []))
}
