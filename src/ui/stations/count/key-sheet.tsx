'use client'

import { Dialog, Heading } from 'react-aria-components'
import styled from 'styled-components'
import { Button } from '../../parts/button'
import { Card, Veil } from '../../parts/window'
import { desk, font } from '../../theme/tokens'
import type { Command } from './command'

const Top = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
`

const Columns = styled.div`
  columns: 3 280px;
  column-gap: 28px;
  section { break-inside: avoid; margin-bottom: 16px; }
  h3 { margin-bottom: 6px; }
  dl { display: grid; grid-template-columns: max-content 1fr; gap: 4px 12px; font-size: 13.5px; align-items: baseline; }
  dt { text-align: right; }
  kbd { font: 600 12.5px/1.2 ${font.text}; border: 1.5px solid #9B8C9D; border-radius: 6px; padding: 2px 6px; background: #fff; white-space: nowrap; }
  dd { margin: 0; color: ${desk.quiet}; }
  dd strong { color: ${desk.ink}; font-weight: 600; }
`

const MOVING: readonly [string, string][] = [
  ['← →', 'one count'],
  ['shift ← →', 'half a count'],
  ['↑ ↓', 'one phrase'],
  ['page up, page down', 'four phrases'],
  ['home, end', 'first and last phrase'],
  ['space', 'play from the cursor, stop'],
  ['O', 'this row again and again; with shift, more rows'],
  ['− =', 'slower, faster'],
  ['ctrl Z', 'undo; with shift, redo'],
]

/** Every key of the station; each thing named is one move and one undo step. */
export function KeySheet({
  commands,
  isOpen,
  onClose,
}: {
  commands: readonly Command[]
  isOpen: boolean
  onClose: () => void
}) {
  const groups = [...new Set(commands.map((c) => c.group))]
  return (
    <Veil isOpen={isOpen} onOpenChange={(open) => !open && onClose()} isDismissable>
      <Card $width={1040}>
        <Dialog>
          <Top>
            <Heading slot="title" level={2}>
              Keys of this station
            </Heading>
            <Button small onPress={onClose}>
              Close
            </Button>
          </Top>
          <p>Each of these is one move at the cursor, and one step of undo.</p>
          <Columns>
            {groups.map((group) => (
              <section key={group}>
                <h3>{group}</h3>
                <dl>
                  {commands
                    .filter((c) => c.group === group)
                    .map((c) => [
                      <dt key={`${c.name} key`}>
                        <kbd>{c.shown}</kbd>
                      </dt>,
                      <dd key={c.name}>
                        <strong>{c.name}</strong> {c.tip}
                      </dd>,
                    ])}
                </dl>
              </section>
            ))}
            <section>
              <h3>Moving and playing</h3>
              <dl>
                {MOVING.map(([key, what]) => [
                  <dt key={`${key} key`}>
                    <kbd>{key}</kbd>
                  </dt>,
                  <dd key={key}>{what}</dd>,
                ])}
              </dl>
            </section>
          </Columns>
        </Dialog>
      </Card>
    </Veil>
  )
}
