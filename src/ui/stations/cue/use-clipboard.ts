'use client'

import { useEffect, useEffectEvent } from 'react'
import { whatToPaste } from '@/core/station'
import { useCopied } from '../../state/copied'
import { useCue } from './cue-store'

/** Where the browser's own copying and pasting is meant: fields, dialogs, and text that is selected. */
function elsewhere(event: ClipboardEvent): boolean {
  const target = event.target instanceof Element ? event.target : document.activeElement
  if (target?.closest('input, textarea, [contenteditable=true], [role=dialog], [role=alertdialog]'))
    return true
  return event.type !== 'paste' && document.getSelection()?.isCollapsed === false
}

/** Copies, cuts and pastes cues. */
export function useCopying() {
  const send = useCue((s) => s.send)
  /** @returns the text for the clipboard; null where nothing was copied */
  const take = (work: 'copy' | 'cut'): string | null => {
    const before = useCopied.getState()
    send({ kind: 'work', work })
    const now = useCopied.getState()
    return now === before ? null : now.text
  }
  return {
    take,
    /** By a button: where the browser does not let it write to the clipboard, what was copied stays in this window. */
    takeByButton: (work: 'copy' | 'cut') => {
      const text = take(work)
      if (text) navigator.clipboard?.writeText(text).catch(() => {})
    },
    /** @param text of the clipboard, where it was asked */
    paste: (text?: string) => {
      const from = whatToPaste(text, useCopied.getState())
      if (from) send({ kind: 'work', work: 'paste', from })
    },
  }
}

/** Copying, cutting and pasting cues by the keys of the window, through its clipboard: into any text, and back. */
export function useClipboard(): void {
  const copying = useCopying()
  const taken = useEffectEvent((type: string) => copying.take(type === 'cut' ? 'cut' : 'copy'))
  const paste = useEffectEvent((text: string) => copying.paste(text))
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
