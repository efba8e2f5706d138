'use client'

import styled from 'styled-components'
import { isOutdated, wayOf } from '@/core/lesson'
import { stepKey } from '@/core/routine'
import { chosenSteps, passesHere } from '@/core/station'
import { FilmOfStep } from '../../film/film-of-step'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { useRoutine } from '../../state/routine-store'
import { desk, NARROW } from '../../theme/tokens'
import { Frame } from '../frame'
import { AsksPart } from './asks-part'
import { ClassPart } from './class-part'
import { CoursePart } from './course-part'
import { useFresh, useSeconds } from './laid-out'
import { Over } from './over'
import { PlansPart } from './plans-part'
import { Presets } from './presets'
import { SettingsPart } from './settings-part'
import { Staircase } from './staircase'
import { StepList } from './step-list'
import { StepPart } from './step-part'
import { StepTools } from './step-tools'
import { TeachProvider, usePlan, useTeach, useTeachStation } from './teach-store'
import { TotalPart } from './total-part'

const Three = styled.main`
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr) 230px;
  min-height: 0;
  border-top: 1px solid ${desk.line};
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
  > * { overflow-y: auto; padding: 16px 18px 24px; display: grid; gap: 18px; align-content: start; }
  > section { display: flex; flex-direction: column; gap: 12px; }
  > aside { background: ${desk.card}; }
  > aside:first-child { border-right: 1px solid ${desk.line}; }
  > aside:last-child { border-left: 1px solid ${desk.line}; }
`

/** The Teach station: from the dance and the minutes there are to a lesson, step by step. */
export function Teach({ id }: { id: string }) {
  const store = useTeachStation(id)
  const planned = useRoutine((s) => s.routine.plans.length > 0)
  return (
    <TeachProvider value={store}>
      <Frame id={id}>{planned ? <PlanView id={id} /> : <NoPlan />}</Frame>
    </TeachProvider>
  )
}

function NoPlan() {
  const send = useTeach((s) => s.send)
  const counted = useTeach((s) => s.page.times.length > 1)
  const read = useTeach((s) => s.log.there || s.log.problem !== '')
  const danced = useRoutine((s) => s.routine.cues.length > 0 || s.routine.repeats.length > 0)
  const can = counted && danced
  return (
    <Three style={{ gridTemplateColumns: '1fr' }}>
      <Part style={{ maxWidth: 560, justifySelf: 'center', alignContent: 'center' }}>
        <h2>No lesson yet</h2>
        <p>
          {can
            ? 'From the cues of this dance and the minutes you have, Azalea lays out a whole lesson: warm-up, show, break down, drills, joins, runs, rest. You change what you like.'
            : 'A lesson is planned from cues. Write some on the Cue station first.'}
        </p>
        <Tools>
          <Button look="strong" isDisabled={!can || !read} onPress={() => send({ kind: 'first plan' })}>
            Plan a lesson
          </Button>
        </Tools>
      </Part>
    </Three>
  )
}

function PlanView({ id }: { id: string }) {
  const planId = usePlan((p) => p.id)
  return (
    <Three>
      <aside aria-label="How the lesson is taught">
        <How key={planId} id={id} />
      </aside>
      <section aria-label="The lesson">
        <LessonView key={planId} />
      </section>
      <aside aria-label="The whole lesson">
        <Whole key={planId} id={id} />
      </aside>
    </Three>
  )
}

/** The chosen steps; where none is chosen, how all of it is taught. */
function How({ id }: { id: string }) {
  const steps = usePlan((p) => p.steps)
  const settings = usePlan((p) => p.settings)
  const group = usePlan((p) => p.group)
  const chosen = useTeach((s) => s.chosen)
  const send = useTeach((s) => s.send)
  const page = useTeach((s) => s.page)
  const picked = chosenSteps({ chosen }, steps)
  const [first] = picked
  if (first)
    return (
      <>
        {first.stretch && <FilmOfStep page={page} stretch={first.stretch} speed={first.speed} />}
        <StepPart
          key={picked.map(stepKey).join()}
          page={page}
          passes={passesHere(settings, picked)}
          steps={picked}
          onChange={(did, what) => send({ kind: 'change chosen', did, what })}
          onReach={(reach) => send({ kind: 'reach', reach })}
          onDone={() => send({ kind: 'choose steps', keys: NONE })}
          onPasses={(order) => send({ kind: 'passes', order })}
        />
      </>
    )
  return (
    <>
      <SettingsPart
        id={id}
        group={group}
        settings={settings}
        onChange={(what) => send({ kind: 'teach', what })}
      />
      <Presets settings={wayOf(settings)} onTake={(way) => send({ kind: 'teach like', way })} />
    </>
  )
}

const NONE: ReadonlySet<string> = new Set()

/** The lesson as a staircase and as a list. */
function LessonView() {
  const steps = usePlan((p) => p.steps)
  const minutes = usePlan((p) => p.settings.minutes)
  const chosen = useTeach((s) => s.chosen)
  const placed = useTeach((s) => s.page.placed)
  const send = useTeach((s) => s.send)
  const seconds = useSeconds()
  return (
    <>
      <Staircase steps={steps} seconds={seconds} placed={placed} budget={minutes} chosen={chosen} />
      <Outdated />
      <StepList
        {...{ steps, seconds, chosen, placed }}
        onChoose={(keys) => send({ kind: 'choose steps', keys })}
        onMove={(keys, target, after) => send({ kind: 'move steps', keys, target, after })}
        onChange={(step, what) => send({ kind: 'change step', key: stepKey(step), what })}
        onDelete={(step) => send({ kind: 'take out', key: stepKey(step) })}
      />
      <StepTools steps={steps} />
    </>
  )
}

function Outdated() {
  const fresh = useFresh()
  const there = useTeach((s) => s.log.there)
  const outdated = usePlan((p) => isOutdated(p, fresh.steps))
  const send = useTeach((s) => s.send)
  if (!there || !outdated) return null
  return (
    <Over role="status">
      The dance has changed since this plan was laid out.{' '}
      <Button small onPress={() => send({ kind: 'lay anew' })}>
        Lay it out anew
      </Button>
    </Over>
  )
}

/** How long it is, whose it is, and what it asks. */
function Whole({ id }: { id: string }) {
  const page = useTeach((s) => s.page)
  const log = useTeach((s) => s.log)
  const send = useTeach((s) => s.send)
  const group = usePlan((p) => p.group)
  const heads = usePlan((p) => p.heads)
  const steps = usePlan((p) => p.steps)
  return (
    <>
      <TotalPart id={id} />
      <ClassPart
        {...{ page, log, group, heads }}
        onHeads={(n) => send({ kind: 'heads', heads: n })}
        onGroup={(name) => send({ kind: 'class', group: name })}
        onNext={() => send({ kind: 'next lesson' })}
        onDrill={({ move, stretch }) => send({ kind: 'drill first', move: move.name, stretch })}
      />
      <CoursePart key={group} page={page} log={log} />
      <AsksPart steps={steps} />
      <PlansPart />
    </>
  )
}
