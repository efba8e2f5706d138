'use client'

import { memo, useEffect, useState } from 'react'
import styled from 'styled-components'
import { drillTimeline } from '@/core/drill'
import {
  countBy,
  countByInSection,
  danced,
  danceOf,
  type PlacedPhrase,
  phraseAt,
  rename,
  wholeSong,
} from '@/core/routine'
import { clockText, countsText, timeOfTick } from '@/core/time'
import { Button } from '../../parts/button'
import { Pick, Text } from '../../parts/field'
import { More } from '../../parts/more'
import { Part, Tools } from '../../parts/panel'
import { spokenPlace } from '../../sheet/sheet'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import { MarkedPart } from '../marked-part'
import { BeatPart } from './beat-part'
import { type Commands, useCommands, useCount } from './count-store'
import { Do } from './do'
import { HeardPart } from './heard-part'
import { PartsPart, SectionPart } from './section-part'

/** What was heard, and every repair, beside the sheet. */
export function CountPanel({ id, page }: { id: string; page: Page }) {
  const c = useCommands()
  /** Why the last move changed nothing. */
  const said = useCount((s) => s.said)
  const tick = useCursor((s) => s.tick)
  const here = phraseAt(page.placed, tick)
  if (!here)
    return (
      <Part>
        <h2>No counts yet</h2>
        <p>Play the song and tap its beat; everything else follows from that.</p>
        <Tools>
          <Do command={c.tap} strong />
        </Tools>
      </Part>
    )
  return (
    <>
      {said && <Said role="status">{said}</Said>}
      <MarkedPart id={id} page={page} />
      <HeardPart page={page} commands={c} />
      <Part>
        <h2>At the cursor</h2>
        <p>
          {spokenPlace(page, tick)} · {clockText(timeOfTick(page.times, tick), true)}
        </p>
        <Tools>
          <Do command={c.one} strong />
          <Do command={c.oneOn} />
        </Tools>
        <Tools>
          {(['earlier', 'later', 'bar'] as const).map((which) => (
            <Do key={which} command={c[which]} quiet />
          ))}
        </Tools>
        <LengthTool placed={here} commands={c} />
      </Part>
      <BeatPart page={page} commands={c} />
      <SectionPart key={here.section?.id ?? here.index} placed={here} commands={c} />
      <ExcerptPart page={page} commands={c} />
      <PartsPart commands={c} />
      <Part>
        <h2>More</h2>
        <Tools>
          <Do command={c.words} quiet />
          <Do command={c.sound} quiet />
          <Do command={c.files} quiet />
        </Tools>
      </Part>
      <NamePart />
    </>
  )
}

const Said = styled.p`
  padding: 8px 12px;
  border-radius: 10px;
  background: ${desk.amberSoft};
  border: 1.5px solid ${desk.amber};
  font-size: 13.5px;
`

/** Counts of a phrase: two bars, or one. */
const PHRASES = [8, 4, 6, 3, 10, 5, 14, 7].map((n) => ({ id: String(n), name: String(n) }))

/** Where the counts of phrases are set: a metre may change on the way, and back again. */
const WHERE = [
  { id: 'all', name: 'Everywhere' },
  { id: 'on', name: 'From here' },
  { id: 'section', name: 'In section' },
] as const

/** In how many counts is counted, and where: one press, where the metre changes too. */
function MetreTool({ placed }: { placed: PlacedPhrase }) {
  const edit = useRoutine((s) => s.edit)
  const usual = useRoutine((s) => s.routine.usual)
  const [where, setWhere] = useState<(typeof WHERE)[number]['id']>('all')
  const shown = String(where === 'all' ? usual : placed.phrase.length)
  const count = (n: number) => {
    if (where === 'all') edit(`count in ${n}s`, (r) => countBy(r, n, null))
    else if (where === 'on') edit(`count in ${n}s from here`, (r) => countBy(r, n, placed.index))
    else edit(`count in ${n}s in this section`, (r) => countByInSection(r, n, placed.index))
  }
  return (
    <>
      <Pick label="Where" value={where} options={WHERE} onChange={setWhere} />
      <Pick label="Counts of a phrase" value={shown} options={PHRASES} onChange={(n) => count(Number(n))} />
    </>
  )
}

function LengthTool({ placed, commands: c }: { placed: PlacedPhrase; commands: Commands }) {
  const { length, feel } = placed.phrase
  const moved = useCount((s) => s.moved)
  const send = useCount((s) => s.send)
  return (
    <>
      <Tools style={{ alignItems: 'center' }}>
        <span style={{ flex: 1, fontSize: 14 }}>
          This phrase has {countsText(length)}
          {feel === 'triplet' ? ', in triplets' : ''}
        </span>
        <Button
          small
          onPress={c.fewer.run}
          isDisabled={length <= 1}
          aria-label="One count fewer"
          hotkey="fewer"
        >
          −
        </Button>
        <Button
          small
          onPress={c.more.run}
          isDisabled={length >= 32}
          aria-label="One count more"
          hotkey="more"
        >
          +
        </Button>
      </Tools>
      {moved?.phrase === placed.index && moved.length === length && (
        <>
          <p data-testid="moved">
            What follows begins {Math.abs(moved.by) === 1 ? 'a count' : `${Math.abs(moved.by)} counts`}{' '}
            {moved.by > 0 ? 'later' : 'earlier'} in the music.
          </p>
          <Tools>
            <Button
              small
              onPress={() => send({ kind: 'leave next' })}
              tip={
                moved.by > 0
                  ? 'The next phrase gives the counts'
                  : 'The counts left over are a phrase of their own'
              }
            >
              Leave it on its music
            </Button>
          </Tools>
        </>
      )}
      <Tools>
        {([c.split, c.join, c.four, c.feel] as const).map((one) => (
          <Do key={one.id} command={one} quiet />
        ))}
      </Tools>
      <More name="Other metres">
        <MetreTool placed={placed} />
      </More>
    </>
  )
}

function ExcerptPart({ page, commands: c }: { page: Page; commands: Commands }) {
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const dance = danceOf(routine)
  const time = (tick: number) => clockText(timeOfTick(page.times, tick))
  const called =
    page.times.length > 1
      ? drillTimeline(
          { ...page, ...dance, cues: danced(routine).map((q) => q.at) },
          1,
          page.placed[0]?.phrase.feel === 'triplet' ? 3 : 4,
        ).countIn.map((e) => e.call)
      : []
  return (
    <Part>
      <h2>The dance</h2>
      <p>
        {routine.excerpt
          ? `From ${time(dance.from)} to ${time(dance.to)}: ${spokenPlace(page, dance.from)}.`
          : routine.cues.length
            ? `What has cues, from ${time(dance.from)} to ${time(dance.to)}. Set where it begins and ends to say otherwise.`
            : 'The whole song. Set where the dance begins and ends; it may begin before a 1, on 8 or 8&.'}
      </p>
      {called.length > 0 && <p data-testid="counted-in">Counted in: {called.join(' ')}</p>}
      <Tools>
        <Do command={c.begin} />
        <Do command={c.end} />
        {routine.excerpt && (
          <Button small look="quiet" onPress={() => edit('the whole song', wholeSong)}>
            Whole song
          </Button>
        )}
      </Tools>
    </Part>
  )
}

const NamePart = memo(function NamePart() {
  const edit = useRoutine((s) => s.edit)
  const { title, credit } = useRoutine((s) => s.routine)
  const [name, setName] = useState(title)
  const [by, setBy] = useState(credit)
  useEffect(() => setName(title), [title])
  useEffect(() => setBy(credit), [credit])
  const keep = () => {
    const next = { title: name.trim() || title, credit: by.trim() }
    if (next.title === title) setName(title)
    if (next.title !== title || next.credit !== credit)
      edit('rename', (r) => rename(r, next.title, next.credit))
  }
  return (
    <More name="Names">
      <Text label="Routine" value={name} onChange={setName} onBlur={keep} onEnter={keep} />
      <Text label="Song by" value={by} onChange={setBy} onBlur={keep} onEnter={keep} />
    </More>
  )
})
