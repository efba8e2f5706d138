/* Looks at a film in a process of its own: node film.mjs FILE [silent]. Whatever a file does to its reader, it does it here, and its bounds
   end it (scripts/bounds.mjs). Prints one line of JSON: what it is, or why it is none. */
import { FilePathSource } from 'mediabunny'
import { lookAtFilm } from '../decode/film'

process.stdout.write(
  JSON.stringify(await lookAtFilm(new FilePathSource(process.argv[2] ?? ''), process.argv[3] === 'silent')),
)
process.exit(0)
