'use client'

import { X } from 'lucide-react'
import { useEffect } from 'react'
import styled from 'styled-components'
import { danceOf, phraseAt, pieceOf } from '@/core/routine'
import { Button } from '../parts/button'
import { LinkWhenMeant } from '../parts/link-when-meant'
import {
  didFirst,
  FIRST_STEPS,
  type FirstFacts,
  loadFirstSteps,
  nextFirstStep,
  useFirstSteps,
} from '../state/first-steps'
import type { Page } from '../state/page'
import { usePlayerState } from '../state/player'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'
import { drillAddress } from './marked-part'

const Line = styled.div`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 4px 8px;
  align-items: start;
  padding: 10px 12px;
  border-radius: 10px;
  background: ${desk.paper};
  border-left: 4px solid ${desk.azalea};
  font-size: 14px;
  a { font-weight: 650; color: ${desk.azalea}; }
  kbd { font: inherit; font-weight: 650; }
`

/** Leads a newcomer to the first drill, one line at a time; gone for good once it was done, or not wanted. */
export function FirstStepLine({
  id,
  page,
  station,
}: {
  id: string
  page: Page
  station: FirstFacts['station']
}) {
  const done = useFirstSteps((s) => s.done)
  const routine = useRoutine((s) => s.routine)
  const playing = usePlayerState((s) => s.playing)
  const cues = routine.cues.length
  const counted = page.times.length > 1
  useEffect(loadFirstSteps, [])
  useEffect(() => {
    if (playing && station === 'count') didFirst('listen')
  }, [playing, station])
  // Without a song there is nothing to listen to first.
  const isAlone = station === 'count' && routine.combination
  const step = done && !isAlone && nextFirstStep({ station, counted, cues }, done)
  if (!step) return null
  const written = routine.cues.reduce((first, c) => Math.min(first, c.at), Number.POSITIVE_INFINITY)
  const row = phraseAt(page.placed, Number.isFinite(written) ? written : danceOf(routine).from)
  return (
    <Line data-testid="first-step">
      {step === 'listen' ? (
        <span>
          Listen first: <kbd>space</kbd> plays the song with a click on each count. Is 1 where you count 1?
        </span>
      ) : step === 'write' && station === 'count' ? (
        <span>
          Do the counts fit? Then{' '}
          <LinkWhenMeant href={`/r/${id}/cue?line=1`}>write the first eight</LinkWhenMeant>.
        </span>
      ) : step === 'write' ? (
        <span>
          Write the first eight: <kbd>L</kbd> opens its line. “1 step R; 2 touch L; 3-4 roll”, then{' '}
          <kbd>enter</kbd>.
        </span>
      ) : (
        row && (
          <span>
            Stand up and{' '}
            <LinkWhenMeant
              href={drillAddress(id, pieceOf(page.placed, { from: row.start, to: row.end }), '&go=1')}
            >
              drill it
            </LinkWhenMeant>
            : slowed down, counted in, again and again.
          </span>
        )
      )}
      <Button
        small
        look="quiet"
        aria-label="No more first steps"
        tip="I know my way"
        onPress={() => didFirst(...FIRST_STEPS)}
      >
        <X size={15} aria-hidden />
      </Button>
    </Line>
  )
}
