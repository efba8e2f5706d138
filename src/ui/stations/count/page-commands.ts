'use client'

import { nanoid } from 'nanoid'
import {
  addMarks,
  beginPart,
  beginSection,
  insertPhrase,
  joinPhrase,
  moveSectionByCounts,
  nextLetter,
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
} from '@/core/routine'
import { TICKS_PER_COUNT, timeOfTick } from '@/core/time'
import { nextDoubt } from '../../sheet/doubt'
import { useCursor } from '../../state/cursor'
import { type Page, useSong } from '../../state/page'
import { usePlayer } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { command } from './command'

/** What the panel can be opened for beside the repairs. */
export type Aside = 'words' | 'files'

/** What the Count station does to the 1, to phrases, sections and parts at the cursor. */
export function usePageCommands(page: Page, open: (aside: Aside) => void) {
  const { heard } = useSong()
  const player = usePlayer()
  const edit = useRoutine((s) => s.edit)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const count = Math.floor(tick / TICKS_PER_COUNT)
  const here = phraseAt(page.placed, tick)
  const phrase = here?.index ?? -1
  const sectionId = here?.section?.id ?? ''
  const onPhrase = (name: string, change: (r: Routine) => Routine) => () => edit(name, change)
  return {
    one: command(
      'The 1',
      'This is the 1',
      '1',
      '1',
      'Moves every eight so that a 1 falls here. Cues stay on their sound.',
      () => edit('this is the 1', (r) => oneHere(r, count)),
    ),
    oneOn: command(
      'The 1',
      'From here on',
      ['Shift+1', '!'],
      'shift 1',
      'The phrase is cut here and eights go on from this count; what is before stays.',
      () => edit('the 1 from here on', (r) => oneFromHere(r, count)),
    ),
    earlier: command('The 1', '‹ count', ',', ',', 'Every 1 moves one count earlier', () =>
      edit('all a count earlier', (r) => shiftPhrases(r, -1)),
    ),
    later: command('The 1', 'count ›', '.', '.', 'Every 1 moves one count later', () =>
      edit('all a count later', (r) => shiftPhrases(r, 1)),
    ),
    bar: command(
      'The 1',
      '½ phrase ›',
      '/',
      '/',
      'Every 1 moves half a phrase later: the bars are right, the pairs are not',
      () => edit('all half a phrase later', (r) => shiftPhrases(r, Math.max(1, r.usual >> 1))),
    ),
    fewer: command(
      'Phrases',
      'One count fewer',
      '[',
      '[',
      'This phrase is one count shorter; what follows moves up',
      onPhrase('a count fewer', (r) => setPhraseLength(r, phrase, (here?.phrase.length ?? 0) - 1)),
    ),
    more: command(
      'Phrases',
      'One count more',
      ']',
      ']',
      'This phrase is one count longer; what follows moves on',
      onPhrase('a count more', (r) => setPhraseLength(r, phrase, (here?.phrase.length ?? 0) + 1)),
    ),
    split: command(
      'Phrases',
      'Split here',
      's',
      'S',
      'A new phrase begins at this count; nothing else moves',
      () => edit('split the phrase', (r) => splitPhrase(r, count)),
    ),
    join: command(
      'Phrases',
      'Join with next',
      'u',
      'U',
      'This phrase and the next become one',
      onPhrase('join two phrases', (r) => joinPhrase(r, phrase)),
    ),
    four: command(
      'Phrases',
      '4 more counts',
      '4',
      '4',
      'A phrase of 4 in front of this one; what follows moves on',
      onPhrase('4 more counts', (r) => insertPhrase(r, phrase, 4)),
    ),
    feel: command(
      'Phrases',
      'Straight / triplet',
      'l',
      'L',
      'Counts of this phrase divide in halves, or in threes',
      onPhrase('change the feel', (r) =>
        setFeel(r, phrase, here?.phrase.feel === 'triplet' ? 'straight' : 'triplet'),
      ),
    ),
    section: command(
      'Sections and dance',
      'Begin a section',
      'a',
      'A',
      'A section begins with this phrase',
      onPhrase('begin a section', (r) =>
        beginSection(r, here?.start ?? 0, { name: '', kind: 'part', letter: nextLetter(r.sections) }, nanoid),
      ),
    ),
    begin: command('Sections and dance', 'Dance begins', 'b', 'B', 'The dance begins at the cursor', () =>
      edit('the excerpt begins', (r) => setExcerpt(r, 'start', tick)),
    ),
    end: command(
      'Sections and dance',
      'Dance ends',
      'e',
      'E',
      'The dance ends with the count at the cursor; on a sub-count, just before it',
      () =>
        edit('the excerpt ends', (r) =>
          setExcerpt(r, 'end', tick % TICKS_PER_COUNT ? tick : tick + TICKS_PER_COUNT),
        ),
    ),
    sectionEarlier: command(
      'Sections and dance',
      '‹ count',
      ['Shift+BracketLeft', '{'],
      'shift [',
      'This section begins a count earlier: the phrase before it is shorter by one',
      () => edit('the section begins a count earlier', (r) => moveSectionByCounts(r, sectionId, -1)),
    ),
    sectionLater: command(
      'Sections and dance',
      'count ›',
      ['Shift+BracketRight', '}'],
      'shift ]',
      'This section begins a count later: the phrase before it is longer by one',
      () => edit('the section begins a count later', (r) => moveSectionByCounts(r, sectionId, 1)),
    ),
    part: command(
      'Sections and dance',
      'Begin a part',
      'Shift+a',
      'shift A',
      'A part of your dance begins at the cursor, whatever the song does there',
      () => edit('begin a part', (r) => beginPart(r, tick, nextPartName(r.parts), nanoid)),
    ),
    sound: command(
      'Sections and dance',
      'Mark a sound',
      'k',
      'K',
      'A mark on the sound at the cursor (or where it plays), to be named in the panel of words and sounds',
      () => {
        const now = player.tickNow(page)
        const at = timeOfTick(page.times, now ?? tick)
        edit('mark a sound', (r) => addMarks(r, [{ kind: 'sound', at, end: null, text: 'sound' }], nanoid))
        open('words')
      },
    ),
    words: command(
      'Sections and dance',
      'Words and sounds',
      'y',
      'Y',
      'Lyric lines and marks on sounds: type, tap in, name, import',
      () => open('words'),
    ),
    files: command(
      'Sections and dance',
      'Grid from and to files',
      'i',
      'I',
      'Brings beats, phrases and sections from a file, or saves them to one',
      () => open('files'),
    ),
    doubt: command(
      'Finding',
      'Next doubtful place',
      'n',
      'N',
      'Goes to the next phrase that should be checked',
      () => {
        const next = nextDoubt(page, heard?.hearing ?? null, tick)
        if (next) to(next.start)
      },
    ),
    mark: command(
      'Sections and dance',
      'Mark counts',
      'q',
      'Q',
      'Begins to mark at the cursor; move to the last count. Marked counts are looped or drilled as they are.',
      () => {
        const { anchor, markFrom, layer } = useCursor.getState()
        markFrom(anchor ? null : { tick, layer })
      },
    ),
  }
}
