'use client'

import { nanoid } from 'nanoid'
import { useEffect, useEffectEvent, useState } from 'react'
import { useStore } from 'zustand'
import { HEARING_VERSION, type Hearing } from '@/core/hear'
import { type HeardGrid, layOutHeard, placePhrases, type Routine, rehear } from '@/core/routine'
import { firstPlace, type Hearer, hearerOf, maySayHearer } from '@/core/station'
import { NotDoneThere } from './afar'
import { hearingBody } from './api'
import { useCursor } from './cursor'
import { type Heard, heardOf, hearSong, type StoredHeard } from './hear'
import { fetchHeard, hearAfar, leaveHearing } from './hear-afar'
import { isPhone } from './phone'
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
  /** A school's server may be asked to hear it. */
  served: boolean
}

/** Hears the song of a player on this device and keeps what was heard with the song. */
async function hearHere({ id, own }: Song, player: Player, tell: Tell, signal: AbortSignal): Promise<Heard> {
  const audio = await player.audio()
  signal.throwIfAborted()
  const listening = (share: number) => tell(share, 'Listening for the beat')
  listening(0)
  const heard = await hearSong(audio, listening, signal)
  // Another window or device may have been faster: counts stand on what was kept first. Where nobody answers, it is this.
  const { version } = heard.hearing
  const kept = await fetchHeard(id).catch(() => null)
  signal.throwIfAborted()
  if (kept?.hearing.version === version) return kept
  if (own) putHearing(id, hearingBody(heard)).catch(() => {})
  return heard
}

/** Has a song heard. What the server cannot, this device does. @param left it is this device's now, and why */
async function hear(
  song: Song,
  hearer: Hearer,
  player: Player,
  [tell, signal]: [Tell, AbortSignal],
  left: (why: string) => void,
): Promise<Heard> {
  if (hearer === 'device') return hearHere(song, player, tell, signal)
  try {
    const heard = await hearAfar(song.id, tell, signal)
    player.audio().catch(() => {})
    return heard
  } catch (error) {
    if (!(error instanceof NotDoneThere)) throw error
    left(error.message)
    return hearHere(song, player, tell, signal)
  }
}

/** The hearings of the open song: the one the page stands on, hearing it for the first time, and hearing it again. */
export function useHearing(song: Song, store: RoutineStore, player: Player, stored: StoredHeard | null) {
  const [known, setKnown] = useState<readonly Heard[]>(() => (stored ? [heardOf(stored)] : []))
  const first = useTask()
  const anew = useTask()
  const [hearer, setHearer] = useState<{ now: Hearer; why: string }>({ now: 'device', why: '' })
  const heardWith = useStore(store, (s) => s.routine.heardWith)
  const heard = known.find((h) => h.hearing.version === heardWith) ?? known[0] ?? null

  /** Lays out a page that has no phrases yet. */
  const layOut = ({ hearing }: Heard) => {
    if (!hearing.beats.length || store.getState().routine.phrases.length > 0) return
    store.getState().laidOut(laidOut(hearing))
    const { routine } = store.getState()
    useCursor.getState().to(firstPlace({ placed: placePhrases(routine), hearing, routine }), 'feet')
  }
  /** @param wanted who is to, said by hand */
  const listen = (wanted: Hearer | null = null) => {
    const by = hearerOf({ ...song, phone: isPhone(), wanted })
    setHearer({ now: by, why: '' })
    return first.task.begin(by === 'device' ? 'Loading the song' : 'Asking the server', async (...told) => {
      const now = await hear(song, by, player, told, (why) => setHearer({ now: 'device', why }))
      // Who was faster may have written on it already.
      await store.saves.look()
      setKnown([now])
      layOut(now)
      return ''
    })
  }
  const stop = () => {
    first.task.cancel()
    if (hearer.now === 'server') leaveHearing(song.id)
  }

  /** Hears the song with the newest method while the person works on; what was repaired by hand stays. */
  const again = async (old: Heard) => {
    await anew.task.begin('Loading the song', async (tell, signal) => {
      const now = await hearHere(song, player, tell, signal)
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
    listen: () => listen(),
    /** Who hears it, why where the server could not, and how the other is asked to; null where there is no choice. */
    hearer: maySayHearer(song)
      ? {
          ...hearer,
          change: () => {
            stop()
            return listen(hearer.now === 'server' ? 'device' : 'server')
          },
        }
      : null,
    stopListening: stop,
    /** The page is left: what the server was asked for it goes on with. */
    leave: () => first.task.cancel(),
    hearAgain: heard && !newest ? () => again(heard) : null,
    hearingAgain: anew.state.kind === 'making' ? (anew.state.share ?? 0) : null,
    stopHearing: () => anew.task.cancel(),
  }
}
