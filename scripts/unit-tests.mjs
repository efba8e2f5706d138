import { spawnSync } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import { root, run, tool } from './setup.mjs'
import { UNENDED } from './unended.mjs'

/**
 * Runs unit tests; ends this process when one fails. Where nothing failed but a process died before its file had ended (the
 * machine's memory, a crash in a program that is not ours), it is said which, and that file alone is run once more: if it dies
 * again, all is failed.
 * @param args for the runner, after "run"
 */
export function unitTests(args = []) {
  const reporters = ['--reporter=default', '--reporter=./scripts/unended.mjs']
  const done = spawnSync(tool('vitest'), ['run', ...args, ...reporters], { stdio: 'inherit', cwd: root })
  if (done.status === 0) return
  if (!existsSync(UNENDED)) process.exit(done.status ?? 1)
  for (const { project, file } of JSON.parse(readFileSync(UNENDED, 'utf8'))) {
    console.log(`\nThe process of ${file} (${project}) died before it had ended. Once more:`)
    run(tool('vitest'), ['run', '--project', project, file])
  }
}
