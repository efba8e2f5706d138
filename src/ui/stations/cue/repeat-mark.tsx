'use client'

import styled from 'styled-components'
import { type PlacedPhrase, phraseAt, type Repeat, stretchName } from '@/core/routine'
import { common } from '@/core/time'
import type { Page } from '../../state/page'
import { desk } from '../../theme/tokens'

const Note = styled.span`
  position: absolute;
  right: 4px;
  top: 2px;
  max-width: 74px;
  padding: 1px 6px;
  border: 1.5px dashed #6F6073;
  border-radius: 7px;
  font-size: 11.5px;
  color: ${desk.quiet};
  background: ${desk.paper};
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
`

/** Beside a row: what it is danced as. */
export function RepeatMark({
  page,
  placed,
  repeats,
}: {
  page: Page
  placed: PlacedPhrase
  repeats: readonly Repeat[]
}) {
  const row = { from: placed.start, to: placed.end }
  const names = repeats.flatMap((r) => {
    const piece = common(r.to, row)
    if (!piece) return []
    const from = piece.from + r.from - r.to.from
    const p = phraseAt(page.placed, from)
    const source = { from, to: from + piece.to - piece.from }
    return [
      {
        short: `${p ? `${p.section?.letter ?? ''}${p.inSection}` : '?'}${r.mirrored ? ' ⇄' : ''}`,
        long: `as ${stretchName(page.placed, source)}${r.mirrored ? ', to the other side' : ''}`,
      },
    ]
  })
  if (!names.length) return null
  return (
    <Note title={`Danced ${names.map((n) => n.long).join('; ')}`} data-testid="repeat">
      as {names.map((n) => n.short).join(', ')}
    </Note>
  )
}
