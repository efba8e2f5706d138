'use client'

import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import type { Choice } from '@/core/routine'
import { otherWays, type Question, question } from '@/core/station'
import { Button } from '../../parts/button'
import { More } from '../../parts/more'
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

const AskedBox = styled.div`
  display: grid;
  gap: 8px;
  padding: 10px 12px;
  border-radius: 10px;
  background: ${desk.amberSoft};
  border: 1.5px solid ${desk.amber};
`

const WHAT: Record<Question['doubt']['of'], string> = {
  beat: 'Which beat do you step on?',
  '1': 'Which is the 1 you would count?',
}

/** The song asks which of two ways is right: both are heard, one is taken. */
function Asked({ asked, commands: c }: { asked: Question; commands: Commands }) {
  const send = useCount((s) => s.send)
  return (
    <AskedBox role="group" aria-label={WHAT[asked.doubt.of]} data-testid="song-asks">
      <h3>{WHAT[asked.doubt.of]}</h3>
      <p>Azalea is not sure of this song. Hear both ways, then take the one that is right.</p>
      <Likely>
        <li>
          <Button
            small
            onPress={() => send({ kind: 'confirm' })}
            tip="It is right as it is; you are not asked again. Undo takes it back"
          >
            As counted now
          </Button>
          <HearAsCounted commands={c} />
          <span>{Math.round(100 * asked.doubt.sure)} %</span>
        </li>
        <Way choice={asked.other} commands={c} />
      </Likely>
    </AskedBox>
  )
}

function HearAsCounted({ commands: c }: { commands: Commands }) {
  return (
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
  )
}

/** Another way: taken, or heard. */
function Way({ choice, commands: c }: { choice: Choice; commands: Commands }) {
  const send = useCount((s) => s.send)
  return (
    <li>
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
  )
}

/** What else was likely: each is heard, and taken, with one press. */
export function OtherWays({ page, commands: c }: { page: Page; commands: Commands }) {
  const playing = usePlayerState((s) => s.playing)
  const player = usePlayer()
  const hearing = useCount((s) => s.heard?.hearing ?? null)
  const counted = useRoutine(
    useShallow(({ routine: { repairs, phrases, sections, usual, confirmed } }) => ({
      repairs,
      phrases,
      sections,
      usual,
      confirmed,
    })),
  )
  const choices = otherWays(hearing, counted)
  const asked = question(hearing, counted)
  const rest = choices.filter((choice) => choice.name !== asked?.other.name)
  if (!choices.length) return null
  const likely = (
    <Likely>
      {!asked && (
        <li>
          <p>As counted now</p>
          <HearAsCounted commands={c} />
        </li>
      )}
      {rest.map((choice) => (
        <Way key={choice.name} choice={choice} commands={c} />
      ))}
    </Likely>
  )
  return (
    <>
      {asked && <Asked asked={asked} commands={c} />}
      {/* Only who doubts the 1 looks for another. */}
      {rest.length > 0 && <More name={asked ? 'Also likely' : 'Counted wrong?'}>{likely}</More>}
      {playing && (
        <Button small look="quiet" onPress={() => player.pause(page)} tip="Stops the sound" hotkey="play">
          Stop
        </Button>
      )}
    </>
  )
}
