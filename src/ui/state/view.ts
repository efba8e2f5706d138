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
  /** The last whole repetition of each drill the floor's camera saw is kept with the dance. */
  keepSeen: boolean
  /** The plan of the floor stands over the sheet, not beside it. */
  planLarge: boolean
  /** What the plan is of. */
  planOf: 'dancers' | 'path'
  /** Who one is on the floor's plan; '' for nobody. */
  dancer: string
  flip: () => void
  show: (
    what: Partial<
      Pick<
        ViewState,
        | 'role'
        | 'option'
        | 'beside'
        | 'replay'
        | 'tips'
        | 'film'
        | 'stills'
        | 'filmed'
        | 'filmSound'
        | 'keepSeen'
        | 'planLarge'
        | 'planOf'
        | 'dancer'
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
      keepSeen: false,
      planLarge: false,
      planOf: 'dancers',
      dancer: '',
      flip: () => set((s) => ({ mirrored: !s.mirrored })),
      show: (what) => set(what),
    }),
    {
      name: 'azalea-view',
      // Of this device; for whom and in which version is of this visit.
      partialize: ({ role, option, planLarge, dancer, ...kept }) => kept,
      // Read after the first paint: the server knows nothing of this device.
      skipHydration: true,
    },
  ),
)

/** Shows the film where one works, or puts it away. */
export function turnFilm(): void {
  const { film, show } = useView.getState()
  show({ film: !film })
}
