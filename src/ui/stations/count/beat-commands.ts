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
    double: command('The beat', '× 2', 'x', 'X', 'Heard too slow: twice as many counts', () => {
      if (mend('twice the tempo', { kind: 'double' })) to(tick * 2)
    }),
    halve: command('The beat', '÷ 2', 'h', 'H', 'Heard too fast: every second count', () => {
      // The beats kept are those that hold the 1 at or before the cursor.
      const keep = ((here?.start ?? 0) / TICKS_PER_COUNT) % 2 === 1 ? 1 : 0
      if (mend('half the tempo', { kind: 'halve', keep }))
        to(Math.max(0, Math.floor((count - keep) / 2)) * TICKS_PER_COUNT)
    }),
    half: command(
      'The beat',
      '½ beat later',
      'j',
      'J',
      'The beat lies between these: all counts half a beat later',
      () => mend('half a beat later', { kind: 'shift', seconds: period() / 2 }),
    ),
    meet: command(
      'The beat',
      'Meet the sound',
      'm',
      'M',
      'Moves the whole grid, up to 120 ms, onto the strokes of the song',
      () => {
        const curve = strokes()
        if (!curve) return
        const by = shiftToSound(curve, page.times)
        if (Math.abs(by) >= 0.002) mend('meet the sound', { kind: 'shift', seconds: by })
        else tell('The counts lie on the sound already.')
      },
    ),
    follow: command(
      'The beat',
      'Follow the sound',
      'f',
      'F',
      'From this count on both ways, counts are drawn to the strokes: for live music whose tempo moves. The count at the cursor stays.',
      () => {
        const curve = strokes()
        if (curve) redraw('follow the sound', 0, followSound(curve, page.times, count))
      },
    ),
    steady: command('The beat', 'Make steady', 'g', 'G', 'One exact tempo through this section', () => {
      const [from, end] = section()
      redraw('make the section steady', from, steadied(page.times, from, end))
    }),
    tap: command(
      'The beat',
      'Tap along',
      't',
      'T',
      'Plays from the cursor; tap space, enter or a pedal on every beat',
      startTapping,
    ),
    earlier10: command('The beat', '− 10 ms', 'Alt+,', 'alt ,', 'All counts 10 ms earlier', () => nudge(-10)),
    later10: command('The beat', '+ 10 ms', 'Alt+.', 'alt .', 'All counts 10 ms later', () => nudge(10)),
    fromEarlier: command(
      'The beat',
      'here − 10 ms',
      ['Shift+Comma', '<'],
      'shift ,',
      'This count and all after it 10 ms earlier',
      () => nudge(-10, count),
    ),
    fromLater: command(
      'The beat',
      'here + 10 ms',
      ['Shift+Period', '>'],
      'shift .',
      'This count and all after it 10 ms later',
      () => nudge(10, count),
    ),
    pin: command(
      'The beat',
      'Pin',
      'p',
      'P',
      'Holds this count at its time: later moves and drags stop at it',
      () => {
        const at = page.times[count]
        if (at !== undefined) mend('pin this count', { kind: 'pin', beat: count, at })
      },
    ),
    heard: command(
      'The beat',
      'Back to what was heard',
      'r',
      'R',
      'Takes every repair of the beat away',
      () => edit('back to what was heard', (r) => backToHeard(r, beats, nanoid)),
    ),
    heardHere: command(
      'The beat',
      'What was heard here',
      'Shift+r',
      'shift R',
      'In this section the counts go back to what was heard; repairs elsewhere stay',
      () => {
        const [from, end] = section()
        edit('what was heard, in this section', (r) => heardInStretch(r, beats, from, end, nanoid))
      },
    ),
  }
}
