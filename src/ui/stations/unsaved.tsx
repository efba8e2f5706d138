'use client'

import { useState } from 'react'
import { Trouble } from '../parts/bar'
import { Button } from '../parts/button'
import { Ask } from '../parts/confirm'
import { Tools } from '../parts/panel'
import { useBook } from '../state/moves-store'
import type { Unsaved } from '../state/outbox-state'
import { outbox } from '../state/outbox-window'
import { useSong } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { routineDocument } from '../state/saved'
import { saveEntry, saveRoutineHere } from './unsaved-file'

interface Props {
  id: string
  why: string
  what: Unsaved
  /** It is tried again; else it was refused for good. */
  again: boolean
}

/** Something is refused, or fails again and again: it stays until the person saves it as a file or lets it go. */
export function NotSaved({ id, why, what, again }: Props) {
  const routine = useRoutine((s) => s.routine)
  const song = useSong()
  const book = useBook()
  const [asking, setAsking] = useState(false)
  const mine = what.document === routineDocument(id)
  const asFile = () => {
    const entry = outbox().entry(what.id)
    if (mine) saveRoutineHere(routine, { id, song, book })
    else if (entry) saveEntry(entry)
  }
  const leave = () => {
    outbox().leaveOut(what.id)
    setAsking(false)
    // What is on the page is not what is saved any more.
    if (mine) location.reload()
  }
  const name = mine ? 'Load what is saved' : 'Leave it out'
  return (
    <Trouble role="alert" data-testid="not-saved">
      <span>{why}</span>
      <Tools>
        {again && (
          <Button small onPress={() => outbox().now()}>
            Try now
          </Button>
        )}
        <Button small onPress={asFile}>
          Save as a file
        </Button>
        <Button small onPress={() => setAsking(true)}>
          {name}
        </Button>
      </Tools>
      <Ask
        isOpen={asking}
        title={mine ? 'Load the routine as it is saved?' : `Leave ${what.what} out?`}
        onClose={() => setAsking(false)}
        actions={[
          { name: 'Keep it', onPress: () => setAsking(false) },
          { name, look: 'danger', onPress: leave },
        ]}
      >
        It is not saved, and cannot be brought back afterwards. “Save as a file” keeps it.
      </Ask>
    </Trouble>
  )
}
