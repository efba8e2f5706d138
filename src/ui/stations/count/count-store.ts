'use client'

import { nanoid } from 'nanoid'
import { createContext, useContext, useLayoutEffect, useState } from 'react'
import { createStore, useStore } from 'zustand'
import {
  COUNT_AT_FIRST,
  type CountEffect,
  type CountEvent,
  type CountSeen,
  type CountState,
  type CountWork,
  stepCount,
} from '@/core/station'
import type { Ticks } from '@/core/time'
import { KEYS, type KeyId } from '../../keys/table'
import { useCalls, useStarts } from '../../state/choreo'
import { useCursor } from '../../state/cursor'
import type { Heard } from '../../state/hear'
import { type Page, usePage, useSong } from '../../state/page'
import { type Player, usePlayer } from '../../state/player'
import { type RoutineStore, useRoutineStore } from '../../state/routine-store'
import { say } from '../../state/spoken'

/** What the station looks at beside the routine. */
interface Looked {
  page: Page
  heard: Heard | null
  playFrom: (tick: Ticks) => void
}

interface CountStore extends Omit<CountState, 'cursor'>, Looked {
  /** Tells the machine what happened (core/station/count.ts), and does what it asks for. */
  send: (event: CountEvent) => void
  /** What a machine is told is seen now. */
  seen: () => CountSeen
}

function makeCountStore(first: Looked, routines: RoutineStore, player: Player) {
  return createStore<CountStore>()((set, get) => {
    const obey = (effect: CountEffect) => {
      if (effect.kind === 'say') say(effect.words)
      else if (effect.kind === 'play from') get().playFrom(effect.tick)
      // Where it is stopped is told in counts of the page, whatever it is counted as.
      else if (effect.kind === 'play once') player.playOnce(get().page, effect.timeline)
      else if (routines.getState().edit(effect.did, effect.change) && effect.after) get().send(effect.after)
    }
    return {
      ...COUNT_AT_FIRST,
      tapping: first.page.times.length < 2,
      ...first,
      seen: () => {
        const { page, heard } = get()
        return {
          ...{ placed: page.placed, times: page.times, tempo: page.tempo, renumbered: page.renumbered },
          ...{ routine: routines.getState().routine, hearing: heard?.hearing ?? null, newId: nanoid },
          beats: heard?.hearing.beats ?? [],
          strokes: heard?.peaks.onset.length ? heard.peaks : null,
          playing: player.state.getState().playing,
          playingAt: player.tickNow(page),
        }
      },
      send: (event) => {
        const { tapping, aside, said, moved, nextWay, naming, seen } = get()
        const { tick, layer, cue, marked, anchor, loop } = useCursor.getState()
        const cursor = { tick, layer, cue, marked, anchor, loop }
        const { state, effects } = stepCount(
          { tapping, aside, said, moved, nextWay, naming, cursor },
          event,
          seen(),
        )
        const { cursor: next, ...own } = state
        useCursor.setState(next)
        set(own)
        effects.forEach(obey)
      },
    }
  })
}

/** The store of the station, fed with what is looked at. */
export function useCountStation() {
  const page = usePage()
  const { heard } = useSong()
  const routines = useRoutineStore()
  const player = usePlayer()
  const starts = useStarts()
  const calls = useCalls(page)
  const playFrom = (tick: Ticks) => {
    player.playFrom(page, tick, starts, useCursor.getState().loop, calls)
  }
  const [store] = useState(() => makeCountStore({ page, heard, playFrom }, routines, player))
  // biome-ignore lint/correctness/useExhaustiveDependencies: the compiler keeps what did not change
  useLayoutEffect(() => store.setState({ page, heard, playFrom }), [store, page, heard, playFrom])
  return { page, store }
}

const Context = createContext<ReturnType<typeof makeCountStore> | null>(null)
export const CountProvider = Context.Provider

/** Reads from the Count station. */
export function useCount<T>(pick: (state: CountStore) => T): T {
  const store = useContext(Context)
  if (!store) throw new Error('the Count station is not open here')
  return useStore(store, pick)
}

/** One thing the Count station can do, with one key; each is one undo step. */
export interface Command {
  id: KeyId
  name: string
  tip: string
  /** Its key, as people read it. */
  shown: string
  run: () => void
}

const WORK = [
  ...(['one', 'oneOn', 'earlier', 'later', 'bar', 'fewer', 'more', 'split', 'join', 'four', 'feel'] as const),
  ...(['section', 'begin', 'end', 'sectionEarlier', 'sectionLater', 'part', 'sound', 'words'] as const),
  ...(['files', 'doubt', 'mark', 'double', 'halve', 'half', 'meet', 'follow', 'steady', 'tap'] as const),
  ...(['earlier10', 'later10', 'fromEarlier', 'fromLater', 'pin', 'heard', 'heardHere'] as const),
  ...(['asCounted', 'otherWay'] as const),
] satisfies CountWork[]

export type Commands = Record<CountWork, Command>

/** Everything the station does at the cursor, by its names. */
export function useCommands(): Commands {
  const send = useCount((s) => s.send)
  const command = (what: CountWork): Command => {
    const id: KeyId = what === 'doubt' ? 'nextLook' : what
    const { name, tip, shown } = KEYS[id]
    return { id, name, tip, shown, run: () => send({ kind: 'do', what }) }
  }
  return Object.fromEntries(WORK.map((what) => [what, command(what)])) as Commands
}
