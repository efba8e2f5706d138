'use client'

import { nanoid } from 'nanoid'
import { followSound, shiftToSound, steadied } from '@/core/grid'
import {
  backToHeard,
  type Edited,
  heardInStretch,
  phraseAt,
  type Repair,
  type Routine,
  redrawBeats,
  repair,
  repairProblem,
} from '@/core/routine'
import { type Seconds, TICKS_PER_COUNT } from '@/core/time'
import { useCursor } from '../../state/cursor'
import { type Page, useSong } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { command } from './command'

/** Repairs of the beat at the cursor, or of all of it. */
export function useBeatCommands(page: Page, startTapping: () => void, tell: (said: string) => void) {
  const { heard } = useSong()
  const edit = useRoutine((s) => s.edit)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const repairs = useRoutine((s) => s.routine.repairs)
  const beats = heard?.hearing.beats ?? []
  const count = Math.floor(tick / TICKS_PER_COUNT)
  const here = phraseAt(page.placed, tick)
  /** One repair of the beat; where the grid would not stand it, says so and changes nothing. */
  const mend = (
    name: string,
    change: Repair,
    by = (r: Routine): Edited<Routine> => repair(r, beats, change, nanoid),
  ): boolean => {
    const problem = repairProblem(beats, repairs, change)
    if (problem) tell(`${problem} Nothing was changed.`)
    else tell('')
    return problem === null && edit(name, by)
  }
  /** The same beats at other times, from one of them on. */
  const redraw = (name: string, from: number, times: readonly Seconds[]) =>
    mend(name, { kind: 'grid', from, to: from + times.length, beats: [...times] }, (r) =>
      redrawBeats(r, beats, from, times),
    )
  /** The stored strokes of the song, or null with the reason told. */
  const strokes = () => {
    if (heard?.peaks.onset.length) return heard.peaks
    tell('The strokes of this song were not kept when it was heard. Hear it again first.')
    return null
  }
  const nudge = (ms: number, from?: number) =>
    mend(
      `the beat ${Math.abs(ms)} ms ${ms < 0 ? 'earlier' : 'later'}${from === undefined ? '' : ' from here'}`,
      {
        kind: 'shift',
        seconds: ms / 1000,
        ...(from === undefined ? {} : { from }),
      },
    )
  const period = () => {
    const [a, b] = [page.times[count], page.times[count + 1]]
    return a !== undefined && b !== undefined ? b - a : 60 / (page.tempo || 120)
  }
  const section = () => {
    const rows = page.placed.filter((p) => p.section === here?.section)
    const first = (rows[0]?.start ?? 0) / TICKS_PER_COUNT
    const last = (rows.at(-1)?.end ?? 0) / TICKS_PER_COUNT
    return [first, Math.min(page.times.length, last)] as const
  }
  return {
    double: command('double', () => {
      if (mend('twice the tempo', { kind: 'double' })) to(tick * 2)
    }),
    halve: command('halve', () => {
      // The beats kept are those that hold the 1 at or before the cursor.
      const keep = ((here?.start ?? 0) / TICKS_PER_COUNT) % 2 === 1 ? 1 : 0
      if (mend('half the tempo', { kind: 'halve', keep }))
        to(Math.max(0, Math.floor((count - keep) / 2)) * TICKS_PER_COUNT)
    }),
    half: command('half', () => mend('half a beat later', { kind: 'shift', seconds: period() / 2 })),
    meet: command('meet', () => {
      const curve = strokes()
      if (!curve) return
      const by = shiftToSound(curve, page.times)
      if (Math.abs(by) >= 0.002) mend('meet the sound', { kind: 'shift', seconds: by })
      else tell('The counts lie on the sound already.')
    }),
    follow: command('follow', () => {
      const curve = strokes()
      if (curve) redraw('follow the sound', 0, followSound(curve, page.times, count))
    }),
    steady: command('steady', () => {
      const [from, end] = section()
      redraw('make the section steady', from, steadied(page.times, from, end))
    }),
    tap: command('tap', startTapping),
    earlier10: command('earlier10', () => nudge(-10)),
    later10: command('later10', () => nudge(10)),
    fromEarlier: command('fromEarlier', () => nudge(-10, count)),
    fromLater: command('fromLater', () => nudge(10, count)),
    pin: command('pin', () => {
      const at = page.times[count]
      if (at !== undefined) mend('pin this count', { kind: 'pin', beat: count, at })
    }),
    heard: command('heard', () => edit('back to what was heard', (r) => backToHeard(r, beats, nanoid))),
    heardHere: command('heardHere', () => {
      const [from, end] = section()
      edit('what was heard, in this section', (r) => heardInStretch(r, beats, from, end, nanoid))
    }),
  }
}
