'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { Ask } from '../../parts/confirm'
import { Text } from '../../parts/field'
import { Tools } from '../../parts/panel'
import * as school from '../../state/school'
import { useList } from '../../state/use-list'
import { useMe } from '../../state/who'
import { desk, NARROW } from '../../theme/tokens'
import { LinkOnce } from './link-once'

const ROLE_NAMES = [
  { id: 'owner', name: 'keeps the accounts' },
  { id: 'teacher', name: 'teaches' },
  { id: 'assistant', name: 'assists' },
] as const
type Role = (typeof ROLE_NAMES)[number]['id']

const Rows = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 8px;
`
const Row = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 230px auto;
  align-items: center;
  gap: 6px 14px;
  background: ${desk.card};
  border: 1px solid ${desk.line};
  border-radius: 12px;
  padding: 10px 14px;
  .who { display: grid; overflow-wrap: anywhere; }
  .quiet { color: ${desk.quiet}; font-size: 13.5px; }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
`
const Fields = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr 230px auto;
  gap: 10px;
  align-items: end;
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
`

/** As high as a window: what follows does not move in it either. */
const Reading = styled.p`
  min-height: 100dvh;
  color: ${desk.quiet};
`

/** Everybody who has an account, and those who are invited; for whoever keeps the accounts. */
export function PeoplePart() {
  const me = useMe()
  const people = useList(school.fetchPeople)
  const invitations = useList(school.fetchInvitations)
  const [link, setLink] = useState<{ name: string; link: string } | null>(null)
  const [erasing, setErasing] = useState<school.PersonRow | null>(null)
  const problem = people.problem || invitations.problem
  // Nothing that can be pressed is moved by a list that comes in: all of it is there at once.
  if (!problem && !(people.list && invitations.list)) return <Reading aria-busy>Reading who is here…</Reading>
  return (
    <section style={{ display: 'grid', gap: 12 }}>
      <h2>People</h2>
      {problem && <p role="alert">{problem}</p>}
      <Rows aria-label="Accounts">
        {people.list?.map((p) => (
          <Row key={p.id}>
            <span className="who">
              <b>{p.id === me?.id ? `${p.name} (you)` : p.name}</b>
              <span className="quiet">{p.email}</span>
            </span>
            <Choice
              label={`What ${p.name} does`}
              hideLabel
              value={p.role}
              options={ROLE_NAMES}
              onChange={(role) => people.act(() => school.setRoleOf(p.id, role))}
            />
            <Tools>
              <Button
                small
                tip="A link by which they set another password; they are signed out everywhere"
                aria-label={`New password for ${p.name}`}
                onPress={async () => {
                  const made = await people.act(() => school.linkForPerson(p.id))
                  if (made) setLink({ name: p.name, link: made.link })
                }}
              >
                New password
              </Button>
              {p.id !== me?.id && (
                <Button small look="quiet" onPress={() => setErasing(p)} aria-label={`Erase ${p.name}`}>
                  Erase
                </Button>
              )}
            </Tools>
          </Row>
        ))}
      </Rows>
      {link && <LinkOnce {...link} close={() => setLink(null)} />}
      <h3>Invite somebody</h3>
      <Invite
        invite={async (who) => {
          const made = await invitations.act(() => school.invite(who))
          if (made) setLink({ name: who.name, link: made.link })
          return made !== null
        }}
      />
      {invitations.list !== null && invitations.list.length > 0 && (
        <Rows aria-label="Invited">
          {invitations.list.map((i) => (
            <Row key={i.id}>
              <span className="who">
                <b>{i.name}</b>
                <span className="quiet">{i.email}</span>
              </span>
              <span className="quiet">link good until {new Date(i.expiresAt).toLocaleDateString()}</span>
              <Button
                small
                look="quiet"
                onPress={() => invitations.act(() => school.withdrawInvitation(i.id))}
                aria-label={`Take the link of ${i.name} back`}
              >
                Take it back
              </Button>
            </Row>
          ))}
        </Rows>
      )}
      <Ask
        isOpen={erasing !== null}
        title={`Erase the account of ${erasing?.name ?? ''}?`}
        onClose={() => setErasing(null)}
        actions={[
          { name: 'Keep it', onPress: () => setErasing(null) },
          {
            name: 'Erase all of it',
            look: 'danger',
            onPress: async () => {
              await people.act(() => school.erasePerson(erasing?.id ?? ''))
              setErasing(null)
            },
          },
        ]}
      >
        Their routines, songs, films, recordings and log go with it, also what they share. This cannot be
        undone. They can take their data out themselves before, under “Account”.
      </Ask>
    </section>
  )
}

function Invite({
  invite,
}: {
  invite: (who: { name: string; email: string; role: Role }) => Promise<boolean>
}) {
  const [name, setName] = useState('')
  const [email, setEmail] = useState('')
  const [role, setRole] = useState<Role>('teacher')
  const send = async () => {
    if (!name || !email || !(await invite({ name, email, role }))) return
    setName('')
    setEmail('')
  }
  return (
    <Fields role="group" aria-label="Invite somebody">
      <Text label="Name" value={name} onChange={setName} most={100} onEnter={send} />
      <Text
        label="E-mail address"
        value={email}
        onChange={setEmail}
        onEnter={send}
        input={{ type: 'email' }}
      />
      <Choice label="What they do" value={role} options={ROLE_NAMES} onChange={setRole} />
      <Button onPress={send} isDisabled={!name || !email}>
        Make a link
      </Button>
    </Fields>
  )
}
