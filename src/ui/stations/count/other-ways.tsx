'use client'

import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { otherWays } from '@/core/station'
import { Button } from '../../parts/button'
import type { Page } from '../../state/page'
import { usePlayer, usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import { type Commands, useCount } from './count-store'

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
  const playing = usePlayerState((s) => s.playing)
  const player = usePlayer()
  const send = useCount((s) => s.send)
  const hearing = useCount((s) => s.heard?.hearing ?? null)
  const counted = useRoutine(
    useShallow(({ routine: { repairs, phrases, sections, usual } }) => ({
      repairs,
      phrases,
      sections,
      usual,
    })),
  )
  const choices = otherWays(hearing, counted)
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
              onPress={() => send({ kind: 'take way', choice })}
              tip="Take this instead; undo brings back what was heard"
            >
              {choice.name}
            </Button>
            <Button
              small
              look="quiet"
              onPress={() => send({ kind: 'hear way', choice })}
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
