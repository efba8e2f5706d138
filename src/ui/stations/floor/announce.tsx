'use client'

import { useEffect, useRef, useState } from 'react'
import styled from 'styled-components'
import type { FloorLesson, Going } from '@/core/floor'
import type { Prompt } from '@/core/lesson'
import { cutText, type LessonStep, passWords, stepKey } from '@/core/routine'
import { Button } from '../../parts/button'
import { howOfStep, minutesText, rangeOfStep, stepWords } from '../../parts/step-words'
import type { Page } from '../../state/page'
import { floor, font } from '../../theme/tokens'
import { Alarm, Dark, TopLine } from './dark'
import { Prompter } from './prompter'

const Words = styled.div`
  flex: 1;
  display: grid;
  align-content: center;
  gap: 14px;
  min-width: 0;
  h1 { font: 750 clamp(40px, 7vw, 92px)/1.05 ${font.display}; margin: 0; overflow-wrap: anywhere; }
  .what { font: 650 clamp(26px, 3.6vw, 48px)/1.15 ${font.display}; }
  .how { font-size: clamp(20px, 2.4vw, 30px); color: #DCCBE3; }
  .why { font-size: clamp(17px, 1.8vw, 22px); color: ${floor.quiet}; }
  .time { font: 700 clamp(40px, 6vw, 76px)/1 ${font.display}; color: ${floor.azalea}; font-variant-numeric: tabular-nums; }
`

const Heading = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 20px;
  color: #DCCBE3;
  font-size: clamp(16px, 1.7vw, 21px);
  h1 { font: 750 clamp(24px, 2.9vw, 38px)/1.1 ${font.display}; margin: 0; color: ${floor.ink}; overflow-wrap: anywhere; }
  time { margin-left: auto; font-variant-numeric: tabular-nums; }
`

const Bar = styled.div`
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  > :first-child { min-width: 30vw; }
  gap: 12px;
  button { min-height: 58px; font: 700 20px/1 ${font.display}; }
  small { font: 500 13.5px/1 ${font.text}; opacity: 0.85; }
  @media (max-width: 700px) { grid-auto-flow: row; grid-template-columns: 1fr 1fr; > :first-child { min-width: 0; } }
`

interface Props {
  lesson: FloorLesson
  going: Going
  page: Page
  trouble: string
  /** What was said last by the floor; '' for nothing. */
  said: string
  /** What the dance asks of dancers and room, in words; '' for nothing. */
  needs: string
  /** What is read out in this step, and the line that is lit; null for none. */
  prompt: Prompt | null
  lit: number
  onLit: (line: number) => void
  onSlow: () => void
  mirrored: boolean
  /** Goes on by itself after a few seconds. */
  handsFree: boolean
  onHandsFree: () => void
  begin: () => void
  skip: () => void
  back: () => void
  leave: () => void
  say: (words: string) => Promise<void>
}

/** Seconds an announcement stands before it goes on by itself. */
const GET_READY = 8

/** What comes next, in words and voice, before it begins; talk and rest are timed here. */
export function Announce({
  lesson,
  going,
  page,
  trouble,
  said,
  needs,
  prompt,
  lit,
  onLit,
  onSlow,
  mirrored,
  handsFree,
  onHandsFree,
  begin,
  skip,
  back,
  leave,
  say,
}: Props) {
  const { steps, planned } = lesson
  const { index } = going
  const over = index >= steps.length
  const step = steps[Math.min(index, steps.length - 1)] as LessonStep
  const next = steps[index + 1] ?? null
  const seconds = planned[index] ?? 0
  const before = planned.slice(0, index).reduce((a, b) => a + b, 0)
  const [since, setSince] = useState(0)
  const begun = useRef(0)
  const acts = useRef({ begin, say })
  acts.current = { begin, say }
  const danced = step.repetitions > 0 && step.stretch !== null
  const wait = danced ? GET_READY : seconds
  // biome-ignore lint/correctness/useExhaustiveDependencies: told once for each step
  useEffect(() => {
    begun.current = performance.now()
    setSince(0)
    if (!over) acts.current.say(spokenStep(step, page))
  }, [stepKey(step), over])
  useEffect(() => {
    if (over) return
    const timer = setInterval(() => {
      const passed = (performance.now() - begun.current) / 1000
      setSince(passed)
      if (handsFree && passed > wait) {
        clearInterval(timer)
        acts.current.begin()
      }
    }, 250)
    return () => clearInterval(timer)
  }, [handsFree, wait, over])
  if (over)
    return (
      <Dark>
        <Words>
          <h1>The lesson is over</h1>
          <div className="how">What was danced is in the log. Cool down, drink, and well done.</div>
        </Words>
        <Bar>
          <Button look="strong" onPress={leave}>
            Done <small>escape</small>
          </Button>
        </Bar>
      </Dark>
    )
  const kind = `${step.kind[0]?.toUpperCase()}${step.kind.slice(1)}`
  const how = howOfStep(step)
  return (
    // What is read is as high as the window: its lines scroll, the rest stays.
    <Dark style={prompt ? { height: '100dvh' } : undefined}>
      <TopLine>
        <span data-testid="lesson-step">
          Step {index + 1} of {steps.length}
        </span>
        <span>
          planned {minutesText(before)} to {minutesText(before + seconds)}
        </span>
      </TopLine>
      {trouble && <Alarm role="alert">{trouble}</Alarm>}
      {said && <p role="status">{said}</p>}
      {prompt ? (
        <>
          <Heading>
            <h1>
              {kind}: {rangeOfStep(step, page.placed)}
            </h1>
            {how && <span data-testid="lesson-how">{how}</span>}
            {step.why && <span>{step.why}</span>}
            <time aria-live="off">
              {minutesText(since)} of {minutesText(seconds)}
            </time>
          </Heading>
          <Prompter {...{ prompt, lit, mirrored }} note={step.note} onPoint={onLit} />
        </>
      ) : (
        <Words role="status">
          <h1>{kind}</h1>
          {step.stretch && <div className="what">{rangeOfStep(step, page.placed)}</div>}
          {how && (
            <div className="how" data-testid="lesson-how">
              {how}
            </div>
          )}
          {step.why && <div className="why">{step.why}</div>}
          {!danced && (
            <div className="time" aria-live="off">
              {minutesText(since)} <small style={{ fontSize: '0.4em' }}>of {minutesText(seconds)}</small>
            </div>
          )}
          {danced && (
            <div className="why">
              {handsFree
                ? `Get ready: it begins in ${Math.max(0, Math.ceil(wait - since))} s.`
                : 'Get ready.'}
            </div>
          )}
          {step.note && <div className="how">{step.note}</div>}
          {step.kind === 'warm-up' && lesson.group && (
            <div className="how">
              {lesson.group}
              {lesson.heads ? `, ${lesson.heads} ${lesson.heads === 1 ? 'person' : 'people'}` : ''}
            </div>
          )}
          {step.kind === 'warm-up' && needs && <div className="how">{needs}</div>}
          {next && <div className="why">Then: {stepWords(next, page.placed)}</div>}
        </Words>
      )}
      <Bar>
        {prompt && lit < prompt.lines.length - 1 ? (
          <Button look="strong" onPress={() => onLit(lit + 1)}>
            Next count <small>space · page down</small>
          </Button>
        ) : (
          <Button look="strong" onPress={begin}>
            {danced ? 'Begin' : 'Go on'} <small>space · page down</small>
          </Button>
        )}
        {prompt && (
          <Button look="dark" onPress={onSlow}>
            Slowly from here <small>enter</small>
          </Button>
        )}
        <Button look="dark" onPress={back} isDisabled={index === 0}>
          Back <small>←</small>
        </Button>
        <Button look="dark" onPress={skip}>
          Skip <small>→</small>
        </Button>
        <Button look="dark" onPress={onHandsFree} aria-pressed={handsFree}>
          {handsFree ? 'By itself' : 'By key'} <small>H</small>
        </Button>
      </Bar>
    </Dark>
  )
}

/** A step as it is said: short, for a voice. */
function spokenStep(step: LessonStep, page: Page): string {
  const parts: string[] = [step.kind]
  if (step.stretch) parts.push(rangeOfStep(step, page.placed))
  if (step.pass !== 'all') parts.push(passWords(step.pass))
  if (step.repetitions) parts.push(`${Math.round(step.speed * 100)} percent`)
  return cutText(parts.join(', '), 80)
}
