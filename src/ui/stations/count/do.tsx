'use client'

import { memo } from 'react'
import { Button } from '../../parts/button'
import type { Command } from './count-store'

/** A command as a button that names its key. */
export const Do = memo(function Do({
  command,
  strong = false,
  quiet = false,
}: {
  command: Command
  strong?: boolean
  quiet?: boolean
}) {
  return (
    <Button
      small={!strong}
      look={strong ? 'strong' : quiet ? 'quiet' : 'plain'}
      onPress={command.run}
      tip={command.tip}
      hotkey={command.id}
    >
      {command.name}
    </Button>
  )
})
