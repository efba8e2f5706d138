'use client'

import { useEffect, useEffectEvent } from 'react'
import { create } from 'zustand'
import { persist } from 'zustand/middleware'

/** What one key on the floor can do. */
export const PEDAL_ACTS = ['clean', 'shaky', 'missed'] as const
export type PedalAct = (typeof PEDAL_ACTS)[number]

interface PedalState {
  /** Key names of a pedal or page-turner, learned by pressing them; beside the usual keys. */
  keys: Partial<Record<PedalAct, string>>
  /** A small pedal on the screen, for trying. */
  shown: boolean
  learn: (act: PedalAct, key: string) => void
  forget: () => void
  show: (shown: boolean) => void
}

/** The pedal of this device. */
export const usePedal = create<PedalState>()(
  persist(
    (set) => ({
      keys: {},
      shown: false,
      // One key does one thing: learned anew, it leaves what it did before.
      learn: (act, key) =>
        set((s) => ({
          keys: {
            ...Object.fromEntries(Object.entries(s.keys).filter(([, k]) => k !== key)),
            [act]: key,
          },
        })),
      forget: () => set({ keys: {} }),
      show: (shown) => set({ shown }),
    }),
    { name: 'azalea-pedal', skipHydration: true },
  ),
)

/** Calls back when a learned key is pressed; before anything else that would use the key. */
export function usePedalKeys(act: (what: PedalAct) => void): void {
  const keys = usePedal((s) => s.keys)
  const latest = useEffectEvent(act)
  useEffect(() => {
    usePedal.persist?.rehydrate()
  }, [])
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const found = PEDAL_ACTS.find((a) => keys[a] === e.key)
      if (!found) return
      e.preventDefault()
      e.stopImmediatePropagation()
      if (!e.repeat) latest(found)
    }
    window.addEventListener('keydown', press, true)
    return () => window.removeEventListener('keydown', press, true)
  }, [keys])
}
