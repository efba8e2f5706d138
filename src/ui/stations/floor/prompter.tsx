'use client'

import { useEffect, useRef } from 'react'
import styled from 'styled-components'
import { stanceWords } from '@/core/choreo'
import type { Prompt, PromptLine } from '@/core/lesson'
import { otherSide } from '@/core/routine'
import { mirroredStance } from '../../sheet/footing'
import { floor, font } from '../../theme/tokens'
import { StandingPicture } from './standing'

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 6px 0 40vh;
  overflow-y: auto;
  flex: 1;
  min-height: 0;
  display: grid;
  gap: 10px;
  align-content: start;
  scroll-padding: 90px;
`

const Line = styled.li<{ $lit: boolean; $past: boolean }>`
  display: grid;
  grid-template-columns: clamp(44px, 7vw, 96px) minmax(0, 1fr);
  gap: 4px 20px;
  padding: 10px 16px;
  border-radius: 14px;
  border-left: 6px solid ${(p) => (p.$lit ? floor.azalea : 'transparent')};
  background: ${(p) => (p.$lit ? floor.card : 'transparent')};
  opacity: ${(p) => (p.$past ? 0.5 : 1)};
  > b { font: 750 ${(p) => (p.$lit ? 'clamp(44px, 5.6vw, 76px)' : 'clamp(24px, 2.8vw, 36px)')}/1 ${font.display}; }
  p { margin: 0; overflow-wrap: anywhere; font: 650 ${(p) => (p.$lit ? 'clamp(30px, 3.8vw, 50px)' : 'clamp(20px, 2.3vw, 30px)')}/1.15 ${font.display}; }
  p small { font: 500 0.5em/1 ${font.text}; color: ${floor.quiet}; margin-right: 12px; }
  p em { font: 500 0.62em/1.2 ${font.text}; font-style: normal; color: #DCCBE3; }
  .say { font: 500 clamp(18px, 2vw, 26px)/1.3 ${font.text}; color: #DCCBE3; }
  .ready { font: 650 clamp(19px, 2.2vw, 28px)/1.25 ${font.text}; color: #F2C14E; }
`

const Stands = styled.p`
  margin: 0;
  font-size: clamp(17px, 1.9vw, 24px);
  color: #DCCBE3;
  strong { color: ${floor.ink}; }
  display: flex;
  align-items: center;
  gap: 14px;
  svg { flex: none; }
`

interface Props {
  prompt: Prompt
  /** The line that is lit, from 0. */
  lit: number
  mirrored: boolean
  note: string
  onPoint: (line: number) => void
}

/** What a teacher reads from four metres while explaining: count by count, the one that is lit large, what must be ready in time. */
export function Prompter({ prompt, lit, mirrored, note, onPoint }: Props) {
  const list = useRef<HTMLOListElement>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: the lit line is kept in view
  useEffect(() => {
    list.current?.querySelector('[aria-current]')?.scrollIntoView({ block: 'start' })
  }, [lit])
  const stance = (s: Prompt['begin']) => (mirrored ? mirroredStance(s) : s)
  /** A foot that must be free leaves the weight to the other. */
  const drawn = (s: Prompt['begin']) => ({ ...s, weight: s.free ? otherSide(s.free) : s.weight })
  return (
    <>
      <Stands data-testid="prompt-begin">
        <StandingPicture state={drawn(stance(prompt.begin))} width={84} />
        <span>
          <strong>Stand:</strong> {stanceWords(stance(prompt.begin))}
        </span>
      </Stands>
      {note && <Stands data-testid="prompt-note">{note}</Stands>}
      <List ref={list} aria-label="Count by count" tabIndex={0}>
        {prompt.lines.map((line, i) => (
          <Line
            key={line.at}
            $lit={i === lit}
            $past={i < lit}
            aria-current={i === lit ? 'step' : undefined}
            data-testid="prompt-line"
            onClick={() => onPoint(i)}
          >
            <b>{line.label}</b>
            <Said line={line} lit={i === lit} />
          </Line>
        ))}
      </List>
      <Stands data-testid="prompt-end">
        <StandingPicture state={stance(prompt.end)} width={84} />
        <span>
          <strong>Ends:</strong> {stanceWords(stance(prompt.end))}
        </span>
      </Stands>
    </>
  )
}

/** What is said on one count; away from the lit line only its moves and warnings. */
function Said({ line, lit }: { line: PromptLine; lit: boolean }) {
  return (
    <div>
      {line.cues.length === 0 && <p style={{ opacity: 0.6 }}>–</p>}
      {line.cues.map((c) => (
        <div key={`${c.layer} ${c.label} ${c.words}`}>
          <p>
            <small>
              {c.layer}
              {c.label && ` ${c.label}`}
            </small>
            {c.words} {c.more.length > 0 && <em>{c.more.join(', ')}</em>}
          </p>
          {c.insteadOf && <div className="say">instead of {c.insteadOf}</div>}
          {lit && c.tip && <div className="say">{c.tip}</div>}
          {lit && c.mistake && <div className="say">Usual mistake: {c.mistake}</div>}
          {lit && c.learn && <div className="say">To be learned: {c.learn}</div>}
        </div>
      ))}
      {line.ready.map((words) => (
        <div key={words} className="ready">
          Ready: {words}
        </div>
      ))}
    </div>
  )
}
