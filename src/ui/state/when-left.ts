/**
 * Hands on what a page holds before it goes: one out of sight is not painted any more. Whoever leaves while something is left over
 * is asked.
 * @param handOn called first, each time
 * @param isLeft what could not be handed on would be lost
 * @returns what ends it
 */
export function whenLeft(handOn: () => void, isLeft: () => boolean): () => void {
  const page = typeof document === 'undefined' ? null : document
  const frame = typeof window === 'undefined' ? null : window
  const hidden = () => {
    if (page?.hidden) handOn()
  }
  const leaving = (event: Event) => {
    handOn()
    if (isLeft()) event.preventDefault()
  }
  page?.addEventListener('visibilitychange', hidden)
  frame?.addEventListener('beforeunload', leaving)
  return () => {
    page?.removeEventListener('visibilitychange', hidden)
    frame?.removeEventListener('beforeunload', leaving)
  }
}
