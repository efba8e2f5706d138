'use client'

import { nanoid } from 'nanoid'
import {
  addMarks,
  beginPart,
  beginSection,
  type Edit,
  insertPhrase,
  joinPhrase,
  moveSectionByCounts,
  nextLetter,
  nextPartName,
  oneFromHere,
  oneHere,
  phraseAt,
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
  const onPhrase = (name: string, change: Edit) => () => edit(name, change)
  return {
    one: command('one', () => edit('this is the 1', (r) => oneHere(r, count))),
    oneOn: command('oneOn', () => edit('the 1 from here on', (r) => oneFromHere(r, count))),
    earlier: command('earlier', () => edit('all a count earlier', (r) => shiftPhrases(r, -1))),
    later: command('later', () => edit('all a count later', (r) => shiftPhrases(r, 1))),
    bar: command('bar', () =>
      edit('all half a phrase later', (r) => shiftPhrases(r, Math.max(1, r.usual >> 1))),
    ),
    fewer: command(
      'fewer',
      onPhrase('a count fewer', (r) => setPhraseLength(r, phrase, (here?.phrase.length ?? 0) - 1)),
    ),
    more: command(
      'more',
      onPhrase('a count more', (r) => setPhraseLength(r, phrase, (here?.phrase.length ?? 0) + 1)),
    ),
    split: command('split', () => edit('split the phrase', (r) => splitPhrase(r, count))),
    join: command(
      'join',
      onPhrase('join two phrases', (r) => joinPhrase(r, phrase)),
    ),
    four: command(
      'four',
      onPhrase('4 more counts', (r) => insertPhrase(r, phrase, 4)),
    ),
    feel: command(
      'feel',
      onPhrase('change the feel', (r) =>
        setFeel(r, phrase, here?.phrase.feel === 'triplet' ? 'straight' : 'triplet'),
      ),
    ),
    section: command(
      'section',
      onPhrase('begin a section', (r) =>
        beginSection(r, here?.start ?? 0, { name: '', kind: 'part', letter: nextLetter(r.sections) }, nanoid),
      ),
    ),
    begin: command('begin', () => edit('the excerpt begins', (r) => setExcerpt(r, 'start', tick))),
    end: command('end', () =>
      edit('the excerpt ends', (r) =>
        setExcerpt(r, 'end', tick % TICKS_PER_COUNT ? tick : tick + TICKS_PER_COUNT),
      ),
    ),
    sectionEarlier: command('sectionEarlier', () =>
      edit('the section begins a count earlier', (r) => moveSectionByCounts(r, sectionId, -1)),
    ),
    sectionLater: command('sectionLater', () =>
      edit('the section begins a count later', (r) => moveSectionByCounts(r, sectionId, 1)),
    ),
    part: command('part', () =>
      edit('begin a part', (r) => beginPart(r, tick, nextPartName(r.parts), nanoid)),
    ),
    sound: command('sound', () => {
      const now = player.tickNow(page)
      const at = timeOfTick(page.times, now ?? tick)
      edit('mark a sound', (r) => addMarks(r, [{ kind: 'sound', at, end: null, text: 'sound' }], nanoid))
      open('words')
    }),
    words: command('words', () => open('words')),
    files: command('files', () => open('files')),
    doubt: command('nextLook', () => {
      const next = nextDoubt(page, heard?.hearing ?? null, tick)
      if (next) to(next.start)
    }),
    mark: command('mark', () => {
      const { anchor, markFrom, layer } = useCursor.getState()
      markFrom(anchor ? null : { tick, layer })
    }),
  }
}
