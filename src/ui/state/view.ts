'use client'

import { create } from 'zustand'
import { persist } from 'zustand/middleware'
import type { Option } from '@/core/routine'
import type { BesideCounts, Replay } from '@/core/station'

interface ViewState {
  /** Shown as in a mirror; what is stored stays. */
  mirrored: boolean
  /** Whose cues are shown; '' for everybody's. */
  role: string
  option: Option
  /** What stands beside the counts on the floor. */
  beside: BesideCounts
  /** What the camera's mirror shows: this moment, the repetition before, or both. */
  replay: Replay
  /** Tips, usual mistakes and cautions stand beside the counts on the floor. */
  tips: boolean
  /** The film stands beside the sheet, and its stills over the lanes. */
  film: boolean
  stills: boolean
  /** How a film stands beside the counts on the floor: as large as the words, larger, or with the figure. */
  filmed: 'plain' | 'large' | 'figure'
  /** On the floor the film is heard in place of the song. */
  filmSound: boolean
  flip: () => void
  show: (
    what: Partial<
      Pick<
        ViewState,
        'role' | 'option' | 'beside' | 'replay' | 'tips' | 'film' | 'stills' | 'filmed' | 'filmSound'
      >
    >,
  ) => void
}

/** How cues are looked at on this device: mirrored or true, for whom, in which option. */
export const useView = create<ViewState>()(
  persist(
    (set) => ({
      mirrored: false,
      role: '',
      option: 'base',
      beside: 'none',
      replay: 'now',
      tips: true,
      film: false,
      stills: false,
      filmed: 'plain',
      filmSound: false,
      flip: () => set((s) => ({ mirrored: !s.mirrored })),
      show: (what) => set(what),
    }),
    {
      name: 'azalea-view',
      partialize: ({ mirrored, beside, replay, tips, film, stills, filmed, filmSound }) => ({
        ...{ mirrored, beside, replay, tips, film, stills, filmed, filmSound },
      }),
      // Read after the first paint: the server knows nothing of this device.
      skipHydration: true,
    },
  ),
)
