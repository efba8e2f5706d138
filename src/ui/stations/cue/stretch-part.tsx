'use client'

import { danced, type Marked } from '@/core/routine'
import { cuesText, holds } from '@/core/time'
import { Button } from '../../parts/button'
import { Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { MarkedPart } from '../marked-part'
import { useCue } from './cue-store'
import { useCopying } from './use-clipboard'

/** The marked part of the sheet: what it holds, and what can be done with all of it at once. */
export function StretchPart({ id, page, marked }: { id: string; page: Page; marked: Marked }) {
  const held = useCue(
    (s) => s.choreo.shown.filter((c) => holds(marked, c.at) && marked.layers.includes(c.layer)).length,
  )
  const routine = useRoutine((s) => s.routine)
  const here = danced(routine).filter((c) => holds(marked, c.at))
  const unseen = here.filter((c) => marked.layers.includes(c.layer)).length - held
  const others = here.filter((c) => !marked.layers.includes(c.layer)).length
  const mark = useCursor((s) => s.mark)
  const send = useCue((s) => s.send)
  const { takeByButton } = useCopying()
  return (
    <MarkedPart id={id} page={page}>
      <p data-testid="held">
        {marked.layers.join(', ')}: {held === 0 ? 'no cues' : cuesText(held)}
        {unseen > 0 && `, and ${unseen} of other roles or versions, which go along`}
        {others > 0 && `; ${others} in other layers ${others === 1 ? 'does' : 'do'} not`}
      </p>
      <Tools>
        {others > 0 && (
          <Button small look="quiet" onPress={() => mark({ from: marked.from, to: marked.to })}>
            All layers
          </Button>
        )}
        <Button
          small
          look="quiet"
          isDisabled={!held && !unseen}
          onPress={() => takeByButton('copy')}
          hotkey="copy"
        >
          Copy
        </Button>
        <Button small look="quiet" isDisabled={!held} onPress={() => takeByButton('cut')} hotkey="cut">
          Cut
        </Button>
        <Button
          small
          look="quiet"
          isDisabled={!held}
          onPress={() => send({ kind: 'work', work: 'mirror' })}
          hotkey="otherSide"
        >
          To the other side
        </Button>
        <Button
          small
          look="quiet"
          isDisabled={!held}
          onPress={() => send({ kind: 'work', work: 'take away' })}
          hotkey="take"
        >
          Delete
        </Button>
      </Tools>
    </MarkedPart>
  )
}
