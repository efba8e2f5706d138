'use client'

import { Label, TextArea, TextField } from 'react-aria-components'
import styled from 'styled-components'
import { desk } from '../theme/tokens'
import { TooLong } from './field'

const Box = styled(TextArea)`
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

const Field = styled(TextField)`
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
  return (
    <Field
      value={value}
      onChange={onChange}
      {...(onBlur ? { onBlur: () => value.length <= most && onBlur() } : {})}
    >
      <Label>{label}</Label>
      <Box rows={rows} placeholder={placeholder} />
      <TooLong of={value} most={most} />
    </Field>
  )
}
