import { useEffect, useEffectEvent } from 'react'
import { tinykeys } from 'tinykeys'

/** What a key does on a practice page. */
export interface KeyWork {
  play: () => void
  slower: () => void
  faster: () => void
  mirror: () => void
  sits: () => void
  notYet: () => void
  large: () => void
}

/** The keys, as they are told. */
export const KEYS = [
  ['P', 'play, stop'],
  ['−', '5 % slower'],
  ['+', '5 % faster'],
  ['M', 'as in a mirror'],
  ['I', 'it sits'],
  ['N', 'not yet'],
  ['L', 'large, to be read from afar'],
  ['↓ ↑', 'from count to count'],
] as const

const typing = (e: Event) =>
  e.target instanceof HTMLElement &&
  (e.target.matches('select, input:not([type=range]):not([type=checkbox]):not([type=file])') ||
    e.target.isContentEditable)

/** Goes from the count that has the focus to the one before or after it. */
function step(e: KeyboardEvent, way: 1 | -1) {
  const all = [...document.querySelectorAll<HTMLElement>('[data-tick]')]
  const at = all.indexOf(e.target as HTMLElement)
  const next = all[at + way]
  if (at < 0 || !next) return
  e.preventDefault()
  next.focus()
}

/** Listens to the keys of the page. */
export function useKeys(work: KeyWork) {
  const press = useEffectEvent((what: keyof KeyWork, e: KeyboardEvent) => {
    if (!typing(e)) work[what]()
  })
  useEffect(() => {
    const does = (what: keyof KeyWork) => (e: KeyboardEvent) => press(what, e)
    return tinykeys(window, {
      p: does('play'),
      '-': does('slower'),
      '+': does('faster'),
      'Shift++': does('faster'),
      m: does('mirror'),
      i: does('sits'),
      n: does('notYet'),
      l: does('large'),
      ArrowDown: (e) => step(e, 1),
      ArrowUp: (e) => step(e, -1),
    })
  }, [])
}
