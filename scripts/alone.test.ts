import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, beforeEach, describe, expect, it } from 'vitest'
import { alone } from './alone.mjs'

const home = mkdtempSync(path.join(os.tmpdir(), 'azalea-alone-'))
const lock = path.join(home, 'lock')
beforeEach(() => rmSync(lock, { force: true }))
afterAll(() => rmSync(home, { recursive: true, force: true }))

/** The number of a process that is no more. */
const gone = () => spawnSync(process.execPath, ['-e', '']).pid
const module = new URL('./alone.mjs', import.meta.url).href

describe('what is done by one process at a time', () => {
  it('is waited for, and done one after the other', async () => {
    const done: string[] = []
    let waited = 0
    const work = (name: string) => async () => {
      done.push(`${name} begins`)
      await new Promise((later) => setImmediate(later))
      done.push(`${name} ends`)
    }
    await Promise.all(['a', 'b', 'c'].map((name) => alone(lock, work(name), () => waited++)))
    expect(done).toHaveLength(6)
    for (let k = 0; k < 6; k += 2) expect(done[k + 1]).toBe(done[k]?.replace('begins', 'ends'))
    expect(waited).toBe(2)
    expect(existsSync(lock)).toBe(false)
  })
  it('is let go where it fails, also where that ends the process', async () => {
    const fails = () => Promise.reject(new Error('no disk'))
    await expect(alone(lock, fails)).rejects.toThrow('no disk')
    expect(existsSync(lock)).toBe(false)
    const text = `import(${JSON.stringify(module)}).then((m) => m.alone(${JSON.stringify(lock)}, () => process.exit(3)))`
    expect(spawnSync(process.execPath, ['-e', text]).status).toBe(3)
    expect(existsSync(lock)).toBe(false)
  })
  it('is not held by a process that died, nor by one whose number was given away', async () => {
    writeFileSync(lock, String(gone()))
    expect(await alone(lock, async () => readFileSync(lock, 'utf8'))).toBe(String(process.pid))
    writeFileSync(lock, '1')
    const old = new Date(Date.now() - 2 * 3_600_000)
    utimesSync(lock, old, old)
    expect(await alone(lock, async () => 'done')).toBe('done')
  })
  it('that was taken for dead lets go of nothing that is another’s', async () => {
    await alone(lock, async () => writeFileSync(lock, '1'))
    expect(readFileSync(lock, 'utf8')).toBe('1')
  })
  it('is held by one that lives', async () => {
    writeFileSync(lock, String(process.ppid))
    let told = 0
    const freed = () => {
      told++
      rmSync(lock)
    }
    expect(await alone(lock, async () => 'done', freed)).toBe('done')
    expect(told).toBe(1)
  })
})
