'use client'

import { nanoid } from 'nanoid'
import styled from 'styled-components'
import { type Alike, linkAlike } from '@/core/choreo'
import { type PlacedPhrase, stretchName } from '@/core/routine'
import { cuesText } from '@/core/time'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import { useBook } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'

/** Something that could be done, with what for and the presses that do it. */
export const Offer = styled.li`
  display: grid;
  gap: 6px;
  padding: 9px 11px;
  border: 1.5px dashed ${desk.edge};
  border-radius: 10px;
  font-size: 13.5px;
  em { font-style: normal; color: ${desk.quiet}; }
`

export const Offers = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 7px;
`

/** Why a stretch could be linked, in words. */
function reason(a: Alike): string {
  if (a.likeness === 'sound') return `The song sounds alike there; ${cuesText(a.same)} would come along.`
  return `${cuesText(a.same)} alike${a.own ? `, ${cuesText(a.own)} of its own ${a.own === 1 ? 'stays' : 'stay'}` : ''}. Nothing danced changes.`
}

/** A stretch and what it could be danced as. */
export function alikeName(placed: readonly PlacedPhrase[], a: Alike): string {
  const from = stretchName(placed, { from: a.from, to: a.from + a.to.to - a.to.from })
  return `${stretchName(placed, a.to)} as ${from}${a.mirrored ? ', to the other side' : ''}`
}

/** Linking what is alike: one, or all in one step. */
export function useLinkAlike(): (list: readonly Alike[], name: string) => void {
  const edit = useRoutine((s) => s.edit)
  const book = useBook()
  return (list, name) => {
    edit(name, (r) => list.reduce((x, a) => linkAlike(x, a, book, nanoid), r))
  }
}

/** What could be linked, each with what it is like. */
export function AlikePart({ page, list, all }: { page: Page; list: readonly Alike[]; all?: boolean }) {
  const link = useLinkAlike()
  const to = useCursor((s) => s.to)
  if (!list.length) return null
  return (
    <Part aria-label="Alike" data-testid="alike">
      <h3>{list.length > 1 ? `${list.length} could be linked` : 'Could be linked'}</h3>
      <Offers>
        {list.map((a) => (
          <Offer key={`${a.to.from} ${a.to.to}`}>
            <span>{alikeName(page.placed, a)}</span>
            <em>{reason(a)}</em>
            <Tools>
              <Button small onPress={() => link([a], alikeName(page.placed, a))}>
                Link it
              </Button>
              {all && (
                <Button small look="quiet" onPress={() => to(a.to.from)}>
                  Go there
                </Button>
              )}
            </Tools>
          </Offer>
        ))}
      </Offers>
      {all && list.length > 1 && (
        <Tools>
          <Button small onPress={() => link(list, `link ${list.length} that are alike`)}>
            Link all {list.length}
          </Button>
        </Tools>
      )}
    </Part>
  )
}
