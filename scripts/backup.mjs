/* npm run backup -- FILE, npm run restore -- FILE: everything Azalea keeps, into one zip and out of it. */
import { installQuietly, run, tool } from './setup.mjs'

const here = process.env.INIT_CWD
await installQuietly()
run(tool('tsx'), ['--tsconfig', 'tsconfig.json', 'cli/backup.ts', ...process.argv.slice(2)], {
  env: { ...process.env, AZALEA_CWD: here ?? process.cwd() },
})
