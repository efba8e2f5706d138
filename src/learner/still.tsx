import { createContext, useContext } from 'react'
import type { PageStills } from '@/core/handout'
import type { Ticks } from '@/core/time'

const Context = createContext<PageStills | null>(null)
export const StillsProvider = Context.Provider

/** The picture of a count, where the page has one. @param mirrored sides are seen as in a mirror */
export function Still({ tick, mirrored }: { tick: Ticks; mirrored: boolean }) {
  const stills = useContext(Context)
  const picture = stills?.pictures[tick]
  if (!stills || !picture) return null
  return (
    // biome-ignore lint/performance/noImgElement: it is in the page itself
    <img
      className={stills.mirrored !== mirrored ? 'still turned' : 'still'}
      src={`data:image/jpeg;base64,${picture}`}
      alt=""
    />
  )
}
