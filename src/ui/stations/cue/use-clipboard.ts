'use client'

import { useEffect, useEffectEvent } from 'react'
import type { Edits } from './use-edits'

/** Where the browser's own copying and pasting is meant: fields, dialogs, and text that is selected. */
function elsewhere(event: ClipboardEvent): boolean {
  const target = event.target instanceof Element ? event.target : document.activeElement
  if (target?.closest('input, textarea, [contenteditable=true], [role=dialog], [role=alertdialog]'))
    return true
  return event.type !== 'paste' && document.getSelection()?.isCollapsed === false
}

/** Copying, cutting and pasting cues by the keys of the window, through its clipboard: into any text, and back. */
export function useClipboard(edits: Pick<Edits, 'copied' | 'cut' | 'paste'>): void {
  const taken = useEffectEvent((type: string) => (type === 'cut' ? edits.cut() : edits.copied()))
  const paste = useEffectEvent((text: string) => edits.paste(text))
  useEffect(() => {
    const out = (event: ClipboardEvent) => {
      if (elsewhere(event)) return
      const text = taken(event.type)
      if (text === null) return
      event.clipboardData?.setData('text/plain', text)
      event.preventDefault()
    }
    const into = (event: ClipboardEvent) => {
      if (elsewhere(event)) return
      paste(event.clipboardData?.getData('text/plain') ?? '')
      event.preventDefault()
    }
    document.addEventListener('copy', out)
    document.addEventListener('cut', out)
    document.addEventListener('paste', into)
    return () => {
      document.removeEventListener('copy', out)
      document.removeEventListener('cut', out)
      document.removeEventListener('paste', into)
    }
  }, [])
}
