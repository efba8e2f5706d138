'use client'

import { nanoid } from 'nanoid'
import styled from 'styled-components'
import { Button } from '../../parts/button'
import type { Page } from '../../state/page'
import { usePlayer, usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import type { Commands } from './commands'
import { useHearing } from './use-hearing'

const Likely = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
  li { display: grid; grid-template-columns: minmax(0, 1fr) auto 38px; align-items: center; gap: 4px; }
  li > :first-child { justify-self: start; max-width: 100%; }
  li span { font-size: 12.5px; color: ${desk.quiet}; text-align: right; }
`

/** What else was likely: each is heard, and taken, with one press. */
export function OtherWays({ page, commands: c }: { page: Page; commands: Commands }) {
  const edit = useRoutine((s) => s.edit)
  const playing = usePlayerState((s) => s.playing)
  const player = usePlayer()
  const { choices, other } = useHearing(page)
  if (!choices.length) return null
  return (
    <>
      <h3>Also likely</h3>
      <Likely>
        <li>
          <p>As counted now</p>
          <Button
            small
            look="quiet"
            onPress={c.asCounted.run}
            aria-label="Hear it as counted now"
            tip={c.asCounted.tip}
            hotkey={c.asCounted.id}
          >
            Hear
          </Button>
        </li>
        {choices.map((choice) => (
          <li key={choice.name}>
            <Button
              small
              onPress={() => edit(choice.name.toLowerCase(), (r) => choice.change(r, nanoid))}
              tip="Take this instead; undo brings back what was heard"
            >
              {choice.name}
            </Button>
            <Button
              small
              look="quiet"
              onPress={() => other(choice)}
              aria-label={`Hear it: ${choice.name}`}
              tip={c.otherWay.tip}
              hotkey={c.otherWay.id}
            >
              Hear
            </Button>
            <span>{Math.round(100 * choice.weight)} %</span>
          </li>
        ))}
      </Likely>
      {playing && (
        <Button small look="quiet" onPress={() => player.pause(page)} tip="Stops the sound" hotkey="play">
          Stop
        </Button>
      )}
    </>
  )
}
