'use client'

import { outboxWords } from '../../state/outbox-state'
import { useOutbox } from '../../state/outbox-window'
import { usePlayerState } from '../../state/player'

/** What keeps the floor from working, in words; '' for nothing. */
export function useTrouble(): string {
  const saving = useOutbox(outboxWords)
  const problem = usePlayerState((s) => s.problem)
  const loading = usePlayerState((s) => (s.loading.kind === 'problem' ? s.loading.why : ''))
  return saving || problem || loading
}
