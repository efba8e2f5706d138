import { spawn } from 'node:child_process'
import { MODULE_PACKAGES } from '../modules'
import { fetchPackages, fetchReferences, fetchSongs } from '../render'
import { PACKAGES } from '../songs'

/** Runs both halves of a making, side by side, once its songs and styles are there. @param script takes PART and OF */
export async function inParts(script: string): Promise<void> {
  fetchSongs([...PACKAGES, ...MODULE_PACKAGES])
  fetchReferences()
  fetchPackages(['mma'])
  await Promise.all(
    [0, 1].map(
      (part) =>
        new Promise<void>((resolve, reject) => {
          const child = spawn('npx', ['tsx', script, String(part), '2'], {
            stdio: ['ignore', 'inherit', 'inherit'],
          })
          child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error('songs could not be made'))))
        }),
    ),
  )
}
