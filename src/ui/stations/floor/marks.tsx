'use client'

import styled from 'styled-components'
import type { Mark } from '@/core/drill'
import { Button } from '../../parts/button'
import { floor, font } from '../../theme/tokens'
import { useFloor } from './floor-store'

const Row = styled.div`
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 12px;
  button { min-height: 58px; justify-content: space-between; font: 700 20px/1 ${font.display}; color: ${floor.ink}; border-color: transparent; }
  small { font: 500 13.5px/1 ${font.text}; color: #E9DDEE; }
  @media (max-width: 700px) { grid-template-columns: 1fr 1fr; gap: 8px; small { display: none; } }
`

const MARKED: readonly { mark: Mark; name: string; keys: string }[] = [
  { mark: 'clean', name: 'Clean', keys: 'page down · C' },
  { mark: 'shaky', name: 'Shaky', keys: 'B' },
  { mark: 'missed', name: 'Missed', keys: 'page up · X' },
]

/** How a repetition was, and what goes on or ends. */
export function Marks() {
  const phase = useFloor((s) => s.floor.phase.kind)
  const send = useFloor((s) => s.send)
  const tell = useFloor((s) => s.tell)
  return (
    <Row>
      {MARKED.map(({ mark, name, keys }) => (
        <Button
          key={mark}
          onPress={() => send({ kind: 'mark', mark, paged: false })}
          style={{ background: floor[mark] }}
        >
          {name} <small>{keys}</small>
        </Button>
      ))}
      {phase === 'broken' ? (
        <Button look="dark" onPress={() => tell({ kind: 'go on' })}>
          Go on <small>space</small>
        </Button>
      ) : phase === 'ended' ? (
        <Button look="dark" onPress={() => send({ kind: 'again' })}>
          Again <small>space</small>
        </Button>
      ) : (
        <Button look="dark" onPress={() => send({ kind: 'stop' })}>
          Stop <small>space</small>
        </Button>
      )}
      {phase === 'ended' && (
        <Button look="dark" onPress={() => send({ kind: 'stop' })} style={{ gridColumn: '1 / -1' }}>
          Done <small>escape</small>
        </Button>
      )}
    </Row>
  )
}
