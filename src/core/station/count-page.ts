import {
  addMarks,
  beginPart,
  danced,
  type Edit,
  type Edited,
  insertPhrase,
  joinPhrase,
  moveSectionByCounts,
  newSection,
  nextPartName,
  oneFromHere,
  oneHere,
  phraseAt,
  type Routine,
  setExcerpt,
  setFeel,
  setPhraseLength,
  shiftPhrases,
  splitPhrase,
} from '../routine'
import { TICKS_PER_COUNT, type Ticks, timeOfTick } from '../time'
import type { CountSeen } from './count-seen'

/** What the Count station does to the 1, to phrases, sections and parts at the cursor. */
export type PageWork =
  | 'one'
  | 'oneOn'
  | 'earlier'
  | 'later'
  | 'bar'
  | 'fewer'
  | 'more'
  | 'split'
  | 'join'
  | 'four'
  | 'feel'
  | 'section'
  | 'begin'
  | 'end'
  | 'sectionEarlier'
  | 'sectionLater'
  | 'part'
  | 'sound'

interface Wanted {
  did: string
  change: Edit
  /** The id of what is made and waits for its name. */
  names?: string
}

/** Sets where the dance begins or ends, and says how many cues lie outside it then. */
function excerptSaid(routine: Routine, edge: 'start' | 'end', tick: Ticks): Edited<Routine> {
  const next = setExcerpt(routine, edge, tick)
  const excerpt = next.excerpt
  const out = excerpt
    ? danced(next).filter((c) => (edge === 'start' ? c.at < excerpt.from : c.at >= excerpt.to)).length
    : 0
  const where = edge === 'start' ? 'before it' : 'after it'
  const stand = out === 1 ? `A cue stands ${where}: it is` : `${out} cues stand ${where}: they are`
  return { routine: next, said: out ? [`${stand} not danced.`] : [] }
}

/** Another length for a phrase, and what comes off its music by it. */
function lengthSaid(routine: Routine, index: number, length: number): Edited<Routine> {
  const next = setPhraseLength(routine, index, length)
  const by = length - (routine.phrases[index]?.length ?? 0)
  const after = next.phrases.length - 1 - index
  if (next === routine || after < 1) return { routine: next, said: [] }
  const counts = Math.abs(by) === 1 ? 'a count' : `${Math.abs(by)} counts`
  const follow = after === 1 ? 'The phrase after it begins' : `The ${after} phrases after it begin`
  return { routine: next, said: [`${follow} ${counts} ${by > 0 ? 'later' : 'earlier'} in the music now.`] }
}

/**
 * What follows a phrase that was made shorter or longer goes back to its music: the counts that were left over are a phrase of
 * their own, or they are taken from the phrase after it.
 * @param by how many counts longer the phrase was made, shorter below zero
 * @throws Refused where the phrase after it has no counts to give
 */
function leaveNext(routine: Routine, index: number, by: number): Routine {
  if (by < 0) return insertPhrase(routine, index + 1, -by)
  return setPhraseLength(routine, index + 1, (routine.phrases[index + 1]?.length ?? 0) - by)
}

/** The edit that leaves what follows on its music. */
export const leavingNext = ({ phrase, by }: { phrase: number; by: number }): Wanted => ({
  did: 'what follows stays on its music',
  change: (r) => leaveNext(r, phrase, by),
})

/** The edit a command asks for at the cursor. */
export function pageEdit(work: PageWork, tick: Ticks, seen: CountSeen): Wanted {
  const { placed, times, newId } = seen
  const count = Math.floor(tick / TICKS_PER_COUNT)
  const here = phraseAt(placed, tick)
  const phrase = here?.index ?? -1
  const length = here?.phrase.length ?? 0
  const section = here?.section?.id ?? ''
  const wanted = (did: string, change: Edit): Wanted => ({ did, change })
  switch (work) {
    case 'one':
      return wanted('this is the 1', (r) => oneHere(r, count))
    case 'oneOn':
      return wanted('the 1 from here on', (r) => oneFromHere(r, count))
    case 'earlier':
      return wanted('all a count earlier', (r) => shiftPhrases(r, -1))
    case 'later':
      return wanted('all a count later', (r) => shiftPhrases(r, 1))
    case 'bar':
      return wanted('all half a phrase later', (r) => shiftPhrases(r, Math.max(1, r.usual >> 1)))
    case 'fewer':
      return wanted('a count fewer', (r) => lengthSaid(r, phrase, length - 1))
    case 'more':
      return wanted('a count more', (r) => lengthSaid(r, phrase, length + 1))
    case 'split':
      return wanted('split the phrase', (r) => splitPhrase(r, count))
    case 'join':
      return wanted('join two phrases', (r) => joinPhrase(r, phrase))
    case 'four':
      return wanted('4 more counts', (r) => insertPhrase(r, phrase, 4))
    case 'feel': {
      const feel = here?.phrase.feel === 'triplet' ? 'straight' : 'triplet'
      return wanted('change the feel', (r) => setFeel(r, phrase, feel))
    }
    case 'section':
      return wanted('begin a section', (r) => newSection(r, here?.start ?? 0, newId))
    case 'begin':
      return wanted('the excerpt begins', (r) => excerptSaid(r, 'start', tick))
    case 'end':
      return wanted('the excerpt ends', (r) =>
        excerptSaid(r, 'end', tick % TICKS_PER_COUNT ? tick : tick + TICKS_PER_COUNT),
      )
    case 'sectionEarlier':
      return wanted('the section begins a count earlier', (r) => moveSectionByCounts(r, section, -1))
    case 'sectionLater':
      return wanted('the section begins a count later', (r) => moveSectionByCounts(r, section, 1))
    case 'part': {
      const names = newId()
      const begin: Edit = (r) => beginPart(r, tick, nextPartName(r.parts), () => names)
      return { ...wanted('begin a part', begin), names }
    }
    case 'sound': {
      const names = newId()
      const at = timeOfTick(times, seen.playingAt ?? tick)
      const mark: Edit = (r) => addMarks(r, [{ kind: 'sound', at, end: null, text: 'sound' }], () => names)
      return { ...wanted('mark a sound', mark), names }
    }
  }
}
