/* npm run account -- …: accounts of a school that is served from this machine. */
import { installQuietly, run, tool } from './setup.mjs'

const here = process.env.INIT_CWD
await installQuietly()
run(tool('tsx'), ['--tsconfig', 'tsconfig.json', 'cli/account.ts', ...process.argv.slice(2)], {
  env: { ...process.env, AZALEA_CWD: here ?? process.cwd() },
})
