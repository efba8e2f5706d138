'use client'

import type { Page } from '../../state/page'
import { useBeatCommands } from './beat-commands'
import type { Command } from './command'
import { type Aside, usePageCommands } from './page-commands'

export type CommandId = keyof ReturnType<typeof useCommands>
export type Commands = Record<CommandId, Command>

/** Everything the Count station does at the cursor. */
export function useCommands(
  page: Page,
  startTapping: () => void,
  tell: (said: string) => void,
  open: (aside: Aside) => void,
) {
  return { ...useBeatCommands(page, startTapping, tell), ...usePageCommands(page, open) } satisfies Record<
    string,
    Command
  >
}
