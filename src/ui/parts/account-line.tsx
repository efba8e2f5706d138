'use client'

import styled from 'styled-components'
import { signOut } from '../state/school'
import { useTask } from '../state/task'
import { useMe } from '../state/who'
import { desk } from '../theme/tokens'
import { Button } from './button'
import { LinkWhenMeant } from './link-when-meant'

const Line = styled.nav`
  margin-left: auto;
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  align-items: center;
  gap: 4px 12px;
  min-width: 0;
  b { overflow-wrap: anywhere; }
  [role='alert'] { color: ${desk.danger}; }
`

/** Who is signed in, their account, and the way out; nothing on one machine. */
export function AccountLine({ here = 'shelf' }: { here?: 'shelf' | 'school' }) {
  const me = useMe()
  const { task, state } = useTask()
  if (!me) return null
  const leave = () =>
    task.begin('Signing out', async () => {
      await signOut(false)
      window.location.assign('/sign-in')
      return ''
    })
  return (
    <Line aria-label="Account">
      {state.kind === 'failed' && <span role="alert">{state.why}</span>}
      <b>{me.name}</b>
      {here === 'shelf' && (
        <LinkWhenMeant href="/school">{me.role === 'owner' ? 'Account and school' : 'Account'}</LinkWhenMeant>
      )}
      <Button small look="quiet" onPress={leave} isDisabled={state.kind === 'making'}>
        Sign out
      </Button>
    </Line>
  )
}
