'use client'

import { useState } from 'react'
import { Button } from '../../parts/button'
import { Text } from '../../parts/field'
import { signIn } from '../../state/school'
import { useTask } from '../../state/task'
import { Doorway } from './doorway'
import { PasswordField } from './password-field'

/** Signing in. @param to where to go then: an address of this server */
export function SignIn({ to, email: known }: { to: string; email: string }) {
  const [email, setEmail] = useState(known)
  const [password, setPassword] = useState('')
  const { task, state } = useTask()
  const enter = () =>
    task.begin('Signing in', async () => {
      await signIn(email, password)
      // Read anew from the server, as whoever it is now.
      window.location.assign(to)
      return ''
    })
  const busy = state.kind === 'making' || state.kind === 'done'
  return (
    <Doorway title="Sign in to Azalea" onSubmit={enter}>
      <Text
        label="Your address"
        value={email}
        onChange={setEmail}
        autoFocus={known === ''}
        input={{ type: 'email', name: 'username', autoComplete: 'username' }}
      />
      <PasswordField
        label="Your password"
        value={password}
        onChange={setPassword}
        autoFocus={known !== ''}
        name="password"
        fills="current-password"
      />
      {state.kind === 'failed' && <p role="alert">{state.why}</p>}
      <Button look="strong" type="submit" isDisabled={busy || !email || !password}>
        {busy ? 'Signing in …' : 'Sign in'}
      </Button>
      <p>
        No account, or the password is forgotten? Whoever keeps the accounts of your school makes you a link
        for it.
      </p>
    </Doorway>
  )
}
