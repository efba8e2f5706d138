'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { labelIn, type PlacedPhrase, placeName } from '@/core/routine'
import { common, type Stretch, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { PLACE_EXAMPLE, Understood } from '../../sheet/place-field'
import { usePlaceText } from '../../sheet/place-text'
import { floor, font } from '../../theme/tokens'
import { useFloor } from './floor-store'

const Box = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  label { display: grid; gap: 4px; font-size: 14px; color: ${floor.quiet}; }
  input {
    background: ${floor.card};
    color: ${floor.ink};
    border: 1.5px solid ${floor.line};
    border-radius: 10px;
    padding: 9px 12px;
    font: 600 17px/1.2 ${font.text};
  }
  [role='alert'] { color: ${floor.ink}; font-size: 14.5px; }
`

const Row = styled.div`
  display: flex;
  gap: 4px;
  align-items: center;
  > span { width: 150px; flex: none; font-size: 12.5px; color: ${floor.quiet}; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  @media (max-width: 700px) { > span { width: 72px; } }
`

const Count = styled.button<{ $chosen: boolean; $part: boolean }>`
  flex: 1;
  min-width: 0;
  padding: 0;
  max-width: 58px;
  min-height: 36px;
  border-radius: 8px;
  border: 1.5px solid ${(p) => (p.$chosen ? floor.azalea : floor.line)};
  background: ${(p) => (p.$part ? `linear-gradient(0deg, ${floor.azalea} 6px, ${floor.card} 6px)` : p.$chosen ? floor.azalea : floor.card)};
  color: ${(p) => (p.$chosen && !p.$part ? '#2B0A1B' : floor.ink)};
  font: 700 17px/1 ${font.display};
  cursor: pointer;
`

/** More rows than this are chosen by phrases, or by words. */
const ROWS = 3

/** Which counts exactly: typed as they are said, or pressed, the first and then the last. */
export function CountChoice() {
  const page = useFloor((s) => s.page)
  const stretch = useFloor((s) => s.plan.stretch)
  const send = useFloor((s) => s.send)
  const routine = useFloor((s) => s.routine)
  /** The count pressed first, while the last one is awaited. */
  const [first, setFirst] = useState<Ticks | null>(null)
  const choose = (next: Stretch) => send({ kind: 'plan', what: { stretch: next } })
  const place = usePlaceText({ page, routine, here: stretch.from }, stretch, choose)
  const press = (tick: Ticks) => {
    const end = tick + TICKS_PER_COUNT
    if (first === null || tick < first) {
      setFirst(tick)
      choose({ from: tick, to: end })
    } else {
      setFirst(null)
      choose({ from: first, to: end })
    }
  }
  const touched = page.placed.filter((p) => common({ from: p.start, to: p.end }, stretch))
  // The phrase before and after are there too: a drill may begin on its 8, or end on the next 1.
  const rows =
    touched.length < ROWS
      ? page.placed
          .slice(Math.max(0, (touched[0]?.index ?? 0) - 1), (touched.at(-1)?.index ?? 0) + 2)
          .slice(0, ROWS + 1)
      : []
  return (
    <Box onBlur={place.left}>
      <label>
        Which counts
        <input
          value={place.text}
          onChange={(e) => place.type(e.target.value)}
          // Enter leaves the box: the next key is the floor's.
          onKeyDown={(e) => {
            if (e.key !== 'Enter') return
            place.done()
            e.currentTarget.blur()
          }}
          placeholder={PLACE_EXAMPLE}
          aria-describedby="counts-problem"
        />
      </label>
      {place.problem && (
        <p role="alert" id="counts-problem">
          {place.problem}
        </p>
      )}
      <Understood meant={place.meant} take={place.take} />
      {rows.map((p) => (
        <CountRow key={p.index} {...{ p, stretch, press }} />
      ))}
    </Box>
  )
}

function CountRow({
  p,
  stretch,
  press,
}: {
  p: PlacedPhrase
  stretch: Stretch
  press: (tick: Ticks) => void
}) {
  const name = placeName(p)
  return (
    <Row role="group" aria-label={`Counts of ${name}`}>
      <span title={name}>{name}</span>
      {Array.from({ length: p.phrase.length }, (_, i) => {
        const tick = p.start + i * TICKS_PER_COUNT
        const piece = common({ from: tick, to: tick + TICKS_PER_COUNT }, stretch)
        const chosen = piece !== null
        const part = piece !== null && piece.to - piece.from < TICKS_PER_COUNT
        return (
          <Count
            key={tick}
            type="button"
            $chosen={chosen}
            $part={part}
            aria-pressed={chosen}
            title={part ? 'A part of this count' : undefined}
            onClick={() => press(tick)}
          >
            {labelIn(p, tick)}
          </Count>
        )
      })}
    </Row>
  )
}
