'use client'

import { useState } from 'react'
import { SHORTEST_PASSWORD } from '@/core/password/chosen'
import { Button } from '../../parts/button'
import { Text } from '../../parts/field'
import { acceptInvitation, signIn } from '../../state/school'
import { useTask } from '../../state/task'
import { Doorway } from './doorway'
import { NewPasswordField } from './password-field'

interface Props {
  token: string
  invited: { email: string; name: string; again: boolean }
}

/** A link was followed: a password is set, and whoever it is goes in. */
export function InvitedHere({ token, invited }: Props) {
  const [password, setPassword] = useState('')
  const { task, state } = useTask()
  const enter = () =>
    task.begin('Setting your password', async () => {
      await acceptInvitation(token, password)
      await signIn(invited.email, password)
      window.location.assign('/')
      return ''
    })
  const busy = state.kind === 'making' || state.kind === 'done'
  const short = SHORTEST_PASSWORD - password.length
  return (
    <Doorway title={invited.again ? 'A new password' : `Welcome, ${invited.name}`} onSubmit={enter}>
      <Text
        label="You sign in as"
        value={invited.email}
        onChange={() => {}}
        input={{ type: 'email', name: 'username', autoComplete: 'username', readOnly: true }}
      />
      <NewPasswordField
        label={`A password, ${SHORTEST_PASSWORD} letters or more`}
        value={password}
        onChange={setPassword}
        autoFocus
        name="new-password"
        own={[invited.email, invited.name]}
      />
      <p role="status">
        {password && short > 0 ? `${short} more ${short === 1 ? 'letter' : 'letters'}.` : ''}
      </p>
      {state.kind === 'failed' && <p role="alert">{state.why}</p>}
      <Button look="strong" type="submit" isDisabled={busy || short > 0}>
        {busy ? 'One moment …' : invited.again ? 'Set it and sign in' : 'Begin'}
      </Button>
      <p>A few words that nobody knows but you are best. Spaces and any script are letters too.</p>
    </Doorway>
  )
}
