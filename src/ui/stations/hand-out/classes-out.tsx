'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { Tools } from '../../parts/panel'
import { SuggestLine } from '../../parts/suggest'
import { Tick } from '../../parts/tick'
import { type ClassRow, fetchClasses, handOutTo, removeLink, setLink } from '../../state/school'
import { type Tell, useTask } from '../../state/task'
import { useList } from '../../state/use-list'
import { desk } from '../../theme/tokens'
import { Made, Making } from './making'
import { leftSaid, type PageParts } from './page-parts'
import type { OutProps } from './props'
import { useUnsaved } from './unsaved'

const Box = styled.section`
  display: grid;
  gap: 12px;
  border: 1px solid ${desk.line};
  border-radius: 14px;
  padding: 14px 16px;
  background: ${desk.card};
  max-width: 860px;
  > p { color: ${desk.quiet}; font-size: 14px; max-width: 640px; }
  ul { list-style: none; margin: 0; padding: 0; display: grid; gap: 10px; }
  li { display: grid; gap: 4px; border-top: 1px solid ${desk.line}; padding-top: 10px; }
  code { overflow-wrap: anywhere; user-select: all; font-size: 14px; }
  small { color: ${desk.quiet}; font-size: 13.5px; }
`
const Fields = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  align-items: end;
  > :first-child { flex: 0 1 260px; }
`

const time = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})

const nameOf = ({ group }: ClassRow) => group || 'Everybody'

function countedSaid({ devices, newest, made, closed }: ClassRow): string {
  const at = `Handed out ${time.format(Date.parse(made))}`
  if (closed) return `${at}. Closed: the link leads nowhere.`
  if (!devices) return `${at}. Nobody has opened it yet.`
  const all = `${devices} ${devices === 1 ? 'device' : 'devices'}`
  return `${at}. Opened on ${all}${newest < devices ? `; ${newest} have the newest` : ''}.`
}

/** The practice page as a page that a class has a link to. */
export function ClassesOut({
  parts,
  ...props
}: OutProps & { parts: (tell: Tell, signal: AbortSignal) => Promise<PageParts> }) {
  const { id, routine, contents } = props
  const classes = useList(() => fetchClasses(id))
  const saving = useUnsaved()
  const { task, state } = useTask()
  const [group, setGroup] = useState('')
  const [films, setFilms] = useState<boolean | null>(null)
  const there = classes.list?.find((c) => c.group === group)
  const withFilms = films ?? there?.films ?? false
  const named = [...routine.plans, ...routine.courses].flatMap((p) => p.group || [])
  const offers = [...new Set([...(classes.list ?? []).flatMap((c) => c.group || []), ...named])]
  const handOut = () =>
    task.begin(
      'Listening to the song',
      async (tell, signal) => {
        const made = await parts(tell, signal)
        tell(null, 'Handing it out')
        const { voice, stills } = made
        await handOutTo(id, contents, { group, films: withFilms, voice, stills })
        await classes.look()
        return `Handed out${group ? ` to ${group}` : ''}.${leftSaid(made)}`
      },
      (why) => `It could not be handed out: ${why}`,
    )
  return (
    <Box aria-labelledby="classes">
      <h3 id="classes">By a link</h3>
      <p>
        Learners open it on their phone and keep it there: it works without a network afterwards, is always
        what was handed out last, and what they say comes back to your Log by itself. No account, and no song
        in it.
      </p>
      <Fields>
        <SuggestLine
          label="Class"
          value={group}
          offers={offers}
          placeholder="everybody"
          keep={(name) => {
            setGroup(name.trim())
            setFilms(null)
          }}
        />
        <Tick isSelected={withFilms} onChange={setFilms}>
          Learners may send films
        </Tick>
        <Making task={task} state={state}>
          <Button look="strong" onPress={handOut} isDisabled={saving || classes.list === null}>
            {there ? 'Hand it out anew' : 'Hand it out'}
          </Button>
        </Making>
      </Fields>
      <Made state={state} />
      {classes.problem && <p role="alert">{classes.problem}</p>}
      {classes.list !== null && classes.list.length > 0 && (
        <ul aria-label="Links of classes">
          {classes.list.map((c) => (
            <ClassLine key={c.id} row={c} act={classes.act} />
          ))}
        </ul>
      )}
    </Box>
  )
}

const ASKED = {
  new: {
    title: 'Make the link anew?',
    words:
      'The link that was handed round leads nowhere from then on, also on phones that keep the page. Counting begins anew. What learners said stays.',
    name: 'Make it anew',
  },
  gone: {
    title: 'Take the link away?',
    words:
      'It leads nowhere from then on, and what learners sent by it and you have not taken in goes with it. This cannot be undone.',
    name: 'Take it away',
  },
} as const

/** One class's link, and what is done with it. */
function ClassLine({ row, act }: { row: ClassRow; act: (work: () => Promise<unknown>) => Promise<unknown> }) {
  const { task, state } = useTask()
  const [asking, setAsking] = useState<keyof typeof ASKED | null>(null)
  const asked = ASKED[asking ?? 'new']
  const copy = () =>
    task.begin('Copying', async () => {
      await navigator.clipboard.writeText(row.link)
      return 'Copied.'
    })
  return (
    <li>
      <b>{nameOf(row)}</b>
      {!row.closed && <code>{row.link}</code>}
      <small>
        {countedSaid(row)}
        {row.films ? ' Films may be sent.' : ''}
      </small>
      <Tools>
        {!row.closed && (
          <Button small onPress={copy} aria-label={`Copy the link of ${nameOf(row)}`}>
            Copy
          </Button>
        )}
        <Button
          small
          look="quiet"
          onPress={() => act(() => setLink(row.id, row.closed ? 'open' : 'closed'))}
          aria-label={`${row.closed ? 'Open' : 'Close'} the link of ${nameOf(row)}`}
        >
          {row.closed ? 'Open it again' : 'Close it'}
        </Button>
        <Button small look="quiet" onPress={() => setAsking('new')}>
          Make it anew …
        </Button>
        <Button small look="quiet" onPress={() => setAsking('gone')}>
          Take it away …
        </Button>
        {state.kind === 'done' && <span role="status">{state.told}</span>}
        {state.kind === 'failed' && <span role="alert">Mark it, and copy it by hand.</span>}
      </Tools>
      <Ask
        isOpen={asking !== null}
        title={asked.title}
        onClose={() => setAsking(null)}
        actions={[
          { name: 'Leave it', onPress: () => setAsking(null) },
          {
            name: asked.name,
            look: 'danger',
            onPress: async () => {
              await act(() => (asking === 'gone' ? removeLink(row.id) : setLink(row.id, 'new')))
              setAsking(null)
            },
          },
        ]}
      >
        {asked.words}
      </Ask>
    </li>
  )
}
