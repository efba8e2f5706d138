'use client'

import { useEffect, useEffectEvent, useState } from 'react'
import styled from 'styled-components'
import { type Announcement, announcementOf, isDue, secondsLeft, spokenStep } from '@/core/floor'
import { asSentence } from '@/core/formats/sentence'
import type { Prompt } from '@/core/lesson'
import { type LessonStep, stepKey } from '@/core/routine'
import { litLine } from '@/core/station'
import type { Seconds } from '@/core/time'
import { Button } from '../../parts/button'
import { howOfStep, minutesText, rangeOfStep, stepWords } from '../../parts/step-words'
import { usePlayer } from '../../state/player'
import { useView } from '../../state/view'
import { floor, font } from '../../theme/tokens'
import { Alarm, Dark, TopLine } from './dark'
import { useFloor } from './floor-store'
import { Late } from './late'
import { LessonList } from './lesson-list'
import { Prompter } from './prompter'
import { useTrouble } from './use-trouble'

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

/** Seconds since a step was announced; it is said once, and begins by itself where hands are free. */
function useSince(announced: Announcement): Seconds {
  const handsFree = useFloor((s) => s.handsFree)
  const placed = useFloor((s) => s.page.placed)
  const send = useFloor((s) => s.send)
  const player = usePlayer()
  const [since, setSince] = useState(0)
  const [key, setKey] = useState('')
  const { over, step } = announced
  const now = `${stepKey(step)} ${over}`
  if (key !== now) {
    setKey(now)
    setSince(0)
  }
  const speak = useEffectEvent(() => player.say(spokenStep(step, placed)))
  const tick = useEffectEvent((passed: Seconds): boolean => {
    setSince(passed)
    const due = isDue(announced, passed, handsFree)
    if (due) send({ kind: 'begin' })
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
export function Announce() {
  const lesson = useFloor((s) => s.floor.lesson)
  const index = useFloor((s) => s.floor.going?.index ?? 0)
  const announced = lesson && announcementOf(lesson, index)
  return announced && <Announced announced={announced} />
}

interface Props {
  announced: Announcement
}

function Announced({ announced }: Props) {
  const prompt = useFloor((s) => s.prompt)
  const said = useFloor((s) => s.floor.said)
  const trouble = useTrouble()
  const since = useSince(announced)
  if (announced.over) return <Over />
  return (
    // What is read is as high as the window: its lines scroll, the rest stays.
    <Dark style={prompt ? { height: '100dvh' } : undefined}>
      <TopLine>
        <span data-testid="lesson-step">
          Step {announced.number} of {announced.of}
        </span>
        <Late since={since} />
        <span>
          planned {minutesText(announced.before)} to {minutesText(announced.before + announced.seconds)}
        </span>
      </TopLine>
      {trouble && <Alarm role="alert">{trouble}</Alarm>}
      {said && <p role="status">{said}</p>}
      {prompt ? (
        <Explained announced={announced} prompt={prompt} since={since} />
      ) : (
        <InWords announced={announced} since={since} />
      )}
      <Keys announced={announced} />
      <LessonList since={since} />
    </Dark>
  )
}

function Over() {
  const send = useFloor((s) => s.send)
  return (
    <Dark>
      <Words>
        <h1>The lesson is over</h1>
        <div className="how">What was danced is in the log. Cool down, drink, and well done.</div>
      </Words>
      <Bar>
        <Button look="strong" onPress={() => send({ kind: 'leave' })}>
          Done <small>escape</small>
        </Button>
      </Bar>
    </Dark>
  )
}

const kindOf = ({ kind }: LessonStep) => `${kind[0]?.toUpperCase()}${kind.slice(1)}`

/** The lit line of the prompter. */
const useLit = (step: LessonStep): number => useFloor((s) => litLine(s, step, s.prompt?.lines.length ?? 0))

/** A step that is explained: line by line, with the time it took so far. */
function Explained({ announced, prompt, since }: Props & { prompt: Prompt; since: Seconds }) {
  const { step, seconds } = announced
  const placed = useFloor((s) => s.page.placed)
  const send = useFloor((s) => s.send)
  const mirrored = useView((v) => v.mirrored)
  const lit = useLit(step)
  const how = howOfStep(step)
  return (
    <>
      <Heading>
        <h1>
          {kindOf(step)}: {rangeOfStep(step, placed)}
        </h1>
        {how && <span data-testid="lesson-how">{how}</span>}
        {step.why && <span>{step.why}</span>}
        <time aria-live="off">
          {minutesText(since)} of {minutesText(seconds)}
        </time>
      </Heading>
      <Prompter
        prompt={prompt}
        lit={lit}
        mirrored={mirrored}
        note={step.note}
        onPoint={(line) => send({ kind: 'light', line })}
      />
    </>
  )
}

/** A step in large words. */
function InWords({ announced, since }: Props & { since: Seconds }) {
  const { step, seconds, danced, next } = announced
  const placed = useFloor((s) => s.page.placed)
  const handsFree = useFloor((s) => s.handsFree)
  const how = howOfStep(step)
  return (
    <Words role="status">
      <h1>{kindOf(step)}</h1>
      {step.stretch && <div className="what">{rangeOfStep(step, placed)}</div>}
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
      {step.kind === 'warm-up' && <WhoComes />}
      {next && <div className="why">Then: {stepWords(next, placed)}</div>}
    </Words>
  )
}

/** The class of the lesson, and what the dance asks of dancers and room: said at the beginning. */
function WhoComes() {
  const group = useFloor((s) => s.lesson?.group ?? '')
  const heads = useFloor((s) => s.lesson?.heads ?? 0)
  const gear = useFloor((s) => s.routine.gear)
  const room = useFloor((s) => s.routine.room)
  const needs = [gear && `Bring: ${asSentence(gear)}`, room && `Room: ${asSentence(room)}`]
    .filter(Boolean)
    .join(' ')
  return (
    <>
      {group && (
        <div className="how">
          {group}
          {heads ? `, ${heads} ${heads === 1 ? 'person' : 'people'}` : ''}
        </div>
      )}
      {needs && <div className="how">{needs}</div>}
    </>
  )
}

function Keys({ announced }: Props) {
  const lines = useFloor((s) => s.prompt?.lines.length ?? 0)
  const lit = useLit(announced.step)
  const handsFree = useFloor((s) => s.handsFree)
  const send = useFloor((s) => s.send)
  return (
    <Bar>
      {lit < lines - 1 ? (
        <Button look="strong" onPress={() => send({ kind: 'light', line: lit + 1 })}>
          Next count <small>space · page down</small>
        </Button>
      ) : (
        <Button look="strong" onPress={() => send({ kind: 'begin' })}>
          {announced.danced ? 'Begin' : 'Go on'} <small>space · page down</small>
        </Button>
      )}
      {lines > 0 && (
        <Button look="dark" onPress={() => send({ kind: 'slowly' })}>
          Slowly from here <small>enter</small>
        </Button>
      )}
      <Button look="dark" onPress={() => send({ kind: 'back' })} isDisabled={announced.number === 1}>
        Back <small>←</small>
      </Button>
      <Button look="dark" onPress={() => send({ kind: 'skip' })}>
        Skip <small>→</small>
      </Button>
      <Button look="dark" onPress={() => send({ kind: 'list', open: true })}>
        All steps <small>shift N</small>
      </Button>
      <Button look="dark" onPress={() => send({ kind: 'hands free' })} aria-pressed={handsFree}>
        {handsFree ? 'By itself' : 'By key'} <small>H</small>
      </Button>
    </Bar>
  )
}
