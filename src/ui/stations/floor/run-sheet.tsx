import { useState } from 'react'
import styled from 'styled-components'
import type { Mark } from '@/core/drill'
import { type PlacedPhrase, placeName } from '@/core/routine'
import { countsText } from '@/core/time'
import { floor, font } from '../../theme/tokens'

const Sheet = styled.div`
  grid-column: 1 / -1;
  align-self: stretch;
  display: grid;
  gap: 12px;
  align-content: start;
  overflow-y: auto;
  min-height: 0;
  padding: 3px;
  h2 { font: 750 clamp(30px, 4.4vw, 56px)/1.05 ${font.display}; }
  p { color: ${floor.quiet}; font-size: 19px; }
`

const Phrases = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 8px;
`

const LOOKS: Record<Mark | 'none', { ground: string; says: string }> = {
  none: { ground: floor.card, says: '' },
  shaky: { ground: floor.shaky, says: 'shaky' },
  missed: { ground: floor.missed, says: 'missed' },
  clean: { ground: floor.clean, says: 'clean after all' },
}

const Phrase = styled.button`
  min-height: 58px;
  border-radius: 12px;
  border: 1.5px solid ${floor.line};
  color: ${floor.ink};
  text-align: left;
  padding: 8px 12px;
  cursor: pointer;
  font: 650 16px/1.2 ${font.display};
  span { display: block; font: 500 13.5px/1.3 ${font.text}; }
`

/** What a press makes of a phrase: first shaky, then missed, then clean again. */
const NEXT: Record<Mark | 'none', Mark> = { none: 'shaky', shaky: 'missed', missed: 'clean', clean: 'shaky' }

/** After a run: its phrases, to press where something went wrong. */
export function RunSheet({
  placed,
  mark,
}: {
  placed: readonly PlacedPhrase[]
  mark: (phrase: PlacedPhrase, m: Mark) => void
}) {
  const [marks, setMarks] = useState<ReadonlyMap<number, Mark>>(new Map())
  const press = (p: PlacedPhrase) => {
    const m = NEXT[marks.get(p.index) ?? 'none']
    setMarks(new Map(marks).set(p.index, m))
    mark(p, m)
  }
  return (
    <Sheet>
      <h2>How was it?</h2>
      <p>
        Mark the run below. Press a phrase where something went wrong: once shaky, twice missed, three times
        clean again.
      </p>
      <Phrases role="group" aria-label="Where something went wrong">
        {placed.map((p) => {
          const { ground, says } = LOOKS[marks.get(p.index) ?? 'none']
          return (
            <Phrase
              key={p.index}
              type="button"
              onClick={() => press(p)}
              style={{ background: ground }}
              aria-label={`${placeName(p)}${says ? `: ${says}` : ''}`}
            >
              {p.title || 'The dance'}
              <span>
                {p.phrase.pickUp
                  ? 'pick-up'
                  : p.phrase.length === 8
                    ? `eight ${p.inSection}`
                    : countsText(p.phrase.length)}
                {says && ` · ${says}`}
              </span>
            </Phrase>
          )
        })}
      </Phrases>
    </Sheet>
  )
}
