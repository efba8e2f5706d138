'use client'

import { createContext, type ReactNode, useContext } from 'react'
import type { ROLES } from './school'

/** Whose page this is. */
export interface Me {
  id: string
  name: string
  role: (typeof ROLES)[number]
}

const Context = createContext<Me | null>(null)

/** Says to all that is drawn whose page it is. */
export function WhoProvider({ who, children }: { who: Me | null; children: ReactNode }) {
  return <Context value={who}>{children}</Context>
}

/** Whose page this is; null where Azalea is used on one machine, or nobody is signed in. */
export const useMe = (): Me | null => useContext(Context)
