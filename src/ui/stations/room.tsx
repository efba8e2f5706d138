'use client'

import { usePathname } from 'next/navigation'
import { type ReactNode, useEffect, useLayoutEffect, useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { placePhrases, type Routine } from '@/core/routine'
import { firstPlace, tickOfHash } from '@/core/station'
import { useCursor } from '../state/cursor'
import { Films, FilmsProvider } from '../state/films'
import type { StoredHeard } from '../state/hear'
import { useHearing } from '../state/hearing'
import { measureKeptWith } from '../state/kept-measure'
import { OthersProvider, useOthersHere } from '../state/others-here'
import { SongProvider } from '../state/page'
import { Player, PlayerProvider } from '../state/player'
import { bringPast } from '../state/routine-past'
import { closedBy, openRoutineStore, RoutineProvider, type RoutineStore } from '../state/routine-store'
import { useView } from '../state/view'
import { useMe } from '../state/who'
import { Listening } from './listening'

type RoutineRight = Parameters<typeof closedBy>[1]

interface RoomProps {
  id: string
  revision: number
  /** The save that made it. */
  madeBy: { writer: string; save: number }
  routine: Routine
  song: { id: string; hash: string; fileName: string; title: string }
  heard: StoredHeard | null
  /** Written by a newer version: nothing in it is changed here. */
  newer: boolean
  /** What may be done with it here. */
  right: RoutineRight
  children: ReactNode
}

/** Holds the open routine and its song while the person goes from station to station; hears the song if it never was. */
export function Room({
  id,
  revision,
  madeBy,
  routine,
  song,
  heard: stored,
  newer,
  right,
  children,
}: RoomProps) {
  const [store] = useState(() => openRoutineStore(id, routine, { revision, madeBy }, closedBy(newer, right)))
  const [player] = useState(
    () =>
      new Player(
        `/api/songs/${song.id}/audio?v=${song.hash.slice(0, 12)}`,
        measureKeptWith(song.id, right === 'own'),
      ),
  )
  const served = useMe() !== null
  const [films] = useState(() => new Films(id, store, () => player.audio(), served))
  const hearing = useHearing({ id: song.id, own: right === 'own', served }, store, player, stored)
  const { heard, listening, listen, hearAgain, hearingAgain, stopHearing } = hearing
  const repaired = useStore(store, (s) => s.routine.repairs.length > 0)
  const [byHand, setByHand] = useState(false)
  const path = usePathname()

  // Before the rows of the sheet are drawn: they are drawn where it stands.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the room is entered
  useLayoutEffect(() => {
    const { routine: now } = store.getState()
    const first = { placed: placePhrases(now), hearing: heard?.hearing ?? null, routine: now }
    const asked = tickOfHash(first.placed, location.hash)
    useCursor.getState().to(asked ?? now.excerpt?.from ?? firstPlace(first), 'feet')
    useCursor.getState().mark(null)
    useCursor.getState().setLoop(null)
  }, [])

  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the room is entered
  useEffect(() => {
    player.restore()
    // Where a browser refuses its storage there is nothing to take up, though the types say otherwise.
    useView.persist?.rehydrate()
    // What a window that is gone had not saved yet; then what undo knew of it.
    store.saves.resume({ revision, madeBy }).finally(() => {
      bringPast(id, store)
      // A page that was made while the last save was on its way shows it a moment later.
      store.saves.looked.then(() => bringPast(id, store))
    })
    films.resume()
    if (!heard) listen()
    else player.audio().catch(() => {})
    return () => {
      hearing.leave()
      stopHearing()
      films.close()
      player.close()
    }
  }, [])

  useTabTitle(store, path)
  const others = useOthersHere(id, store)

  // Sound belongs to the station it was started on.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the path is the reason
  useEffect(() => () => player.stop(), [path, player])

  useEffect(() => {
    const warn = (e: BeforeUnloadEvent) => {
      if (store.getState().pending) e.preventDefault()
    }
    window.addEventListener('beforeunload', warn)
    return () => window.removeEventListener('beforeunload', warn)
  }, [store])

  const state = useMemo(
    () => ({
      id: song.id,
      hash: song.hash,
      fileName: song.fileName,
      heard,
      hearAgain,
      hearingAgain,
      stopHearing,
    }),
    [song.id, song.hash, song.fileName, heard, hearAgain, hearingAgain, stopHearing],
  )
  return (
    <RoutineProvider value={store}>
      <SongProvider value={state}>
        <PlayerProvider value={player}>
          <FilmsProvider value={films}>
            <OthersProvider value={others}>
              <Listening
                routineId={id}
                title={song.title}
                state={listening}
                silent={heard !== null && heard.hearing.beats.length === 0 && !repaired && !byHand}
                missing={heard === null}
                again={listen}
                byHand={() => setByHand(true)}
                cancel={hearing.stopListening}
                hearer={hearing.hearer}
              >
                {children}
              </Listening>
            </OthersProvider>
          </FilmsProvider>
        </PlayerProvider>
      </SongProvider>
    </RoutineProvider>
  )
}

const TAB_NAMES: Record<string, string> = {
  ...{ count: 'Count', cue: 'Cue', teach: 'Teach', floor: 'Floor', log: 'Log', 'hand-out': 'Hand out' },
}

/** The tab of the browser says which routine is open, and on which station. */
function useTabTitle(store: RoutineStore, path: string): void {
  const title = useStore(store, (s) => s.routine.title)
  const station = TAB_NAMES[path.split('/').at(-1) ?? ''] ?? ''
  useEffect(() => {
    const named = [title, station, 'Azalea'].filter(Boolean).join(' · ')
    const name = () => {
      if (document.title !== named) document.title = named
    }
    name()
    // The router writes the title of the page it went to, at a time of its own.
    const watch = new MutationObserver(name)
    watch.observe(document.head, { childList: true, subtree: true, characterData: true })
    return () => {
      watch.disconnect()
      document.title = 'Azalea'
    }
  }, [title, station])
}
