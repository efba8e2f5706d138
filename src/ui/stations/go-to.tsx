'use client'

import { useMemo, useState } from 'react'
import { Dialog, Heading } from 'react-aria-components'
import { useShallow } from 'zustand/react/shallow'
import { type Routine, tickName } from '@/core/routine'
import { clockText, timeOfTick } from '@/core/time'
import { bound } from '../keys/table'
import { Button } from '../parts/button'
import { Text } from '../parts/field'
import { Tools } from '../parts/panel'
import { Card, Veil } from '../parts/window'
import { readPlaces } from '../sheet/place-text'
import { useCursor } from '../state/cursor'
import { useKeys } from '../state/keys'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'

/** Where typed words lead, the likeliest first, each place once; or why they lead nowhere. */
function goesTo(page: Page, routine: Routine, text: string, tick: number) {
  const { meant, problem } = readPlaces({ page, routine, here: tick }, text)
  const last = (page.placed.at(-1)?.end ?? 1) - 1
  const inside = [...new Set(meant.map((m) => m.stretch.from))].filter((at) => at >= 0 && at <= last)
  return {
    places: inside.map((at) => ({
      at,
      name: `${tickName(page.placed, at)} · ${clockText(timeOfTick(page.times, at))}`,
    })),
    problem: meant.length && !inside.length ? 'That lies outside the counts.' : problem,
  }
}

/** Names of one place of this page, each of which leads there. */
function exampleOf({ placed, times }: Page): string {
  const row = placed.find((p) => p.index > 0 && !p.phrase.pickUp)
  if (!row) return ''
  const marked = row.section ? `${row.section.letter}${row.inSection} · ` : ''
  return `${tickName(placed, row.start)} · ${marked}${clockText(timeOfTick(times, row.start))}`
}

/** Goes to a place that is typed, or a time; where that is, is said before. */
export function GoTo({ page }: { page: Page }) {
  const [isOpen, open] = useState(false)
  const [text, setText] = useState('')
  const routine = useRoutine((s) => s.routine)
  const { tick, to } = useCursor(useShallow(({ tick, to }) => ({ tick, to })))
  useKeys(
    bound({
      goTo: () => {
        setText('')
        open(true)
      },
    }),
  )
  const { places, problem } = useMemo(() => goesTo(page, routine, text, tick), [page, routine, text, tick])
  const [first, ...others] = places
  const go = (at = first?.at) => {
    if (at === undefined) return
    to(at)
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
            onEnter={() => go()}
            onEscape={() => open(false)}
            autoFocus
            placeholder={exampleOf(page)}
          />
          <p role="status" data-testid="goes">
            {first?.name ??
              (problem ||
                'Sections and your own parts, rows like B3, eights and counts, moves, marked sounds, times.')}
          </p>
          {others.length > 0 && (
            <Tools>
              {others.map(({ at, name }) => (
                <Button key={at} small look="quiet" onPress={() => go(at)}>
                  {name}
                </Button>
              ))}
            </Tools>
          )}
          <Tools>
            <Button look="strong" onPress={() => go()} isDisabled={!first}>
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
