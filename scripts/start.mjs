/* npm start: Azalea with the data that is there. */
import { serve, setUp } from './setup.mjs'

await setUp()
await serve()
