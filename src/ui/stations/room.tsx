'use client'

import { nanoid } from 'nanoid'
import { usePathname } from 'next/navigation'
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { useStore } from 'zustand'
import { wordsOf } from '@/core/formats/said'
import { HEARING_VERSION, type Hearing } from '@/core/hear'
import { type HeardGrid, layOutHeard, type Routine, rehear } from '@/core/routine'
import { hearingBody } from '../state/api'
import { useCursor } from '../state/cursor'
import { type Heard, heardOf, hearSong, type StoredHeard } from '../state/hear'
import { SongProvider } from '../state/page'
import { Player, PlayerProvider } from '../state/player'
import { bringPast } from '../state/routine-past'
import { openRoutineStore, RoutineProvider } from '../state/routine-store'
import { putHearing } from '../state/saved'
import { useView } from '../state/view'
import { Listening, type ListeningState } from './listening'

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
  children: ReactNode
}

/** A hearing as the page stands on it. */
const gridOf = (h: Hearing): HeardGrid => ({
  version: h.version,
  beats: h.beats,
  proposal: {
    counts: h.beats.length,
    starts: h.phrases,
    usual: 2 * h.bar,
    sections: h.sections.map((s) => ({ count: s.beat, letter: s.letter })),
  },
})

const laidOut = (h: Hearing) => (r: Routine) => layOutHeard(r, gridOf(h), nanoid)

/** Holds the open routine and its song while the person goes from station to station; hears the song if it never was. */
export function Room({ id, revision, madeBy, routine, song, heard: stored, newer, children }: RoomProps) {
  const [store] = useState(() => openRoutineStore(id, routine, { revision, madeBy }, newer))
  const [player] = useState(() => new Player(`/api/songs/${song.id}/audio?v=${song.hash.slice(0, 12)}`))
  const [known, setKnown] = useState<readonly Heard[]>(() => (stored ? [heardOf(stored)] : []))
  const heardWith = useStore(store, (s) => s.routine.heardWith)
  const repaired = useStore(store, (s) => s.routine.repairs.length > 0)
  const heard = known.find((h) => h.hearing.version === heardWith) ?? known[0] ?? null
  const [listening, setListening] = useState<ListeningState>({ kind: 'idle' })
  const [hearingAgain, setHearingAgain] = useState<number | null>(null)
  const [byHand, setByHand] = useState(false)
  const stop = useRef<AbortController | null>(null)
  const path = usePathname()

  const listen = useCallback(async () => {
    stop.current?.abort()
    const mine = new AbortController()
    stop.current = mine
    setListening({ kind: 'loading' })
    try {
      const audio = await player.audio()
      if (mine.signal.aborted) return
      setListening({ kind: 'hearing', share: 0 })
      const result = await hearSong(audio, (share) => setListening({ kind: 'hearing', share }), mine.signal)
      putHearing(song.id, hearingBody(result)).catch(() => {})
      setKnown([result])
      if (store.getState().routine.phrases.length === 0 && result.hearing.beats.length > 0)
        store.getState().laidOut(laidOut(result.hearing))
      setListening({ kind: 'idle' })
    } catch (error) {
      if (mine.signal.aborted) return
      setListening({ kind: 'failed', why: wordsOf(error) })
    }
  }, [player, song.id, store])

  /** Hears the song with the newest method while the person works on; what was repaired by hand stays. */
  const again = useCallback(async () => {
    const old = heard
    if (!old) return
    stop.current?.abort()
    const mine = new AbortController()
    stop.current = mine
    setHearingAgain(0)
    try {
      const audio = await player.audio()
      if (mine.signal.aborted) return
      const now = await hearSong(audio, setHearingAgain, mine.signal)
      putHearing(song.id, hearingBody(now)).catch(() => {})
      setKnown((list) => [...list.filter((h) => h.hearing.version !== now.hearing.version), now])
      store
        .getState()
        .edit('hear the song again', (r) => rehear(r, gridOf(old.hearing), gridOf(now.hearing), nanoid))
    } catch (error) {
      if (mine.signal.aborted) return
      player.state.setState({ problem: wordsOf(error) })
    } finally {
      setHearingAgain(null)
    }
  }, [heard, player, song.id, store])

  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the room is entered
  useEffect(() => {
    useCursor.getState().to(store.getState().routine.excerpt?.from ?? 0, 'feet')
    player.restore()
    // Where a browser refuses its storage there is nothing to take up, though the types say otherwise.
    useView.persist?.rehydrate()
    useCursor.getState().mark(null)
    useCursor.getState().setLoop(null)
    // What a window that is gone had not saved yet; then what undo knew of it.
    store.saves.resume({ revision, madeBy }).finally(() => bringPast(id, store))
    if (!heard) listen()
    else player.audio().catch(() => {})
    return () => {
      stop.current?.abort()
      player.close()
    }
  }, [])

  // A first routine on a song that another routine already heard, and a hearing that was stored before the page was laid out.
  useEffect(() => {
    if (heard?.hearing.beats.length && store.getState().routine.phrases.length === 0)
      store.getState().laidOut(laidOut(heard.hearing))
  }, [heard, store])

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

  const newest = known.some((h) => h.hearing.version >= HEARING_VERSION)
  const state = useMemo(
    () => ({
      id: song.id,
      hash: song.hash,
      fileName: song.fileName,
      heard,
      hearAgain: newest ? null : again,
      hearingAgain,
      stopHearing: () => stop.current?.abort(),
    }),
    [song.id, song.hash, song.fileName, heard, newest, again, hearingAgain],
  )
  return (
    <RoutineProvider value={store}>
      <SongProvider value={state}>
        <PlayerProvider value={player}>
          <Listening
            routineId={id}
            title={song.title}
            state={listening}
            silent={heard !== null && heard.hearing.beats.length === 0 && !repaired && !byHand}
            missing={heard === null}
            again={listen}
            byHand={() => setByHand(true)}
            cancel={() => {
              stop.current?.abort()
              setListening({ kind: 'stopped' })
            }}
          >
            {children}
          </Listening>
        </PlayerProvider>
      </SongProvider>
    </RoutineProvider>
  )
}
