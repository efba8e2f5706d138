'use client'

import { useEffect, useEffectEvent, useState } from 'react'
import styled from 'styled-components'
import {
  type Announcement,
  announcementOf,
  type FloorLesson,
  type Going,
  isDue,
  secondsLeft,
  spokenStep,
} from '@/core/floor'
import type { Prompt } from '@/core/lesson'
import { type LessonStep, stepKey } from '@/core/routine'
import type { Seconds } from '@/core/time'
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

/** Seconds since a step was announced; it is said once, and begins by itself where hands are free. */
function useSince(
  announced: Announcement,
  handsFree: boolean,
  { begin, say }: Pick<Props, 'begin' | 'say'>,
  words: string,
): Seconds {
  const [since, setSince] = useState(0)
  const [key, setKey] = useState('')
  const { over, step } = announced
  const now = `${stepKey(step)} ${over}`
  if (key !== now) {
    setKey(now)
    setSince(0)
  }
  const speak = useEffectEvent(() => say(words))
  const tick = useEffectEvent((passed: Seconds): boolean => {
    setSince(passed)
    const due = isDue(announced, passed, handsFree)
    if (due) begin()
    return due
  })
  // biome-ignore lint/correctness/useExhaustiveDependencies: told once for each step
  useEffect(() => {
    if (over) return
    const begun = performance.now()
    speak()
    const timer = setInterval(() => {
      if (tick((performance.now() - begun) / 1000)) clearInterval(timer)
    }, 250)
    return () => clearInterval(timer)
  }, [now, over])
  return since
}

/** What comes next, in words and voice, before it begins; talk and rest are timed here. */
export function Announce(p: Props) {
  const announced = announcementOf(p.lesson, p.going.index)
  return announced && <Announced {...p} announced={announced} />
}

interface AnnouncedProps extends Props {
  announced: Announcement
}

function Announced(p: AnnouncedProps) {
  const { announced, page, prompt, trouble, said } = p
  const since = useSince(announced, p.handsFree, p, spokenStep(announced.step, page.placed))
  if (announced.over) return <Over leave={p.leave} />
  return (
    // What is read is as high as the window: its lines scroll, the rest stays.
    <Dark style={prompt ? { height: '100dvh' } : undefined}>
      <TopLine>
        <span data-testid="lesson-step">
          Step {announced.number} of {announced.of}
        </span>
        <span>
          planned {minutesText(announced.before)} to {minutesText(announced.before + announced.seconds)}
        </span>
      </TopLine>
      {trouble && <Alarm role="alert">{trouble}</Alarm>}
      {said && <p role="status">{said}</p>}
      {prompt ? <Explained {...p} prompt={prompt} since={since} /> : <InWords {...p} since={since} />}
      <Keys {...p} />
    </Dark>
  )
}

function Over({ leave }: Pick<Props, 'leave'>) {
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
}

const kindOf = ({ kind }: LessonStep) => `${kind[0]?.toUpperCase()}${kind.slice(1)}`

/** A step that is explained: line by line, with the time it took so far. */
function Explained(p: AnnouncedProps & { prompt: Prompt; since: Seconds }) {
  const { step, seconds } = p.announced
  const how = howOfStep(step)
  return (
    <>
      <Heading>
        <h1>
          {kindOf(step)}: {rangeOfStep(step, p.page.placed)}
        </h1>
        {how && <span data-testid="lesson-how">{how}</span>}
        {step.why && <span>{step.why}</span>}
        <time aria-live="off">
          {minutesText(p.since)} of {minutesText(seconds)}
        </time>
      </Heading>
      <Prompter prompt={p.prompt} lit={p.lit} mirrored={p.mirrored} note={step.note} onPoint={p.onLit} />
    </>
  )
}

/** A step in large words. */
function InWords({ announced, lesson, page, needs, handsFree, since }: AnnouncedProps & { since: Seconds }) {
  const { step, seconds, danced, next } = announced
  const how = howOfStep(step)
  const isFirst = step.kind === 'warm-up'
  return (
    <Words role="status">
      <h1>{kindOf(step)}</h1>
      {step.stretch && <div className="what">{rangeOfStep(step, page.placed)}</div>}
      {how && (
        <div className="how" data-testid="lesson-how">
          {how}
        </div>
      )}
      {step.why && <div className="why">{step.why}</div>}
      {danced ? (
        <div className="why">
          {handsFree ? `Get ready: it begins in ${secondsLeft(announced, since)} s.` : 'Get ready.'}
        </div>
      ) : (
        <div className="time" aria-live="off">
          {minutesText(since)} <small style={{ fontSize: '0.4em' }}>of {minutesText(seconds)}</small>
        </div>
      )}
      {step.note && <div className="how">{step.note}</div>}
      {isFirst && lesson.group && (
        <div className="how">
          {lesson.group}
          {lesson.heads ? `, ${lesson.heads} ${lesson.heads === 1 ? 'person' : 'people'}` : ''}
        </div>
      )}
      {isFirst && needs && <div className="how">{needs}</div>}
      {next && <div className="why">Then: {stepWords(next, page.placed)}</div>}
    </Words>
  )
}

function Keys({ announced, prompt, lit, onLit, onSlow, handsFree, onHandsFree, ...p }: AnnouncedProps) {
  return (
    <Bar>
      {prompt && lit < prompt.lines.length - 1 ? (
        <Button look="strong" onPress={() => onLit(lit + 1)}>
          Next count <small>space · page down</small>
        </Button>
      ) : (
        <Button look="strong" onPress={p.begin}>
          {announced.danced ? 'Begin' : 'Go on'} <small>space · page down</small>
        </Button>
      )}
      {prompt && (
        <Button look="dark" onPress={onSlow}>
          Slowly from here <small>enter</small>
        </Button>
      )}
      <Button look="dark" onPress={p.back} isDisabled={announced.number === 1}>
        Back <small>←</small>
      </Button>
      <Button look="dark" onPress={p.skip}>
        Skip <small>→</small>
      </Button>
      <Button look="dark" onPress={onHandsFree} aria-pressed={handsFree}>
        {handsFree ? 'By itself' : 'By key'} <small>H</small>
      </Button>
    </Bar>
  )
}
