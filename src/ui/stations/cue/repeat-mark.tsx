'use client'

import styled from 'styled-components'
import type { PlacedPhrase, Repeat } from '@/core/routine'
import { placeName } from '@/core/routine'
import type { Page } from '../../state/page'
import { desk } from '../../theme/tokens'

const Mark = styled.span`
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
  const here = repeats.filter((r) => r.phrase === placed.phrase.id)
  if (!here.length) return null
  const names = here.map((r) => {
    const p = page.placed.find((x) => x.phrase.id === r.source)
    const short = p ? `${p.section?.letter ?? ''}${p.inSection}` : '?'
    return {
      short: `${short}${r.mirrored ? ' ⇄' : ''}`,
      long: `as in ${p ? placeName(p) : 'a phrase that is gone'}${r.mirrored ? ', to the other side' : ''}`,
    }
  })
  const title = names.map((n) => n.long).join('; ')
  return (
    <Mark title={`Danced ${title}`} data-testid="repeat">
      as {names.map((n) => n.short).join(', ')}
    </Mark>
  )
}
