import { countStills } from '@/core/film'
import { base64Of } from '@/core/formats/base64'
import type { PageStills } from '@/core/handout'
import type { Film } from '@/core/routine'
import type { Stretch, Times } from '@/core/time'
import { filmUrl } from '../state/film-file'
import { Stills } from '../state/stills'

/** Small: sixty-four of them are some two hundred kilobytes. */
const WIDTH = 144

/**
 * Pictures of the counts of a stretch, out of a film, to be put into a hand-out.
 * @param told 0..1
 * @throws DOMException where it was stopped
 */
export async function stillsOf(
  film: Film,
  times: Times,
  stretch: Stretch,
  told: (share: number) => void,
  signal: AbortSignal,
): Promise<PageStills> {
  const stills = new Stills(WIDTH)
  try {
    const wanted = countStills(film, times, stretch).filter((s) => s.film !== null)
    let got = 0
    const pictures = await Promise.all(
      wanted.map(async ({ at, film: seconds }) => {
        const address = await new Promise<string | null>((there) => {
          stills.ask(filmUrl(film.file), seconds ?? 0, there)
        })
        signal.throwIfAborted()
        told(++got / wanted.length)
        const picture = address && (await (await fetch(address)).arrayBuffer())
        return picture ? [[String(at), base64Of(new Uint8Array(picture))] as const] : []
      }),
    )
    return { mirrored: film.mirrored, pictures: Object.fromEntries(pictures.flat()) }
  } finally {
    stills.close()
  }
}
