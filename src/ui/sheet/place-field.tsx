'use client'

import styled from 'styled-components'
import type { Meant } from '@/core/routine'
import type { Stretch } from '@/core/time'
import { Button } from '../parts/button'
import { Text } from '../parts/field'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'
import { usePlaceText } from './place-text'

const Box = styled.div`
  display: grid;
  gap: 4px;
  [role='status'] { color: ${desk.quiet}; font-size: 13px; overflow-wrap: anywhere; }
`

const Choices = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
`

/** What may be typed where counts are asked for. */
export const PLACE_EXAMPLE = '3 to 8, or 7 8 and the 1 after'

interface Props {
  label: string
  page: Page
  /** What is chosen now; null for nothing yet. */
  stretch: Stretch | null
  /** The place that is meant where none is named; where the stretch begins, where nothing is said. */
  here?: number
  onChoose: (next: Stretch) => void
}

/** Counts said in words: what was understood is shown while it is typed, with every other way to take it. */
export function PlaceField({ label, page, stretch, here = stretch?.from ?? 0, onChoose }: Props) {
  const routine = useRoutine((s) => s.routine)
  const place = usePlaceText({ page, routine, here }, stretch, onChoose)
  return (
    <Box onBlur={place.left}>
      <Text
        label={label}
        value={place.text}
        onChange={place.type}
        onEnter={place.done}
        placeholder={PLACE_EXAMPLE}
      />
      {place.problem && <p role="alert">{place.problem}</p>}
      <Understood meant={place.meant} take={place.take} />
    </Box>
  )
}

/** What typed words were taken for, and what else they may mean: each taken with one press. */
export function Understood({ meant, take }: { meant: readonly Meant[]; take: (one: Meant) => void }) {
  const [first, ...others] = meant
  if (!first) return null
  return (
    <>
      <p role="status">{others.length ? `Enter takes ${first.name}; or` : first.name}</p>
      {others.length > 0 && (
        <Choices>
          {others.map((one) => (
            <li key={one.name}>
              <Button small look="quiet" onPress={() => take(one)}>
                {one.name}
              </Button>
            </li>
          ))}
        </Choices>
      )}
    </>
  )
}
