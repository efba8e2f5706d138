/* npm run build: packages, programs and the app, ready for npm start. */
import { setUp } from './setup.mjs'

await setUp()
