import { spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import path from 'node:path'
import { build } from 'esbuild'
import { afterAll, beforeAll } from 'vitest'

/** How a program of the command line ended, and what it wrote. */
export interface Ended {
  status: number | null
  stdout: string
  stderr: string
}

const run = (...args: string[]): Ended => spawnSync(process.execPath, args, { encoding: 'utf8' })

/** A program of `cli`, as `npm run` begins it: its source is read anew each time. */
export const asWritten = (name: string, ...args: string[]): Ended =>
  run('--import', 'tsx', `cli/${name}.ts`, ...args)

/**
 * A program of `cli` in one file, made before the tests of a file begin: reading its source takes longer than most of what it is
 * tried with.
 */
export function bundled(name: string): (...args: string[]) => Ended {
  let dir = ''
  beforeAll(async () => {
    mkdirSync('.cache', { recursive: true })
    // Within the project: what is not bundled is looked for from there.
    dir = mkdtempSync(path.join('.cache', `cli-${name}-`))
    await build({
      entryPoints: [`cli/${name}.ts`],
      outfile: path.join(dir, `${name}.mjs`),
      ...{ bundle: true, platform: 'node', format: 'esm', packages: 'external', logLevel: 'warning' },
      alias: { '@': './src' },
    })
  })
  afterAll(() => rmSync(dir, { recursive: true, force: true }))
  return (...args) => run(path.join(dir, `${name}.mjs`), ...args)
}
