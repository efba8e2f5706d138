'use client'

import { nanoid } from 'nanoid'
import { createContext, useContext, useLayoutEffect, useState } from 'react'
import { createStore, useStore } from 'zustand'
import type { Standing } from '@/core/places'
import { danceOf } from '@/core/routine'
import { PLACES_AT_FIRST, type PlacesEvent, type PlacesState, stepPlaces } from '@/core/station'
import { useCursor } from '../state/cursor'
import { useRoutineStore } from '../state/routine-store'
import { useStanding } from './use-places'

interface PlacesStore extends PlacesState {
  standing: Standing
  send: (event: PlacesEvent) => void
}

type Store = ReturnType<typeof makePlacesStore>
type Around = ReturnType<typeof useRoutineStore>

function makePlacesStore(standing: Standing, routines: Around) {
  return createStore<PlacesStore>()((set, get) => ({
    ...PLACES_AT_FIRST,
    standing,
    send: (event) => {
      const { chosen, pulled } = get()
      const { routine } = routines.getState()
      const { dancers } = routine
      const [{ tick }, { from }] = [useCursor.getState(), danceOf(routine)]
      const seen = { tick, from, dancers, standing: get().standing, newId: nanoid }
      const { state, effects } = stepPlaces({ chosen, pulled }, event, seen)
      set(state)
      for (const effect of effects) routines.getState().edit(effect.did, effect.change)
    },
  }))
}

/** The machine of places (core/station/places.ts), fed with where everybody stands. */
export function usePlacesStation(): Store {
  const standing = useStanding()
  const routines = useRoutineStore()
  const [store] = useState(() => makePlacesStore(standing, routines))
  useLayoutEffect(() => store.setState({ standing }), [store, standing])
  return store
}

const Context = createContext<Store | null>(null)
export const PlacesProvider = Context.Provider

/** Reads from the machine of places. */
export function usePlaces<T>(pick: (state: PlacesStore) => T): T {
  const store = useContext(Context)
  if (!store) throw new Error('no places here')
  return useStore(store, pick)
}
