/* npm start: Azalea with the data that is there. */
import { build, install, serve, staticFiles } from './setup.mjs'

install()
staticFiles()
build()
await serve()
