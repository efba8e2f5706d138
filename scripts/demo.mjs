/* npm run demo: everything from a fresh clone to a running Azalea with demo data. */
import { run, serve, settingUp, setUp, tool } from './setup.mjs'

await setUp()
await settingUp(
  () => run(tool('tsx'), ['demo/seed.ts']),
  () => false,
)
await serve()
