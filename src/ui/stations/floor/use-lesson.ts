'use client'

import { nanoid } from 'nanoid'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import type { DrillPlan, Mark } from '@/core/drill'
import { secondsOf, spanOf, staircase } from '@/core/lesson'
import type { LessonPlan, LessonStep, Routine } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import { logStep, type StepEntry } from '../../state/api'
import type { Page } from '../../state/page'
import { usePlayer } from '../../state/player'
import { useView } from '../../state/view'
import { stepWords } from '../teach/step-words'
import { LogQueue } from './log-queue'
import type { useDrill } from './use-drill'

/** Where a lesson stands on the floor. */
export interface LessonRun {
  step: LessonStep
  index: number
  of: number
  /** Planned seconds of the step, and of all before it. */
  seconds: number
  before: number
  next: LessonStep | null
  over: boolean
}

/** Which steps belong to one ladder: the same phrases, danced whole. */
const sameLadder = (a: LessonStep, b: LessonStep) =>
  a.kind === 'drill' &&
  b.kind === 'drill' &&
  a.layer === 'all' &&
  b.layer === 'all' &&
  a.first === b.first &&
  a.last === b.last

/**
 * The step after one that ended: a rung at or below the speed that sits already is passed over.
 * @param reached speed danced clean twice in a row; 0 for none
 */
export function stepAfter(steps: readonly LessonStep[], index: number, reached: number): number {
  const now = steps[index]
  let next = index + 1
  while (
    now &&
    steps[next] &&
    sameLadder(now, steps[next] as LessonStep) &&
    (steps[next] as LessonStep).speed <= reached + 1e-9
  )
    next++
  return next
}

/** How a step goes: shown, then danced. Times of the page's clock in milliseconds. */
interface Going {
  index: number
  shown: number
  begun: number | null
  danced: number
  /** Repetitions danced whole before it. */
  wholes: number
}

/** Steps looked at for less than this were passed over. */
const GLANCE_MS = 3000

/** Runs a plan step by step: each is announced, begun by a key, danced, and followed by the next. */
export function useLesson(
  plan: LessonPlan | undefined,
  page: Page,
  routine: Routine,
  drill: ReturnType<typeof useDrill>,
  routineId: string,
) {
  const player = usePlayer()
  const [unsaved, setUnsaved] = useState('')
  const queue = useMemo(() => new LogQueue<StepEntry>((e) => logStep(routineId, e), setUnsaved), [routineId])
  // One evening: all its steps are logged under this.
  const [evening] = useState(() => nanoid())
  const logged = useRef(0)
  const [index, setIndex] = useState(0)
  const steps = plan?.steps ?? []
  const step = steps[index]
  const marks = useRef<Mark[]>([])
  const reached = useRef(0)
  const seconds = useMemo(
    () =>
      steps.map((s) => (plan ? secondsOf(s, { routine, times: page.times, settings: plan.settings }) : 0)),
    [steps, plan, routine, page.times],
  )
  const { stop, start, change, wholes } = drill
  const going = useRef<Going | null>(null)
  const settle = useCallback(() => {
    const g = going.current
    const step = g && steps[g.index]
    going.current = null
    if (!g || !step || !plan) return
    const now = performance.now()
    const danced = g.danced + (g.begun === null ? 0 : now - g.begun)
    if (danced === 0 && now - g.shown < GLANCE_MS) return
    const span = step.first ? spanOf(step, routine) : null
    queue.put(logged.current++, {
      lesson: evening,
      plan: plan.name,
      kind: step.kind,
      label: stepWords(step, page.placed).slice(0, 300),
      eights: span ? (span.to - span.from) / (8 * TICKS_PER_COUNT) : 0,
      repetitions: wholes.current - g.wholes,
      planned: seconds[g.index] ?? 0,
      seconds: (now - g.shown) / 1000,
      danced: danced / 1000,
      note: '',
    })
  }, [steps, plan, routine, page.placed, seconds, queue, evening, wholes])
  useEffect(() => {
    if (plan && index < steps.length && going.current?.index !== index)
      going.current = { index, shown: performance.now(), begun: null, danced: 0, wholes: wholes.current }
  }, [plan, index, steps.length, wholes])
  // Leaving the floor ends the step.
  const latest = useRef(settle)
  latest.current = settle
  useEffect(() => () => latest.current(), [])
  const active = drill.state.plan !== null && !drill.state.broken && !drill.state.ended
  useEffect(() => {
    const g = going.current
    if (!g) return
    if (active) g.begun = performance.now()
    else if (g.begun !== null) {
      g.danced += performance.now() - g.begun
      g.begun = null
    }
  }, [active])
  const go = useCallback(
    (to: number) => {
      settle()
      stop()
      const [from, next] = [steps[index], steps[to]]
      // What sat on one ladder says nothing of the next.
      if (!from || !next || !sameLadder(from, next)) reached.current = 0
      setIndex(Math.max(0, Math.min(steps.length, to)))
    },
    [stop, settle, steps, index],
  )
  const rungs = useMemo(
    () =>
      step
        ? [...new Set(steps.filter((s) => sameLadder(s, step)).map((s) => s.speed))].sort((a, b) => a - b)
        : [],
    [step, steps],
  )
  const begin = useCallback(() => {
    if (!step || !plan) return
    if (!step.repetitions || !step.first) return go(index + 1)
    const place = (id: string) => page.placed.findIndex((p) => p.phrase.id === id)
    const [first, last] = [place(step.first), place(step.last)]
    // A phrase that is gone cannot be danced; the lesson goes on.
    if (first < 0 || last < 0) return go(index + 1)
    marks.current = []
    // The plan says how it is seen; from behind, left is left.
    useView.setState({ mirrored: step.view === 'mirrored' })
    const how: DrillPlan = {
      kind: step.kind === 'run' || step.kind === 'checkpoint' ? 'run' : 'drill',
      first,
      last,
      speed: step.speed,
      sound: step.sound,
      countIn: plan.settings.countIn,
      countInEach: true,
      repetitions: step.repetitions,
      runUp: step.runUp,
      layer: step.layer,
    }
    start(how)
  }, [step, plan, index, page.placed, go, start])

  /** A mark moves the speed: a miss one rung down and once more, two clean one rung up. */
  const mark = useCallback(
    (m: Mark) => {
      drill.mark(m)
      if (drill.state.ended) return go(index + 1)
      const now = drill.state.plan
      if (!now || !step || step.kind !== 'drill' || step.layer !== 'all') return
      marks.current.push(m)
      const speed = staircase(rungs.length ? rungs : [step.speed], now.speed, marks.current)
      if (m === 'clean' && marks.current.at(-2) === 'clean')
        reached.current = Math.max(reached.current, now.speed)
      if (speed !== now.speed) marks.current = []
      if (m === 'missed') change({ speed, repetitions: (now.repetitions ?? step.repetitions) + 1 })
      else if (speed !== now.speed) change({ speed })
    },
    [drill, step, rungs, change, go, index],
  )

  // What was danced to its end leads on by itself; a run waits for its mark.
  const ended = drill.state.ended
  const waits = step?.kind === 'run' || step?.kind === 'checkpoint'
  useEffect(() => {
    if (!ended || !step || waits) return
    go(stepAfter(steps, index, reached.current))
  }, [ended, waits, step, steps, index, go])

  const say = useCallback((words: string) => player.say(words), [player])
  const run: LessonRun | null = plan
    ? {
        step: step ?? (steps.at(-1) as LessonStep),
        index,
        of: steps.length,
        seconds: seconds[index] ?? 0,
        before: seconds.slice(0, index).reduce((a, b) => a + b, 0),
        next: steps[index + 1] ?? null,
        over: index >= steps.length,
      }
    : null
  return { run, begin, mark, skip: () => go(index + 1), back: () => go(index - 1), say, unsaved }
}
