import { TO_BACK } from '@/core/drill'
import type { FloorRow, FloorStepRow } from '@/core/floor'
import { spanOf } from '@/core/lesson'
import { cutText, type Routine, stretchName } from '@/core/routine'
import { type Seconds, TICKS_PER_COUNT, type Ticks, timeOfTick } from '@/core/time'
import { stepWords } from '../../parts/step-words'
import type { LogRow, StepEntry } from '../../state/api-log'
import type { Page } from '../../state/page'

const tenth = (x: number) => Math.round(x * 10) / 10

/** The moment of the song a place lies at, in whole milliseconds: what the log keeps. */
export function songTime(page: Pick<Page, 'times'>, tick: Ticks): Seconds | null {
  return page.times.length > 1 ? Math.round(timeOfTick(page.times, tick) * 1000) / 1000 : null
}

/** A repetition as the log keeps it: in seconds of the song, under the name its counts have today. */
export function repetitionRow(row: FloorRow, page: Page, group = ''): LogRow {
  const { plan, stretch } = row
  return {
    id: row.id,
    doneAt: row.doneAt,
    kind: plan.kind,
    from: songTime(page, stretch.from),
    to: songTime(page, stretch.to),
    label: `${cutText(stretchName(page.placed, stretch), 280)}${plan.toBack ? TO_BACK : ''}`,
    pass: plan.pass ?? 'all',
    speed: row.speed,
    sound: plan.sound,
    seconds: tenth(row.seconds),
    mark: row.mark,
    looped: row.looped,
    slips: row.slips.flatMap((t) => songTime(page, t) ?? []),
    corrects: row.corrects,
    group,
  }
}

/** A step of a lesson as it was held. */
export function stepRow(row: FloorStepRow, page: Page, routine: Routine): StepEntry {
  const { lesson, step } = row
  const span = spanOf(step, routine)
  return {
    id: row.id,
    doneAt: row.doneAt,
    lesson: lesson.evening,
    plan: lesson.name,
    kind: step.kind,
    label: cutText(stepWords(step, page.placed), 300),
    eights: span ? (span.to - span.from) / (8 * TICKS_PER_COUNT) : 0,
    repetitions: row.repetitions,
    planned: lesson.planned[row.index] ?? 0,
    seconds: row.seconds,
    danced: row.danced,
    note: '',
    group: lesson.group ?? '',
  }
}
