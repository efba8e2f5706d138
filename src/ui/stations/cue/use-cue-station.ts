'use client'

import { nanoid } from 'nanoid'
import { useSearchParams } from 'next/navigation'
import { type RefObject, useEffect, useEffectEvent, useLayoutEffect, useState } from 'react'
import { useStore } from 'zustand'
import { alike, type DancedCue, LAYERS, type Layer } from '@/core/routine'
import { COLUMNS, leftLines, previewLine, readOpenLine, readSeveral } from '@/core/station'
import { BELOW, STRIP, useStillsWanted } from '../../film/stills-strip'
import { PLANS, useFormationRows } from '../../places/formations-in-row'
import { useCountPixels } from '../../sheet/sheet'
import { useCalls, useStarts } from '../../state/choreo'
import { useCursor } from '../../state/cursor'
import { keepDrafts, keptDrafts } from '../../state/line-drafts'
import { type Page, usePage } from '../../state/page'
import { usePlayer } from '../../state/player'
import { useRoutine, useRoutineStore } from '../../state/routine-store'
import { useView } from '../../state/view'
import { useMe } from '../../state/who'
import { type Looked, makeCueStore, makeLineStore } from './cue-store'
import { MARGIN } from './margin'
import { useAlikes, useLeanings } from './use-alikes'
import { useChoreo } from './use-choreo'
import { useLayouts } from './use-layouts'

/** Room on the right of the counts. */
export const RIGHT = MARGIN + 14

/** Layers shown in every row: feet and arms always, the others once they hold a cue. */
function shownLayers(cues: readonly DancedCue[]): Layer[] {
  const used = new Set<Layer>(cues.map((c) => c.layer))
  return LAYERS.filter((l) => l === 'feet' || l === 'arms' || used.has(l))
}

/** Playing from a place of the sheet. */
function usePlayFrom(page: Page): (tick: number) => void {
  const player = usePlayer()
  const starts = useStarts()
  const calls = useCalls(page)
  return (tick) => {
    player.playFrom(page, tick, starts, useCursor.getState().loop, calls)
  }
}

/** The stores of the station, fed with what is looked at. @param frame the element the sheet scrolls in */
export function useCueStation(frame: RefObject<HTMLDivElement | null>) {
  const page = usePage()
  const routine = useRoutine((s) => s.routine)
  const routines = useRoutineStore()
  const player = usePlayer()
  const mirrored = useView((s) => s.mirrored)
  const [lines] = useState(makeLineStore)
  const line = useStore(lines, (s) => s)
  const seen = { routine, placed: page.placed, times: page.times, newId: nanoid }
  const read = readOpenLine(line, seen)
  const several = readSeveral(line, seen)
  const choreo = useChoreo(page, several?.routine ?? previewLine(line, read, seen))
  // A new list only where another layer is used.
  const wanted = shownLayers(choreo.shown).join()
  const [layers, setLayers] = useState(() => wanted.split(',') as Layer[])
  if (wanted !== layers.join()) setLayers(wanted.split(',') as Layer[])
  const pixels = useCountPixels(frame, RIGHT)
  const strip = useStillsWanted() ? STRIP + BELOW : 0
  const formed = useFormationRows()
  const look = { pixels, columns: COLUMNS, mirrored, strip }
  const layoutOf = useLayouts(page.lines, choreo, layers, look, (line) => (formed(line) ? PLANS : 0))
  const playFrom = usePlayFrom(page)
  const [writtenToo, setWrittenToo] = useState(false)
  const alikes = useAlikes(page, choreo.book, writtenToo)
  const leaning = useLeanings(page, writtenToo)
  const looked: Looked = {
    ...{ page, choreo, layers, layoutOf, pixels, mirrored, alikes, leaning, read, several, playFrom },
  }
  const [store] = useState(() =>
    makeCueStore(looked, lines, {
      routine: () => routines.getState().routine,
      edit: (did, change) => routines.getState().edit(did, change),
      playing: () => player.state.getState().playing,
    }),
  )
  const tab = useStore(store, (s) => s.tab)
  // What is written alike takes a while to find: it is looked for where it is shown.
  const asked = tab === 'eight' || tab === 'checks'
  if (asked !== writtenToo) setWrittenToo(asked)
  // biome-ignore lint/correctness/useExhaustiveDependencies: the compiler keeps what did not change
  useLayoutEffect(() => store.getState().look(looked), [store, looked])
  useEffect(() => {
    const follow = () => store.getState().follow()
    follow()
    return useCursor.subscribe(follow)
  }, [store])
  useLeftLines(lines)
  useFirstLine(store)
  return { page, store, lines }
}

/** After so long without a key what stands in a line is written down, in ms. */
const PAUSE = 400

/** Lines that are left without keeping them, by a reload or for another station too, are offered when they are opened again. */
function useLeftLines(lines: ReturnType<typeof makeLineStore>): void {
  const routines = useRoutineStore()
  const me = useMe()
  const id = useRoutine((s) => (me ? `${me.id} ${s.id}` : s.id))
  const { placed } = usePage()
  const left = useEffectEvent(() =>
    leftLines(lines.getState(), { routine: routines.getState().routine, placed }),
  )
  useEffect(() => {
    const kept = keptDrafts(id)
    lines.setState(({ drafts }) => ({ drafts: { ...kept, ...drafts } }))
    let known = kept
    const keep = () => {
      const now = left()
      if (!alike(now, known)) keepDrafts(id, now, known)
      known = now
    }
    let waiting: ReturnType<typeof setTimeout> | undefined
    const later = () => {
      clearTimeout(waiting)
      waiting = setTimeout(keep, PAUSE)
    }
    const stop = lines.subscribe(later)
    window.addEventListener('pagehide', keep)
    return () => {
      stop()
      clearTimeout(waiting)
      window.removeEventListener('pagehide', keep)
      keep()
    }
  }, [id, lines])
}

/** Led here to write the first eight: its line is open. */
function useFirstLine(store: ReturnType<typeof makeCueStore>): void {
  const query = useSearchParams()
  const [asked] = useState(() => query.get('line') !== null)
  const placed = useStore(store, (s) => s.page.placed.length > 0)
  useEffect(() => {
    if (!asked || !placed || !window.location.search) return
    store.getState().send({ kind: 'line', line: 'open first' })
    window.history.replaceState(null, '', window.location.pathname)
  }, [asked, placed, store])
}
