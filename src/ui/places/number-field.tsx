'use client'

import { KeptLine } from '../parts/kept-line'

interface Props {
  label: string
  /** Null for nothing said. */
  value: number | null
  placeholder?: string
  min: number
  max: number
  keep: (value: number | null) => void
}

/** Metres as they are written: with a point or a comma; empty for nothing said. What is no number is not kept. */
export function MetresField({ label, value, placeholder = '', min, max, keep }: Props) {
  return (
    <KeptLine
      label={label}
      value={value === null ? '' : String(Math.round(value * 100) / 100)}
      most={8}
      placeholder={placeholder}
      keep={(text) => {
        const said = text.trim().replace(',', '.').replace(/\s*m$/, '')
        if (said === '') return keep(null)
        const number = Number(said)
        if (Number.isFinite(number)) keep(Math.min(max, Math.max(min, number)))
      }}
    />
  )
}
