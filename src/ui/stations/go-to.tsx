'use client'

import { useMemo, useState } from 'react'
import { Dialog, Heading } from 'react-aria-components'
import { useShallow } from 'zustand/react/shallow'
import { said } from '@/core/formats/said'
import { phraseAt, readPlace, tickName } from '@/core/routine'
import { clockText, timeOfTick } from '@/core/time'
import { bound } from '../keys/table'
import { Button } from '../parts/button'
import { Text } from '../parts/field'
import { Tools } from '../parts/panel'
import { Card, Veil } from '../parts/window'
import { useCursor } from '../state/cursor'
import { useKeys } from '../state/keys'
import type { Page } from '../state/page'

/** Goes to a place that is typed, or a time; where that is, is said before. */
export function GoTo({ page }: { page: Page }) {
  const [isOpen, open] = useState(false)
  const [text, setText] = useState('')
  const { tick, to } = useCursor(useShallow(({ tick, to }) => ({ tick, to })))
  useKeys(
    bound({
      goTo: () => {
        setText('')
        open(true)
      },
    }),
  )
  const found = useMemo(() => {
    if (!text.trim()) return null
    try {
      const at = readPlace(page.placed, page.times, text, phraseAt(page.placed, tick))
      const last = (page.placed.at(-1)?.end ?? 1) - 1
      if (at < 0 || at > last) return { problem: 'That lies outside the counts.' }
      return { at, name: `${tickName(page.placed, at)} · ${clockText(timeOfTick(page.times, at))}` }
    } catch (error) {
      return { problem: said(error) }
    }
  }, [text, page, tick])
  const go = () => {
    if (found?.at === undefined) return
    to(found.at)
    open(false)
    document.querySelector<HTMLElement>('[data-testid=sheet]')?.focus()
  }
  return (
    <Veil isOpen={isOpen} onOpenChange={open} isDismissable>
      <Card $width={440}>
        <Dialog>
          <Heading slot="title" level={2}>
            Go to
          </Heading>
          <Text
            label="A place or a time"
            value={text}
            onChange={setText}
            onEnter={go}
            onEscape={() => open(false)}
            autoFocus
            placeholder="chorus 2, 5 or 2:33"
          />
          <p role="status" data-testid="goes">
            {found?.name ?? found?.problem ?? 'Sections as they are called, eights and counts by number.'}
          </p>
          <Tools>
            <Button look="strong" onPress={go} isDisabled={found?.at === undefined}>
              Go there
            </Button>
            <Button look="quiet" onPress={() => open(false)}>
              Cancel
            </Button>
          </Tools>
        </Dialog>
      </Card>
    </Veil>
  )
}
