/*
 * npm run attack:cases -- TIMES FILES: property tests with cases nobody tried, TIMES as many as a run of all tests has (20 unless
 * said), one file after the other. FILES are parts of their names; all unless said.
 */
import { spawnSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'

const [times = '20', ...wanted] = process.argv.slice(2)
const files = ['src', 'scripts', 'bench']
  .flatMap((dir) => readdirSync(dir, { recursive: true, encoding: 'utf8' }).map((f) => path.join(dir, f)))
  .filter((f) => /\.test\.tsx?$/.test(f) && (!wanted.length || wanted.some((w) => f.includes(w))))
  .filter((f) => readFileSync(f, 'utf8').includes("from 'fast-check'"))
const failed: string[] = []
for (const file of files.sort()) {
  const began = Date.now()
  const { status, stdout } = spawnSync(
    'npx',
    [
      'vitest',
      'run',
      '--project',
      'core',
      '--project',
      'here',
      '--project',
      'server',
      '--testTimeout',
      '7200000',
      file,
    ],
    { env: { ...process.env, AZALEA_CASES: times, NO_COLOR: '1' }, encoding: 'utf8' },
  )
  console.log(`${status === 0 ? 'held' : 'FAILED'}  ${file}  ${((Date.now() - began) / 1000).toFixed(0)} s`)
  if (status !== 0) {
    failed.push(file)
    console.log(stdout)
  }
}
console.log(`${files.length} files, ${failed.length} failed${failed.map((f) => `\n  ${f}`).join('')}`)
process.exit(failed.length || !files.length ? 1 : 0)
