'use client'

import { nanoid } from 'nanoid'
import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { lessonWords, stretchNames } from '@/core/handout'
import { layCourse, putCourse, removeCourse, weekly, withDate } from '@/core/lesson'
import type { Course } from '@/core/routine'
import { Button } from '../../parts/button'
import { dayText } from '../../parts/day-text'
import { KeptLine } from '../../parts/kept-line'
import { More } from '../../parts/more'
import { Tools } from '../../parts/panel'
import { saveCalendar } from '../../parts/save-calendar'
import { minutesText } from '../../parts/step-words'
import { Unread } from '../../parts/unread'
import { useDance } from '../../state/choreo'
import { useBook } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import type { ClassLog } from '../../state/use-class'
import { desk } from '../../theme/tokens'
import { usePlan } from './teach-store'

const Field = styled.label`
  display: grid;
  gap: 4px;
  font-size: 13px;
  color: ${desk.quiet};
  font-weight: 500;
  grid-template-columns: minmax(0, 1fr);
  input { min-width: 0; min-height: 36px; border: 1.5px solid ${desk.edge}; border-radius: 9px; background: ${desk.card}; padding: 0 10px; width: 100%; color: ${desk.ink}; }
`

const List = styled.ol`
  margin: 0;
  padding-left: 20px;
  display: grid;
  gap: 7px;
  font-size: 13.5px;
  span { display: block; color: ${desk.quiet}; overflow-wrap: anywhere; }
`

/** The course of a class: its dates, what is new in each lesson, what comes back, and whether it can stand in time. */
export function CoursePart({ page, log }: { page: Page; log: ClassLog }) {
  const group = usePlan((p) => p.group)
  const settings = usePlan((p) => p.settings)
  const title = useRoutine((s) => s.routine.title)
  const edit = useRoutine((s) => s.edit)
  const book = useBook()
  const dance = useDance()
  const course = useRoutine((s) => s.routine.courses.find((c) => c.group === group) ?? null)
  const laid = useMemo(
    () => course && layCourse(dance, page.times, book, settings, course, log.rows),
    [course, dance, page.times, book, settings, log.rows],
  )
  const [first, setFirst] = useState('')
  const put = (c: Course, did: string) => edit(did, (r) => putCourse(r, c))
  const again = (from: string, lessons: number) => {
    if (course && /^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(from) && lessons >= 1 && lessons <= 60)
      put({ ...course, dates: weekly(from, lessons) }, 'the dates of the course')
  }
  if (!course || !laid)
    return (
      <More name="A course">
        <p>
          Several lessons a week apart: what is new in each, what comes back, and whether it can stand in
          time.
        </p>
        <Field>
          First lesson
          <input type="datetime-local" value={first} onChange={(e) => setFirst(e.target.value)} />
        </Field>
        <Tools>
          <Button
            small
            isDisabled={!first}
            onPress={() =>
              put(
                {
                  ...{ id: nanoid(), group: group, dates: weekly(first.slice(0, 16), 8) },
                  ...{ minutes: settings.minutes, standsBy: null },
                },
                'a course',
              )
            }
          >
            Plan eight lessons
          </Button>
        </Tools>
      </More>
    )
  return (
    <More name={`Course of ${course.dates.length} lessons`}>
      <Field>
        First lesson
        <input
          type="datetime-local"
          value={course.dates[0]}
          onChange={(e) => again(e.target.value.slice(0, 16), course.dates.length)}
        />
      </Field>
      <KeptLine
        label="Lessons, a week apart"
        needed
        value={String(course.dates.length)}
        keep={(n) => again(course.dates[0] ?? '', Math.round(Number(n)))}
      />
      <KeptLine
        label="Minutes each"
        needed
        value={String(course.minutes)}
        keep={(n) => {
          const minutes = Math.round(Number(n))
          if (minutes >= 5 && minutes <= 240) put({ ...course, minutes }, 'the minutes of the course')
        }}
      />
      <Field>
        It must stand by
        <input
          type="date"
          value={course.standsBy ?? ''}
          onChange={(e) => put({ ...course, standsBy: e.target.value || null }, 'when it must stand')}
        />
      </Field>
      {!log.there ? (
        <Unread log={log} so="Without it, what is new in which lesson cannot be said." />
      ) : laid.left.length > 0 ? (
        <p role="status" data-testid="course-problem">
          It cannot stand in time: {laid.left.length} {laid.left.length === 1 ? 'piece is' : 'pieces are'}{' '}
          left, {stretchNames(page.placed, laid.left)}. More lessons, more minutes, or leave that out.
        </p>
      ) : (
        <p role="status" data-testid="course-problem">
          It can stand in time.
        </p>
      )}
      <List data-testid="course">
        {(log.there ? laid.lessons : []).map((l) => (
          <li key={l.date}>
            <CourseDay
              date={l.date}
              only={course.dates.length === 1}
              onMove={(date) =>
                put(
                  { ...course, dates: withDate(course.dates, l.date, date) },
                  date ? 'a lesson on another day' : 'a lesson less',
                )
              }
            />
            <span>{minutesText(l.seconds)} min</span>
            {lessonWords(l, page.placed).map((words) => (
              <span key={words}>{words}</span>
            ))}
          </li>
        ))}
      </List>
      <Tools>
        <Button
          small
          isDisabled={!log.there}
          onPress={() => saveCalendar(title, title, { course, laid, placed: page.placed })}
          tip="For any calendar (iCalendar)"
        >
          Save the dates
        </Button>
        <Button
          small
          look="quiet"
          onPress={() => edit('take the course away', (r) => removeCourse(r, course.id))}
        >
          Take it away
        </Button>
      </Tools>
    </More>
  )
}

/** A day of the course; pressed, it goes to another day, or falls out. */
function CourseDay({
  date,
  only,
  onMove,
}: {
  date: string
  only: boolean
  onMove: (date: string | null) => void
}) {
  const [open, setOpen] = useState(false)
  const [to, setTo] = useState(date)
  if (!open)
    return (
      <Button
        small
        look="quiet"
        onPress={() => {
          setTo(date)
          setOpen(true)
        }}
        tip="On another day, or not at all"
      >
        {dayText(date)}
      </Button>
    )
  return (
    <>
      <Field>
        {dayText(date)} is moved to
        <input type="datetime-local" value={to} onChange={(e) => setTo(e.target.value.slice(0, 16))} />
      </Field>
      <Tools>
        <Button
          small
          isDisabled={!to || to === date}
          onPress={() => {
            setOpen(false)
            onMove(to)
          }}
        >
          Move it
        </Button>
        <Button small look="quiet" isDisabled={only} onPress={() => onMove(null)}>
          It falls out
        </Button>
        <Button small look="quiet" onPress={() => setOpen(false)}>
          Leave it
        </Button>
      </Tools>
    </>
  )
}
