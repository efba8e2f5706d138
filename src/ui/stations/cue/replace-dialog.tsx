'use client'

import { useState } from 'react'
import { Dialog, Heading } from 'react-aria-components'
import { replaceWords } from '@/core/routine'
import { Button } from '../../parts/button'
import { Pick, Text } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { Card, Veil } from '../../parts/window'
import { useRoutine } from '../../state/routine-store'

const WHAT = [
  { id: 'part', name: 'Wherever it stands' },
  { id: 'whole', name: 'Whole moves only' },
]

/** Finds words in all moves of the routine and puts others in their place, in one step. */
export function ReplaceDialog({ isOpen, close }: { isOpen: boolean; close: () => void }) {
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const [find, setFind] = useState('')
  const [put, setPut] = useState('')
  const [what, setWhat] = useState('part')
  const next = replaceWords(routine, find, put, what === 'whole')
  const changed = next.cues.filter((c, i) => c !== routine.cues[i]).length
  const go = () => {
    if (!changed) return
    edit(`replace “${find}” by “${put}”`, (r) => replaceWords(r, find, put, what === 'whole'))
    close()
  }
  return (
    <Veil isOpen={isOpen} onOpenChange={(open) => !open && close()} isDismissable>
      <Card $width={460}>
        <Dialog>
          <Heading slot="title" level={2}>
            Find and replace
          </Heading>
          <Text
            label="Find in moves"
            value={find}
            onChange={setFind}
            onEnter={go}
            onEscape={close}
            autoFocus
          />
          <Text label="Put instead" value={put} onChange={setPut} onEnter={go} onEscape={close} />
          <Pick label="What" hideLabel value={what} options={WHAT} onChange={setWhat} />
          <p role="status">
            {find.trim()
              ? `${changed} ${changed === 1 ? 'cue' : 'cues'} would change${changed ? '; one undo step' : ''}.`
              : 'Capital or small letters make no difference.'}
          </p>
          <Tools>
            <Button look="strong" onPress={go} isDisabled={!changed}>
              Replace
            </Button>
            <Button look="quiet" onPress={close}>
              Leave it
            </Button>
          </Tools>
        </Dialog>
      </Card>
    </Veil>
  )
}
