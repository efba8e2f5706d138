'use client'

import { useRef, useState } from 'react'
import type { Page } from '../../state/page'
import { useBeatCommands } from './beat-commands'
import { type Command, command } from './command'
import { type Aside, usePageCommands } from './page-commands'
import { useHearing } from './use-hearing'

export type CommandId = keyof ReturnType<typeof useCommands>
export type Commands = Record<CommandId, Command>

/**
 * Everything the Count station does at the cursor. The commands stay the same objects from drawing to drawing, so that
 * their buttons need not be drawn again; what they do is always of the latest.
 */
export function useCommands(
  page: Page,
  startTapping: () => void,
  tell: (said: string) => void,
  open: (aside: Aside) => void,
) {
  const { asCounted, nextOther } = useHearing(page)
  const now = {
    asCounted: command('asCounted', asCounted),
    otherWay: command('otherWay', nextOther),
    ...useBeatCommands(page, startTapping, tell),
    ...usePageCommands(page, open),
  } satisfies Record<string, Command>
  const latest = useRef(now)
  latest.current = now
  const [stable] = useState(() => {
    const ids = Object.keys(now) as (keyof typeof now)[]
    return Object.fromEntries(
      ids.map((id) => [id, { ...now[id], run: () => latest.current[id].run() }]),
    ) as typeof now
  })
  return stable
}
