/* npm start: Azalea with the data that is there. */
import { build, install, serve, staticFiles } from './setup.mjs'

install()
await staticFiles()
build()
await serve()
