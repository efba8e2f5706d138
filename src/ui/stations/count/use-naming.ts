'use client'

import { type RefObject, useEffect, useRef } from 'react'
import { useCount } from './count-store'

/**
 * The field in which what was just made gets its name: it has the keys at once, and gives them back to the page.
 * @param id of the part or mark; null where there is none
 */
export function useNaming(id: string | null): {
  field: RefObject<HTMLInputElement | null>
  back: () => void
} {
  const mine = useCount((s) => id !== null && s.naming === id)
  const send = useCount((s) => s.send)
  const field = useRef<HTMLInputElement>(null)
  const named = useRef(false)
  useEffect(() => {
    if (!mine) return
    field.current?.focus()
    field.current?.select()
    named.current = true
    send({ kind: 'named' })
  }, [mine, send])
  return {
    field,
    back: () => {
      if (named.current) document.querySelector<HTMLElement>('[data-testid=sheet]')?.focus()
      named.current = false
    },
  }
}
