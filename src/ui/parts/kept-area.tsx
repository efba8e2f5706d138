'use client'

import { Area } from './area'
import { type KeptText, useKeptText } from './kept-line'

interface Props extends KeptText {
  label: string
  rows: number
  /** Letters it may have. */
  most: number
}

/** Several lines of text, kept when they are left. */
export function KeptArea({ label, rows, most, ...kept }: Props) {
  const { text, setText, done } = useKeptText(kept)
  return <Area label={label} rows={rows} value={text} most={most} onChange={setText} onBlur={done} />
}
