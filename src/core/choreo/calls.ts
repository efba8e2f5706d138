import {
  type CalledVoice,
  type Cue,
  callOf,
  cueText,
  mirrorText,
  type PlacedPhrase,
  type Routine,
  type SongMark,
  sidesApart,
  tickNear,
} from '../routine'
import { TICKS_PER_COUNT, type Ticks, type Times } from '../time'

/** A word that is called, and the place of what it is called for. */
export interface Call {
  word: string
  /** The cue it announces; told ahead, it lies after the word. */
  of: Ticks
}

/** What a routine's caller says: words by place, and whether numbers are left out where no word stands. */
export interface Calls {
  words: Map<Ticks, Call>
  wordsOnly: boolean
  /** Recorded calls; over their counts nothing else is called. */
  voices?: readonly CalledVoice[]
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
  marks: readonly SongMark[],
  times: Times,
  placed: readonly PlacedPhrase[],
  mirrored: boolean,
): Calls {
  const words = new Map<Ticks, Call>()
  /** Which cue a word is of, and the arms it says already. */
  const said = new Map<Ticks, Cue>()
  const { called } = routine
  if (called === 'lyric' && times.length > 1)
    for (const m of marks) {
      const at = tickNear(times, placed, m.at)
      if (m.kind === 'lyric') words.set(at, { word: m.text, of: at })
    }
  if (called === 'words' || called === 'mix')
    for (const c of cues) {
      // Told a count before it is danced, on that count.
      const at = routine.calledAhead ? (Math.floor(c.at / TICKS_PER_COUNT) - 1) * TICKS_PER_COUNT : c.at
      if (called === 'mix' && !c.call) continue
      const word = c.call ? (mirrored ? mirrorText(callOf(c)) : callOf(c)) : cueText(c, mirrored)
      const [before, first] = [words.get(at), said.get(at)]
      // What the two arms do at one time is called in one breath; of other layers the first is.
      const both = first && first.at === c.at && first.layer === c.layer && sidesApart(c.layer)
      if (before && !(both && first.side !== c.side)) continue
      words.set(at, { word: before ? `${before.word}, ${word}` : word, of: c.at })
      said.set(at, c)
    }
  return { words, wordsOnly: called === 'words' || called === 'lyric' }
}
