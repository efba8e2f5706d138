'use client'

import { useRouter } from 'next/navigation'
import styled from 'styled-components'
import { CLASS_MINUTES, isOutdated, lessonOf, secondsOf, wayOf } from '@/core/lesson'
import { type LessonStep, stepKey, stretchName } from '@/core/routine'
import { chosenSteps, oneChosen, passesHere } from '@/core/station'
import { joined, type Seconds } from '@/core/time'
import { FilmOfStep } from '../../film/film-of-step'
import { bound } from '../../keys/table'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { minutesText } from '../../parts/step-words'
import { useDance } from '../../state/choreo'
import { useCursor } from '../../state/cursor'
import { mustLoad, useLoadFloor } from '../../state/devices'
import { keepLast } from '../../state/keep-last'
import { useKeys } from '../../state/keys'
import { useRoutine } from '../../state/routine-store'
import { turnFilm } from '../../state/view'
import { desk, NARROW } from '../../theme/tokens'
import { Frame } from '../frame'
import { AsksPart } from './asks-part'
import { ClassPart } from './class-part'
import { CoursePart } from './course-part'
import { PlansPart } from './plans-part'
import { Presets } from './presets'
import { SettingsPart } from './settings-part'
import { Staircase } from './staircase'
import { StepList } from './step-list'
import { StepPart } from './step-part'
import { TeachProvider, usePlan, useTeach, useTeachStation } from './teach-store'

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

const Big = styled.p`
  font-size: 14px;
  strong { font-size: 26px; line-height: 1.1; color: ${desk.ink}; }
`

const Over = styled.p`
  padding: 8px 11px;
  border: 1.5px solid ${desk.amber};
  border-radius: 10px;
  background: ${desk.amberSoft};
  color: ${desk.ink} !important;
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

/** How long each step takes. */
function useSeconds(): readonly Seconds[] {
  const steps = usePlan((p) => p.steps)
  const settings = usePlan((p) => p.settings)
  const times = useTeach((s) => s.page.times)
  const routine = useDance()
  return steps.map((s) => secondsOf(s, { routine, times, settings }))
}

// Asked by several parts: laid out once for the same dance, settings and log.
const lesson = keepLast(
  (
    dance: Parameters<typeof lessonOf>[0],
    times: Parameters<typeof lessonOf>[1],
    book: Parameters<typeof lessonOf>[2],
    settings: Parameters<typeof lessonOf>[3]['settings'],
    goesOn: number | null,
    rows: Parameters<typeof lessonOf>[4],
  ) => lessonOf(dance, times, book, { settings, goesOn }, rows),
)

/** The lesson as it would be laid out now. */
function useFresh() {
  const settings = usePlan((p) => p.settings)
  const goesOn = usePlan((p) => p.goesOn)
  const times = useTeach((s) => s.page.times)
  const book = useTeach((s) => s.book)
  const rows = useTeach((s) => s.log.rows)
  return lesson(useDance(), times, book, settings, goesOn, rows)
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

/** What is done to the chosen step, and adding others. */
function StepTools({ steps }: { steps: readonly LessonStep[] }) {
  const chosen = useTeach((s) => s.chosen)
  const send = useTeach((s) => s.send)
  const page = useTeach((s) => s.page)
  const marked = useCursor((s) => s.marked)
  const byHand = usePlan((p) => p.gone.length > 0 || p.steps.some((s) => s.own))
  const one = oneChosen({ chosen }, steps)
  const isAt = (step: LessonStep | undefined) => step !== undefined && stepKey(step) === one
  useKeys(
    bound({
      film: turnFilm,
      stepUp: () => send({ kind: 'nudge', by: -1 }),
      stepDown: () => send({ kind: 'nudge', by: 1 }),
      take: () => send({ kind: 'take chosen out' }),
    }),
  )
  return (
    <Tools>
      <Button
        small
        onPress={() => send({ kind: 'nudge', by: -1 })}
        isDisabled={!one || isAt(steps[0])}
        tip="The chosen step comes earlier"
        hotkey="stepUp"
      >
        Earlier
      </Button>
      <Button
        small
        onPress={() => send({ kind: 'nudge', by: 1 })}
        isDisabled={!one || isAt(steps.at(-1))}
        tip="The chosen step comes later"
        hotkey="stepDown"
      >
        Later
      </Button>
      <Button
        small
        onPress={() => send({ kind: 'take chosen out' })}
        isDisabled={!chosenSteps({ chosen }, steps).length}
        tip="All that are chosen; undo brings them back"
        hotkey="take"
      >
        Take out
      </Button>
      <Button
        small
        onPress={() => send({ kind: 'add step' })}
        tip="A copy of the chosen step after it, to be changed"
      >
        Add a step
      </Button>
      {marked && (
        <Button
          small
          onPress={() => send({ kind: 'add marked' })}
          tip={`A drill of ${stretchName(page.placed, marked)}`}
        >
          Add what is marked
        </Button>
      )}
      {byHand && (
        <Button
          small
          look="quiet"
          onPress={() => send({ kind: 'forget by hand' })}
          tip="The lesson as it is laid out from the settings; undo brings your changes back"
        >
          Forget changes by hand
        </Button>
      )}
    </Tools>
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
      <Total id={id} />
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

/** What is taught cannot be loaded anew in the middle of a lesson: where a camera needs that, it is done before. */
function useToFloor(id: string): () => void {
  const router = useRouter()
  const loadFloor = useLoadFloor()
  const planId = usePlan((p) => p.id)
  return () => {
    const address = `/r/${id}/floor?plan=${planId}`
    if (mustLoad('camera')) loadFloor(address, null)
    else router.push(address)
  }
}

/** Chunks that are less than a phrase. */
const PIECES = /counts|hard/

/** What warming up and cooling down take. */
const endsOf = (steps: readonly LessonStep[]): Seconds =>
  steps.reduce((n, s) => (s.kind === 'warm-up' || s.kind === 'cool-down' ? n + s.talk : n), 0)

/** The minutes of the lesson, what had to give way, and what there is no time for. */
function Total({ id }: { id: string }) {
  const placed = useTeach((s) => s.page.placed)
  const settings = usePlan((p) => p.settings)
  const { cut, left, fits, eights } = useFresh()
  const ends = usePlan((p) => endsOf(p.steps))
  const toFloor = useToFloor(id)
  const total = useSeconds().reduce((a, b) => a + b, 0)
  const over = total - settings.minutes * 60
  // What follows on is said as one: "Verse, eight 2 to Bridge, eight 4".
  const pieces = joined(left)
  return (
    <Part>
      <Big data-testid="total">
        <strong>{minutesText(total)}</strong> of {settings.minutes} min
      </Big>
      {eights >= 1 && (
        <p data-testid="pace">
          {Math.round(eights)} new {Math.round(eights) === 1 ? 'eight' : 'eights'}, about{' '}
          {((total - ends) / 60 / eights).toFixed(1)} min each. A usual class takes{' '}
          {CLASS_MINUTES[settings.grade]} ({settings.grade}).
        </p>
      )}
      {over > 0 && <Over role="status">It is {minutesText(over)} too long, by your changes.</Over>}
      <Tools>
        <Button look="strong" onPress={toFloor}>
          To the floor
        </Button>
      </Tools>
      {cut.length > 0 && <p>To fit: {cut.join('; ')}.</p>}
      {left.length > 0 && (
        <Over data-testid="left">
          No time for {left.length} {PIECES.test(settings.chunk) ? 'piece' : 'phrase'}
          {left.length === 1 ? '' : 's'}:{' '}
          {pieces
            .slice(0, 4)
            .map((s) => stretchName(placed, s))
            .join('; ')}
          {pieces.length > 4 && `; and ${pieces.length - 4} stretches more`}. {fits} new ones fit.
        </Over>
      )}
    </Part>
  )
}
