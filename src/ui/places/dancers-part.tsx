'use client'

import styled from 'styled-components'
import { changeDancer, LIMITS } from '@/core/routine'
import { Button } from '../parts/button'
import { Choice } from '../parts/choice'
import { KeptLine } from '../parts/kept-line'
import { More } from '../parts/more'
import { Tools } from '../parts/panel'
import { useRoutine } from '../state/routine-store'
import { usePlaces } from './places-store'

const Three = styled.div`
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr);
  gap: 8px;
`

/** So many dancers are shown with their fields at once. */
const SHOWN = 6
const ADD = [1, 2, 4] as const
const FIRST = [2, 4, 6] as const

/** Who dances: letters, names, roles, partners. */
export function DancersPart({ roles }: { roles: readonly string[] }) {
  const dancers = useRoutine((s) => s.routine.dancers)
  const edit = useRoutine((s) => s.edit)
  const send = usePlaces((s) => s.send)
  const chosen = usePlaces((s) => s.chosen)
  const change = (id: string, did: string, what: Parameters<typeof changeDancer>[2]) =>
    edit(did, (r) => changeDancer(r, id, what))
  return (
    <More name={dancers.length ? `Dancers: ${dancers.length}` : 'Several dancers'}>
      {!dancers.length && <p>With dancers of their own letters you set who stands where, count by count.</p>}
      {dancers
        .filter((d) => dancers.length <= SHOWN || chosen.includes(d.id))
        .slice(0, SHOWN)
        .map((d) => (
          <div key={d.id} style={{ display: 'grid', gap: 6 }}>
            <Three>
              <KeptLine
                label="Letter"
                value={d.letters}
                most={2}
                keep={(letters) =>
                  letters.trim() && change(d.id, 'another letter', { letters: letters.trim() })
                }
              />
              <KeptLine
                label="Name"
                value={d.name}
                most={80}
                keep={(name) => name.trim() && change(d.id, 'name a dancer', { name: name.trim() })}
              />
            </Three>
            {(roles.length > 0 || dancers.length > 1) && (
              <Three style={{ gridTemplateColumns: '1fr 1fr' }}>
                <Choice
                  label="Role"
                  value={d.role}
                  options={[
                    { id: '', name: 'everybody’s' },
                    ...[...new Set([...roles, d.role])].filter(Boolean).map((id) => ({ id, name: id })),
                  ]}
                  onChange={(role) => change(d.id, 'a dancer’s role', { role })}
                />
                <Choice
                  label="Partner"
                  value={d.partner ?? ''}
                  options={[
                    { id: '', name: 'none' },
                    ...dancers.filter((o) => o.id !== d.id).map((o) => ({ id: o.id, name: o.name })),
                  ]}
                  onChange={(id) => change(d.id, 'partners', { partner: id || null })}
                />
              </Three>
            )}
          </div>
        ))}
      {dancers.length > SHOWN && <p>Choose dancers on the plan to name them, {SHOWN} at a time.</p>}
      <Tools>
        {(dancers.length ? ADD : FIRST).map((n) => (
          <Button
            key={n}
            small
            isDisabled={dancers.length + n > LIMITS.dancers}
            onPress={() => send({ kind: 'add', n })}
          >
            {dancers.length ? `Add ${n}` : `${n} dancers`}
          </Button>
        ))}
        {chosen.length > 0 && (
          <Button
            small
            onPress={() => send({ kind: 'take out' })}
            tip="From every formation; undo brings them back"
          >
            Take {chosen.length === 1 ? 'this one' : `these ${chosen.length}`} out
          </Button>
        )}
      </Tools>
    </More>
  )
}
