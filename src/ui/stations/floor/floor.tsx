'use client'

import { nanoid } from 'nanoid'
import { useRouter, useSearchParams } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { type DrillPlan, MARKS, type Mark } from '@/core/drill'
import { type Added, type AddWay, nextEnd, stepOf } from '@/core/floor'
import { danceOf, stepKey, stretchName } from '@/core/routine'
import { clampSpeed, holds } from '@/core/time'
import { KeySheet } from '../../keys/key-sheet'
import { bound } from '../../keys/table'
import { SayDialog } from '../../say/say-dialog'
import { mustLoad } from '../../state/devices'
import { didFirst } from '../../state/first-steps'
import { useKeys } from '../../state/keys'
import { outboxWords } from '../../state/outbox-state'
import { useOutbox } from '../../state/outbox-window'
import { usePage } from '../../state/page'
import { usePedalKeys } from '../../state/pedal'
import { usePlayer, usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { isExplained, usePrompt } from '../../state/use-prompt'
import { useView } from '../../state/view'
import { Announce } from './announce'
import { Dancing } from './dancing'
import { SimulatedPedal } from './pedal'
import { lessonOf, proposed } from './proposed'
import { Setting } from './setting'
import { TimingTrainer } from './timing'
import { useArrival } from './use-arrival'
import { useCamera, useFilmed } from './use-camera'
import { useFloor } from './use-floor'

const BESIDE = ['none', 'camera', 'figure'] as const
const REPLAYS = ['now', 'last', 'both'] as const

/** The one after another in a list that goes round. */
const after = <T,>(list: readonly T[], one: T): T => list[(list.indexOf(one) + 1) % list.length] as T

const withLine = (lines: Readonly<Record<string, number>>, step: string, line: number) => ({
  ...lines,
  [step]: Math.max(0, line),
})

/** The Floor station: drills and runs, readable from four metres. */
export function Floor({ id }: { id: string }) {
  const page = usePage()
  const routine = useRoutine((s) => s.routine)
  const query = useSearchParams()
  const router = useRouter()
  const player = usePlayer()
  const loading = usePlayerState((s) => s.loading)
  const problem = usePlayerState((s) => s.problem)
  const saving = useOutbox(outboxWords)
  const [plan, setPlan] = useState<DrillPlan>(() => proposed(page, routine, query))
  // What the floor runs is what it was when it was entered.
  const [lesson, setLesson] = useState(() => lessonOf(page, routine, query.get('plan')))
  const [timing, setTiming] = useState<'tap' | 'clap' | null>(null)
  const { mirrored, flip, beside, replay, show } = useView(
    useShallow(({ mirrored, flip, beside, replay, show }) => ({ mirrored, flip, beside, replay, show })),
  )
  const { filmed, keep: onFilmed, forget } = useFilmed()
  const floor = useFloor(page, routine, id, lesson)
  const { state, tell } = floor
  const { drill, phase, going } = state
  const { arrival, load, said } = useArrival(plan, (came) => {
    const stretch = came.kind === 'say' ? came.stretch : plan.stretch
    setPlan(came.plan ?? { ...plan, stretch })
    if (came.kind === 'claps') setTiming('clap')
  })
  const camera = useCamera(beside === 'camera', !drill && !lesson, () => load('camera'))
  const [size, setSize] = useState<Added>('4')
  /** The lit line of each step's prompter: it keeps its place while something else is danced. */
  const [lines, setLines] = useState<Readonly<Record<string, number>>>({})
  const [handsFree, setHandsFree] = useState(false)
  const active = drill !== null
  const broken = phase.kind === 'broken'
  const step = stepOf(state)
  /** In a lesson, before a step: the same key that marks clean begins it. */
  const announced = lesson !== null && !active

  const prompt = usePrompt(page, routine, announced && isExplained(step) ? step : null)
  const lit = Math.min(lines[step ? stepKey(step) : ''] ?? 0, Math.max(0, (prompt?.lines.length ?? 1) - 1))
  const light = (line: number) => step && setLines((l) => withLine(l, stepKey(step), line))
  /** While something is explained: from the lit count on, slowly; stop comes back to it. */
  const slowly = () => {
    const from = prompt?.lines[lit]?.at
    if (!step?.stretch || from === undefined) return
    const speed = Math.min(step.speed, 0.6)
    floor.start({
      ...plan,
      kind: 'drill',
      stretch: { from: Math.max(from, step.stretch.from), to: step.stretch.to },
      speed,
      sound: 'counts',
      countInEach: true,
      pass: step.pass,
    })
  }
  const adding = state.adding
  const end = adding && nextEnd(adding, size, danceOf(routine), page.placed)
  const more =
    adding && end !== null ? stretchName(page.placed, { from: adding.ends.at(-1) ?? 0, to: end }) : null
  const add = (way: AddWay) => active && tell({ kind: 'add', to: end, way, id: nanoid(12) })
  const fallBack = () => active && tell({ kind: 'fall back', id: nanoid(12) })
  const drillIt = () => {
    didFirst('drill')
    floor.start({ ...plan, kind: 'drill' })
  }
  const runIt = () =>
    floor.start({
      ...plan,
      kind: 'run',
      pass: 'all',
      stretch: danceOf(routine),
      speed: 1,
      sound: plan.sound === 'counts' ? 'both' : plan.sound,
      countInEach: false,
    })
  // Sent here by a press that meant the drill itself: it begins, once.
  const asked = useRef(query.get('go') !== null)
  useEffect(() => {
    if (!asked.current || (beside === 'camera' && mustLoad('camera'))) return
    asked.current = false
    const address = new URLSearchParams(query)
    address.delete('go')
    window.history.replaceState(null, '', `${window.location.pathname}?${address}`)
    drillIt()
  })
  const faster = (by: number) => {
    setPlan((p) => ({ ...p, speed: clampSpeed(p.speed + by) }))
    tell({ kind: 'faster', by })
  }
  const mark = (m: Mark) => floor.mark(m)
  const leave = () => {
    tell({ kind: 'leave' })
    setLesson(null)
    router.push(`/r/${id}/teach`)
  }
  const toggle = () => {
    if (announced && prompt && lit < prompt.lines.length - 1) return light(lit + 1)
    if (announced) return step ? floor.begin() : leave()
    if (broken) return tell({ kind: 'go on' })
    if (!drill) return drillIt()
    if (phase.kind !== 'ended') return tell({ kind: 'stop' })
    if (lesson) tell({ kind: 'skip' })
    else floor.start(drill.plan)
  }
  const backOne = () => (prompt && lit > 0 ? light(lit - 1) : tell({ kind: 'back' }))
  const keys = bound({
    go: toggle,
    out: () => (active ? tell({ kind: 'stop' }) : lesson ? leave() : router.push(`/r/${id}/cue`)),
    run: () => !active && !lesson && runIt(),
    mirrored: flip,
    clean: (e) => (e.key === 'PageDown' && (announced || broken) ? toggle() : mark('clean')),
    shaky: () => mark('shaky'),
    missed: (e) => (e.key === 'PageUp' && announced ? backOne() : mark('missed')),
    slowly: () => prompt && slowly(),
    loopMore: () => add('top'),
    lastTwo: () => add('last two'),
    joinAlone: () => add('join'),
    fallBack,
    stepOn: () => lesson && tell({ kind: 'skip' }),
    stepBack: () => lesson && tell({ kind: 'back' }),
    handsFree: () => setHandsFree((on) => !on),
    tap: () => !active && !lesson && setTiming('tap'),
    beside: () => show({ beside: after(BESIDE, beside) }),
    replay: () => beside === 'camera' && show({ replay: after(REPLAYS, replay) }),
    slower: () => faster(-0.05),
    faster: () => faster(0.05),
  })
  usePedalKeys((act) => {
    if (timing || (!active && !announced)) return
    if (announced || broken) return act === MARKS[2] ? backOne() : toggle()
    mark(act)
  })
  // The timing trainer has keys of its own.
  useKeys(timing ? {} : keys)
  useEffect(() => player.prepare(), [player])
  // The body behind the floor is dark too, also where the page is pulled beyond its end.
  useEffect(() => {
    document.body.style.background = '#1A1220'
    return () => {
      document.body.style.background = ''
    }
  }, [])
  const trouble = saving || problem || (loading.kind === 'problem' ? loading.why : '')
  if (timing)
    return (
      <TimingTrainer
        {...{ id, page, routine, plan }}
        first={timing}
        onClaps={() => load('claps')}
        leave={() => setTiming(null)}
      />
    )
  if (announced && going)
    return (
      <>
        <SimulatedPedal />
        <Announce
          {...{ lesson, going, page, trouble, handsFree, leave, prompt, lit, mirrored }}
          said={state.said}
          needs={[routine.gear && `Bring: ${routine.gear}`, routine.room && `Room: ${routine.room}`]
            .filter(Boolean)
            .join('. ')}
          onLit={light}
          onSlow={slowly}
          onHandsFree={() => setHandsFree((on) => !on)}
          begin={floor.begin}
          skip={() => tell({ kind: 'skip' })}
          back={() => tell({ kind: 'back' })}
          say={(words) => player.say(words)}
        />
      </>
    )
  if (drill)
    return (
      <>
        <SimulatedPedal />
        <Dancing
          {...{ page, routine, floor, drill, mirrored, trouble, mark, camera, filmed, onFilmed }}
          {...{ more, onFallBack: fallBack }}
          onAdd={add}
          again={() => floor.start(drill.plan)}
          lesson={
            lesson && going && step ? `Step ${going.index + 1} of ${lesson.steps.length} · ${step.kind}` : ''
          }
        />
      </>
    )
  const inside = page.placed.some(
    (p) => holds(plan.stretch, p.start) || holds({ from: p.start, to: p.end }, plan.stretch.from),
  )
  return (
    <>
      <KeySheet station="floor" button={false} />
      <Setting
        {...{ id, page, plan, size, mirrored, camera, filmed, forget, trouble }}
        onSize={setSize}
        can={inside}
        onPlan={setPlan}
        onMirrored={flip}
        onDrill={drillIt}
        onRun={runIt}
        onTiming={() => setTiming('tap')}
        onOwnCounts={() => load('own counts')}
        recording={arrival?.kind === 'own counts'}
      />
      {arrival?.kind === 'say' && (
        <SayDialog
          page={page}
          stretch={arrival.stretch}
          fromDesk={arrival.back !== null}
          close={() => said(arrival)}
        />
      )}
    </>
  )
}
