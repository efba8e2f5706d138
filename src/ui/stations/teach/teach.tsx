'use client'

import { nanoid } from 'nanoid'
import { useRouter } from 'next/navigation'
import { useMemo, useState } from 'react'
import styled from 'styled-components'
import {
  addDrill,
  addPlan,
  addStep,
  changePlan,
  changeStep,
  changeSteps,
  isOutdated,
  keepByHand,
  lessonOf,
  moveSteps,
  nudgeStep,
  secondsOf,
  setPasses,
  takeOut,
  taughtLike,
  wayOf,
} from '@/core/lesson'
import {
  cutText,
  type LessonPlan,
  type LessonSettings,
  type LessonStep,
  stepKey,
  stretchName,
  USUAL,
} from '@/core/routine'
import { holds, joined } from '@/core/time'
import { bound } from '../../keys/table'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { minutesText } from '../../parts/step-words'
import { useDance } from '../../state/choreo'
import { useCursor } from '../../state/cursor'
import { mustLoad, useLoadFloor } from '../../state/devices'
import { useKeys } from '../../state/keys'
import { useBook } from '../../state/moves-store'
import { usePage } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { type ClassLog, useClass } from '../../state/use-class'
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

const Three = styled.main`
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr) 230px;
  min-height: 0;
  border-top: 1px solid ${desk.line};
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
  > * { overflow-y: auto; padding: 16px 18px 24px; display: grid; gap: 18px; align-content: start; }
  > section { display: flex; flex-direction: column; gap: 12px; }
  > aside { background: #fff; }
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
const keyOf = (step: LessonStep | undefined) => (step ? stepKey(step) : null)

export function Teach({ id }: { id: string }) {
  const page = usePage()
  const book = useBook()
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const [planId, setPlanId] = useState<string | null>(null)
  const plan = routine.plans.find((p) => p.id === planId) ?? routine.plans[0]
  const log = useClass(id, page, plan?.group ?? '')
  const can = page.times.length > 1 && (routine.cues.length > 0 || routine.repeats.length > 0)

  const lay = (settings: LessonSettings, old: Pick<LessonPlan, 'steps' | 'gone' | 'goesOn'>) =>
    keepByHand(old, lessonOf(routine, page.times, book, { ...old, settings }, log.rows).steps)
  const make = (settings: LessonSettings, name: string, goesOn: number | null = null) => {
    const next: LessonPlan = {
      id: nanoid(),
      name,
      settings,
      steps: lay(settings, { steps: [], gone: [], goesOn }),
      goesOn,
      group: plan?.group ?? '',
      heads: plan?.heads ?? null,
      gone: [],
    }
    if (edit('a new lesson plan', (r) => addPlan(r, next))) setPlanId(next.id)
  }
  if (!plan)
    return (
      <Frame id={id}>
        <Three style={{ gridTemplateColumns: '1fr' }}>
          <Part style={{ maxWidth: 560, justifySelf: 'center', alignContent: 'center' }}>
            <h2>No lesson yet</h2>
            <p>
              {can
                ? 'From the cues of this dance and the minutes you have, Azalea lays out a whole lesson: warm-up, show, break down, drills, joins, runs, rest. You change what you like.'
                : 'A lesson is planned from cues. Write some on the Cue station first.'}
            </p>
            <Tools>
              <Button
                look="strong"
                isDisabled={!can || !(log.there || log.problem)}
                onPress={() => make(USUAL, 'First lesson')}
              >
                Plan a lesson
              </Button>
            </Tools>
          </Part>
        </Three>
      </Frame>
    )
  return <PlanView key={plan.id} {...{ id, plan, log, lay, make }} choose={setPlanId} />
}

const NONE: ReadonlySet<string> = new Set()
/** "Thursday beginners, lesson 3" — a name no plan has. */
function nextName(plans: readonly LessonPlan[], group: string): string {
  const base = group ? `${cutText(group, 180)}, lesson` : 'Lesson'
  for (let n = 2; ; n++) if (!plans.some((p) => p.name === `${base} ${n}`)) return `${base} ${n}`
}

/** Chunks that are less than a phrase. */
const PIECES = /counts|hard/

interface ViewProps {
  id: string
  plan: LessonPlan
  log: ClassLog
  lay: (settings: LessonSettings, old: Pick<LessonPlan, 'steps' | 'gone' | 'goesOn'>) => LessonStep[]
  make: (settings: LessonSettings, name: string, goesOn?: number) => void
  choose: (id: string | null) => void
}

function PlanView({ id, plan, log, lay, make, choose }: ViewProps) {
  const page = usePage()
  const book = useBook()
  const router = useRouter()
  const loadFloor = useLoadFloor()
  /** What is taught cannot be loaded anew in the middle of a lesson: where a camera needs that, it is done before. */
  const toFloor = () => {
    const address = `/r/${id}/floor?plan=${plan.id}`
    if (mustLoad('camera')) loadFloor(address, null)
    else router.push(address)
  }
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const [chosen, setChosen] = useState<ReadonlySet<string>>(NONE)
  const marked = useCursor((s) => s.marked)
  const { settings, steps, goesOn } = plan
  const dance = useDance()
  const seconds = useMemo(
    () => steps.map((s) => secondsOf(s, { routine: dance, times: page.times, settings })),
    [steps, dance, page.times, settings],
  )
  const fresh = useMemo(
    () => lessonOf(dance, page.times, book, { settings, goesOn }, log.rows),
    [dance, page.times, book, settings, goesOn, log.rows],
  )
  const total = seconds.reduce((a, b) => a + b, 0)
  const over = total - settings.minutes * 60
  const change = (did: string, what: (p: LessonPlan) => LessonPlan) =>
    edit(did, (r) => changePlan(r, plan.id, what))
  const set = (what: Partial<LessonSettings>, did = 'change how the lesson is taught') =>
    change(did, (p) => {
      const next = { ...p.settings, ...what }
      return { ...p, settings: next, steps: lay(next, p) }
    })
  const picked = steps.filter((s) => chosen.has(stepKey(s)))
  const one = picked.length === 1 ? keyOf(picked[0]) : null
  /** After which step another is added. */
  const beside = keyOf(picked.at(-1))
  const nudge = (by: 1 | -1) => change('move a step', (p) => nudgeStep(p, one, by))
  const here = picked[0]?.stretch ?? null
  const passes = (here && settings.passes.find((p) => holds(p.stretch, here.from))?.passes) ?? null
  useKeys(bound({ stepUp: () => nudge(-1), stepDown: () => nudge(1) }))
  const { left } = fresh
  // What follows on is said as one: "Verse, eight 2 to Bridge, eight 4".
  const pieces = joined(left)
  return (
    <Frame id={id}>
      <Three>
        <aside aria-label="How the lesson is taught">
          {picked.length ? (
            <StepPart
              key={picked.map(stepKey).join()}
              {...{ page, passes }}
              steps={picked}
              onChange={(did, what) => change(did, (p) => changeSteps(p, chosen, what))}
              onDone={() => setChosen(NONE)}
              onPasses={(order) =>
                here && set({ passes: setPasses(settings, here, order).passes }, 'the passes of a place')
              }
            />
          ) : (
            <>
              <SettingsPart id={id} group={plan.group} settings={settings} onChange={set} />
              <Presets settings={wayOf(settings)} onTake={(way) => set(taughtLike(settings, way))} />
            </>
          )}
        </aside>
        <section aria-label="The lesson">
          <Staircase
            steps={steps}
            seconds={seconds}
            placed={page.placed}
            budget={settings.minutes}
            chosen={chosen}
          />
          {log.there && isOutdated(plan, fresh.steps) && (
            <Over role="status">
              The dance has changed since this plan was laid out.{' '}
              <Button
                small
                onPress={() =>
                  change('lay the lesson out anew', (p) => ({ ...p, steps: lay(p.settings, p) }))
                }
              >
                Lay it out anew
              </Button>
            </Over>
          )}
          <StepList
            {...{ steps, seconds, chosen }}
            placed={page.placed}
            onChoose={setChosen}
            onMove={(ids, target, after) => change('move a step', (p) => moveSteps(p, ids, target, after))}
            onChange={(step, what) => change('change a step', (p) => changeStep(p, stepKey(step), what))}
            onDelete={(step) => change('take a step out', (p) => takeOut(p, stepKey(step)))}
          />
          <Tools>
            <Button
              small
              onPress={() => nudge(-1)}
              isDisabled={!one || keyOf(steps[0]) === one}
              tip="The chosen step comes earlier"
              hotkey="stepUp"
            >
              Earlier
            </Button>
            <Button
              small
              onPress={() => nudge(1)}
              isDisabled={!one || keyOf(steps.at(-1)) === one}
              tip="The chosen step comes later"
              hotkey="stepDown"
            >
              Later
            </Button>
            <Button
              small
              onPress={() => change('add a step', (p) => addStep(p, beside, () => nanoid(10)))}
              tip="A copy of the chosen step after it, to be changed"
            >
              Add a step
            </Button>
            {marked && (
              <Button
                small
                onPress={() =>
                  change('add what is marked', (p) => addDrill(p, marked, beside, () => nanoid(10)))
                }
                tip={`A drill of ${stretchName(page.placed, marked)}`}
              >
                Add what is marked
              </Button>
            )}
            {(plan.gone.length > 0 || steps.some((s) => s.own)) && (
              <Button
                small
                look="quiet"
                onPress={() =>
                  change('forget changes by hand', (p) => ({ ...p, gone: [], steps: fresh.steps }))
                }
                tip="The lesson as it is laid out from the settings; undo brings your changes back"
              >
                Forget changes by hand
              </Button>
            )}
          </Tools>
        </section>
        <aside aria-label="The whole lesson">
          <Part>
            <Big data-testid="total">
              <strong>{minutesText(total)}</strong> of {settings.minutes} min
            </Big>
            {over > 0 && <Over role="status">It is {minutesText(over)} too long, by your changes.</Over>}
            <Tools>
              <Button look="strong" onPress={toFloor}>
                To the floor
              </Button>
            </Tools>
            {fresh.cut.length > 0 && <p>To fit: {fresh.cut.join('; ')}.</p>}
            {left.length > 0 && (
              <Over data-testid="left">
                No time for {left.length} {PIECES.test(settings.chunk) ? 'piece' : 'phrase'}
                {left.length === 1 ? '' : 's'}:{' '}
                {pieces
                  .slice(0, 4)
                  .map((s) => stretchName(page.placed, s))
                  .join('; ')}
                {pieces.length > 4 && `; and ${pieces.length - 4} stretches more`}. {fresh.fits} new ones fit.
              </Over>
            )}
          </Part>
          <ClassPart
            {...{ page, log }}
            group={plan.group}
            heads={plan.heads}
            onHeads={(heads) => change('how many come', (p) => ({ ...p, heads }))}
            onGroup={(group) => change('the class of the plan', (p) => ({ ...p, group: group.trim() }))}
            onNext={() => make(settings, nextName(routine.plans, plan.group), Date.now())}
            onDrill={({ move, stretch }) =>
              change(`drill “${move.name}” first`, (p) =>
                addDrill(p, stretch, keyOf(p.steps.find((s) => s.kind === 'warm-up')), () => nanoid(10)),
              )
            }
          />
          <CoursePart key={plan.group} {...{ page, plan, log }} />
          <AsksPart steps={steps} />
          <PlansPart {...{ plan, make, choose }} />
        </aside>
      </Three>
    </Frame>
  )
}
