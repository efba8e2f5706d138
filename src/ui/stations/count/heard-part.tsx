'use client'

import { nanoid } from 'nanoid'
import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { gapsIn } from '@/core/grid'
import type { Hearing } from '@/core/hear'
import { wordsFor } from '@/core/hear'
import { phraseAt, type Section, type SectionKind, takeSection } from '@/core/routine'
import { clockText, TICKS_PER_COUNT } from '@/core/time'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { Progress } from '../../parts/progress'
import { doubtOf } from '../../sheet/doubt'
import { type Page, useSong } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import { CountsAlone, Tempo } from './beat-part'
import type { Commands } from './count-store'
import { OtherWays } from './other-ways'

const Guesses = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
  font-size: 13.5px;
  li { display: grid; grid-template-columns: 18px minmax(0, 1fr) auto; gap: 4px; align-items: start; }
  p { overflow-wrap: anywhere; }
  span { display: block; color: ${desk.quiet}; font-size: 12.5px; }
`

const BAR_WORDS: Record<Hearing['bar'], string> = { 3: 'three', 4: 'four', 5: 'five', 7: 'seven' }

/** In which bars it was heard, where they are not of four, or change. */
function metreWords({ bar, metres, beats }: Hearing): string {
  if (metres.length) {
    const each = metres.map((m) => `${BAR_WORDS[m.bar]} from ${clockText(beats[m.beat] ?? 0)}`)
    return ` Its bars change: of ${each.join(', of ')}.`
  }
  return bar === 4 ? '' : ` Bars of ${BAR_WORDS[bar]}.`
}

/** The tempo, or those that follow each other where songs were cut together. */
function HeardTempo({ page: { times, tempo, tempi }, steady }: { page: Page; steady: boolean }) {
  const gaps = useMemo(() => gapsIn(times), [times])
  if (!tempi.length)
    return (
      <>
        <Tempo>{tempo.toFixed(1)}</Tempo> BPM, {steady || gaps ? 'steady' : 'moving'}
        {!!gaps?.length && `, with a jump at ${gaps.map((t) => clockText(t)).join(', ')}`}.
      </>
    )
  const changes = tempi.slice(1).map(({ from }) => clockText(from))
  return (
    <>
      <Tempo>{tempi.map(({ bpm }) => bpm.toFixed(0)).join(' → ')}</Tempo> BPM, changing at{' '}
      {changes.join(', ')}.
    </>
  )
}

/** What was heard, how sure, what else it could be, and the repairs of the whole grid. */
export function HeardPart({ page, commands: c }: { page: Page; commands: Commands }) {
  const { heard, hearAgain, hearingAgain, stopHearing } = useSong()
  const repairs = useRoutine((s) => s.routine.repairs.length)
  const isAlone = useRoutine((s) => s.routine.combination)
  const h = heard?.hearing
  if (isAlone) return <CountsAlone page={page} />
  const doubts = h && !page.renumbered ? page.placed.filter((p) => doubtOf(h, p)).length : 0
  return (
    <Part>
      <h2>What was heard</h2>
      <p>
        <HeardTempo page={page} steady={h?.steady ?? false} />
        {h && h.beats.length > 0 && (
          <>
            {' '}
            The beat: {wordsFor(h.confidence.beats)}. The 1: {wordsFor(h.confidence.one)}.{metreWords(h)}
            {repairs > 0 && ` ${repairs} ${repairs === 1 ? 'repair' : 'repairs'} by hand.`}
          </>
        )}
      </p>
      <OtherWays page={page} commands={c} />
      <Tools>
        {doubts > 0 && (
          <Button small onPress={c.doubt.run} tip={c.doubt.tip} hotkey={c.doubt.id}>
            Next doubtful place ({doubts})
          </Button>
        )}
        {hearAgain && hearingAgain === null && repairs === 0 && (
          <Button
            small
            onPress={hearAgain}
            tip="Azalea hears better than when this song came in. Your repairs stay."
          >
            Hear again
          </Button>
        )}
      </Tools>
      {hearingAgain !== null && (
        <>
          <Progress label="Hearing again" share={hearingAgain} />
          <Button small onPress={stopHearing}>
            Stop
          </Button>
        </>
      )}
      <HeardSections page={page} />
    </Part>
  )
}

/** What of a hearing is one guess: everything of one letter that was taken for the same. */
interface Guess {
  letter: string
  kind: SectionKind
  why: string
  counts: number[]
}

/** Guesses that say something and are not taken yet: what is only a part, and what is named, is left out. */
function guessesOf(page: Page, sections: readonly Section[], heard: Hearing['sections']): Guess[] {
  const out: Guess[] = []
  for (const { beat, letter, kind, why } of heard) {
    const row = phraseAt(page.placed, beat * TICKS_PER_COUNT)
    const there = sections.find((s) => s.at === row?.start)
    if (kind === 'part' || (there && (there.name || there.kind !== 'part'))) continue
    const same = out.find((g) => g.letter === letter && g.kind === kind)
    if (same) same.counts.push(beat)
    else out.push({ letter, kind, why, counts: [beat] })
  }
  return out
}

/** What the stretches of the song were taken for; each guess is taken over with one press, or all of them. */
function HeardSections({ page }: { page: Page }) {
  const { heard } = useSong()
  const edit = useRoutine((s) => s.edit)
  const sections = useRoutine((s) => s.routine.sections)
  const [ignored, setIgnored] = useState(false)
  const h = heard?.hearing
  if (!h || ignored || page.renumbered) return null
  const guesses = guessesOf(page, sections, h.sections)
  if (!guesses.length) return null
  const proposed = (list: readonly Guess[]) =>
    list.flatMap(({ counts, letter, kind }) => counts.map((count) => ({ count, letter, kind })))
  const take = (list: readonly Guess[], did: string) =>
    edit(did, (r) => takeSection(r, proposed(list), nanoid))
  return (
    <>
      <h3>Sections, a guess</h3>
      <Guesses>
        {guesses.map((g) => (
          <li key={`${g.letter} ${g.kind} ${g.counts[0]}`}>
            <b>{g.letter}</b>
            <p>
              {g.kind}, {g.counts.map((c) => clockText(page.times[c] ?? 0)).join(', ')}
              {g.why && <span>{g.why}</span>}
            </p>
            <Button
              small
              look="quiet"
              onPress={() => take([g], `${g.kind} as heard`)}
              aria-label={`Take: ${g.letter} is ${g.kind}`}
              tip="Names what begins there; undo takes it back"
            >
              Take
            </Button>
          </li>
        ))}
      </Guesses>
      <Tools>
        <Button
          small
          onPress={() => take(guesses, 'take over the sections heard')}
          tip="Names the sections like this; undo takes it back"
        >
          Take over all
        </Button>
        <Button small look="quiet" onPress={() => setIgnored(true)}>
          Not now
        </Button>
      </Tools>
    </>
  )
}
