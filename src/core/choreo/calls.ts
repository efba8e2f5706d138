import {
  type Cue,
  callOf,
  cueText,
  type Mark,
  mirrorText,
  type PlacedPhrase,
  type Routine,
  tickNear,
} from '../routine'
import { TICKS_PER_COUNT, type Ticks, type Times } from '../time'

/** What a routine's caller says: words by place, and whether numbers are left out where no word stands. */
export interface Calls {
  words: Map<Ticks, string>
  wordsOnly: boolean
}

/**
 * The words of a caller. `words`: each cue's call, or its move with its side; `lyric`: the words sung; `mix`: a cue's
 * call where one was written, numbers elsewhere; `numbers`: none. Told ahead, a word stands on the last whole count
 * that lies a count or more before its cue.
 * @param cues what is danced, in order of place, feet first
 */
export function callsOf(
  routine: Pick<Routine, 'called' | 'calledAhead'>,
  cues: readonly Cue[],
  marks: readonly Mark[],
  times: Times,
  placed: readonly PlacedPhrase[],
  mirrored: boolean,
): Calls {
  const words = new Map<Ticks, string>()
  const { called } = routine
  if (called === 'lyric' && times.length > 1)
    for (const m of marks) if (m.kind === 'lyric') words.set(tickNear(times, placed, m.at), m.text)
  if (called === 'words' || called === 'mix')
    for (const c of cues) {
      // Told a count before it is danced, on that count.
      const at = routine.calledAhead ? (Math.floor(c.at / TICKS_PER_COUNT) - 1) * TICKS_PER_COUNT : c.at
      if (words.has(at) || (called === 'mix' && !c.call)) continue
      words.set(at, c.call ? (mirrored ? mirrorText(callOf(c)) : callOf(c)) : cueText(c, mirrored))
    }
  return { words, wordsOnly: called === 'words' || called === 'lyric' }
}
