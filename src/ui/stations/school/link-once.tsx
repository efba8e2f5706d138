'use client'

import styled from 'styled-components'
import { Button } from '../../parts/button'
import { Tools } from '../../parts/panel'
import { useTask } from '../../state/task'
import { desk } from '../../theme/tokens'

const Box = styled.div`
  display: grid;
  gap: 8px;
  background: ${desk.azaleaSoft};
  border-radius: 12px;
  padding: 12px 14px;
  code { overflow-wrap: anywhere; user-select: all; font-size: 14px; }
  p { font-size: 14px; }
`

/** A link to hand over, shown this once. */
export function LinkOnce({ name, link, close }: { name: string; link: string; close: () => void }) {
  const { task, state } = useTask()
  const copy = () =>
    task.begin('Copying', async () => {
      await navigator.clipboard.writeText(link)
      return 'Copied.'
    })
  return (
    <Box role="status">
      <p>
        Hand this link to <b>{name}</b>. It is good for a week and for one time, and is not shown again.
      </p>
      <code data-testid="link">{link}</code>
      <Tools>
        <Button small onPress={copy}>
          Copy the link
        </Button>
        <Button small look="quiet" onPress={close}>
          Close
        </Button>
        {state.kind === 'done' && <span>{state.told}</span>}
        {state.kind === 'failed' && <span>It could not be copied: mark it, and copy it by hand.</span>}
      </Tools>
    </Box>
  )
}
