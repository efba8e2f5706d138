'use client'

import { useEffect } from 'react'
import { foreignLetters, type Letters, lettersFor } from '@/core/writing'
import { LETTERS } from './tokens'

/** Fetches the faces that are not here yet, and puts them in their order. A face of Han is fetched piece by piece, by letters. */
function show(faces: readonly Letters[]): void {
  for (const { name } of faces) {
    const href = `/letters/${name}/letters.css`
    if (document.head.querySelector(`link[href="${href}"]`)) continue
    const link = document.createElement('link')
    link.rel = 'stylesheet'
    link.href = href
    document.head.append(link)
  }
  const families = [...faces.map((f) => `'${f.family}'`), 'system-ui'].join(', ')
  document.documentElement.style.setProperty(LETTERS, families)
}

const isField = (node: Node): node is HTMLInputElement | HTMLTextAreaElement =>
  node instanceof HTMLInputElement || node instanceof HTMLTextAreaElement

/** What is written in a part of the page: its text, and what stands in its fields. */
function wordsOf(node: Node): string {
  const fields = node instanceof Element ? [...node.querySelectorAll('input, textarea'), node] : []
  return [node.textContent ?? '', ...fields.filter(isField).map((f) => f.value)].join(' ')
}

/** Looks at every word that comes into the page: where one has letters that the app's type has not, their face is fetched. */
export function OtherLetters() {
  useEffect(() => {
    // Every letter that was seen: one page holds one song, and its other words tell how its Han is drawn.
    let seen = ''
    const read = (words: string) => {
      const fresh = [...foreignLetters(words)].filter((c) => !seen.includes(c)).join('')
      if (!fresh) return
      seen += fresh
      const faces = lettersFor(seen)
      if (faces.length) show(faces)
    }
    read(wordsOf(document.body))
    const seer = new MutationObserver((changes) => {
      for (const c of changes) {
        if (c.type === 'characterData') read(c.target.nodeValue ?? '')
        for (const node of c.addedNodes) read(wordsOf(node))
      }
    })
    seer.observe(document.body, { subtree: true, childList: true, characterData: true })
    const typed = ({ target }: Event) => {
      if (target instanceof Node && isField(target)) read(target.value)
    }
    document.addEventListener('input', typed)
    return () => {
      seer.disconnect()
      document.removeEventListener('input', typed)
    }
  }, [])
  return null
}
