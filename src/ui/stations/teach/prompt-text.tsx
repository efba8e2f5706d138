'use client'

import styled from 'styled-components'
import { stanceWords } from '@/core/choreo'
import type { LessonStep } from '@/core/routine'
import { More } from '../../parts/more'
import { mirroredStance } from '../../sheet/footing'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { usePrompt } from '../../state/use-prompt'
import { useView } from '../../state/view'
import { desk } from '../../theme/tokens'

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 7px;
  font-size: 13.5px;
  li { display: grid; grid-template-columns: 22px minmax(0, 1fr); gap: 6px; }
  span { display: block; overflow-wrap: anywhere; }
  em { font-style: normal; color: ${desk.quiet}; }
  .ready { color: ${desk.amber}; font-weight: 600; }
`

/** What is read from the floor in a step, at the desk: to prepare the lesson. */
export function PromptText({ page, step }: { page: Page; step: LessonStep }) {
  return (
    <More name="Count by count">
      <Lines page={page} step={step} />
    </More>
  )
}

function Lines({ page, step }: { page: Page; step: LessonStep }) {
  const routine = useRoutine((s) => s.routine)
  const mirrored = useView((s) => s.mirrored)
  const prompt = usePrompt(page, routine, step)
  if (!prompt) return null
  const stands = (s: typeof prompt.begin) => stanceWords(mirrored ? mirroredStance(s) : s)
  return (
    <List data-testid="prompt-text">
      <li>
        <b aria-hidden>·</b>
        <span>Stand: {stands(prompt.begin)}</span>
      </li>
      {prompt.lines.map((line) => (
        <li key={line.at}>
          <b>{line.label}</b>
          <div>
            {line.cues.map((c) => (
              <span key={`${c.layer} ${c.label} ${c.words}`}>
                {c.label && `${c.label} `}
                {c.words}{' '}
                <em>
                  {[...c.more, c.tip, c.mistake && `usual mistake: ${c.mistake}`].filter(Boolean).join(', ')}
                </em>
                {c.insteadOf && <em> instead of {c.insteadOf}</em>}
              </span>
            ))}
            {line.ready.map((words) => (
              <span key={words} className="ready">
                Ready: {words}
              </span>
            ))}
          </div>
        </li>
      ))}
      <li>
        <b aria-hidden>·</b>
        <span>Ends: {stands(prompt.end)}</span>
      </li>
    </List>
  )
}
