'use client'

import type { DancedCue, Stretch } from '@/core/choreo'
import type { Ticks } from '@/core/time'
import { Button } from '../../parts/button'
import { spokenPlace } from '../../sheet/sheet'
import type { Page } from '../../state/page'
import { Part, Tools } from '../frame'
import type { Edits } from './use-edits'

/** The marked stretch: what it holds, and what can be done with all of it at once. */
export function StretchPart({
  page,
  stretch,
  last,
  cues,
  edits,
  unmark,
}: {
  page: Page
  stretch: Stretch
  /** The last place that is marked. */
  last: Ticks
  cues: readonly DancedCue[]
  edits: Edits
  unmark: () => void
}) {
  const held = cues.filter(
    (c) => c.at >= stretch.from && c.at < stretch.to && stretch.layers.includes(c.layer),
  ).length
  return (
    <Part>
      <h2>Marked</h2>
      <p>
        {spokenPlace(page, stretch.from)}, to {spokenPlace(page, last)}.
      </p>
      <p data-testid="held">
        {stretch.layers.join(', ')}: {held === 0 ? 'no cues' : held === 1 ? '1 cue' : `${held} cues`}
      </p>
      <Tools>
        <Button small isDisabled={!held} onPress={edits.copy} hotkey="ctrl C">
          Copy
        </Button>
        <Button small isDisabled={!held} onPress={edits.cut} hotkey="ctrl X">
          Cut
        </Button>
        <Button small isDisabled={!held} onPress={edits.mirror} hotkey="M">
          To the other side
        </Button>
        <Button small isDisabled={!held} onPress={edits.take} hotkey="delete">
          Delete
        </Button>
      </Tools>
      <Tools>
        <Button small look="quiet" onPress={unmark} hotkey="esc">
          Unmark
        </Button>
      </Tools>
    </Part>
  )
}
