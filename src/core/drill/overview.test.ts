import { describe, expect, it } from 'vitest'
import {
  counted,
  type LoggedRepetition,
  nextSpeed,
  nextUp,
  practice,
  practiceDays,
  speedSheet,
  standing,
  withPass,
} from '.'

const times = Array.from({ length: 64 }, (_, i) => i * 0.5)

const DAY = 24 * 3600 * 1000
let n = 0
const row = (what: Partial<LoggedRepetition>): LoggedRepetition => ({
  id: `r${n++}`,
  doneAt: 0,
  kind: 'drill',
  from: 0,
  to: 4,
  label: 'A',
  pass: 'all',
  speed: 0.6,
  seconds: 10,
  mark: 'clean',
  looped: false,
  slips: [],
  corrects: null,
  ...what,
})

describe('the log at a glance', () => {
  it('keeps passes apart: feet that sit alone do not make the whole sit', () => {
    const log = [
      row({ pass: 'feet' }),
      row({ pass: 'feet' }),
      row({ pass: 'all', mark: 'missed' }),
      row({ pass: 'all' }),
    ]
    const rows = counted(log, times)
    expect(practice(rows).map((l) => [withPass(l.label, l.pass), l.ready, l.repetitions])).toEqual([
      ['A, feet alone', 0.6, 2],
      ['A', 0, 2],
    ])
    expect(speedSheet(rows).rows.map((r) => [r.pass, r.cells.get(0.6)?.last])).toEqual([
      ['feet', ['clean', 'clean']],
      ['all', ['missed', 'clean']],
    ])
  })
  it('shows each stretch by speed, the most recent marks counting', () => {
    const log = [
      row({ mark: 'missed' }),
      row({ mark: 'shaky' }),
      row({ mark: 'clean' }),
      row({ speed: 0.75, mark: 'unmarked' }),
      row({ from: 4, to: 8, label: 'B', speed: 1 }),
    ]
    const sheet = speedSheet(counted(log, times))
    expect(sheet.speeds).toEqual([0.6, 0.75, 1])
    expect(sheet.rows.map((r) => r.label)).toEqual(['A', 'B'])
    expect([...(sheet.rows[0]?.cells.values() ?? [])]).toEqual([
      { speed: 0.6, repetitions: 3, last: ['shaky', 'clean'] },
      { speed: 0.75, repetitions: 1, last: [] },
    ])
  })
  it('adds up days, corrections counted once', () => {
    const first = row({ doneAt: DAY })
    const log = [
      first,
      row({ doneAt: 2 * DAY, corrects: first.id, mark: 'missed' }),
      row({ doneAt: 3 * DAY, seconds: 5 }),
    ]
    expect(practiceDays(standing(log), (t) => String(t / DAY))).toEqual([
      { day: '1', seconds: 10, repetitions: 1 },
      { day: '3', seconds: 5, repetitions: 1 },
    ])
  })
  it('proposes what sits least, and what was left alone', () => {
    const twice = (what: Partial<LoggedRepetition>) => [row(what), row(what)]
    const on = (label: string, from: number) => ({ label, from, to: from + 4 })
    const now = 30 * DAY
    const lines = practice(
      counted(
        [
          ...twice({ ...on('fresh', 0), speed: 1, doneAt: now - DAY }),
          ...twice({ ...on('slow', 4), speed: 0.6, doneAt: now - DAY }),
          ...twice({ ...on('old', 8), speed: 1, doneAt: now - 14 * DAY }),
        ],
        times,
      ),
    )
    expect(nextUp(lines, now).map((l) => l.label)).toEqual(['slow', 'old'])
  })
  it('goes on faster where it sits, slower after a miss, else as it was', () => {
    const at = (ready: number, lastMark: 'clean' | 'shaky' | 'missed') =>
      nextSpeed({ ready, lastSpeed: 0.75, lastMark })
    expect([at(0.75, 'clean'), at(0.6, 'missed'), at(0.6, 'shaky')]).toEqual([0.85, 0.65, 0.75])
    expect(nextSpeed({ ready: 1, lastSpeed: 1, lastMark: 'clean' })).toBe(1)
    expect(nextSpeed({ ready: 0, lastSpeed: 0.4, lastMark: 'missed' })).toBe(0.4)
  })
})
