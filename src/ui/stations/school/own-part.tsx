'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { SHORTEST_PASSWORD } from '@/core/password/chosen'
import { NoticesPart } from '../../parts/account-notices'
import { Button } from '../../parts/button'
import { Text } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { changePassword, eraseAccount, signOut } from '../../state/school'
import { useTask } from '../../state/task'
import { useMe } from '../../state/who'
import { desk } from '../../theme/tokens'
import { NewPasswordField, PasswordField } from './password-field'

const Box = styled.div`
  display: grid;
  gap: 10px;
  background: ${desk.card};
  border: 1px solid ${desk.line};
  border-radius: 12px;
  padding: 14px 16px;
  p { font-size: 14px; color: ${desk.quiet}; }
  [role='alert'] { color: ${desk.danger}; font-weight: 600; }
  .fields { display: grid; grid-template-columns: repeat(auto-fit, minmax(220px, 1fr)); gap: 10px; align-items: end; }
  /* What is said under a field moves none beside it. */
  .fields.top { align-items: start; > button { margin-top: 20px; } }
`

const secret = (name: string, autoComplete: string) => ({ type: 'password' as const, name, autoComplete })

/** One's own account: another password, signing out everywhere, taking one's data out, erasing it. */
export function OwnPart() {
  return (
    <section style={{ display: 'grid', gap: 12 }}>
      <h2>Your account</h2>
      <Password />
      <NoticesPart />
      <Box>
        <h3>Your data</h3>
        <p>
          Your songs, routines, films, recordings and log in one zip. Any Azalea opens it, on one machine too.
        </p>
        <Tools>
          <a href="/api/backup" download>
            Take everything of yours out
          </a>
        </Tools>
      </Box>
      <Erase />
    </section>
  )
}

function Password() {
  const me = useMe()
  const [now, setNow] = useState('')
  const [next, setNext] = useState('')
  const { task, state } = useTask()
  const { task: leaving, state: left } = useTask()
  const change = () =>
    task.begin('Changing it', async () => {
      await changePassword(now, next)
      window.location.assign('/sign-in')
      return ''
    })
  const everywhere = () =>
    leaving.begin('Signing out', async () => {
      await signOut(true)
      window.location.assign('/sign-in')
      return ''
    })
  return (
    <Box>
      <h3>Password and devices</h3>
      <div className="fields top">
        <PasswordField
          label="Password now"
          value={now}
          onChange={setNow}
          name="now"
          fills="current-password"
        />
        <NewPasswordField
          label={`Another one, ${SHORTEST_PASSWORD} letters or more`}
          value={next}
          onChange={setNext}
          name="next"
          own={[me?.name ?? '']}
        />
        <Button
          onPress={change}
          isDisabled={!now || next.length < SHORTEST_PASSWORD || state.kind === 'making'}
        >
          Change it
        </Button>
      </div>
      {state.kind === 'failed' && <p role="alert">{state.why}</p>}
      <p>With another password you are signed out on all devices, and sign in anew.</p>
      <Tools>
        <Button small onPress={everywhere} isDisabled={left.kind === 'making'}>
          Sign out on all devices
        </Button>
      </Tools>
      {left.kind === 'failed' && <p role="alert">{left.why}</p>}
    </Box>
  )
}

function Erase() {
  const [asked, setAsked] = useState(false)
  const [now, setNow] = useState('')
  const { task, state } = useTask()
  const erase = () =>
    task.begin('Erasing', async () => {
      await eraseAccount(now)
      window.location.assign('/sign-in')
      return ''
    })
  return (
    <Box>
      <h3>Erase this account</h3>
      <p>
        All that is yours goes, also what you share, and nothing brings it back. Take your data out first.
      </p>
      {asked ? (
        <div className="fields">
          <Text
            label="Your password, to be sure"
            value={now}
            onChange={setNow}
            most={1000}
            autoFocus
            onEscape={() => setAsked(false)}
            input={secret('erase', 'current-password')}
          />
          <Button onPress={() => setAsked(false)}>Keep it</Button>
          <Button look="danger" onPress={erase} isDisabled={!now || state.kind === 'making'}>
            Erase all of it
          </Button>
        </div>
      ) : (
        <Tools>
          <Button small look="quiet" onPress={() => setAsked(true)}>
            Erase it …
          </Button>
        </Tools>
      )}
      {state.kind === 'failed' && <p role="alert">{state.why}</p>}
    </Box>
  )
}
