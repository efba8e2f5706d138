'use client'

import styled from 'styled-components'
import { Told, Trouble } from '../parts/bar'
import { Button } from '../parts/button'
import { Tools } from '../parts/panel'
import { Unseen } from '../parts/unseen'
import { useOthers } from '../state/others-here'
import { outboxWords } from '../state/outbox-state'
import { outbox, useOutbox } from '../state/outbox-window'
import { CLOSED, useRoutine, useUndo } from '../state/routine-store'
import { routineDocument, routineOf } from '../state/saved'
import { useLong } from '../state/use-long'
import { desk } from '../theme/tokens'
import { Elsewhere } from './elsewhere'
import { NotSaved } from './unsaved'

const Save = styled.span<{ $bad: boolean }>`
  font-size: 12.5px;
  color: ${(p) => (p.$bad ? desk.danger : desk.quiet)};
  font-weight: ${(p) => (p.$bad ? 650 : 400)};
  max-width: 260px;
`

/** Whether the work is in the database, in words; all of it comes from the outbox. */
export function SaveState() {
  const why = useOutbox(outboxWords)
  const waits = useOutbox((s) => s.waiting > 0)
  const pending = useRoutine((s) => s.pending)
  const closed = useRoutine((s) => s.closed)
  const said = closed ? 'To look at' : why ? 'Not saved' : pending || waits ? 'Saving …' : 'Saved'
  const long = useLong(said === 'Saving …')
  const others = useOthers()
  return (
    <>
      {others.length > 0 && (
        <Save $bad={false} data-testid="others" title={`Also here: ${others.join(', ')}`}>
          {others.length > 2
            ? `${others.length} others are here`
            : `${others.join(' and ')} ${others.length > 1 ? 'are' : 'is'} here`}
        </Save>
      )}
      <Save $bad={why !== ''} title={why} data-testid="saving">
        {said}
      </Save>
      <Unseen role="status">
        {said === 'Saved' ? (long ? said : '') : long ? 'Saving takes long.' : why}
      </Unseen>
    </>
  )
}

/** What kept the work from being saved, and what to do. */
export function SaveTrouble({ id }: { id: string }) {
  const closed = useRoutine((s) => s.closed)
  const why = useOutbox(outboxWords)
  if (closed && !why)
    return (
      <Told role="status" data-testid={closed}>
        <span>{CLOSED[closed].told}</span>
      </Told>
    )
  return why ? <WhatIsUnsaved id={id} why={why} /> : null
}

function WhatIsUnsaved({ id, why }: { id: string; why: string }) {
  const state = useOutbox((s) => s)
  const conflict = state.conflicts.get(routineDocument(id))
  if (conflict) return <Elsewhere id={id} conflict={conflict} />
  const other = [...state.conflicts.keys()].flatMap((key) => routineOf(key) ?? [])[0]
  if (other)
    return (
      <Trouble role="alert">
        <span>
          Another routine was changed in another window, and what was done to it here is not saved. Open it to
          choose.
        </span>
        <Tools>
          <a href={`/r/${other}/cue`}>Open it</a>
        </Tools>
      </Trouble>
    )
  const refused = state.refused.at(-1)
  const what = refused ?? (state.trouble ? undefined : state.stuck[0])
  if (what && state.conflicts.size === 0)
    return <NotSaved key={what.id} id={id} why={why} what={what} again={what !== refused} />
  return (
    <Trouble role="alert">
      <span>{why}</span>
      <Tools>
        {state.trouble && (
          <Button small onPress={() => outbox().now()}>
            Try now
          </Button>
        )}
        {state.signedOut && (
          <a href="/sign-in" target="_blank" rel="noreferrer">
            Sign in again, in a window of its own
          </a>
        )}
      </Tools>
    </Trouble>
  )
}

/** What the last edit took away or could not do, where the person looks, with undo beside it. */
export function EditNotice() {
  const notice = useRoutine((s) => s.notice)
  const read = useRoutine((s) => s.read)
  const { undo } = useUndo()
  if (!notice) return null
  return (
    <Told role="alert" data-testid="notice">
      <span>{notice.text}</span>
      <Tools>
        {notice.kind === 'took' && undo && (
          <Button small onPress={undo} hotkey="undo">
            Undo
          </Button>
        )}
        <Button small look="quiet" onPress={read}>
          Close
        </Button>
      </Tools>
    </Told>
  )
}
