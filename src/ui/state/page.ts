'use client'

import { createContext, useContext, useMemo } from 'react'
import { type HeldTempo, heldTempi, tempoHeldAt } from '@/core/grid'
import { type PlacedPhrase, placePhrases, repairedBeats } from '@/core/routine'
import { linesOf, type SheetLine } from '@/core/station'
import { gridTempo, type Seconds, type Ticks, timeOfTick } from '@/core/time'
import type { Heard } from './hear'
import { useRoutine } from './routine-store'

/** What was heard in the open song, and the song itself. */
export interface SongState {
  id: string
  /** SHA-256 of its file. */
  hash: string
  fileName: string
  /** The hearing the open page stands on. */
  heard: Heard | null
  /** Hears the song again with what Azalea can do now; null where that would bring nothing new. */
  hearAgain: (() => void) | null
  /** How far hearing again is, 0..1; null when it is not under way. */
  hearingAgain: number | null
  stopHearing: () => void
}

const Context = createContext<SongState | null>(null)
export const SongProvider = Context.Provider

/** The open song. */
export function useSong(): SongState {
  const song = useContext(Context)
  if (!song) throw new Error('no song is open here')
  return song
}

/** The page of the open routine: beats as repaired, phrases in their places. */
export interface Page {
  times: readonly Seconds[]
  placed: readonly PlacedPhrase[]
  /** The same as lines of the sheet. */
  lines: readonly SheetLine[]
  tempo: number
  /** Those it holds one after another, where songs were cut together; else none. */
  tempi: readonly HeldTempo[]
  duration: Seconds
  /** True once beats were added, taken away or replaced: what was heard of single counts no longer applies. */
  renumbered: boolean
}

/** The page, worked out again only when the repairs or the phrases change. */
export function usePage(): Page {
  const { heard } = useSong()
  const repairs = useRoutine((s) => s.routine.repairs)
  const phrases = useRoutine((s) => s.routine.phrases)
  const sections = useRoutine((s) => s.routine.sections)
  const times = useMemo(() => repairedBeats(heard?.hearing.beats ?? [], repairs), [heard, repairs])
  const usual = useRoutine((s) => s.routine.usual)
  const borders = useRoutine((s) => s.routine.borders)
  const usualBorder = useRoutine((s) => s.routine.usualBorder)
  const placed = useMemo(
    () => placePhrases({ phrases, sections, usual, borders, usualBorder }),
    [phrases, sections, usual, borders, usualBorder],
  )
  return useMemo(
    () => ({
      times,
      placed,
      lines: linesOf(placed),
      tempo: times.length > 1 ? gridTempo(times) : 0,
      tempi: heldTempi(times),
      // Counts without a song may be set to last longer than the silence they were made on.
      duration: Math.max(heard?.hearing.duration ?? 0, times.at(-1) ?? 0),
      renumbered: repairs.some((r) => r.kind !== 'shift' && r.kind !== 'pin'),
    }),
    [times, placed, heard, repairs],
  )
}

/** The tempo of the song where a count is. */
export const tempoOfTick = (
  { times, tempo, tempi }: Pick<Page, 'times' | 'tempo' | 'tempi'>,
  tick: Ticks,
): number => (tempi.length ? tempoHeldAt(tempi, tempo, timeOfTick(times, tick)) : tempo)
