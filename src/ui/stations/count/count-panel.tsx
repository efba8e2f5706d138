'use client'

import { nanoid } from 'nanoid'
import { useEffect, useState } from 'react'
import {
  beginSection,
  excerptOf,
  nextLetter,
  type PlacedPhrase,
  phraseAt,
  removeSection,
  SECTION_KINDS,
  type SectionKind,
  setPhraseLength,
} from '@/core/routine'
import { clockText, timeOfTick } from '@/core/time'
import { Button } from '../../parts/button'
import { Choice, Text } from '../../parts/field'
import { spokenPlace } from '../../sheet/sheet'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { Part, Tools } from '../frame'
import { type CountActions, HeardPart } from './heard-part'

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
