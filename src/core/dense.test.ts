/*
 * What the core says of a dense dance, kept as text in dense/ and compared to the letter. Where it changes on purpose,
 * `npx vitest run src/core/dense.test.ts -u` writes it anew, and the change is read before it is kept.
 */
import path from 'node:path'
import { crc32 } from 'node:zlib'
import { describe, expect, it } from 'vitest'
import { asDanced, callsOf, findings, followBody, stanceAt, stanceWords } from './choreo'
import { book, denseDance, EIGHT, EIGHTS, TIMES } from './dense.test-tools'
import { drillTimeline, eventsOf } from './drill'
import { DANCE_EDITS, type Dice, dice, PAGE_EDITS, start } from './edits.test-tools'
import {
  type Contents,
  captionsOf,
  countTable,
  cueSheet,
  cueTable,
  lessonWords,
  pageCalls,
  pageWords,
  pasteText,
  placesTable,
  practicePage,
  soundCaptions,
  spokenRow,
  type Table,
  USUAL_SOUND,
  usualContents,
} from './handout'
import { courseCalendar } from './handout/calendar'
import { layCourse, layLesson, loadOf, newEights, promptOf, secondsOf, spanOf } from './lesson'
import { cuesOfDancers, effortsOf, meetings, placeFindings, spotText, standingOf } from './places'
import {
  type Course,
  commit,
  cueText,
  danced,
  type Edit,
  type LessonSettings,
  placePhrases,
  printLine,
  type Routine,
  stretchName,
  USUAL,
} from './routine'
import { ids } from './routine/hand.test-tools'
import { lineCue } from './routine/line/line-print'
import { clockText, TICKS_PER_COUNT } from './time'

const dance = denseDance()
const placed = placePhrases(dance)
const all = danced(dance)
const said = (name: string, lines: readonly string[]) =>
  expect(`${lines.join('\n')}\n`).toMatchFileSnapshot(path.join(import.meta.dirname, 'dense', `${name}.txt`))
const some = (from: number, to: number, what: Partial<Contents> = {}): Contents => ({
  ...usualContents(dance),
  stretch: { from: from * EIGHT, to: to * EIGHT },
  ...what,
})
/** "9, count 3": an eight and a count of it. */
const place = (tick: number) =>
  `${Math.floor(tick / EIGHT) + 1}, count ${(tick % EIGHT) / TICKS_PER_COUNT + 1}`
const tabled = ({ name, columns, rows }: Table) => [
  `== ${name}`,
  columns.join(' | '),
  ...rows.map((r) => r.join(' | ')),
]

/** A lesson as it is laid out, a line each step. */
function lessonLines(what: Partial<LessonSettings>): string[] {
  const settings = { ...USUAL, ...what }
  const laid = layLesson(dance, TIMES, book, settings, () => 0)
  const context = { routine: dance, times: TIMES, settings }
  const steps = laid.steps.map((s) => {
    const where = s.stretch ? stretchName(placed, s.stretch) : ''
    const span = spanOf(s, dance)
    const from = span && s.stretch && span.from < s.stretch.from ? `from ${place(span.from)}` : ''
    const how = [
      where,
      s.pass === 'all' ? '' : s.pass,
      from,
      s.version,
      s.calls,
      s.leadIn,
      s.sound,
      s.view,
      s.how,
    ]
    const took = Math.round(secondsOf(s, context))
    return [
      `${clockText(took)} ${s.kind} ${s.repetitions} × ${Math.round(s.speed * 100)} %`,
      ...how,
      s.why,
      s.note,
    ]
      .filter(Boolean)
      .join(' | ')
  })
  return [
    `== ${JSON.stringify(what)}`,
    `${Math.round(laid.seconds)} s; ${laid.fits} fit, ${laid.eights.toFixed(2)} eights; new ${newEights(dance, TIMES, book, settings)}`,
    `cut: ${laid.cut.join('; ')}`,
    `left: ${laid.left.map((l) => stretchName(placed, l)).join('; ')}`,
    `load: ${JSON.stringify(loadOf(laid.steps, dance, book))}`,
    ...steps,
  ]
}

/** A dance in which every kind of thing is there to be changed. */
function richDance(): Routine {
  const makes = /^(add|put|set|begin|place|keep|write|found|confirm|let|name|stand)/
  const names = Object.keys(EDITS).filter((name) => makes.test(name))
  return names.reduce((r, name, i) => {
    const done = commit(r, EDITS[name]?.(dice([31, 4, 17, 5, 92, 6], `rich${i}`)) ?? ((same) => same))
    return done.done ? done.routine : r
  }, start())
}

/** What is in one list and not in another, each as often as it is. */
function lackingIn(list: readonly string[], other: readonly string[]): string[] {
  const there = new Map<string, number>()
  for (const x of other) there.set(x, (there.get(x) ?? 0) + 1)
  return list.filter((x) => {
    const n = there.get(x) ?? 0
    if (n) there.set(x, n - 1)
    return !n
  })
}

const MOST_LINES = 4
const LONGEST_LINE = 130
function changesOf(before: Routine, after: Routine): string[] {
  const texts = (value: unknown) => (Array.isArray(value) ? value : [value]).map((x) => JSON.stringify(x))
  return (Object.keys(after) as (keyof Routine)[]).flatMap((field) => {
    const [was, now] = [texts(before[field]), texts(after[field])]
    const lines = [
      ...lackingIn(was, now).map((x) => `    ${field} - ${x}`),
      ...lackingIn(now, was).map((x) => `    ${field} + ${x}`),
    ]
    // The same items in another order are another dance too.
    const order = !lines.length && was.join() !== now.join() ? [`    ${field}: another order`] : []
    const rest = lines.slice(MOST_LINES)
    const more = rest.length ? [`    ${field}: ${rest.length} more, ${crc32(rest.join('\n'))}`] : []
    const shown = lines
      .slice(0, MOST_LINES)
      .map((x) => (x.length > LONGEST_LINE ? `${x.slice(0, LONGEST_LINE)}… ${crc32(x)}` : x))
    return [...shown, ...more, ...order]
  })
}

const EDITS: Readonly<Record<string, (d: Dice) => Edit>> = { ...PAGE_EDITS, ...DANCE_EDITS }
const THROWS = [
  [3, 1, 41, 59, 26, 5, 35, 89],
  [16, 1, 80, 33, 9, 88, 74, 98],
] as const

function editLines(): string[] {
  const rich = richDance()
  return Object.entries(EDITS).flatMap(([name, edit]) =>
    THROWS.flatMap((numbers) => {
      const done = commit(rich, edit(dice(numbers, 'new')))
      if (!done.done) return [`${name}: ${done.why}`]
      return [`${name}: ${done.said.join(' ') || 'done'}`, ...changesOf(rich, done.routine)]
    }),
  )
}

const COURSE: Course = {
  id: 'course',
  group: 'Thursday, the advanced ones',
  dates: ['2026-12-03T18:30', '2026-12-10T18:30', '2026-12-17T18:30', '2027-01-07T18:30'],
  minutes: 60,
  standsBy: '2027-01-07T18:30',
}

describe('of a dense dance is said as before', () => {
  it('what to look at', () =>
    said(
      'findings',
      findings(dance, TIMES, book).map(
        (f) => `${f.kind} | ${f.layer} | ${f.says} | ${f.why} | ${f.mend?.name ?? '-'}`,
      ),
    ))

  it('each eight as a line', () =>
    said(
      'lines',
      placed.slice(0, 10).flatMap((p) =>
        (['feet', 'arms', 'head'] as const).map((layer) => {
          const own = dance.cues.filter((c) => c.layer === layer && c.at >= p.start && c.at < p.start + EIGHT)
          const line = own.map((c) => lineCue(c, p.start))
          return `${p.index + 1} ${layer}: ${printLine(line, { length: 8, feel: 'straight', first: 1 })}`
        }),
      ),
    ))

  it('the cue sheet, for everybody, for one role in another version, and in the mirror', () => {
    const rows = (contents: Contents) =>
      cueSheet(dance, TIMES, book, contents).flatMap((r) => [
        ...(r.heading ? [`== ${r.heading}`] : []),
        `${r.title} ${r.time} ${spokenRow(r)}`,
        ...[r.again, r.feet.map((f) => f.words).join(' '), r.wall, r.lyric, ...r.notes, r.way]
          .filter(Boolean)
          .map((x) => `   ${x}`),
        ...r.plans.map(({ at, name, people }) => {
          const each = people.map((p) => `${p.letters}${p.role} ${p.x.toFixed(2)} ${p.y.toFixed(2)}`)
          return `   ${at} ${name}: ${each.join(', ')}`
        }),
      ])
    return said('sheet', [
      ...rows(some(0, 10)),
      ...rows(some(47, 57, { mirrored: true, path: true, plans: false })),
      ...rows(some(0, 4, { role: 'leader', version: 'easier', short: false, tips: false, lyric: false })),
      ...rows(some(32, 36, { pass: 'arms', short: false })),
    ])
  })

  it('what is pasted elsewhere', () =>
    said('pasted', [
      pasteText(dance, TIMES, book, some(30, 34)),
      pasteText(dance, TIMES, book, some(0, 3, { mirrored: true }), { moves: true, before: 8, stamps: null }),
    ]))

  it('tables', () =>
    said('tables', [
      ...tabled(cueTable(dance, TIMES, some(0, 3), true)),
      ...tabled(cueTable(dance, TIMES, some(48, 50, { role: 'follower', mirrored: true }))),
      ...tabled(countTable(dance, TIMES, some(1, 3))),
      ...tabled(placesTable(dance, TIMES, some(0, 60), book)),
    ]))

  it('captions', () =>
    said(
      'captions',
      (['counts', 'cues', 'lyric', 'chapters'] as const).flatMap((kind) => [
        `== ${kind}`,
        ...captionsOf(dance, TIMES, some(0, 4), kind, { speed: 0.75, lead: null }).map(
          (c) => `${c.start.toFixed(3)} ${c.end?.toFixed(3)} ${c.text}`,
        ),
      ]),
    ))

  it('a practice page: its cues, what is called on either side, and its moves', () => {
    const [id, made] = ['page-page', new Date('2026-11-30T12:00:00Z')]
    const contents = some(48, 50, { role: 'leader', version: 'easier', mirrored: true })
    const page = practicePage(id, dance, TIMES, book, contents, 'sound', ids('n'), made)
    const { routine, moves, times, ...rest } = page
    const calls = (mirrored: boolean) =>
      [...pageCalls(page, 'words', mirrored, times).words].map(([at, { word }]) => `${place(at)} ${word}`)
    return said('practice-page', [
      JSON.stringify(rest),
      ...Object.entries(routine).flatMap(([field, value]) =>
        Array.isArray(value) && field !== 'phrases'
          ? value.map((x) => `${field}: ${JSON.stringify(x)}`)
          : [`${field}: ${JSON.stringify(value).slice(0, 200)}`],
      ),
      ...moves.map((m) => `move: ${JSON.stringify(m)}`),
      ...[false, true].flatMap((mirrored) => [
        `== ${mirrored ? 'in the mirror' : 'true'}`,
        ...calls(mirrored),
      ]),
      pageWords(page).join(', '),
    ])
  })

  it('a practice sound', () =>
    said(
      'practice-sound',
      soundCaptions(dance, TIMES, some(7, 9), { ...USUAL_SOUND, speeds: [0.6, 1], calls: 'fading' }).map(
        (c) => `${c.start.toFixed(3)} ${c.end?.toFixed(3)} ${c.text}`,
      ),
    ))

  it('lessons', () =>
    said('lessons', [
      ...lessonLines({}),
      ...lessonLines({ minutes: 45, grade: 'beginners', chunk: 'hard', order: 'arms first' }),
      ...lessonLines({ minutes: 120, grade: 'advanced', chunk: 'two', order: 'whole body', review: 'join' }),
      ...lessonLines({
        minutes: 30,
        grade: 'children',
        chunk: 'two counts',
        ladder: 'counts',
        calling: 'fading',
      }),
    ]))

  it('a course, and its calendar', () => {
    const laid = layCourse(dance, TIMES, book, USUAL, COURSE, [])
    return said('course', [
      ...laid.lessons.flatMap((l) => [`${l.date} ${Math.round(l.seconds)} s`, ...lessonWords(l, placed)]),
      laid.left.map((s) => stretchName(placed, s)).join('; '),
      courseCalendar(COURSE, laid, dance.title, placed, new Date('2026-11-30T12:00:00Z'), 'routine'),
    ])
  })

  it('what is called on each count', () =>
    said(
      'calls',
      [false, true].flatMap((mirrored) => {
        const { words } = callsOf(
          { ...dance, called: 'words' },
          asDanced(all, 'leader', 'base'),
          dance.marks,
          TIMES,
          placed,
          mirrored,
        )
        const range = { times: TIMES, placed, from: 0, to: 4 * EIGHT, cues: all.map((c) => c.at), words }
        return [1, 0.6].flatMap((speed) => [
          `== ${mirrored ? 'in the mirror' : 'true'} at ${speed}`,
          ...eventsOf(drillTimeline(range, speed, 4), true).map(
            (e) => `${e.time.toFixed(3)} ${e.kind} ${e.call}${e.accent ? ' (1)' : ''}`,
          ),
        ])
      }),
    ))

  it('the prompter', () =>
    said(
      'prompter',
      (['easier', 'harder'] as const).flatMap((version) => {
        const mine = asDanced(all, 'follower', version)
        const base = asDanced(all, 'follower', 'base')
        const { begin, lines, end } = promptOf(mine, base, [], { from: EIGHT, to: 4 * EIGHT }, placed, book)
        return [
          `== ${version}: ${stanceWords(begin)}`,
          ...lines.map((l) => {
            const cues = l.cues.map((c) =>
              [
                c.layer,
                c.label,
                c.words,
                ...c.more,
                c.mistake,
                c.tip,
                c.insteadOf && `instead of ${c.insteadOf}`,
              ]
                .filter(Boolean)
                .join(' '),
            )
            return `${l.label}: ${cues.join(', ')}${l.ready.length ? ` >> ${l.ready.join('; ')}` : ''}`
          }),
          stanceWords(end),
        ]
      }),
    ))

  it('weight, facing and level', () =>
    said('body', [
      ...['leader', 'follower'].flatMap((role) =>
        followBody(asDanced(all, role, 'base'), book).conflicts.map(
          (c) =>
            `${role} ${c.kind} ${place(c.at)} ${cueText(c.cue)}, computed ${c.computed}${c.before ? `, after ${cueText(c.before)}` : ''}`,
        ),
      ),
      ...Array.from({ length: EIGHTS }, (_, k) => {
        const stance = stanceAt(asDanced(all, 'leader', 'base'), [], k * EIGHT, book)
        return `${place(k * EIGHT)}: ${stanceWords(stance)}`
      }),
    ]))

  it('places', () => {
    const own = cuesOfDancers(dance.dancers, all)
    const standing = standingOf(dance.formations, own, book)
    return said('places', [
      ...placeFindings(dance, book).map(
        (f) => `${f.kind} | ${place(f.at)} | ${f.says} | ${f.why} | ${f.mend?.name ?? '-'}`,
      ),
      ...meetings(standing).map(
        (m) => `${m.a} ${m.b} ${m.at.toFixed(1)} ${m.metres.toFixed(2)} m ${m.formation}`,
      ),
      ...effortsOf(standing, own, book).map(
        ({ travel: t, metres, steps, each }) =>
          `${t.dancer} ${place(t.leaves)} ${spotText(t.from)} to ${spotText(t.to)}: ${metres.toFixed(2)} m, ${steps} steps, ${each?.toFixed(2)}`,
      ),
    ])
  })

  it('each edit, and what it changed', () => said('edits', editLines()))
})
