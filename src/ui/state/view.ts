'use client'

import { create } from 'zustand'
import { persist } from 'zustand/middleware'
import type { Option } from '@/core/routine'

interface ViewState {
  /** Shown as in a mirror; what is stored stays. */
  mirrored: boolean
  /** Whose cues are shown; '' for everybody's. */
  role: string
  option: Option
  flip: () => void
  show: (what: Partial<Pick<ViewState, 'role' | 'option'>>) => void
}

/** How cues are looked at on this device: mirrored or true, for whom, in which option. */
export const useView = create<ViewState>()(
  persist(
    (set) => ({
      mirrored: false,
      role: '',
      option: 'base',
      flip: () => set((s) => ({ mirrored: !s.mirrored })),
      show: (what) => set(what),
    }),
    {
      name: 'azalea-view',
      partialize: ({ mirrored }) => ({ mirrored }),
      // Read after the first paint: the server knows nothing of this device.
      skipHydration: true,
    },
  ),
)
