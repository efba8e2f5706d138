/* One at a time: two that are started at once would install and build into each other's files. Plain Node. */
import {
  existsSync,
  linkSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import path from 'node:path'

/** Whoever holds it longer than this is gone, and its number is somebody else's by now. */
const LONGEST_MS = 60 * 60 * 1000
const AGAIN_MS = 300

/** True while the process that wrote a lock may still be at work. */
function isHeld(lock) {
  const holder = Number(readFileSync(lock, 'utf8'))
  if (Date.now() - statSync(lock).mtimeMs > LONGEST_MS) return false
  // Made this moment, and not written yet.
  if (!holder) return true
  try {
    process.kill(holder, 0)
    return true
  } catch (error) {
    return error.code === 'EPERM'
  }
}

/** Takes away what a process that is gone left, unless somebody else did and holds it by now. */
function clear(lock) {
  const away = `${lock}.${process.pid}`
  renameSync(lock, away)
  // Put back where it was somebody's by now; never over one that was made meanwhile.
  try {
    if (isHeld(away)) linkSync(away, lock)
  } finally {
    rmSync(away)
  }
}

/** @returns false where somebody else holds it */
function take(lock) {
  try {
    writeFileSync(lock, String(process.pid), { flag: 'wx' })
    return true
  } catch (error) {
    if (error.code !== 'EEXIST') throw error
  }
  try {
    if (!isHeld(lock)) clear(lock)
  } catch (error) {
    // It was let go meanwhile, or taken.
    if (!['ENOENT', 'EEXIST'].includes(error.code)) throw error
  }
  return false
}

/**
 * Does something while no other process does it with the same lock; waits for one that does. A process that died while it
 * held it holds nobody up.
 * @param lock path of a file that stands there meanwhile
 * @param waiting told once where it has to be waited for
 */
export async function alone(lock, work, waiting = () => {}) {
  mkdirSync(path.dirname(lock), { recursive: true })
  for (let told = false; !take(lock); told = true) {
    if (!told) waiting()
    await new Promise((again) => setTimeout(again, AGAIN_MS))
  }
  const release = () => {
    // One that was taken for dead lets go of nothing that is another's.
    if (existsSync(lock) && readFileSync(lock, 'utf8') === String(process.pid)) rmSync(lock, { force: true })
  }
  // A command that fails ends the process on the spot.
  process.once('exit', release)
  try {
    return await work()
  } finally {
    process.off('exit', release)
    release()
  }
}
