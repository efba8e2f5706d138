'use client'

import { nanoid } from 'nanoid'
import { useMemo, useRef } from 'react'
import { drillTimeline } from '@/core/drill'
import { busiestBeat } from '@/core/hear'
import {
  type Choice,
  commit,
  oneChoices,
  placePhrases,
  type Routine,
  repairedBeats,
  tempoChoices,
} from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import { type Page, useSong } from '../../state/page'
import { usePlayer } from '../../state/player'
import { useRoutine } from '../../state/routine-store'

/** Counts that are played to hear a way: two eights. */
const HEARD = 16

/** What else was likely, as moves; none once the person has begun to repair. */
function useChoices(): Choice[] {
  const { heard } = useSong()
  const repaired = useRoutine((s) => s.routine.repairs.length > 0)
  const phrases = useRoutine((s) => s.routine.phrases)
  const sections = useRoutine((s) => s.routine.sections)
  const usual = useRoutine((s) => s.routine.usual)
  return useMemo(() => {
    const h = heard?.hearing
    if (!h || repaired) return []
    const first = placePhrases({ phrases, sections, usual }).find((p) => !p.phrase.pickUp)
    const asHeard = first?.start === (h.phrases[0] ?? 0) * TICKS_PER_COUNT
    return [...tempoChoices(h.beats, h.tempi), ...(asHeard ? oneChoices(h.ones) : [])]
  }, [heard, repaired, phrases, sections, usual])
}

/** Plays two eights of the busiest part, counted as the page is or as another way would have it. */
export function useHearing(page: Page) {
  const { heard } = useSong()
  const player = usePlayer()
  const routine = useRoutine((s) => s.routine)
  const choices = useChoices()
  const next = useRef(0)
  const hear = (counted: Pick<Routine, 'phrases' | 'sections' | 'usual' | 'repairs'>) => {
    const h = heard?.hearing
    if (!h?.beats.length) return
    const times = repairedBeats(h.beats, counted.repairs)
    const placed = placePhrases(counted)
    const from = h.beats[busiestBeat(h, HEARD)] ?? 0
    const phrase = placed.find(
      (p) => !p.phrase.pickUp && (times[p.start / TICKS_PER_COUNT] ?? 0) >= from - 0.05,
    )
    const start = (phrase ?? placed.findLast((p) => !p.phrase.pickUp) ?? placed[0])?.start ?? 0
    const end = Math.min(start + HEARD * TICKS_PER_COUNT, placed.at(-1)?.end ?? 0)
    // Where it is stopped is told in counts of the page, whatever it is counted as.
    player.playOnce(page, drillTimeline({ times, placed, from: start, to: end, cues: [] }, 1, 0))
  }
  const other = (choice: Choice) => {
    const done = commit(routine, (r) => choice.change(r, nanoid))
    if (done.done) hear(done.routine)
  }
  /** The other ways, one after the other, from press to press. */
  const nextOther = () => {
    const choice = choices[next.current % Math.max(1, choices.length)]
    next.current++
    if (choice) other(choice)
  }
  return { choices, asCounted: () => hear(routine), other, nextOther }
}
