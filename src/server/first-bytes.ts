import { id3Length, kindOf, LOOKED_THROUGH } from '../decode/kinds'
import type { Problem } from './problem'

/** A picture of a song is a few megabytes; what takes more is padding, or nobody's song. */
export const LONGEST_TAG = 64_000_000

/** What is refused by its first bytes. */
export interface Refused {
  notSound: () => Problem
  longTag: (bytes: number) => Problem
}

/** Bytes of the tags a file begins with, as far as they can be seen; null while more has to come. */
function tagsAt(head: Uint8Array, whole: boolean): number | null {
  let at = 0
  for (;;) {
    if (head.length < at + 10 && !whole) return at > LONGEST_TAG ? at : null
    const more = id3Length(head.subarray(at, at + 10))
    if (!more) return at
    at += more
    // Where it goes on lies beyond what is looked through.
    if (at > LOOKED_THROUGH) return at
  }
}

/**
 * The same bytes, as long as their beginning may be that of a sound file: what is none is refused while it comes in, not
 * when all 200 MB of it are here.
 * @throws Problem as given
 */
export async function* soundSoFar(
  source: AsyncIterable<Uint8Array>,
  refused: Refused,
): AsyncGenerator<Uint8Array> {
  let held: Uint8Array[] = []
  let holds = 0
  let known = false
  const look = (whole: boolean) => {
    const head = held.length === 1 ? (held[0] as Uint8Array) : Buffer.concat(held)
    const tags = tagsAt(head, whole)
    if (tags === null) return
    if (tags > LONGEST_TAG) throw refused.longTag(tags)
    if (tags > LOOKED_THROUGH) known = true
    else if (holds >= tags + LOOKED_THROUGH) {
      if (!kindOf(head.subarray(tags, tags + LOOKED_THROUGH))) throw refused.notSound()
      known = true
    }
  }
  for await (const chunk of source) {
    if (known) yield chunk
    else {
      held.push(chunk)
      holds += chunk.byteLength
      look(false)
      if (known) {
        yield* held
        held = []
      }
    }
  }
  // What is this short is looked at as a whole, once it is here.
  if (!known) yield* held
}
