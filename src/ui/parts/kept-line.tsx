'use client'

import { useEffect, useState } from 'react'
import { Text } from './field'

interface Props {
  label: string
  value: string
  /** Told when the field is left or Enter is pressed, where it says something else than before. */
  keep: (text: string) => void
  placeholder?: string
  /** Letters it may have. */
  most?: number
  /** Left empty it says again what it said. */
  needed?: boolean
}

/** A line of text kept when it is left. */
export function KeptLine({ label, value, keep, placeholder = '', most, needed = false }: Props) {
  const [text, setText] = useState(value)
  useEffect(() => setText(value), [value])
  const done = () => {
    if (needed && !text.trim()) return setText(value)
    if (text.trim() !== value) keep(text.trim())
  }
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
