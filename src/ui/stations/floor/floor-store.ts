'use client'

import { nanoid } from 'nanoid'
import { createContext, useContext } from 'react'
import { createStore, useStore } from 'zustand'
import { type FloorEffect, type FloorEvent, type FloorState, STILL, step } from '@/core/floor'
import type { Prompt } from '@/core/lesson'
import { danceOf } from '@/core/routine'
import {
  type FloorPlace,
  type FloorStationEffect,
  type FloorStationEvent,
  type FloorWish,
  isPlanned,
  stepFloor,
} from '@/core/station'
import type { Ticks } from '@/core/time'
import type { Films } from '../../state/films'
import { didFirst } from '../../state/first-steps'
import type { Page } from '../../state/page'
import type { Player } from '../../state/player'
import { putRepetition, putStep } from '../../state/saved'
import { useView } from '../../state/view'
import { type Laid, makeFloorSound } from './floor-sound'
import { repetitionRow, stepRow } from './rows'

/** What the station looks at. */
export interface Looked extends Omit<Laid, 'floor'> {
  page: Page
  /** What is read out in the step that is announced; null for nothing. */
  prompt: Prompt | null
  /** Where it slipped before, by the log of the class; a place each time. */
  slipped: readonly Ticks[]
}

interface FloorStore extends FloorPlace, Looked {
  /** The state of the machine that runs what is danced. */
  floor: FloorState
  /** Tells the station what was pressed or chosen (core/station/floor.ts), and does what it asks for. */
  send: (event: FloorStationEvent) => void
  /** Tells the floor's machine what happened (core/floor), and does what it asks for. */
  tell: (wish: FloorWish) => void
}

/** The world around the station. */
interface Around {
  routineId: string
  player: Player
  films: Films
  goTo: (address: string) => void
}

export function makeFloorStore(first: FloorPlace & Looked, { routineId, player, films, goTo }: Around) {
  /** The version that was chosen when the floor was entered: steps that name none are danced in it. */
  const version = useView.getState().option
  return createStore<FloorStore>()((set, get) => {
    /** What is heard at this moment, for marks. */
    const heard = () => {
      const place = player.now()
      return place && { k: place.leg.k, into: place.into, body: place.leg.timeline.body }
    }
    const tell = (wish: FloorWish) => {
      const known = { now: Date.now(), id: nanoid(12), heard: heard() }
      const { state, effects } = step(get().floor, { ...wish, ...known } satisfies FloorWish as FloorEvent)
      set({ floor: state })
      effects.forEach(carryOut)
    }
    const sound = makeFloorSound(player, get, tell)
    const carryOut = (effect: FloorEffect) => {
      const { page, routine, floor } = get()
      if (effect.kind === 'play') sound.play(effect.plan, effect.from)
      else if (effect.kind === 'silence') sound.silence()
      // What is not saved waits in the outbox, and is said there.
      else if (effect.kind === 'log')
        putRepetition(routineId, repetitionRow(effect.row, page, floor.lesson?.group)).catch(() => {})
      else if (effect.kind === 'log step')
        putStep(routineId, stepRow(effect.row, page, routine)).catch(() => {})
      // The plan says how it is seen; from behind, left is left.
      else useView.setState({ mirrored: effect.view === 'mirrored', option: effect.version || version })
    }
    const obey = (effect: FloorStationEffect) => {
      if (effect.kind === 'tell') tell(effect.wish)
      else if (effect.kind === 'show') useView.getState().show(effect.what)
      else if (effect.kind === 'show film') films.send({ kind: 'choose', film: effect.film })
      else if (effect.kind === 'go to') goTo(`/r/${routineId}/${effect.station}`)
      else didFirst('drill')
    }
    return {
      ...first,
      floor: STILL,
      tell,
      send: (event) => {
        const { plan, chosen, lesson, size, lit, handsFree, list, timing } = get()
        const place: FloorPlace = { plan, chosen, lesson, size, lit, handsFree, list, timing }
        const { floor, routine, page, prompt } = get()
        const { beside, replay } = useView.getState()
        const { state, effects } = stepFloor(place, event, {
          ...{ floor, dance: danceOf(routine), placed: page.placed, beside, replay },
          planned: isPlanned(routine),
          films: routine.films.flatMap((f) => (f.takes.length ? [f.id] : [])),
          film: films.state.getState().chosen,
          prompt: prompt?.lines.map((l) => l.at) ?? null,
        })
        set(state)
        effects.forEach(obey)
      },
    }
  })
}

type Store = ReturnType<typeof makeFloorStore>

const Context = createContext<Store | null>(null)
export const FloorProvider = Context.Provider

/** Reads from the Floor station. */
export function useFloor<T>(pick: (state: FloorStore) => T): T {
  const store = useContext(Context)
  if (!store) throw new Error('the floor is not open here')
  return useStore(store, pick)
}

/** Reads from the drill that is danced. There is one where this is asked. */
export function useDrill<T>(pick: (drill: NonNullable<FloorState['drill']>) => T): T {
  return useFloor(({ floor }) => {
    if (!floor.drill) throw new Error('nothing is danced')
    return pick(floor.drill)
  })
}
