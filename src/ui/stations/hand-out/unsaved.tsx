'use client'

import { useOutbox } from '../../state/outbox-window'

/** Whether something done in this window waits to be saved: what the server makes would lack it. */
export const useUnsaved = () => useOutbox((s) => s.waiting > 0)

/** Says so, while it is so. */
export function Unsaved() {
  return useUnsaved() ? <p role="status">What you did last is still being saved.</p> : null
}
