'use client'

import type { DancedCue, Marked } from '@/core/routine'
import { holds } from '@/core/time'
import { Button } from '../../parts/button'
import { Tools } from '../../parts/panel'
import type { Page } from '../../state/page'
import { MarkedPart } from '../marked-part'
import type { Edits } from './use-edits'

/** The marked part of the sheet: what it holds, and what can be done with all of it at once. */
export function StretchPart({
  id,
  page,
  marked,
  cues,
  edits,
}: {
  id: string
  page: Page
  marked: Marked
  cues: readonly DancedCue[]
  edits: Edits
}) {
  const held = cues.filter((c) => holds(marked, c.at) && marked.layers.includes(c.layer)).length
  return (
    <MarkedPart id={id} page={page}>
      <p data-testid="held">
        {marked.layers.join(', ')}: {held === 0 ? 'no cues' : held === 1 ? '1 cue' : `${held} cues`}
      </p>
      <Tools>
        <Button small look="quiet" isDisabled={!held} onPress={edits.copy} hotkey="copy">
          Copy
        </Button>
        <Button small look="quiet" isDisabled={!held} onPress={edits.cut} hotkey="cut">
          Cut
        </Button>
        <Button small look="quiet" isDisabled={!held} onPress={edits.mirror} hotkey="otherSide">
          To the other side
        </Button>
        <Button small look="quiet" isDisabled={!held} onPress={edits.take} hotkey="take">
          Delete
        </Button>
      </Tools>
    </MarkedPart>
  )
}
