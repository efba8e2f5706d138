/* npm run dev: Azalea rebuilt as its sources change. */
import { install, run, staticFiles, tool } from './setup.mjs'

install()
await staticFiles()
run(tool('next'), ['dev', '-H', '127.0.0.1'])
