'use client'

import { nanoid } from 'nanoid'
import type { LogRow, StepEntry, TimingEntry } from './api'
import type { Entry } from './outbox'
import { outbox } from './outbox-window'

/*
 * What goes into the outbox. Each has its id and time from here, given when it happened.
 */

const entry = (
  what: string,
  method: Entry['method'],
  url: string,
  data: unknown,
  document = '',
): Omit<Entry, 'window' | 'order'> => ({
  id: nanoid(),
  document,
  what,
  method,
  url,
  body: JSON.stringify(data),
})

/** Which save of a document this is. */
export interface Saving {
  revision: number
  writer: string
  save: number
}

export const routineDocument = (id: string) => `routine ${id}`
export const MOVES_DOCUMENT = 'moves'

export const putRoutine = (id: string, saving: Saving, routine: unknown) =>
  outbox().put(
    entry('the routine', 'PUT', `/api/routines/${id}`, { ...saving, routine }, routineDocument(id)),
  )

export const putMoves = (saving: Saving, moves: unknown) =>
  outbox().put(entry('the move list', 'PUT', '/api/moves', { ...saving, moves }, MOVES_DOCUMENT))

export const putRepetition = (routineId: string, row: LogRow) =>
  outbox().put(entry('a repetition', 'POST', `/api/routines/${routineId}/repetitions`, row))

export const putStep = (routineId: string, row: StepEntry) =>
  outbox().put(
    entry(
      row.kind === 'note' ? 'a note' : 'a step of the lesson',
      'POST',
      `/api/routines/${routineId}/lessons`,
      row,
    ),
  )

export const putTiming = (routineId: string, row: TimingEntry) =>
  outbox().put(entry('a timing', 'POST', `/api/routines/${routineId}/timings`, row))

export const putOwnCounts = (words: readonly { call: string; wav: string }[]) =>
  outbox().put(entry('recorded counts', 'PUT', '/api/voice/own', words))

export const putHearing = (songId: string, body: unknown) =>
  outbox().put(entry('what was heard', 'PUT', `/api/songs/${songId}/hearing`, body))
