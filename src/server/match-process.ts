/* Looks for a song in a film in a process of its own: node match.mjs FILM SONG, each the path of a file or an address. Whatever a file does to
   its decoder, it does it here, and its bounds end it (scripts/bounds.mjs). Prints lines of JSON: how far it is, then the takes, or why not. */
import { wordsOf } from '../core/formats/said'
import { findTakesAtAnySpeed, type Trace, traceLine } from '../core/match'
import { withPlace } from '../decode/file'
import { soundIn } from '../decode/film-sound'
import { LARGEST_FILM, LONGEST_FILM } from './settings'
import { say, tellingShare } from './telling'

/** Of the whole work, reading the song and the film take so much. */
const [SONG, FILM] = [0.1, 0.5]

/** How a file sounds from its very beginning. @throws Error in words */
const traceIn = (place: string, progress: (share: number) => void): Promise<Trace> =>
  withPlace(place, LARGEST_FILM, async (source) => {
    let made: ReturnType<typeof traceLine> | null = null
    for await (const piece of soundIn(source)) {
      if (piece.at > LONGEST_FILM) throw new Error(`longer than ${LONGEST_FILM / 3600} hours`)
      made ??= traceLine(piece.rate)
      made.line.lay(piece)
      progress(piece.share)
    }
    if (!made) throw new Error('no sound in this file')
    return made.maker.finish()
  })

async function match(film: string, song: string): Promise<object> {
  const tell = tellingShare()
  try {
    const known = await traceIn(song, (x) => tell(SONG * x))
    const seen = await traceIn(film, (x) => tell(SONG + FILM * x))
    return {
      takes: findTakesAtAnySpeed(known, seen, (x) => tell(SONG + FILM + (1 - SONG - FILM) * x)),
    }
  } catch (error) {
    return { problem: wordsOf(error) }
  }
}

await say(await match(process.argv[2] ?? '', process.argv[3] ?? ''))
process.exit(0)
