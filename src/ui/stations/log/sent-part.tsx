'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { useFilms } from '../../state/films'
import { useRoutine } from '../../state/routine-store'
import type { SentRow } from '../../state/school'
import { useSent } from '../../state/use-sent'
import { desk } from '../../theme/tokens'

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
  li { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 12px; font-size: 14.5px; }
  small { color: ${desk.quiet}; font-size: 13.5px; }
`

const day = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})

/** What came by the links of classes: taken in by itself, told, and what cannot be. */
export function SentPart({ id }: { id: string }) {
  const { brought, waiting, problem, letGo } = useSent(id, true)
  const films = useFilms()
  const closed = useRoutine((s) => s.closed !== null)
  const take = async (row: SentRow) => {
    if (await films.takeSent(row.id, row.learner)) await letGo(row)
  }
  const [asking, setAsking] = useState<SentRow | null>(null)
  return (
    <>
      {problem && <p role="alert">What came by the links could not be read: {problem}</p>}
      {brought.length > 0 && <p role="status">Came by the link: {brought.join(', ')}.</p>}
      {waiting.length > 0 && (
        <List aria-label="Came by the link, not taken in">
          {waiting.map((row) => (
            <li key={row.id}>
              <span>
                {row.kind === 'film' ? `A film of ${row.learner}` : row.learner}
                {row.group && `, ${row.group}`}, {day.format(Date.parse(row.receivedAt))}
              </span>
              {row.why && <small>{row.why}</small>}
              {row.kind === 'film' && (
                <Button
                  small
                  onPress={() => take(row)}
                  isDisabled={closed}
                  aria-label={`Take in the film of ${row.learner}`}
                >
                  Take it into the films
                </Button>
              )}
              <Button
                small
                look="quiet"
                onPress={() => setAsking(row)}
                aria-label={`Let what ${row.learner} sent go`}
              >
                Let it go …
              </Button>
            </li>
          ))}
        </List>
      )}
      <Ask
        isOpen={asking !== null}
        title={`Let what ${asking?.learner ?? ''} sent go?`}
        onClose={() => setAsking(null)}
        actions={[
          { name: 'Keep it', onPress: () => setAsking(null) },
          {
            name: 'Let it go',
            look: 'danger',
            onPress: async () => {
              if (asking) await letGo(asking)
              setAsking(null)
            },
          },
        ]}
      >
        It is not taken in, and is gone. This cannot be undone; whoever sent it can send it again.
      </Ask>
    </>
  )
}
