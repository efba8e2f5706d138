'use client'

import { useRouter } from 'next/navigation'
import styled from 'styled-components'
import { CLASS_MINUTES } from '@/core/lesson'
import { type LessonStep, stretchName } from '@/core/routine'
import { joined, type Seconds } from '@/core/time'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { minutesText } from '../../parts/step-words'
import { mustLoad, useLoadFloor } from '../../state/devices'
import { desk } from '../../theme/tokens'
import { useFresh, useSeconds } from './laid-out'
import { Over } from './over'
import { usePlan, useTeach } from './teach-store'

const Big = styled.p`
  font-size: 14px;
  strong { font-size: 26px; line-height: 1.1; color: ${desk.ink}; }
`

/** What is taught cannot be loaded anew in the middle of a lesson: where a camera needs that, it is done before. */
function useToFloor(id: string): () => void {
  const router = useRouter()
  const loadFloor = useLoadFloor()
  const planId = usePlan((p) => p.id)
  return () => {
    const address = `/r/${id}/floor?plan=${planId}`
    if (mustLoad('camera')) loadFloor(address, null)
    else router.push(address)
  }
}

/** Chunks that are less than a phrase. */
const PIECES = /counts|hard/

/** What warming up and cooling down take. */
const endsOf = (steps: readonly LessonStep[]): Seconds =>
  steps.reduce((n, s) => (s.kind === 'warm-up' || s.kind === 'cool-down' ? n + s.talk : n), 0)

/** The minutes of the lesson, what had to give way, and what there is no time for. */
export function TotalPart({ id }: { id: string }) {
  const placed = useTeach((s) => s.page.placed)
  const settings = usePlan((p) => p.settings)
  const { cut, left, fits, eights } = useFresh()
  const ends = usePlan((p) => endsOf(p.steps))
  const toFloor = useToFloor(id)
  const total = useSeconds().reduce((a, b) => a + b, 0)
  const over = total - settings.minutes * 60
  // What follows on is said as one: "Verse, eight 2 to Bridge, eight 4".
  const pieces = joined(left)
  return (
    <Part>
      <Big data-testid="total">
        <strong>{minutesText(total)}</strong> of {settings.minutes} min
      </Big>
      {eights >= 1 && (
        <p data-testid="pace">
          {Math.round(eights)} new {Math.round(eights) === 1 ? 'eight' : 'eights'}, about{' '}
          {((total - ends) / 60 / eights).toFixed(1)} min each. A usual class takes{' '}
          {CLASS_MINUTES[settings.grade]} ({settings.grade}).
        </p>
      )}
      {over > 0 && <Over role="status">It is {minutesText(over)} too long, by your changes.</Over>}
      <Tools>
        <Button look="strong" onPress={toFloor}>
          To the floor
        </Button>
      </Tools>
      {cut.length > 0 && <p>To fit: {cut.join('; ')}.</p>}
      {left.length > 0 && (
        <Over data-testid="left">
          No time for {left.length} {PIECES.test(settings.chunk) ? 'piece' : 'phrase'}
          {left.length === 1 ? '' : 's'}:{' '}
          {pieces
            .slice(0, 4)
            .map((s) => stretchName(placed, s))
            .join('; ')}
          {pieces.length > 4 && `; and ${pieces.length - 4} stretches more`}. {fits} new ones fit.
        </Over>
      )}
    </Part>
  )
}
