'use client'

import { Dialog, Heading } from 'react-aria-components'
import styled from 'styled-components'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { Card, Veil } from '../../parts/window'
import { fetchPeople, fetchShares, type ShareRow, shareRoutine } from '../../state/school'
import { useList } from '../../state/use-list'
import { useMe } from '../../state/who'
import { desk } from '../../theme/tokens'

const RIGHTS = [
  { id: 'none', name: 'not shared' },
  { id: 'look', name: 'to look at' },
  { id: 'teach', name: 'to teach' },
  { id: 'edit', name: 'to edit' },
] as const
type Right = (typeof RIGHTS)[number]['id']

const Rows = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 8px;
  li { display: grid; grid-template-columns: minmax(0, 1fr) 170px; gap: 12px; align-items: center; overflow-wrap: anywhere; }
`
const Quiet = styled.p`
  color: ${desk.quiet};
  font-size: 14px;
`

/** With whom a routine is shared, and to do what. */
export function ShareDialog({ id, title, close }: { id: string; title: string; close: () => void }) {
  const me = useMe()
  const people = useList(fetchPeople)
  const shares = useList(() => fetchShares(id))
  const others = people.list?.filter((p) => p.id !== me?.id) ?? []
  const problem = people.problem || shares.problem
  const rightOf = (person: string): Right =>
    shares.list?.find((s: ShareRow) => s.person === person)?.right ?? 'none'
  return (
    <Veil isOpen onOpenChange={(open) => !open && close()} isDismissable>
      <Card $width={520}>
        <Dialog>
          <Heading slot="title" level={2}>
            Share “{title}”
          </Heading>
          <Quiet>
            Whoever it is shared with sees it on their shelf, drills it and keeps a log of their own. Who
            teaches it makes hand-outs too; who edits it changes it. Your learners and your log stay yours.
          </Quiet>
          {problem && <p role="alert">{problem}</p>}
          {people.list !== null && !others.length && <Quiet>Nobody else has an account yet.</Quiet>}
          <Rows>
            {shares.list !== null &&
              others.map((p) => (
                <li key={p.id}>
                  <span>{p.name}</span>
                  <Choice
                    label={`What ${p.name} may do`}
                    hideLabel
                    value={rightOf(p.id)}
                    options={RIGHTS}
                    onChange={(right) =>
                      shares.act(() => shareRoutine(id, p.id, right === 'none' ? null : right))
                    }
                  />
                </li>
              ))}
          </Rows>
          <div>
            <Button onPress={close}>Done</Button>
          </div>
        </Dialog>
      </Card>
    </Veil>
  )
}
