'use client'

import { useId } from 'react'
import styled from 'styled-components'
import { desk } from '../theme/tokens'
import { TooLong } from './field'

const Box = styled.textarea`
  width: 100%;
  min-height: 36px;
  border: 1.5px solid ${desk.edge};
  border-radius: 9px;
  background: ${desk.card};
  padding: 8px 10px;
  font: inherit;
  font-size: 14px;
  resize: vertical;
`

const Field = styled.div`
  display: grid;
  gap: 4px;
  label { font-size: 13px; color: ${desk.quiet}; font-weight: 500; }
`

interface Props {
  label: string
  value: string
  rows: number
  placeholder?: string
  /** Letters it may have: more is said, and not kept. */
  most: number
  onChange: (text: string) => void
  onBlur?: () => void
}

/** Several lines of text. */
export function Area({ label, value, rows, placeholder = '', most, onChange, onBlur }: Props) {
  const id = useId()
  const over = value.length > most
  return (
    <Field>
      <label htmlFor={id}>{label}</label>
      <Box
        id={id}
        rows={rows}
        placeholder={placeholder}
        value={value}
        aria-invalid={over || undefined}
        onChange={(e) => onChange(e.target.value)}
        onBlur={() => !over && onBlur?.()}
      />
      <TooLong of={value} most={most} />
    </Field>
  )
}
