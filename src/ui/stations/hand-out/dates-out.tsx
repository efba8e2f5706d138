'use client'

import { useMemo } from 'react'
import styled from 'styled-components'
import { lessonWords } from '@/core/handout'
import { layCourse } from '@/core/lesson'
import type { Course, LessonPlan } from '@/core/routine'
import { Button } from '../../parts/button'
import { dayText } from '../../parts/day-text'
import { LinkWhenMeant } from '../../parts/link-when-meant'
import { Part, Tools } from '../../parts/panel'
import { saveCalendar } from '../../parts/save-calendar'
import { Unread } from '../../parts/unread'
import { useDance } from '../../state/choreo'
import { useClass } from '../../state/use-class'
import { desk } from '../../theme/tokens'
import type { OutProps } from './props'

const Lessons = styled.ol`
  margin: 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: 3px;
  max-width: 640px;
  li { display: grid; grid-template-columns: 150px minmax(0, 1fr); gap: 12px; padding: 8px 12px; background: ${desk.card}; border: 1px solid ${desk.line}; border-radius: 9px; }
  time { font-weight: 600; font-variant-numeric: tabular-nums; }
  span { display: block; overflow-wrap: anywhere; }
  span + span { color: ${desk.quiet}; }
`

/** The lessons of each course, for a calendar. */
export function DatesOut(props: OutProps) {
  const { routine, id } = props
  const planned = routine.courses.flatMap((course) => {
    const plan = routine.plans.find((p) => p.group === course.group)
    return plan ? [{ course, plan }] : []
  })
  if (!planned.length)
    return (
      <p role="status" style={{ color: desk.quiet, maxWidth: 460 }}>
        No class has a course yet: its dates are laid out on{' '}
        <LinkWhenMeant href={`/r/${id}/teach`}>Teach</LinkWhenMeant>, beside its lesson.
      </p>
    )
  return planned.map((p) => <CourseOut key={p.course.id} {...props} {...p} />)
}

function CourseOut({
  id,
  page,
  routine,
  book,
  course,
  plan,
}: OutProps & { course: Course; plan: LessonPlan }) {
  const dance = useDance()
  const log = useClass(id, page, course.group)
  const laid = useMemo(
    () => layCourse(dance, page.times, book, plan.settings, course, log.rows),
    [dance, page.times, book, plan.settings, course, log.rows],
  )
  const name = course.group || routine.title
  const save = () => saveCalendar(name, routine.title, { course, laid, placed: page.placed })
  return (
    <Part>
      <h2>{name}</h2>
      <Tools>
        <Button look="strong" onPress={save} isDisabled={!log.there} tip="For any calendar (iCalendar)">
          Save the dates
        </Button>
      </Tools>
      <p style={{ color: desk.quiet }}>
        {laid.lessons.length} lessons of {course.minutes} minutes, for any calendar, in the hours of the place
        where the class is.
      </p>
      <Unread log={log} so="Without it, what is new in which lesson cannot be said." />
      {log.there && (
        <Lessons data-testid="dates">
          {laid.lessons.map((l) => (
            <li key={l.date}>
              <time dateTime={l.date}>{dayText(l.date)}</time>
              <div>
                {lessonWords(l, page.placed).map((words) => (
                  <span key={words}>{words}</span>
                ))}
              </div>
            </li>
          ))}
        </Lessons>
      )}
    </Part>
  )
}
