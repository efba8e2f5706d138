'use client'

import { nanoid } from 'nanoid'
import { useMemo, useState } from 'react'
import { DropZone, type FileDropItem, FileTrigger } from 'react-aria-components'
import styled from 'styled-components'
import { said } from '@/core/formats/said'
import { readMarksFile } from '@/core/handout'
import { bringMarks, learnersOn, removeLearner, stretchName } from '@/core/routine'
import { Button } from '../../parts/button'
import { LinkWhenMeant } from '../../parts/link-when-meant'
import { usePage } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { useMe } from '../../state/who'
import { desk } from '../../theme/tokens'
import { drillAddress } from '../marked-part'
import { SentPart } from './sent-part'
import { Table } from './table'

const Zone = styled(DropZone)`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
  padding: 12px 16px;
  border: 1.5px dashed ${desk.line};
  border-radius: 14px;
  > p { flex: 1 1 320px; color: ${desk.quiet}; font-size: 14.5px; }
  &[data-drop-target] { border-color: ${desk.azalea}; background: ${desk.azaleaSoft}; }
`

/** Larger than this nothing is that a practice page saved. */
const LARGEST = 1_000_000

const day = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})

/** What learners say sits and does not yet, as it came back from their practice pages; apart from what the instructor logged. */
export function Learners({ id }: { id: string }) {
  const page = usePage()
  const me = useMe()
  const edit = useRoutine((s) => s.edit)
  const learners = useRoutine((s) => s.routine.learners)
  const on = useMemo(() => learnersOn(learners), [learners])
  const [told, setTold] = useState({ problems: [] as string[], done: '' })
  const take = async (files: readonly (File | undefined)[]) => {
    const brought: string[] = []
    const problems: string[] = []
    // Whatever is wrong with one of them, the others are brought all the same.
    for (const file of files) {
      try {
        if (!file) throw new Error('That is no file.')
        if (file.size > LARGEST) throw new Error('This is nothing a practice page saved: it is too large.')
        const sent = readMarksFile(await file.text(), id)
        // A refusal is told where all refusals are.
        if (
          !edit(`bring what ${sent.learner} says`, (r) => bringMarks(r, sent, page.times, nanoid, new Date()))
        )
          break
        brought.push(sent.learner)
      } catch (error) {
        problems.push(`${file ? `${file.name}: ` : ''}${said(error)}`)
      }
    }
    setTold({
      problems: [...new Set(problems)],
      done: brought.length ? `Brought: ${brought.join(', ')}.` : '',
    })
  }
  return (
    <section style={{ display: 'grid', gap: 10 }} aria-labelledby="from-learners">
      <h2 id="from-learners">From learners</h2>
      <Zone
        aria-label="Drop what learners sent back"
        getDropOperation={() => 'copy'}
        onDrop={async (e) => {
          const items = e.items.filter((i): i is FileDropItem => i.kind === 'file')
          take(await Promise.all(items.map((i) => i.getFile().catch(() => undefined))))
        }}
      >
        <p>
          Learners with a practice page (Hand out) say what sits and what does not yet, and send a small file
          back. Drop it here{me && '; from a class’s link it comes by itself'}. It changes nothing of your own
          log.
        </p>
        <FileTrigger
          allowsMultiple
          acceptedFileTypes={['.json', 'application/json']}
          onSelect={(files) => files && take([...files])}
        >
          <Button>Choose files</Button>
        </FileTrigger>
      </Zone>
      {me && <SentPart id={id} />}
      {told.problems.length > 0 && (
        <div role="alert">
          {told.problems.map((p) => (
            <p key={p}>{p}</p>
          ))}
        </div>
      )}
      {told.done && <p role="status">{told.done}</p>}
      {on.length > 0 && (
        <Table data-testid="from-learners">
          <thead>
            <tr>
              <th>Stretch</th>
              <th>Not yet</th>
              <th>Sits</th>
              <th>Go on</th>
            </tr>
          </thead>
          <tbody>
            {on.map(({ stretch, notYet, sits }) => (
              <tr key={`${stretch.from} ${stretch.to}`}>
                <td>{stretchName(page.placed, stretch)}</td>
                <td>{notYet.join(', ')}</td>
                <td>{sits.join(', ')}</td>
                <td>
                  <LinkWhenMeant href={drillAddress(id, stretch)}>Drill it</LinkWhenMeant>
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {learners.length > 0 && (
        <ul style={{ display: 'flex', flexWrap: 'wrap', gap: 8, listStyle: 'none', margin: 0, padding: 0 }}>
          {learners.map((x) => (
            <li key={x.id} style={{ display: 'flex', alignItems: 'center', gap: 8, fontSize: 14.5 }}>
              {x.name}, saved {day.format(Date.parse(x.made))}
              <Button
                small
                look="quiet"
                onPress={() => edit(`take away what ${x.name} says`, (r) => removeLearner(r, x.id))}
              >
                Take {x.name}’s away
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
