'use client'

import { useEffect, useLayoutEffect, useRef } from 'react'

/**
 * What is written and not kept yet is kept when its owner gives way to another in the same field, or the field goes.
 * @param owner whose field it is
 * @param leave keeps what is written for this owner
 */
export function useLeave(owner: string, leave: () => void): void {
  const last = useRef({ owner, leave })
  useLayoutEffect(() => {
    const before = last.current
    last.current = { owner, leave }
    if (before.owner !== owner) before.leave()
  })
  useEffect(() => () => last.current.leave(), [])
}
