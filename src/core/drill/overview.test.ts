import { describe, expect, it } from 'vitest'
import { type LoggedRepetition, nextUp, practice, practiceDays, speedSheet, stretchName } from '.'

const DAY = 24 * 3600 * 1000
let n = 0
const row = (what: Partial<LoggedRepetition>): LoggedRepetition => ({
  id: `r${n++}`,
  doneAt: 0,
  kind: 'drill',
  firstPhrase: 'a',
  lastPhrase: 'a',
  label: 'A',
  layer: 'all',
  speed: 0.6,
  seconds: 10,
  mark: 'clean',
  corrects: null,
  ...what,
})

describe('the log at a glance', () => {
  it('keeps layers apart: feet that sit alone do not make the whole sit', () => {
    const log = [
      row({ layer: 'feet' }),
      row({ layer: 'feet' }),
      row({ layer: 'all', mark: 'missed' }),
      row({ layer: 'all' }),
    ]
    expect(practice(log).map((l) => [stretchName(l), l.ready, l.repetitions])).toEqual([
      ['A, feet alone', 0.6, 2],
      ['A', 0, 2],
    ])
    expect(speedSheet(log).rows.map((r) => [r.layer, r.cells[0]?.last])).toEqual([
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
      row({ firstPhrase: 'b', lastPhrase: 'b', label: 'B', speed: 1 }),
    ]
    const sheet = speedSheet(log)
    expect(sheet.speeds).toEqual([0.6, 0.75, 1])
    expect(sheet.rows.map((r) => r.label)).toEqual(['A', 'B'])
    expect(sheet.rows[0]?.cells).toEqual([
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
    expect(practiceDays(log, (t) => String(t / DAY))).toEqual([
      { day: '1', seconds: 10, repetitions: 1 },
      { day: '3', seconds: 5, repetitions: 1 },
    ])
  })
  it('proposes what sits least, and what was left alone', () => {
    const twice = (what: Partial<LoggedRepetition>) => [row(what), row(what)]
    const on = (phrase: string) => ({ firstPhrase: phrase, lastPhrase: phrase, label: phrase })
    const now = 30 * DAY
    const lines = practice([
      ...twice({ ...on('fresh'), speed: 1, doneAt: now - DAY }),
      ...twice({ ...on('slow'), speed: 0.6, doneAt: now - DAY }),
      ...twice({ ...on('old'), speed: 1, doneAt: now - 14 * DAY }),
    ])
    expect(nextUp(lines, now).map((l) => l.label)).toEqual(['slow', 'old'])
  })
})
