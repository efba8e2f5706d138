/* npm run -s takes -- FILM SONG: standard output carries the JSON object only. */
import { installQuietly, run, tool } from './setup.mjs'

const here = process.env.INIT_CWD
await installQuietly()
run(tool('tsx'), ['--tsconfig', 'tsconfig.json', 'cli/takes.ts', ...process.argv.slice(2)], {
  env: { ...process.env, AZALEA_CWD: here ?? process.cwd() },
})
