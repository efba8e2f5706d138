'use client'

import { useMemo, useState } from 'react'
import styled from 'styled-components'
import {
  type CountedRow,
  counted,
  lineKey,
  nextSpeed,
  nextUp,
  type PracticeLine,
  practice,
  TO_BACK,
  withPass,
} from '@/core/drill'
import { stretchName, tickName } from '@/core/routine'
import { clockText } from '@/core/time'
import { Choice } from '../../parts/choice'
import { LinkWhenMeant } from '../../parts/link-when-meant'
import { Unread } from '../../parts/unread'
import { fetchLog, type LogRow } from '../../state/api-log'
import { usePage } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { useLog } from '../../state/use-log'
import { desk, NARROW } from '../../theme/tokens'
import { Frame } from '../frame'
import { drillAddress } from '../marked-part'
import { Learners } from './learners'
import { Lessons } from './lessons'
import { Days, SaveLog, SpeedSheet } from './overview'
import { Table } from './table'
import { Timings } from './timings'

const Page = styled.main`
  overflow-y: auto;
  border-top: 1px solid ${desk.line};
  padding: 24px 20px 40px;
  > div { max-width: 1040px; margin: 0 auto; display: grid; grid-template-columns: minmax(0, 1fr); gap: 30px; }
  ${NARROW} {
    padding: 18px 14px 30px;
    /* A wide table is scrolled by itself, what is said about it stays. */
    section { overflow-x: auto; }
    section > :not(table) { position: sticky; left: 0; max-width: calc(100vw - 28px); }
  }
`

const Track = styled.div`
  position: relative;
  width: 150px;
  height: 8px;
  border-radius: 4px;
  background: ${desk.line};
  i { position: absolute; inset: 0 auto 0 0; background: ${desk.leaf}; border-radius: 4px; }
`

const Dot = styled.span<{ $mark: LogRow['mark'] }>`
  display: inline-flex;
  align-items: center;
  gap: 6px;
  &::before {
    content: '${(p) => ({ clean: '●', shaky: '◐', missed: '○', unmarked: '·' })[p.$mark]}';
    color: ${(p) => ({ clean: desk.leaf, shaky: desk.amber, missed: desk.danger, unmarked: desk.quiet })[p.$mark]};
  }
`

const when = new Intl.DateTimeFormat('en-GB', {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})
const percent = (x: number) => `${Math.round(x * 100)} %`

/** The Log station: what was practised, how it went, and from there the next time. */
export function Log({ id }: { id: string }) {
  // What was danced a moment ago may still be on its way: once it is saved, the log is read again.
  const log = useLog(fetchLog, id)
  const rows = log.there ? log.rows : null
  const title = useRoutine((s) => s.routine.title)
  const [group, setGroup] = useState('')
  const groups = useMemo(() => [...new Set((rows ?? []).flatMap((r) => r.group || []))], [rows])
  const own = useMemo(
    () => (rows ?? []).filter((r) => !groups.includes(group) || r.group === group),
    [rows, group, groups],
  )
  return (
    <Frame id={id} bare>
      <Page>
        <div>
          <Unread log={log} />
          {rows && rows.length === 0 && (
            <>
              <Empty id={id} />
              <Learners id={id} />
              <Lessons id={id} />
              <Timings id={id} name={title} />
            </>
          )}
          {groups.length > 0 && (
            <div style={{ maxWidth: 260 }}>
              <Choice
                label="Class"
                value={groups.includes(group) ? group : ''}
                options={[{ id: '', name: 'everybody' }, ...groups.map((g) => ({ id: g, name: g }))]}
                onChange={setGroup}
              />
            </div>
          )}
          {rows && rows.length > 0 && (
            <Filled id={id} rows={own} group={groups.includes(group) ? group : ''} />
          )}
        </div>
      </Page>
    </Frame>
  )
}

function Empty({ id }: { id: string }) {
  return (
    <section style={{ display: 'grid', gap: 10, justifyItems: 'start' }}>
      <h2 style={{ fontSize: 26 }}>Nothing drilled yet</h2>
      <p>
        What is drilled on the floor is kept here by itself: which phrases, how fast, and how each repetition
        went.
      </p>
      <LinkWhenMeant href={`/r/${id}/floor`}>To the floor</LinkWhenMeant>
    </section>
  )
}

function Filled({ id, rows, group }: { id: string; rows: LogRow[]; group: string }) {
  const page = usePage()
  const known = useMemo(() => counted(rows, page.times), [rows, page.times])
  const lines = useMemo(() => practice(known), [known])
  const list = useMemo(() => [...known].reverse(), [known])
  /** What it is called now; for counts that are gone, what it was called then. */
  const nameOf = ({ stretch, label, pass }: Pick<PracticeLine, 'stretch' | 'label' | 'pass'>) =>
    withPass(stretch ? stretchName(page.placed, stretch) : label, pass)
  const total = list.reduce((s, { row }) => s + row.seconds, 0)
  const title = useRoutine((s) => s.routine.title)
  const proposed = nextUp(
    lines.filter((l) => l.stretch),
    Date.now(),
  ).slice(0, 3)
  const slips = (c: CountedRow) => c.slips.map((t) => tickName(page.placed, t)).join('; ')
  return (
    <>
      <section style={{ display: 'grid', gap: 10 }}>
        <div style={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', gap: 16 }}>
          <h2 style={{ fontSize: 26 }}>What sits, and what does not</h2>
          <SaveLog rows={known} name={title} />
        </div>
        <p style={{ color: desk.quiet }}>
          {list.length} {list.length === 1 ? 'repetition' : 'repetitions'}, {clockText(total)} of dancing. A
          stretch sits at the highest speed at which each count led into the next clean twice in a row.
        </p>
        {proposed.length > 0 && (
          <p data-testid="next-up">
            <strong>Next time:</strong>{' '}
            {proposed.map((l) => `${nameOf(l)} at ${percent(nextSpeed(l))}`).join('; ')}. What sits least
            comes first, and what was left alone.
          </p>
        )}
        <Table>
          <thead>
            <tr>
              <th>Stretch</th>
              <th>Sits at</th>
              <th>Repetitions</th>
              <th>Last</th>
              <th>Go on</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr key={lineKey(line)}>
                <td>{nameOf(line)}</td>
                <td>
                  {line.ready ? percent(line.ready) : 'not yet'}
                  <Track
                    role="img"
                    aria-label={`sits at ${line.ready ? percent(line.ready) : 'no speed yet'}`}
                  >
                    <i style={{ width: `${Math.min(1, line.ready) * 100}%` }} />
                  </Track>
                </td>
                <td>{line.repetitions}</td>
                <td>
                  <Dot $mark={line.lastMark}>{line.lastMark}</Dot> at {percent(line.lastSpeed)}
                </td>
                <td>
                  {line.stretch ? (
                    <LinkWhenMeant
                      href={drillAddress(id, line.stretch, `&speed=${nextSpeed(line)}&pass=${line.pass}`)}
                    >
                      Drill at {percent(nextSpeed(line))}
                    </LinkWhenMeant>
                  ) : (
                    'counted anew since'
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </section>
      <Learners id={id} />
      <SpeedSheet rows={known} nameOf={nameOf} />
      <Lessons id={id} group={group} />
      <Timings id={id} name={title} />
      <Days rows={known} />
      <section style={{ display: 'grid', gap: 10 }}>
        <h2>Every repetition</h2>
        <Table>
          <thead>
            <tr>
              <th>What</th>
              <th>When</th>
              <th>Speed</th>
              <th>With</th>
              <th>How it went</th>
            </tr>
          </thead>
          <tbody>
            {list.slice(0, 200).map((c) => {
              const { row: r, stretch } = c
              return (
                <tr key={r.id}>
                  <td>
                    {r.kind === 'run' ? 'Full run: ' : ''}
                    {nameOf({ stretch, label: r.label, pass: r.pass })}
                    {stretch && r.label.endsWith(TO_BACK) ? TO_BACK : ''}
                  </td>
                  <td>{when.format(r.doneAt)}</td>
                  <td>{percent(r.speed)}</td>
                  <td>{r.sound === 'both' ? 'counts and music' : r.sound}</td>
                  <td>
                    <Dot $mark={r.mark}>{r.mark}</Dot>
                    {c.slips.length > 0 && <small>, slipped at {slips(c)}</small>}
                  </td>
                </tr>
              )
            })}
          </tbody>
        </Table>
        {list.length > 200 && (
          <p style={{ color: desk.quiet }}>
            The 200 most recent of {list.length} are shown; all count above.
          </p>
        )}
      </section>
    </>
  )
}
