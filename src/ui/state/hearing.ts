'use client'

import { nanoid } from 'nanoid'
import { useEffect, useEffectEvent, useState } from 'react'
import { useStore } from 'zustand'
import { HEARING_VERSION, type Hearing } from '@/core/hear'
import { type HeardGrid, layOutHeard, placePhrases, type Routine, rehear } from '@/core/routine'
import { firstPlace } from '@/core/station'
import { hearingBody } from './api'
import { useCursor } from './cursor'
import { type Heard, heardOf, hearSong, type StoredHeard } from './hear'
import type { Player } from './player'
import type { RoutineStore } from './routine-store'
import { putHearing } from './saved'
import { type Tell, useTask } from './task'

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

interface Song {
  id: string
  /** Of whose page this is: what is heard in another's song is not kept with it. */
  own: boolean
}

/** Hears the song of a player and keeps what was heard with the song. */
async function hear({ id, own }: Song, player: Player, tell: Tell, signal: AbortSignal): Promise<Heard> {
  const audio = await player.audio()
  signal.throwIfAborted()
  const listening = (share: number) => tell(share, 'Listening for the beat')
  listening(0)
  const heard = await hearSong(audio, listening, signal)
  if (own) putHearing(id, hearingBody(heard)).catch(() => {})
  return heard
}

/** The hearings of the open song: the one the page stands on, hearing it for the first time, and hearing it again. */
export function useHearing(song: Song, store: RoutineStore, player: Player, stored: StoredHeard | null) {
  const [known, setKnown] = useState<readonly Heard[]>(() => (stored ? [heardOf(stored)] : []))
  const first = useTask()
  const anew = useTask()
  const heardWith = useStore(store, (s) => s.routine.heardWith)
  const heard = known.find((h) => h.hearing.version === heardWith) ?? known[0] ?? null

  /** Lays out a page that has no phrases yet. */
  const layOut = ({ hearing }: Heard) => {
    if (!hearing.beats.length || store.getState().routine.phrases.length > 0) return
    store.getState().laidOut(laidOut(hearing))
    const { routine } = store.getState()
    useCursor.getState().to(firstPlace({ placed: placePhrases(routine), hearing, routine }), 'feet')
  }
  const listen = () =>
    first.task.begin('Loading the song', async (tell, signal) => {
      const now = await hear(song, player, tell, signal)
      setKnown([now])
      layOut(now)
      return ''
    })

  /** Hears the song with the newest method while the person works on; what was repaired by hand stays. */
  const again = async (old: Heard) => {
    await anew.task.begin('Loading the song', async (tell, signal) => {
      const now = await hear(song, player, tell, signal)
      setKnown((list) => [...list.filter((h) => h.hearing.version !== now.hearing.version), now])
      store
        .getState()
        .edit('hear the song again', (r) => rehear(r, gridOf(old.hearing), gridOf(now.hearing), nanoid))
      return ''
    })
    const over = anew.task.state.getState()
    if (over.kind === 'failed') player.state.setState({ problem: over.why })
  }

  // A first routine on a song that another routine already heard, and a hearing that was stored before the page was laid out.
  const layOutHere = useEffectEvent(layOut)
  useEffect(() => {
    if (heard) layOutHere(heard)
  }, [heard])

  const newest = known.some((h) => h.hearing.version >= HEARING_VERSION)
  return {
    heard,
    listening: first.state,
    listen,
    stopListening: () => first.task.cancel(),
    hearAgain: heard && !newest ? () => again(heard) : null,
    hearingAgain: anew.state.kind === 'making' ? (anew.state.share ?? 0) : null,
    stopHearing: () => anew.task.cancel(),
  }
}
