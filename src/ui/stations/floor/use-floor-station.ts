'use client'

import { useRouter, useSearchParams } from 'next/navigation'
import { useEffect, useEffectEvent, useLayoutEffect, useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { onOutputChange } from '@/audio/devices'
import { rangeOf } from '@/core/drill'
import { stepOf } from '@/core/floor'
import { phraseAt, totalCounts } from '@/core/routine'
import { floorAtFirst, isAnnounced } from '@/core/station'
import { TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { useCallsFor, useShown } from '../../state/choreo'
import { mustLoad } from '../../state/devices'
import { useFilms } from '../../state/films'
import { type Page, usePage } from '../../state/page'
import { usePlayer } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { useClass } from '../../state/use-class'
import { isExplained, usePrompt } from '../../state/use-prompt'
import { useView } from '../../state/view'
import { makeFloorStore } from './floor-store'
import { lessonOf, proposed, proposedStretch } from './proposed'

type Store = ReturnType<typeof makeFloorStore>

const NONE: readonly never[] = []
/** Repetitions of the log whose slips are minded: those of the last few lessons. */
const REMEMBERED = 100

/** The store of the station, fed with what is looked at, the sound and the page. @param id the routine's */
export function useFloorStation(id: string): Store {
  const page = usePage()
  const routine = useRoutine((s) => s.routine)
  const query = useSearchParams()
  const router = useRouter()
  const player = usePlayer()
  const shown = useShown(routine)
  const callsFor = useCallsFor(page)
  // What the floor runs is what it was when it was entered.
  const films = useFilms()
  const [store] = useState(() =>
    makeFloorStore(
      {
        ...floorAtFirst(proposed(page, routine, query), lessonOf(page, routine, query.get('plan'))),
        ...{ page, routine, shown, callsFor, prompt: null, slipped: NONE },
      },
      { routineId: id, player, films, goTo: (address) => router.push(address) },
    ),
  )
  const slipped = useSlipped(
    id,
    page,
    useStore(store, (s) => s.lesson?.group ?? ''),
  )
  const announced = useStore(store, (s) => (isAnnounced(s, s.floor) ? stepOf(s.floor) : null))
  const prompt = usePrompt(page, routine, isExplained(announced) ? announced : null)
  useLayoutEffect(
    () => store.setState({ page, routine, shown, callsFor, prompt, slipped }),
    [store, page, routine, shown, callsFor, prompt, slipped],
  )
  useProposal(store)
  useLesson(store)
  useChanges(store)
  useLosses(store)
  useAsked(store)
  useEffect(() => player.prepare(), [player])
  return store
}

/** Where a class slipped, the last times the routine was danced. */
function useSlipped(id: string, page: Page, group: string): readonly Ticks[] {
  const { rows } = useClass(id, page, group)
  return useMemo(() => rows.slice(-REMEMBERED).flatMap((r) => r.slips), [rows])
}

/** What a first drill is about follows the page until somebody chooses: a new song may be laid out only now. */
function useProposal(store: Store): void {
  const query = useSearchParams()
  useEffect(
    () =>
      store.subscribe(({ page, routine, send }, before) => {
        if (page.placed !== before.page.placed)
          send({ kind: 'proposed', stretch: proposedStretch(page, routine, query) })
      }),
    [store, query],
  )
}

/** The floor is entered and left; what a lesson shows is the lesson's. */
function useLesson(store: Store): void {
  const lesson = useStore(store, (s) => s.lesson)
  useEffect(() => {
    store.getState().tell({ kind: 'enter', lesson })
    if (!lesson) return
    // Afterwards it is seen as before, here and at the desk.
    const { mirrored, option } = useView.getState()
    return () => {
      useView.setState({ mirrored, option })
    }
  }, [store, lesson])
  // Leaving the floor ends the drill; what was danced is logged.
  useEffect(() => () => store.getState().tell({ kind: 'leave' }), [store])
}

/** The dance was changed elsewhere while it is danced. */
function useChanges(store: Store): void {
  useEffect(
    () =>
      store.subscribe((now, before) => {
        if (now.routine === before.routine) return
        now.tell({ kind: 'changed', end: totalCounts(now.routine.phrases) * TICKS_PER_COUNT })
      }),
    [store],
  )
}

/** The sound stopped, or the page was hidden: it goes on from the start of the phrase that was danced. */
function useLosses(store: Store): void {
  const player = usePlayer()
  useEffect(() => {
    const lose = (why: string) => {
      const { floor, page, routine, tell } = store.getState()
      // What has ended, or stands still already, cannot be interrupted.
      if (!floor.drill || !player.now()) return
      const here = player.tickNow(page)
      const { from } = rangeOf(floor.drill.plan, routine)
      const start = here === null ? from : (phraseAt(page.placed, here)?.start ?? from)
      tell({ kind: 'lost', why, from: start > from ? start : null })
    }
    const deaf = player.onInterrupted(() =>
      lose('The sound stopped: the device changed, or this computer slept.'),
    )
    const hidden = () => {
      if (document.hidden) lose('This page was out of sight.')
    }
    document.addEventListener('visibilitychange', hidden)
    const forget = onOutputChange(() => lose('Headphones or loudspeaker changed.'))
    return () => {
      forget()
      deaf()
      document.removeEventListener('visibilitychange', hidden)
    }
  }, [player, store])
}

/** Sent here by a press that meant the drill itself: it begins, once. */
function useAsked(store: Store): void {
  const query = useSearchParams()
  const beside = useView((v) => v.beside)
  const [asked, setAsked] = useState(() => query.get('go') !== null)
  const begin = useEffectEvent(() => {
    if (beside === 'camera' && mustLoad('camera')) return
    // Where effects run twice it begins once all the same.
    if (!new URLSearchParams(window.location.search).has('go')) return
    setAsked(false)
    const address = new URLSearchParams(query)
    address.delete('go')
    window.history.replaceState(null, '', `${window.location.pathname}?${address}`)
    store.getState().send({ kind: 'drill' })
  })
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again where a camera no longer has to be loaded for
  useEffect(() => {
    if (asked) begin()
  }, [asked, beside])
}
