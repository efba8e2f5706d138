'use client'

import { useEffect, useRef } from 'react'
import { Dialog, Heading } from 'react-aria-components'
import styled from 'styled-components'
import { stepKey } from '@/core/routine'
import type { Seconds } from '@/core/time'
import { Button } from '../../parts/button'
import { Tools } from '../../parts/panel'
import { KIND_LOOKS, minutesText, rangeOfStep, stepWords } from '../../parts/step-words'
import { Card, Veil } from '../../parts/window'
import { desk } from '../../theme/tokens'
import { useFloor } from './floor-store'
import { useLate } from './late'

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
  max-height: 56dvh;
  overflow-y: auto;
  button {
    width: 100%;
    display: grid;
    grid-template-columns: 34px minmax(0, 1fr) 52px;
    gap: 10px;
    align-items: baseline;
    text-align: left;
    min-height: 44px;
    padding: 8px 12px;
    border: 1.5px solid ${desk.line};
    border-radius: 10px;
    background: #fff;
    font: inherit;
    font-size: 15px;
    color: ${desk.ink};
    cursor: pointer;
  }
  button[aria-current] { border-color: ${desk.azalea}; background: ${desk.azaleaSoft}; }
  .done { color: ${desk.quiet}; }
  time { text-align: right; font-variant-numeric: tabular-nums; color: ${desk.quiet}; }
`

/** Minutes that are left out by choice, whatever the clock says. */
const CHOICES = [3, 5, 10] as const

/** All steps of the lesson that is held: one press goes to any of them, and minutes are left out of what is left. */
export function LessonList({ since }: { since: Seconds }) {
  const open = useFloor((s) => s.list)
  const send = useFloor((s) => s.send)
  return (
    <Veil isOpen={open} onOpenChange={(next) => !next && send({ kind: 'list', open: false })} isDismissable>
      <Card $width={620}>
        <Dialog>
          <Heading slot="title" level={2}>
            The lesson
          </Heading>
          <LeaveOut since={since} />
          <Steps />
          <Tools>
            <Button onPress={() => send({ kind: 'list', open: false })}>
              Close <small>esc</small>
            </Button>
          </Tools>
        </Dialog>
      </Card>
    </Veil>
  )
}

function LeaveOut({ since }: { since: Seconds }) {
  const late = useLate(since)
  const said = useFloor((s) => s.floor.said)
  const short = useFloor((s) => s.floor.lesson?.whole !== undefined)
  const send = useFloor((s) => s.send)
  return (
    <>
      <Tools role="group" aria-label="Leave out minutes" style={{ alignItems: 'center' }}>
        <span>{late === null ? 'Leave out' : `${minutesText(late)} late. Leave out`}</span>
        {CHOICES.map((n) => (
          <Button key={n} small onPress={() => send({ kind: 'leave out', seconds: n * 60 })}>
            {n} min
          </Button>
        ))}
        {short && (
          <Button small look="quiet" onPress={() => send({ kind: 'put back' })}>
            Put back what was left out
          </Button>
        )}
      </Tools>
      {said && <p role="status">{said}</p>}
      <NotToday />
    </>
  )
}

/** What is not taught today of what was planned, by name. */
function NotToday() {
  const lesson = useFloor((s) => s.floor.lesson)
  const placed = useFloor((s) => s.page.placed)
  if (!lesson?.whole) return null
  const kept = new Set(lesson.steps.map(stepKey))
  const gone = lesson.whole.steps.filter((s) => s.kind === 'break down' && !kept.has(stepKey(s)))
  if (!gone.length) return <p>Everything is still taught; it is danced less often.</p>
  return <p>Not taught today: {gone.map((s) => rangeOfStep(s, placed)).join('; ')}.</p>
}

function Steps() {
  const lesson = useFloor((s) => s.floor.lesson)
  const index = useFloor((s) => s.floor.going?.index ?? 0)
  const placed = useFloor((s) => s.page.placed)
  const send = useFloor((s) => s.send)
  const here = useRef<HTMLButtonElement>(null)
  useEffect(() => {
    here.current?.focus()
    here.current?.scrollIntoView({ block: 'center' })
  }, [])
  return (
    <List>
      {lesson?.steps.map((step, i) => (
        <li key={stepKey(step)}>
          <button
            type="button"
            ref={i === index ? here : undefined}
            aria-current={i === index ? 'step' : undefined}
            className={i < index ? 'done' : undefined}
            onClick={() => send({ kind: 'jump', index: i })}
          >
            <span aria-hidden style={{ color: KIND_LOOKS[step.kind].colour }}>
              {KIND_LOOKS[step.kind].sign} {i + 1}
            </span>
            <span>{stepWords(step, placed)}</span>
            <time>{minutesText(lesson.planned[i] ?? 0)}</time>
          </button>
        </li>
      ))}
    </List>
  )
}
