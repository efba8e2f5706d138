'use client'

import { memo } from 'react'
import { Button } from '../../parts/button'
import type { Command } from './command'

/** A command as a button that names its key. */
export const Do = memo(function Do({ command, strong = false }: { command: Command; strong?: boolean }) {
  return (
    <Button
      small={!strong}
      look={strong ? 'strong' : 'plain'}
      onPress={command.run}
      tip={command.tip}
      hotkey={command.shown}
    >
      {command.name}
    </Button>
  )
})
