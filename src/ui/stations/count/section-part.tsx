'use client'

import { nanoid } from 'nanoid'
import { memo, useEffect, useState } from 'react'
import {
  beginPart,
  beginSection,
  beginsSection,
  moveSection,
  newSection,
  type PlacedPhrase,
  partAt,
  removePart,
  removeSection,
  SECTION_KINDS,
  type SectionKind,
  sameAsSection,
  sectionTitle,
} from '@/core/routine'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { Text } from '../../parts/field'
import { Part, Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import { useRoutine } from '../../state/routine-store'
import type { Commands } from './count-store'
import { Do } from './do'
import { useNaming } from './use-naming'

/** A phrase of the same section, and as much its beginning: the part beside it says the same. */
function sameSection(
  a: { placed: PlacedPhrase; commands: Commands },
  b: { placed: PlacedPhrase; commands: Commands },
): boolean {
  return (
    a.commands === b.commands && a.placed.section === b.placed.section && a.placed.start === b.placed.start
  )
}

const KIND_OPTIONS = SECTION_KINDS.map((id) => ({ id, name: id }))

/** The section at the cursor: named, likened to another, begun, moved, joined. */
export const SectionPart = memo(function SectionPart({
  placed,
  commands: c,
}: {
  placed: PlacedPhrase
  commands: Commands
}) {
  const edit = useRoutine((s) => s.edit)
  const sections = useRoutine((s) => s.routine.sections)
  const { section } = placed
  const begins = beginsSection(placed)
  const others = sections
    .filter((s) => s.id !== section?.id)
    .map((s) => ({ id: s.id, name: `${s.letter} · ${sectionTitle(s)}` }))
  const [name, setName] = useState(section?.name ?? '')
  useEffect(() => setName(section?.name ?? ''), [section?.name])
  const change = (what: { name?: string; kind?: SectionKind }) => {
    if (!section) return
    const next = { name: section.name, kind: section.kind, letter: section.letter, ...what }
    edit('name the section', (r) => beginSection(r, section.at, next, nanoid))
  }
  const keepName = () => {
    if (section && name.trim() !== section.name) change({ name: name.trim() })
  }
  const begin = () => edit('begin a section', (r) => newSection(r, placed.start, nanoid))
  return (
    <Part>
      <h2>Section</h2>
      {section && (
        <>
          {others.length > 0 && (
            <Choice
              label="Same as"
              value=""
              options={others}
              onChange={(model) =>
                edit('same as another section', (r) => sameAsSection(r, section.id, model))
              }
            />
          )}
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
          <Button small onPress={begin} hotkey="section">
            Begin a section at this phrase
          </Button>
        )}
        {section && section !== sections[0] && (
          <>
            <Button
              small
              look="quiet"
              onPress={() =>
                edit('the section begins a phrase earlier', (r) => moveSection(r, section.id, -1))
              }
              tip="It begins one phrase earlier"
            >
              ‹ phrase
            </Button>
            <Button
              small
              look="quiet"
              onPress={() => edit('the section begins a phrase later', (r) => moveSection(r, section.id, 1))}
              tip="It begins one phrase later"
            >
              phrase ›
            </Button>
            <Do command={c.sectionEarlier} quiet />
            <Do command={c.sectionLater} quiet />
          </>
        )}
        {begins && section && section !== sections[0] && (
          <Button small onPress={() => edit('join the section before', (r) => removeSection(r, section.id))}>
            Join with the one before
          </Button>
        )}
      </Tools>
    </Part>
  )
}, sameSection)

/** The instructor's own parts, beside the song's sections. */
export const PartsPart = memo(function PartsPart({ commands: c }: { commands: Commands }) {
  const edit = useRoutine((s) => s.edit)
  const parts = useRoutine((s) => s.routine.parts)
  const tick = useCursor((s) => s.tick)
  const here = partAt(parts, tick)
  const [name, setName] = useState(here?.name ?? '')
  useEffect(() => setName(here?.name ?? ''), [here?.name])
  const keep = () => {
    if (here && name.trim() && name.trim() !== here.name)
      edit('name the part', (r) => beginPart(r, here.at, name.trim(), nanoid))
    else setName(here?.name ?? '')
  }
  const { field, back } = useNaming(here?.id ?? null)
  const named = () => {
    keep()
    back()
  }
  return (
    <Part>
      <h2>Your parts</h2>
      {here ? (
        <Text
          label="This part"
          value={name}
          onChange={setName}
          onBlur={keep}
          onEnter={named}
          onEscape={back}
          inputRef={field}
        />
      ) : (
        <p>Divide the dance as you teach it; the song keeps its sections.</p>
      )}
      <Tools>
        <Do command={c.part} />
        {here && (
          <Button
            small
            look="quiet"
            onPress={() => edit(`take “${here.name}” away`, (r) => removePart(r, here.id))}
          >
            Take it away
          </Button>
        )}
      </Tools>
    </Part>
  )
})
