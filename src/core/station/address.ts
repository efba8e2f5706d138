import { type PlacedPhrase, Refused, readStretch, tickName } from '../routine'
import type { Ticks } from '../time'

/* A place of the page as an address names it: "#Chorus,+eight+2,+5", in the words in which it is read everywhere. */

/** What stands behind a page's address for a place of it. */
export const hashOf = (placed: readonly PlacedPhrase[], tick: Ticks): string =>
  `#${encodeURIComponent(tickName(placed, tick)).replaceAll('%20', '+').replaceAll('%2C', ',')}`

/** The place an address names; null where it names none of this page, or none at all. */
export function tickOfHash(placed: readonly PlacedPhrase[], hash: string): Ticks | null {
  try {
    const words = decodeURIComponent(hash.slice(1).replaceAll('+', ' '))
    return words ? readStretch(placed, words, null).from : null
  } catch (e) {
    // Addresses are typed, cut off and kept over changes of the page.
    if (e instanceof Refused || e instanceof URIError) return null
    throw e
  }
}
