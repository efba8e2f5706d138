/*
 * An evening with a dense dance, kept as text in dense/ and compared to the letter: what the floor does while a lesson is led
 * badly, and what the log says after many such evenings. `npx vitest run src/core/dense-evening.test.ts -u` writes it anew.
 */
import path from 'node:path'
import { describe, expect, it } from 'vitest'
import { book, denseDance, EIGHT, TIMES } from './dense.test-tools'
import {
  counted,
  type DrillPlan,
  drillHabits,
  dueAt,
  heldLessons,
  type LoggedRepetition,
  type LoggedStep,
  learned,
  MARKS,
  nextSpeed,
  nextUp,
  practice,
  practiceDays,
  practiceSummary,
  speedSheet,
  standing,
} from './drill'
import { type Dice, dice } from './edits.test-tools'
import { ADD_WAYS, type FloorEvent, type FloorState, STILL, step as stepFloor, stepOf } from './floor'
import { layLesson, nextLesson, secondsOf } from './lesson'
import { PASSES, placePhrases, stretchName, USUAL } from './routine'
import { type Stretch, timeOfTick } from './time'

const dance = denseDance()
const placed = placePhrases(dance)
const settings = { ...USUAL, minutes: 45 }
const { steps } = layLesson(dance, TIMES, book, settings, () => 0)
const said = (name: string, lines: readonly string[]) =>
  expect(`${lines.join('\n')}\n`).toMatchFileSnapshot(path.join(import.meta.dirname, 'dense', `${name}.txt`))

/** Numbers that look thrown, the same each time (Park & Miller 1988, their least standard). */
function thrown(seed: number, many: number): number[] {
  let state = seed
  return Array.from({ length: many }, () => {
    state = (state * 16_807) % 2_147_483_647
    return state
  })
}

/** What happens on the floor next: mostly what belongs to what is going on, now and then anything. */
function eventAfter({ phase }: FloorState, d: Dice, now: number): FloorEvent {
  const stretch = (): Stretch => {
    const from = d.below(40) * EIGHT
    return { from, to: from + EIGHT * d.from(1, 4) }
  }
  const heard = () => (d.below(3) ? { k: d.below(2), into: d.below(60) / 10, body: 4.4 } : null)
  const plan = (): DrillPlan => ({
    ...{ kind: d.below(4) ? 'drill' : 'run', stretch: stretch(), speed: d.from(4, 11) / 10, sound: 'both' },
    ...{ countIn: 4, countInEach: d.below(2) === 0 },
  })
  const dancing: readonly (() => FloorEvent)[] = [
    () => ({ kind: 'began', speed: d.from(4, 11) / 10, seconds: d.from(4, 30), looped: d.below(2) === 0 }),
    () => ({ kind: 'began', speed: 0.75, seconds: 5.9, looped: false }),
    () => ({ kind: 'repetition ended', k: d.below(3), now }),
    () => ({ kind: 'mark', mark: d.one(MARKS) ?? 'clean', heard: heard(), now }),
    () => ({ kind: 'mark', mark: 'clean', heard: null, now }),
    () => ({ kind: 'slip', tick: d.below(40 * EIGHT), heard: heard(), now }),
    () => ({ kind: 'all ended', now }),
  ]
  const still: readonly (() => FloorEvent)[] = [
    () => ({ kind: 'begin', id: d.id(), now }),
    () => ({ kind: 'begin', id: d.id(), now }),
    () => ({ kind: 'start', plan: plan(), id: d.id(), now }),
    () => ({ kind: 'skip', now }),
  ]
  const any: readonly (() => FloorEvent)[] = [
    ...dancing,
    ...still,
    () => ({ kind: 'mark stretch', stretch: stretch(), mark: d.one(MARKS) ?? 'clean', now }),
    () => ({ kind: 'add', piece: stretch(), way: d.one(ADD_WAYS) ?? 'top', id: d.id(), now }),
    () => ({ kind: 'fall back', id: d.id(), now }),
    () => ({ kind: 'change', what: { pass: d.one(PASSES) ?? 'all' } }),
    () => ({ kind: 'faster', by: d.from(-2, 2) / 20 }),
    () => ({ kind: 'lost', why: 'The device went away.', from: d.below(2) ? stretch().from : null, now }),
    () => ({ kind: 'go on', now }),
    () => ({ kind: 'no sound', now }),
    () => ({ kind: 'changed', end: d.from(10, 60) * EIGHT, now }),
    () => ({ kind: 'jump', index: d.below(steps.length + 2), now }),
    () => ({ kind: 'leave out', seconds: d.below(2) ? null : d.from(10, 900), now }),
    () => ({ kind: 'put back' }),
    () => ({ kind: 'back', now }),
    () => ({ kind: 'stop', now }),
  ]
  const usual = phase.kind === 'dancing' ? dancing : still
  return (d.one(d.below(5) ? usual : any) ?? (() => ({ kind: 'stop' as const, now })))()
}

/** What is shown of a state in a line. */
function stateLine(state: FloorState): string {
  const { phase, drill, going, adding, said: words } = state
  const here = stepOf(state)
  const reps = drill?.repetitions.map((r) => `${r.mark ?? '-'}${r.whole ? '' : ' (part)'} ${r.slips.length}`)
  return [
    phase.kind,
    here
      ? `${(going?.index ?? 0) + 1} of ${state.lesson?.steps.length} ${here.kind} ${here.repetitions} × ${here.speed}`
      : '',
    going ? `danced ${Math.round(going.danced)} ${going.repetitions} times, reached ${going.reached}` : '',
    drill ? `${drill.plan.kind} ${stretchName(placed, drill.plan.stretch)} at ${drill.plan.speed}` : '',
    reps?.join(', ') ?? '',
    adding ? `${adding.pieces.length} pieces` : '',
    words,
  ]
    .filter(Boolean)
    .join(' | ')
}

function floorLines(): string[] {
  const lesson = {
    ...{ evening: 'evening', name: 'Plan', steps, countIn: settings.countIn, group: 'Thursday', heads: 14 },
    planned: steps.map((s) => secondsOf(s, { routine: dance, times: TIMES, settings })),
  }
  const d = dice(thrown(11, 9973), 'x')
  let now = 1_000_000
  let { state } = stepFloor(STILL, { kind: 'enter', lesson, now: 990_000 })
  return Array.from({ length: 500 }, () => {
    now += d.from(200, 40_000)
    const event = eventAfter(state, d, now)
    const next = stepFloor(state, event)
    state = next.state
    const effects = next.effects.map((e) => {
      if (e.kind === 'log') {
        const { id, corrects, stretch, speed, seconds, mark, looped, slips } = e.row
        return `    log ${id} ${corrects ?? ''} ${stretchName(placed, stretch)} ${speed} ${seconds.toFixed(1)} ${mark} ${looped} ${slips.join()}`
      }
      if (e.kind === 'log step')
        return `    log step ${e.row.index} ${e.row.repetitions} ${e.row.seconds.toFixed(1)} ${e.row.danced.toFixed(1)}`
      if (e.kind === 'play')
        return `    play ${stretchName(placed, e.plan.stretch)} ${e.plan.speed} from ${e.from}`
      return `    ${JSON.stringify(e)}`
    })
    return [`${event.kind} > ${stateLine(state)}`, ...effects]
  }).flat()
}

const DAY = 24 * 3600 * 1000
const BEGAN = Date.UTC(2026, 8, 3, 18)

/** Some weeks of drills: what was danced more often is cleaner, some rows were corrected. */
function aLog(): LoggedRepetition[] {
  const d = dice(thrown(5, 9973), 'row')
  let doneAt = BEGAN
  return Array.from({ length: 420 }, (_, i): LoggedRepetition => {
    doneAt += d.below(12) ? d.from(8, 90) * 1000 : 2 * DAY
    const from = d.below(12) * EIGHT
    const to = from + EIGHT * (d.below(3) ? 1 : d.from(2, 12))
    const speed = (d.one([0.5, 0.6, 0.75, 0.9, 1]) ?? 1) as number
    const [a, b] = [timeOfTick(TIMES, from), timeOfTick(TIMES, to)]
    const mark = d.below(420) < 150 + i / 2 ? 'clean' : (d.one([...MARKS, 'unmarked'] as const) ?? 'clean')
    return {
      ...{ id: `row${i}`, doneAt, kind: d.below(8) ? 'drill' : 'run', from: a, to: b, speed, mark },
      ...{ label: stretchName(placed, { from, to }), pass: d.below(5) ? 'all' : (d.one(PASSES) ?? 'all') },
      ...{ seconds: (b - a) / speed, looped: d.below(3) === 0, corrects: d.below(30) ? null : `row${i - 1}` },
      slips: d.below(6) ? [] : [a + (b - a) * 0.37],
    }
  })
}

function lessonRows(): LoggedStep[] {
  const d = dice(thrown(17, 9973), 'step')
  return Array.from({ length: 60 }, (_, i): LoggedStep => {
    const step = steps[i % steps.length]
    const evening = Math.floor(i / 20)
    const seconds = d.from(5, 240)
    return {
      ...{
        id: `s${i % 50}`,
        doneAt: BEGAN + evening * 7 * DAY + i * 60_000,
        lesson: `evening ${evening}`,
        plan: 'Plan',
      },
      ...{ kind: step?.kind ?? 'drill', label: `step ${i}`, eights: d.below(3), repetitions: d.below(4) },
      ...{
        planned: d.from(30, 200),
        seconds,
        danced: seconds * (d.below(10) / 10),
        note: i % 20 ? '' : 'Went well.',
      },
    }
  })
}

describe('of an evening with a dense dance is said as before', () => {
  it('what the floor does', () => said('floor', floorLines()))

  it('what the log comes to', () => {
    const rows = counted(standing(aLog()), TIMES)
    const last = rows.at(-1)?.row.doneAt ?? 0
    const lines = practice(rows)
    const sheet = speedSheet(rows)
    const summary = practiceSummary(dance, TIMES, aLog())
    const steps = lessonRows()
    return said('log', [
      ...lines.map(
        (l) =>
          `${l.label} ${l.pass}: ${l.repetitions}, ${l.seconds.toFixed(1)} s, ${(l.lastAt - BEGAN) / 1000}, ${l.lastSpeed} ${l.lastMark}, sits at ${l.ready}, next ${nextSpeed(l)}`,
      ),
      `next: ${nextUp(lines, last)
        .map((l) => `${l.label} ${l.pass}`)
        .join('; ')}`,
      `speeds: ${sheet.speeds.join()}`,
      ...sheet.rows.map(
        (r) =>
          `${r.label} ${r.pass}: ${[...r.cells.values()].map((c) => `${c.speed} ${c.repetitions} ${c.last.join(' ')}`).join('; ')}`,
      ),
      ...practiceDays(standing(aLog()), (t) => new Date(t).toISOString().slice(0, 10)).map(
        (x) => `${x.day} ${x.seconds.toFixed(1)} ${x.repetitions}`,
      ),
      JSON.stringify(drillHabits(rows)),
      JSON.stringify({ ...summary, dueFrom: summary.dueFrom.map((t) => Math.round((t - BEGAN) / 1000)) }),
      ...[0, 10, 100].map((days) => JSON.stringify(dueAt(summary, last + days * DAY))),
      JSON.stringify(learned(steps)),
      ...heldLessons(steps).map(
        (l) =>
          `${l.lesson} ${l.plan} ${(l.at - BEGAN) / 1000} ${l.planned} ${l.seconds} ${l.steps.length} ${l.notes.join()}`,
      ),
    ])
  })

  it('which lesson comes next', () => {
    const rows = counted(standing(aLog()), TIMES)
    const next = nextLesson(dance, TIMES, book, settings, rows, (rows.at(-1)?.row.doneAt ?? 0) + DAY)
    return said('next-lesson', [
      `${Math.round(next.seconds)} s, ${next.fits} fit, ${next.eights}; ${next.cut.join('; ')}`,
      `left: ${next.left.map((s) => stretchName(placed, s)).join('; ')}`,
      ...next.steps.map(
        (s) =>
          `${s.kind} ${s.stretch ? stretchName(placed, s.stretch) : ''} ${s.pass} ${s.repetitions} × ${s.speed} ${s.why}`,
      ),
    ])
  })
})
