'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import styled from 'styled-components'
import { type HeldLesson, heldLessons, type LoggedStep } from '@/core/drill'
import { Text } from '../../parts/field'
import { KIND_LOOKS, minutesText } from '../../parts/step-words'
import { Unread } from '../../parts/unread'
import { fetchLessons } from '../../state/api-log'
import { putStep } from '../../state/saved'
import { useLog } from '../../state/use-log'
import { desk } from '../../theme/tokens'

const One = styled.article`
  display: grid;
  gap: 8px;
  padding: 14px 16px;
  border: 1px solid ${desk.line};
  border-radius: 14px;
  background: ${desk.card};
  header { display: flex; justify-content: space-between; gap: 16px; flex-wrap: wrap; }
  header span { color: ${desk.quiet}; }
  p { font-size: 14.5px; }
  summary { cursor: pointer; font-size: 14px; color: ${desk.quiet}; }
  table { width: 100%; border-collapse: collapse; font-size: 13.5px; margin-top: 6px; }
  th { text-align: left; font-weight: 550; color: ${desk.quiet}; }
  td, th { padding: 3px 10px 3px 0; border-top: 1px solid ${desk.line}; }
  td.time, th.time { text-align: right; white-space: nowrap; }
`

const Bars = styled.div`
  display: grid;
  grid-template-columns: 64px 1fr;
  gap: 4px 10px;
  align-items: center;
  font-size: 13px;
  color: ${desk.quiet};
  div { display: flex; height: 13px; border-radius: 4px; overflow: hidden; }
`

const when = new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })
const hour = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })

/** Lessons that were held: what was planned, what it took, and what the instructor wrote down. @param group of one class alone */
export function Lessons({ id, group: shown = '' }: { id: string; group?: string }) {
  const log = useLog(fetchLessons, id)
  const { rows, problem, read } = log
  const [waiting, setWaiting] = useState<LoggedStep[]>([])
  const held = heldLessons([...rows, ...waiting].filter((r) => !shown || r.group === shown))
  const note = async (lesson: HeldLesson, text: string) => {
    const { lesson: key, plan } = lesson
    const group = lesson.steps[0]?.group ?? ''
    const nothing = { label: '', eights: 0, repetitions: 0, planned: 0, seconds: 0, danced: 0 }
    const row = {
      id: nanoid(),
      doneAt: Date.now(),
      lesson: key,
      plan,
      kind: 'note',
      note: text,
      group,
      ...nothing,
    }
    // It is shown at once; the outbox tells when it could not be kept.
    setWaiting((list) => [...list, row])
    await putStep(id, row).then(read, () => {})
    setWaiting((list) => list.filter((r) => r !== row))
  }
  if (!held.length && !problem) return null
  return (
    <section style={{ display: 'grid', gap: 10 }}>
      <h2>Lessons held</h2>
      {problem && <Unread log={log} />}
      {held.slice(0, 30).map((lesson) => (
        <Held key={lesson.lesson} lesson={lesson} note={(text) => note(lesson, text)} />
      ))}
    </section>
  )
}

/** "4:10 longer than planned". */
function against(planned: number, real: number): string {
  const off = Math.round(real - planned)
  if (Math.abs(off) < 30) return 'as planned'
  return `${minutesText(Math.abs(off))} ${off > 0 ? 'longer' : 'shorter'} than planned`
}

function Held({ lesson, note }: { lesson: HeldLesson; note: (text: string) => void }) {
  const [text, setText] = useState('')
  const { planned, seconds, steps } = lesson
  const longest = Math.max(planned, seconds, 1)
  const keep = () => {
    if (!text.trim()) return
    note(text.trim())
    setText('')
  }
  const bar = (of: 'planned' | 'seconds') => (
    <div style={{ width: `${((of === 'planned' ? planned : seconds) / longest) * 100}%` }}>
      {steps.map((s) => (
        <i
          key={s.id}
          title={`${s.label}: ${minutesText(s[of])}`}
          style={{
            width: `${(s[of] / Math.max(1, of === 'planned' ? planned : seconds)) * 100}%`,
            background: KIND_LOOKS[s.kind as keyof typeof KIND_LOOKS]?.colour ?? desk.quiet,
            borderRight: `1px solid ${desk.card}`,
          }}
        />
      ))}
    </div>
  )
  return (
    <One data-testid="held">
      <header>
        <strong>{lesson.plan}</strong>
        <span>
          {when.format(lesson.at)}, {hour.format(lesson.at)} · {minutesText(seconds)} held,{' '}
          {minutesText(planned)} planned for it: {against(planned, seconds)}
        </span>
      </header>
      <Bars aria-hidden>
        <span>planned</span>
        {bar('planned')}
        <span>held</span>
        {bar('seconds')}
      </Bars>
      {lesson.notes.map((n, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: notes are only ever added
        <p key={i}>{n}</p>
      ))}
      <details>
        <summary>
          {steps.length} {steps.length === 1 ? 'step' : 'steps'}
        </summary>
        <table>
          <thead>
            <tr>
              <th>Step</th>
              <th className="time">Planned</th>
              <th className="time">Held</th>
            </tr>
          </thead>
          <tbody>
            {steps.map((s) => (
              <tr key={s.id}>
                <td>{s.label}</td>
                <td className="time">{minutesText(s.planned)}</td>
                <td className="time">{minutesText(s.seconds)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
      <Text
        label="A note on this lesson (kept on Enter)"
        value={text}
        onChange={setText}
        onEnter={keep}
        placeholder="What to remember for next time"
      />
    </One>
  )
}
