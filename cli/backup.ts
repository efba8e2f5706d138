import { createWriteStream } from 'node:fs'
import { rename, rm } from 'node:fs/promises'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import { makeBackup } from '../src/server/backup'
import { restoreBackup } from '../src/server/restore'
import { doneBy, HERE } from '../src/server/who'

const [what, name] = process.argv.slice(2)
const at = (file: string) => path.resolve(process.env.AZALEA_CWD ?? '.', file)

/** Writes everything Azalea keeps into one file; it has its name only once it is whole. */
async function backup(file: string): Promise<string> {
  const { stream, bytes, missing, close } = await makeBackup()
  const part = `${file}.part`
  try {
    await pipeline(stream, createWriteStream(part))
    await rename(part, file)
  } finally {
    await rm(part, { force: true })
    await close()
  }
  const gone = missing.length ? ` The audio of ${missing.length} songs is not there any more.` : ''
  return `${file}: ${(bytes / 1024 ** 2).toFixed(1)} MB.${gone}`
}

/** Takes a backup over. */
async function restore(file: string): Promise<string> {
  const { songs, routines, log, beside } = await restoreBackup(file)
  const also = beside.length ? ` Beside what is here in another state: ${beside.join(', ')}.` : ''
  return `Added: ${songs} songs, ${routines} routines, ${log} rows of the log.${also}`
}

try {
  if (!name || !(what === 'backup' || what === 'restore')) throw new Error(`npm run ${what} -- FILE.zip`)
  // Whoever sits before the machine, also where it serves a school.
  console.log(await doneBy(HERE, () => (what === 'backup' ? backup : restore)(at(name))))
  process.exit(0)
} catch (error) {
  console.error(error instanceof Error ? error.message : String(error))
  process.exit(1)
}
