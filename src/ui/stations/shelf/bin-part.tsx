'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { Tools } from '../../parts/panel'
import { type BinRow, fetchBin, removeForGood, takeFromBin } from '../../state/school'
import { useList } from '../../state/use-list'
import { desk } from '../../theme/tokens'

const Details = styled.details`
  summary { cursor: pointer; font-weight: 600; color: ${desk.quiet}; }
  ul { list-style: none; margin: 10px 0 0; padding: 0; display: grid; gap: 6px; }
  li { display: flex; flex-wrap: wrap; gap: 4px 14px; align-items: center; justify-content: space-between; }
  span { overflow-wrap: anywhere; }
  small { color: ${desk.quiet}; }
`

/** Kept so long, in days (server/sweep.ts). */
const DAYS = 30
const daysLeft = ({ binnedAt }: BinRow) =>
  Math.max(0, Math.ceil((binnedAt + DAYS * 86_400_000 - Date.now()) / 86_400_000))

/** What was taken from the shelf in the last month. @param changed something came back */
export function BinPart({ changed }: { changed: () => void }) {
  const { list, problem, act } = useList(fetchBin)
  const [asking, setAsking] = useState<BinRow | null>(null)
  if (!list?.length && !problem) return null
  return (
    <section>
      {problem && <p role="alert">{problem}</p>}
      {list !== null && list.length > 0 && (
        <Details>
          <summary>Bin ({list.length})</summary>
          <ul>
            {list.map((r) => (
              <li key={r.id}>
                <span>
                  {r.title} <small>{days(daysLeft(r))}</small>
                </span>
                <Tools>
                  <Button
                    small
                    aria-label={`Put ${r.title} back`}
                    onPress={async () => {
                      await act(() => takeFromBin(r.id))
                      changed()
                    }}
                  >
                    Put it back
                  </Button>
                  <Button
                    small
                    look="quiet"
                    aria-label={`Remove ${r.title} for good`}
                    onPress={() => setAsking(r)}
                  >
                    Remove for good
                  </Button>
                </Tools>
              </li>
            ))}
          </ul>
        </Details>
      )}
      <Ask
        isOpen={asking !== null}
        title={`Remove “${asking?.title ?? ''}” for good?`}
        onClose={() => setAsking(null)}
        actions={[
          { name: 'Keep it', onPress: () => setAsking(null) },
          {
            name: 'Remove for good',
            look: 'danger',
            onPress: async () => {
              await act(() => removeForGood(asking?.id ?? ''))
              setAsking(null)
            },
          },
        ]}
      >
        Its cues and its log go with it, and the audio file if no other routine uses it. This cannot be
        undone.
      </Ask>
    </section>
  )
}

const days = (n: number) => (n === 1 ? 'one more day' : `${n} more days`)
