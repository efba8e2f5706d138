'use client'

import { type ReactNode, useState } from 'react'
import { Dialog, Heading } from 'react-aria-components'
import styled from 'styled-components'
import { Button } from './button'
import { Card, Veil } from './window'

const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  justify-content: flex-end;
  margin-top: 6px;
`

interface AskProps {
  isOpen: boolean
  title: string
  children: ReactNode
  /** The choices; the first is the safe one and has the focus. */
  actions: readonly {
    name: string
    look?: 'plain' | 'strong' | 'danger'
    onPress: () => void | Promise<void>
  }[]
  onClose: () => void
}

/** Asks before something that cannot be undone, or between two ways on. */
export function Ask({ isOpen, title, children, actions, onClose }: AskProps) {
  const [busy, setBusy] = useState(false)
  return (
    <Veil isOpen={isOpen} onOpenChange={(open) => !open && onClose()} isDismissable>
      <Card $width={460}>
        <Dialog role="alertdialog">
          <Heading slot="title" level={2}>
            {title}
          </Heading>
          <div>{children}</div>
          <Actions>
            {actions.map((a, i) => (
              <Button
                key={a.name}
                look={a.look ?? 'plain'}
                autoFocus={i === 0}
                isDisabled={busy}
                onPress={async () => {
                  setBusy(true)
                  await Promise.resolve(a.onPress()).finally(() => setBusy(false))
                }}
              >
                {a.name}
              </Button>
            ))}
          </Actions>
        </Dialog>
      </Card>
    </Veil>
  )
}
