'use client'

import { nanoid } from 'nanoid'
import { useEffect, useState } from 'react'
import styled from 'styled-components'
import {
  beginSection,
  excerptOf,
  nextLetter,
  oneChoices,
  type PlacedPhrase,
  phraseAt,
  placePhrases,
  removeSection,
  SECTION_KINDS,
  type SectionKind,
  setPhraseLength,
  tempoChoices,
} from '@/core/routine'
import { clockText, TICKS_PER_COUNT, timeOfTick } from '@/core/time'
import { Button } from '../../parts/button'
import { Choice, Text } from '../../parts/field'
import { spokenPlace } from '../../sheet/sheet'
import { useCursor } from '../../state/cursor'
import { type Page, useSong } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import { Part, Tools } from '../frame'

/** What the Count station can do to the page, each one undo step. */
export interface CountActions {
  double: () => void
  halve: () => void
  one: () => void
  oneOn: () => void
  earlier: () => void
  later: () => void
  nudge: (ms: number) => void
  begin: () => void
  end: () => void
  whole: () => void
}

const Big = styled.div`
  display: flex;
  align-items: baseline;
  gap: 8px;
  strong { font-size: 26px; line-height: 1.1; }
  span { color: ${desk.quiet}; font-size: 13.5px; }
`

const Likely = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
  li { display: flex; align-items: center; gap: 8px; }
  li i { height: 6px; border-radius: 3px; background: ${desk.quiet}; margin-left: auto; }
  li span { font-size: 12.5px; color: ${desk.quiet}; min-width: 34px; text-align: right; }
`

/** In words, how far to trust something heard. */
function sureOf(share: number): string {
  if (share >= 0.85) return 'sure'
  if (share >= 0.6) return 'fairly sure'
  return share >= 0.4 ? 'a guess, check it' : 'uncertain, check it'
}

/** What was heard, and every repair, beside the sheet. */
export function CountPanel({ page, actions }: { page: Page; actions: CountActions }) {
  const tick = useCursor((s) => s.tick)
  const here = phraseAt(page.placed, tick)
  if (!here) return <p>No counts yet.</p>
  return (
    <>
      <HeardPart page={page} actions={actions} />
      <Part>
        <h2>At the cursor</h2>
        <p>
          {spokenPlace(page, tick)} · {clockText(timeOfTick(page.times, tick), true)}
        </p>
        <Tools>
          <Button
            look="strong"
            onPress={actions.one}
            tip="Moves every eight so that a 1 falls here. Cues stay on their sound."
            hotkey="1"
          >
            This is the 1
          </Button>
          <Button
            onPress={actions.oneOn}
            tip="The phrase is cut here and eights go on from this count; what is before stays."
            hotkey="shift 1"
          >
            From here on
          </Button>
        </Tools>
        <LengthTool placed={here} />
      </Part>
      <SectionPart key={here.section?.id ?? here.phrase.id} placed={here} />
      <ExcerptPart page={page} actions={actions} />
      <NamePart />
    </>
  )
}

function HeardPart({ page, actions }: { page: Page; actions: CountActions }) {
  const { heard } = useSong()
  const h = heard?.hearing
  return (
    <Part>
      <h2>What was heard</h2>
      <Big>
        <strong>{page.tempo.toFixed(1)}</strong> <span>BPM, {h?.steady ? 'steady' : 'moving'}</span>
      </Big>
      {h && (
        <p>
          The beat: {sureOf(h.confidence.beats)}. The 1: {sureOf(h.confidence.one)}.
        </p>
      )}
      <Choices />
      <Tools>
        <Button small onPress={actions.double} tip="Heard too slow: twice as many counts" hotkey="X">
          × 2
        </Button>
        <Button small onPress={actions.halve} tip="Heard too fast: every second count" hotkey="H">
          ÷ 2
        </Button>
        <Button small onPress={actions.earlier} tip="Every 1 moves one count earlier" hotkey=",">
          ‹ count
        </Button>
        <Button small onPress={actions.later} tip="Every 1 moves one count later" hotkey=".">
          count ›
        </Button>
        <Button small onPress={() => actions.nudge(-10)} tip="The whole grid 10 ms earlier" hotkey="alt ,">
          − 10 ms
        </Button>
        <Button small onPress={() => actions.nudge(10)} tip="The whole grid 10 ms later" hotkey="alt .">
          + 10 ms
        </Button>
      </Tools>
    </Part>
  )
}

/** What else was likely, each taken with one press; gone once the person has begun to repair. */
function Choices() {
  const { heard } = useSong()
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const h = heard?.hearing
  if (!h || routine.repairs.length) return null
  const first = placePhrases(routine).find((p) => !p.phrase.pickUp)
  const asHeard = first?.start === (h.phrases[0] ?? 0) * TICKS_PER_COUNT
  const list = [...tempoChoices(h.beats, h.tempi), ...(asHeard ? oneChoices(h.ones) : [])]
  if (!list.length) return null
  return (
    <>
      <h3>Also likely</h3>
      <Likely>
        {list.map(({ name, weight, change }) => (
          <li key={name}>
            <Button
              small
              onPress={() => edit(name.toLowerCase(), (r) => change(r, nanoid))}
              tip="Take this instead; undo brings back what was heard"
            >
              {name}
            </Button>
            <i style={{ width: `${Math.round(60 * weight)}px` }} aria-hidden />
            <span>{Math.round(100 * weight)} %</span>
          </li>
        ))}
      </Likely>
    </>
  )
}

function LengthTool({ placed }: { placed: PlacedPhrase }) {
  const edit = useRoutine((s) => s.edit)
  const set = (length: number) =>
    edit(`a phrase of ${length}`, (r) => setPhraseLength(r, placed.phrase.id, length, nanoid))
  const { length } = placed.phrase
  return (
    <Tools style={{ alignItems: 'center' }}>
      <span style={{ flex: 1, fontSize: 14 }}>This phrase has {length} counts</span>
      <Button small onPress={() => set(length - 1)} isDisabled={length <= 1} aria-label="One count fewer">
        −
      </Button>
      <Button small onPress={() => set(length + 1)} isDisabled={length >= 32} aria-label="One count more">
        +
      </Button>
    </Tools>
  )
}

const KIND_OPTIONS = SECTION_KINDS.map((id) => ({ id, name: id }))

function SectionPart({ placed }: { placed: PlacedPhrase }) {
  const edit = useRoutine((s) => s.edit)
  const sections = useRoutine((s) => s.routine.sections)
  const { section, phrase } = placed
  const begins = section?.phrase === phrase.id
  const [name, setName] = useState(section?.name ?? '')
  useEffect(() => setName(section?.name ?? ''), [section?.name])
  const change = (what: { name?: string; kind?: SectionKind }) => {
    if (!section) return
    const next = { name: section.name, kind: section.kind, letter: section.letter, ...what }
    edit('name the section', (r) => beginSection(r, section.phrase, next, nanoid))
  }
  const keepName = () => {
    if (section && name.trim() !== section.name) change({ name: name.trim() })
  }
  const begin = () =>
    edit('begin a section', (r) =>
      beginSection(r, phrase.id, { name: '', kind: 'part', letter: nextLetter(r.sections) }, nanoid),
    )
  return (
    <Part>
      <h2>Section</h2>
      {section && (
        <>
          <Choice
            label="Kind"
            value={section.kind}
            options={KIND_OPTIONS}
            onChange={(kind) => change({ kind })}
          />
          <Text
            label="Own name"
            value={name}
            onChange={setName}
            onBlur={keepName}
            onEnter={keepName}
            placeholder={section.kind}
          />
        </>
      )}
      <Tools>
        {!begins && (
          <Button small onPress={begin}>
            Begin a section at this phrase
          </Button>
        )}
        {begins && section && section !== sections[0] && (
          <Button small onPress={() => edit('join the section before', (r) => removeSection(r, section.id))}>
            Join with the one before
          </Button>
        )}
      </Tools>
    </Part>
  )
}

function ExcerptPart({ page, actions }: { page: Page; actions: CountActions }) {
  const routine = useRoutine((s) => s.routine)
  const { start, end } = excerptOf(routine)
  const time = (tick: number) => clockText(timeOfTick(page.times, tick))
  return (
    <Part>
      <h2>The dance</h2>
      <p>
        {routine.excerpt
          ? `From ${time(start)} to ${time(end)}: ${spokenPlace(page, start)}.`
          : 'The whole song. Set where the dance begins and ends; it may begin before a 1, on 8 or 8&.'}
      </p>
      <Tools>
        <Button small onPress={actions.begin} tip="The dance begins at the cursor" hotkey="B">
          Begins here
        </Button>
        <Button small onPress={actions.end} tip="The dance ends with the count at the cursor" hotkey="E">
          Ends here
        </Button>
        {routine.excerpt && (
          <Button small look="quiet" onPress={actions.whole}>
            Whole song
          </Button>
        )}
      </Tools>
    </Part>
  )
}

function NamePart() {
  const edit = useRoutine((s) => s.edit)
  const { title, credit } = useRoutine((s) => s.routine)
  const [name, setName] = useState(title)
  const [by, setBy] = useState(credit)
  useEffect(() => setName(title), [title])
  useEffect(() => setBy(credit), [credit])
  const keep = () => {
    const next = { title: name.trim() || title, credit: by.trim() }
    if (next.title === title) setName(title)
    if (next.title !== title || next.credit !== credit) edit('rename', (r) => ({ ...r, ...next }))
  }
  return (
    <Part>
      <h2>Names</h2>
      <Text label="Routine" value={name} onChange={setName} onBlur={keep} onEnter={keep} />
      <Text label="Song by" value={by} onChange={setBy} onBlur={keep} onEnter={keep} />
    </Part>
  )
}
