'use client'

import { useRouter } from 'next/navigation'
import type { ReactNode } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { clockText, TICKS_PER_COUNT, timeOfTick } from '@/core/time'
import { Button } from '../parts/button'
import { Part, Tools } from '../parts/panel'
import { SayCounts } from '../say/say-counts'
import { PlaceField } from '../sheet/place-field'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { usePlayerState } from '../state/player'

/** Where the floor is sent to drill some counts. */
export const drillAddress = (id: string, { from, to }: { from: number; to: number }, more = '') =>
  `/r/${id}/floor?from=${from}&to=${to}${more}`

/** The counts that are marked: said in words, typed as words, looped, drilled. */
export function MarkedPart({ id, page, children }: { id: string; page: Page; children?: ReactNode }) {
  const { marked, mark, markFrom, to, loop, setLoop } = useCursor(
    useShallow(({ marked, mark, markFrom, to, loop, setLoop }) => ({
      marked,
      mark,
      markFrom,
      to,
      loop,
      setLoop,
    })),
  )
  const speed = usePlayerState((s) => s.speed)
  const router = useRouter()
  if (!marked) return null
  const looped = loop !== null && loop.from === marked.from && loop.to === marked.to
  const counts = (marked.to - marked.from) / TICKS_PER_COUNT
  const seconds =
    page.times.length > 1 ? timeOfTick(page.times, marked.to) - timeOfTick(page.times, marked.from) : 0
  return (
    <Part data-testid="marked-part">
      <h2>Marked</h2>
      <PlaceField
        label="Which counts"
        page={page}
        stretch={marked}
        onChoose={(next) => {
          to(next.from)
          mark(next)
        }}
      />
      <p>
        {Number.isInteger(counts) ? counts : counts.toFixed(2)} {counts === 1 ? 'count' : 'counts'},{' '}
        {clockText(seconds, true)} of the song
      </p>
      <Tools>
        <Button
          small
          look="strong"
          onPress={() => router.push(drillAddress(id, marked, `&speed=${speed}`))}
          tip="To the floor with exactly these counts, counted in"
        >
          Drill these counts
        </Button>
        <Button
          small
          look="quiet"
          onPress={() => setLoop(looped ? null : { from: marked.from, to: marked.to })}
          aria-pressed={looped}
          hotkey="loop"
        >
          {looped ? 'End the loop' : 'Loop them'}
        </Button>
        <Button small look="quiet" onPress={() => markFrom(null)} hotkey="unmark">
          Unmark
        </Button>
        <SayCounts page={page} stretch={{ from: marked.from, to: marked.to }} />
      </Tools>
      {children}
    </Part>
  )
}
