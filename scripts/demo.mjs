/* npm run demo: everything from a fresh clone to a running Azalea with demo data. */
import { build, install, run, serve, staticFiles, tool } from './setup.mjs'

install()
await staticFiles()
build()
run(tool('tsx'), ['demo/seed.ts'])
await serve()
