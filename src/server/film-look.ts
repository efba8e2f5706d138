import path from 'node:path'
import * as v from 'valibot'
import { type FilmLook, filmFaultSaid } from '../decode/film'
import { Problem } from './problem'
import { readBounded } from './read-bounded'
import { LONGEST_FILM } from './settings'
import { turns } from './turns'

const codec = v.nullable(v.string())
const Said = v.union([
  v.picklist(['no film', 'no picture', 'no sound', 'broken']),
  v.object({
    ...{
      seconds: v.number(),
      width: v.number(),
      height: v.number(),
      frameRate: v.number(),
      mime: v.string(),
    },
    ...{ video: codec, audio: codec },
  }),
])

/** The list of packets of three hours is read in two seconds of a processor. */
const BOUNDS = { seconds: 30, megabytes: 700 }
/** Of the reader's own objects, in MB. */
const HEAP_MB = 400
const READER = '.made/film.mjs'

const inTurn = turns(1, 50, 'Too many films are being taken in. This one is tried again in a moment.')

/**
 * Looks at a film that came in.
 * @param silent it may be without a sound
 * @param script the reader's program
 * @throws Problem 415 where it is none, 413 where it is too long, 422 where its reader did not come to an end, 503 `busy` where
 *   there is no room for one now
 */
export async function readFilm(
  file: string,
  fileName: string,
  silent = false,
  script = path.resolve(/* turbopackIgnore: true */ READER),
  bounds = BOUNDS,
): Promise<FilmLook> {
  const done = await inTurn(() =>
    readBounded(Said, { script, args: silent ? [file, 'silent'] : [file], bounds, heap: HEAP_MB }),
  )
  if (done.end === 'no room')
    throw new Problem(503, `The machine has no room to look at “${fileName}” now. Try again.`, 'busy')
  if (done.end !== 'well')
    throw new Problem(
      422,
      `“${fileName}” could not be looked at: it takes more time or memory than any film does. Nothing was kept.`,
      done.end,
    )
  if (typeof done.said === 'string') throw new Problem(415, filmFaultSaid(fileName, done.said))
  if (done.said.seconds > LONGEST_FILM)
    throw new Problem(
      413,
      `“${fileName}” is longer than ${LONGEST_FILM / 3600} hours. Nothing was kept. Cut it, and try again.`,
    )
  return done.said
}
