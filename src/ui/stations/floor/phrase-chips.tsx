'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { stretchOfPhrases } from '@/core/drill'
import {
  borderOfBeginning,
  cueLine,
  cuesIn,
  danceOf,
  isMeant,
  labelIn,
  type PlacedPhrase,
  phraseAt,
} from '@/core/routine'
import { clockText, countsText, timeOfTick } from '@/core/time'
import { useSeen } from '../../state/choreo'
import { useView } from '../../state/view'
import { floor, font, tintOf } from '../../theme/tokens'
import { useFloor } from './floor-store'

const Phrases = styled.div`
  display: grid;
  gap: 14px;
  align-content: start;
  overflow-y: auto;
  max-height: calc(100dvh - 250px);
  padding: 4px;
  h2 { font-size: 15px; color: ${floor.quiet}; margin-bottom: 6px; display: flex; gap: 8px; align-items: center; }
  h2 b { border-radius: 5px; padding: 1px 7px; font-size: 13px; }
  @media (max-width: 800px) { max-height: none; }
`

const Chips = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(148px, 1fr));
  gap: 8px;
`

const Chip = styled.button<{ $chosen: boolean }>`
  text-align: left;
  border: 1.5px solid ${(p) => (p.$chosen ? floor.azalea : floor.line)};
  background: ${(p) => (p.$chosen ? floor.azalea : floor.card)};
  color: ${(p) => (p.$chosen ? '#2B0A1B' : floor.ink)};
  border-radius: 12px;
  padding: 9px 12px;
  cursor: pointer;
  min-height: 62px;
  strong { display: block; font: 700 17px/1.2 ${font.display}; }
  span { display: block; font-size: 12.5px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; color: ${(p) => (p.$chosen ? '#3C1228' : floor.quiet)}; }
`

/** "Eight 3", or "From 8" where the dance begins inside the phrase. */
function chipName(p: PlacedPhrase, start: number): string {
  if (start > p.start) return `From ${labelIn(p, start)}`
  if (p.phrase.pickUp) return 'Pick-up'
  return p.phrase.length === 8 ? `Eight ${p.inSection}` : countsText(p.phrase.length)
}

/** The phrases of the dance by section; the first one pressed, then the last one, are drilled. */
export function PhraseChips() {
  const page = useFloor((s) => s.page)
  const routine = useFloor((s) => s.routine)
  const stretch = useFloor((s) => s.plan.stretch)
  const send = useFloor((s) => s.send)
  const mirrored = useView((v) => v.mirrored)
  const all = useSeen(routine)
  const { from: start, to: end } = danceOf(routine)
  // The phrase pressed last, which the next press may extend; what is only proposed is no first press.
  const [anchor, setAnchor] = useState<number | null>(null)
  const shown = page.placed.filter((p) => p.end > start && p.start < end)
  const groups = new Map<PlacedPhrase['section'], PlacedPhrase[]>()
  for (const p of shown) groups.set(p.section, [...(groups.get(p.section) ?? []), p])
  const choose = (i: number, extend: boolean) => {
    const from = extend
      ? (phraseAt(page.placed, borderOfBeginning(page.placed, stretch.from))?.index ?? i)
      : anchor
    const goesOn = from !== null && i > from
    setAnchor(goesOn || i === anchor ? null : i)
    const [first, last] = [page.placed[goesOn ? from : i], page.placed[i]]
    if (first && last)
      send({ kind: 'plan', what: { stretch: stretchOfPhrases(routine, page.placed, first, last) } })
  }
  return (
    <Phrases>
      {[...groups].map(([section, list]) => (
        <div key={section?.id ?? 'none'}>
          <h2>
            {section ? (
              <>
                <b style={{ background: tintOf(section.letter).ground, color: tintOf(section.letter).ink }}>
                  {section.letter}
                </b>{' '}
                {list[0]?.title}
              </>
            ) : (
              'Before the first section'
            )}
          </h2>
          <Chips>
            {list.map((p) => {
              const chosen = isMeant(page.placed, p, stretch)
              const words = cuesIn(all, { from: p.start, to: p.end })
                .map((c) => cueLine(c, mirrored))
                .join(', ')
              return (
                <Chip
                  key={p.index}
                  type="button"
                  $chosen={chosen}
                  aria-pressed={chosen}
                  onClick={(e) => choose(p.index, e.shiftKey)}
                >
                  <strong>{chipName(p, start)}</strong>
                  <span>{clockText(timeOfTick(page.times, p.start))}</span>
                  <span>{words || 'no cues yet'}</span>
                </Chip>
              )
            })}
          </Chips>
        </div>
      ))}
    </Phrases>
  )
}
