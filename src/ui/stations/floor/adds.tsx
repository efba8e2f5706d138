'use client'

import styled from 'styled-components'
import { danceOf, stretchName } from '@/core/routine'
import { nextAdded } from '@/core/station'
import { Button } from '../../parts/button'
import { Changes } from './changes'
import { useDrill, useFloor } from './floor-store'

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  button { min-height: 38px; font-size: 15px; flex: none; }
  @media (max-width: 700px) { order: 1; flex-wrap: nowrap; overflow-x: auto; }
`

/** What would be taken in next, by its name; null where nothing is left. */
const useMore = (): string | null =>
  useFloor(({ size, floor, routine, page: { placed } }) => {
    const piece = nextAdded({ size }, { floor, dance: danceOf(routine), placed })
    return piece && stretchName(placed, piece)
  })

/** More counts or fewer, and what is danced and called: changed while a drill is danced. */
export function Adds() {
  const drilled = useDrill((d) => d.plan.kind === 'drill')
  const moving = useFloor((s) => s.floor.phase.kind === 'dancing')
  const more = useMore()
  const send = useFloor((s) => s.send)
  if (!drilled || !moving) return null
  return (
    <Row data-testid="adds">
      <Button
        look="dark"
        isDisabled={!more}
        onPress={() => send({ kind: 'add', way: 'top' })}
        hotkey="loopMore"
      >
        {more ? `+ ${more}, from the top` : 'All is in'}
      </Button>
      <Button
        look="dark"
        isDisabled={!more}
        onPress={() => send({ kind: 'add', way: 'last two' })}
        hotkey="lastTwo"
      >
        + the last two
      </Button>
      <Button
        look="dark"
        isDisabled={!more}
        onPress={() => send({ kind: 'add', way: 'join' })}
        hotkey="joinAlone"
      >
        + the join
      </Button>
      <Button look="dark" onPress={() => send({ kind: 'fall back' })} hotkey="fallBack">
        − fall back
      </Button>
      <Changes />
    </Row>
  )
}
