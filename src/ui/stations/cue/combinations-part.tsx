'use client'

import { useEffect, useState } from 'react'
import { said } from '@/core/formats/said'
import { copiedDance } from '@/core/routine'
import { Button } from '../../parts/button'
import { LinkWhenMeant } from '../../parts/link-when-meant'
import { Part, Tools } from '../../parts/panel'
import { fetchRoutine } from '../../state/api'
import { fetchCombinations } from '../../state/api-shelf'
import { useCue } from './cue-store'

/** Moves that were written without a song: each is laid on this one, from the phrase of the cursor on. */
export function CombinationsPart({ id }: { id: string }) {
  const send = useCue((s) => s.send)
  const [list, setList] = useState<readonly { id: string; title: string }[] | null>(null)
  const [problem, setProblem] = useState('')
  useEffect(() => {
    let gone = false
    fetchCombinations().then(
      (all) => !gone && setList(all.filter((c) => c.id !== id)),
      (error) => !gone && setProblem(said(error)),
    )
    return () => {
      gone = true
    }
  }, [id])
  const lay = async (from: { id: string; title: string }) => {
    try {
      const { routine } = await fetchRoutine(from.id)
      setProblem('')
      send({ kind: 'work', work: 'lay', from: copiedDance(routine), name: from.title })
    } catch (error) {
      setProblem(said(error))
    }
  }
  return (
    <Part>
      <h2>Combinations</h2>
      {problem && <p role="alert">{problem}</p>}
      {list?.length === 0 && (
        <p>Moves written on counts, without a song, stand here. They are begun on the shelf.</p>
      )}
      {list?.map((c) => (
        <Tools key={c.id} style={{ alignItems: 'center' }}>
          <LinkWhenMeant href={`/r/${c.id}/cue`} style={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>
            {c.title}
          </LinkWhenMeant>
          <Button
            small
            onPress={() => lay(c)}
            aria-label={`Lay “${c.title}” here`}
            tip="Its cues stand from this phrase on; what stood there in its layers gives way. One undo"
          >
            Lay here
          </Button>
        </Tools>
      ))}
    </Part>
  )
}
