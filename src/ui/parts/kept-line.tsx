'use client'

import { useState } from 'react'
import { useLeave } from '../state/use-leave'
import { Text } from './field'

export interface KeptText {
  value: string
  /** Told when the field is left or Enter is pressed, where it says something else than before. */
  keep: (text: string) => void
  /** Whose text it is, where one field serves several: what is written for one is kept when another takes its place. */
  of?: string
  /** Left empty it says again what it said. */
  needed?: boolean
}

/** A text that is kept when it is left. */
export function useKeptText({ value, keep, of = '', needed = false }: KeptText) {
  const fresh = { of, value, text: value }
  const [draft, setDraft] = useState(fresh)
  if (draft.of !== of || draft.value !== value) setDraft(fresh)
  const { text } = draft
  const setText = (next: string) => setDraft((d) => ({ ...d, text: next }))
  const done = () => {
    if (needed && !text.trim()) return setText(value)
    if (text.trim() !== value) keep(text.trim())
  }
  useLeave(of, () => of && done())
  return { text, setText, done }
}

interface Props extends KeptText {
  label: string
  placeholder?: string
  /** Letters it may have. */
  most?: number
}

/** A line of text kept when it is left. */
export function KeptLine({ label, placeholder = '', most, ...kept }: Props) {
  const { text, setText, done } = useKeptText(kept)
  return (
    <Text
      label={label}
      value={text}
      onChange={setText}
      onBlur={done}
      onEnter={done}
      placeholder={placeholder}
      {...(most ? { most } : {})}
    />
  )
}
