'use client'

import { useRouter, useSearchParams } from 'next/navigation'
import { useEffect, useState } from 'react'
import type { DrillPlan } from '@/core/drill'
import { excerptOf } from '@/core/routine'
import { clampSpeed, TICKS_PER_COUNT } from '@/core/time'
import { useKeys } from '../../state/keys'
import { usePage } from '../../state/page'
import { usePedalKeys } from '../../state/pedal'
import { usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { useView } from '../../state/view'
import { Announce } from './announce'
import { Dancing } from './dancing'
import { SimulatedPedal } from './pedal'
import { Setting } from './setting'
import { TimingTrainer } from './timing'
import { useCamera, useTake } from './use-camera'
import { useDrill } from './use-drill'
import { useLesson } from './use-lesson'

/** Where a plan of the address points, or a first proposal: the first phrase of the dance at 75 %. */
function proposed(page: ReturnType<typeof usePage>, start: number, query: URLSearchParams): DrillPlan {
  const find = (id: string | null) => page.placed.findIndex((p) => p.phrase.id === id)
  const opening = Math.max(
    0,
    page.placed.findIndex((p) => p.end > start),
  )
  const first = find(query.get('first'))
  const last = find(query.get('last'))
  const speed = Number(query.get('speed'))
  const layer = (['feet', 'arms'] as const).find((l) => l === query.get('layer')) ?? 'all'
  // A pick-up alone is no drill: the phrase it leads into comes with it.
  const short =
    (page.placed[opening]?.end ?? 0) - start < 4 * TICKS_PER_COUNT && opening + 1 < page.placed.length
  const from = first >= 0 ? first : opening
  return {
    kind: 'drill',
    first: from,
    last: first >= 0 ? Math.max(first, last) : opening + (short ? 1 : 0),
    speed: clampSpeed(Number.isFinite(speed) && speed > 0 ? speed : 0.75),
    sound: 'both',
    countIn: 4,
    countInEach: false,
    layer,
  }
}

const BESIDE = ['none', 'camera', 'figure'] as const
const REPLAYS = ['now', 'last', 'both'] as const

/** The one after another in a list that goes round. */
const after = <T,>(list: readonly T[], one: T): T => list[(list.indexOf(one) + 1) % list.length] as T

/** The Floor station: drills and runs, readable from four metres. */
export function Floor({ id }: { id: string }) {
  const page = usePage()
  const routine = useRoutine((s) => s.routine)
  const query = useSearchParams()
  const router = useRouter()
  const loading = usePlayerState((s) => s.loading)
  const problem = usePlayerState((s) => s.problem)
  const [plan, setPlan] = useState<DrillPlan>(() => proposed(page, excerptOf(routine).start, query))
  const { mirrored, flip, beside, replay, show } = useView()
  const camera = useCamera(beside === 'camera')
  const { take, keep: onTake, forget } = useTake()
  const drill = useDrill(page, routine, id)
  const { plan: active, ended } = drill.state
  const [left, setLeft] = useState(false)
  const [handsFree, setHandsFree] = useState(false)
  const [timing, setTiming] = useState(false)
  const planned = left ? undefined : routine.plans.find((p) => p.id === query.get('plan'))
  const lesson = useLesson(planned, page, routine, drill, id)

  const drillIt = () => drill.start({ ...plan, kind: 'drill' })
  const runIt = () => {
    const { start, end } = excerptOf(routine)
    const first = page.placed.findIndex((p) => p.end > start)
    const last = page.placed.findLastIndex((p) => p.start < end)
    drill.start({
      ...plan,
      kind: 'run',
      layer: 'all',
      first,
      last,
      speed: 1,
      sound: plan.sound === 'counts' ? 'both' : plan.sound,
      countInEach: false,
    })
  }
  const speed = (by: number) => {
    setPlan((p) => ({ ...p, speed: clampSpeed(p.speed + by) }))
    drill.faster(by)
  }
  const mark = planned ? lesson.mark : drill.mark
  /** In a lesson, before a step: the same key that marks clean begins it. */
  const announced = planned !== undefined && !active
  const leave = () => {
    drill.stop()
    setLeft(true)
    router.push(`/r/${id}/teach`)
  }
  const toggle = () => {
    if (announced) return lesson.run?.over ? leave() : lesson.begin()
    if (drill.state.broken) return drill.goOn()
    if (!active) drillIt()
    else if (ended && planned) lesson.skip()
    else if (ended) drill.start(active)
    else drill.stop()
  }
  const keys = {
    Space: toggle,
    Escape: () => (active ? drill.stop() : planned ? leave() : router.push(`/r/${id}/cue`)),
    r: () => !active && !planned && runIt(),
    m: flip,
    PageDown: () => (announced || drill.state.broken ? toggle() : mark('clean')),
    c: () => mark('clean'),
    b: () => mark('shaky'),
    PageUp: () => (announced ? lesson.back() : mark('missed')),
    x: () => mark('missed'),
    ArrowRight: () => planned && lesson.skip(),
    ArrowLeft: () => planned && lesson.back(),
    h: () => setHandsFree((on) => !on),
    t: () => !active && !planned && setTiming(true),
    v: () => show({ beside: after(BESIDE, beside) }),
    d: () => beside === 'camera' && show({ replay: after(REPLAYS, replay) }),
    Minus: () => speed(-0.05),
    Equal: () => speed(0.05),
  }
  usePedalKeys((act) => {
    if (timing || (!active && !announced)) return
    if (announced || drill.state.broken) return act === 'missed' ? lesson.back() : toggle()
    mark(act)
  })
  // The timing trainer has keys of its own.
  useKeys(timing ? {} : keys)
  // The body behind the floor is dark too, also where the page is pulled beyond its end.
  useEffect(() => {
    document.body.style.background = '#1A1220'
    return () => {
      document.body.style.background = ''
    }
  }, [])
  const trouble =
    drill.unsaved || lesson.unsaved || problem || (loading.kind === 'problem' ? loading.why : '')
  if (timing)
    return <TimingTrainer id={id} page={page} routine={routine} plan={plan} leave={() => setTiming(false)} />
  if (announced && lesson.run)
    return (
      <>
        <SimulatedPedal />
        <Announce
          run={lesson.run}
          {...{ page, trouble, handsFree, leave }}
          onHandsFree={() => setHandsFree((on) => !on)}
          begin={lesson.begin}
          skip={lesson.skip}
          back={lesson.back}
          say={lesson.say}
        />
      </>
    )
  if (active)
    return (
      <>
        <SimulatedPedal />
        <Dancing
          page={page}
          routine={routine}
          drill={drill}
          mirrored={mirrored}
          trouble={trouble}
          again={() => drill.start(active)}
          mark={mark}
          {...{ camera, take, onTake }}
          lesson={
            planned && lesson.run
              ? `Step ${lesson.run.index + 1} of ${lesson.run.of} · ${lesson.run.step.kind}`
              : ''
          }
        />
      </>
    )
  return (
    <Setting
      id={id}
      page={page}
      plan={plan}
      onPlan={setPlan}
      mirrored={mirrored}
      onMirrored={flip}
      onDrill={drillIt}
      onRun={runIt}
      onTiming={() => setTiming(true)}
      {...{ camera, take, forget }}
      trouble={trouble}
    />
  )
}
