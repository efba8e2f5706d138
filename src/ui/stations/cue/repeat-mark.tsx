'use client'

import styled from 'styled-components'
import type { Alike } from '@/core/choreo'
import { type PlacedPhrase, phraseAt, placeName, type Repeat, stretchName } from '@/core/routine'
import { common, holds } from '@/core/time'
import { rowName } from '../../sheet/doubt'
import type { Page } from '../../state/page'
import { desk } from '../../theme/tokens'

const Note = styled.span`
  position: absolute;
  right: 4px;
  top: 2px;
  max-width: 74px;
  padding: 1px 6px;
  border: 1.5px dashed ${desk.rule};
  border-radius: 7px;
  font-size: 11.5px;
  color: ${desk.quiet};
  background: ${desk.paper};
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
`

const Like = styled.button`
  position: absolute;
  right: 4px;
  top: 2px;
  max-width: 74px;
  padding: 1px 6px;
  border: 0;
  border-radius: 7px;
  background: none;
  font: inherit;
  font-size: 11.5px;
  color: ${desk.quiet};
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  cursor: pointer;
  &:hover, &:focus-visible { color: ${desk.azalea}; text-decoration: underline; }
`

/** Beside a row where nothing is danced yet: the earlier one it sounds like, which is linked by a press. */
function LikeMark({
  page,
  placed,
  alikes,
  onLink,
}: {
  page: Page
  placed: PlacedPhrase
  alikes: readonly Alike[]
  onLink: (a: Alike) => void
}) {
  const like = alikes.find((a) => a.likeness === 'sound' && holds(a.to, placed.start))
  const model = like && phraseAt(page.placed, like.from + placed.start - like.to.from)
  if (!like || !model) return null
  const one = { ...like, to: { from: placed.start, to: placed.end }, from: model.start }
  return (
    <Like
      type="button"
      tabIndex={-1}
      title={`Sounds like ${placeName(model)}. A press dances it as that`}
      onPointerDown={(e) => e.stopPropagation()}
      onClick={() => onLink(one)}
    >
      like {rowName(model)}
    </Like>
  )
}

/** Beside a row: what it is danced as, or could be. */
export function RepeatMark({
  page,
  placed,
  repeats,
  alikes,
  onLink,
}: {
  page: Page
  placed: PlacedPhrase
  repeats: readonly Repeat[]
  alikes: readonly Alike[]
  onLink: (a: Alike) => void
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
        short: `${p ? rowName(p) : '?'}${r.mirrored ? ' ⇄' : ''}`,
        long: `as ${stretchName(page.placed, source)}${r.mirrored ? ', to the other side' : ''}`,
      },
    ]
  })
  if (!names.length) return <LikeMark {...{ page, placed, alikes, onLink }} />
  return (
    <Note title={`Danced ${names.map((n) => n.long).join('; ')}`} data-testid="repeat">
      as {names.map((n) => n.short).join(', ')}
    </Note>
  )
}
