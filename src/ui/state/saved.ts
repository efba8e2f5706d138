'use client'

import { nanoid } from 'nanoid'
import type { LessonSettings } from '@/core/routine'
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

export const putRecording = (id: string, wav: string) =>
  outbox().put(entry('a recording of calls', 'PUT', `/api/voice/recordings/${id}`, { wav }))

export const putTrace = (songId: string, trace: string) =>
  waitedFor(entry('how a song sounds', 'PUT', `/api/songs/${songId}/trace`, { trace }))

export const putHearing = (songId: string, body: unknown) =>
  outbox().put(entry('what was heard', 'PUT', `/api/songs/${songId}/hearing`, body))

/** What a person waits for on the spot: a refusal is told there, and nowhere else. */
async function waitedFor(asked: Omit<Entry, 'window' | 'order'>): Promise<unknown> {
  try {
    return await outbox().put(asked)
  } catch (why) {
    outbox().dismiss(asked.id)
    throw why
  }
}

/** Begins a further routine on a song. @returns its id, which is chosen here: asked twice, it is begun once */
export async function addRoutine(songId: string): Promise<string> {
  const id = nanoid()
  await waitedFor(entry('a new routine', 'POST', '/api/routines', { id, songId }))
  return id
}

/** A copy of a routine, as the server has it. @returns its id, as above */
export async function copyRoutine(copyOf: string): Promise<string> {
  const id = nanoid()
  await waitedFor(entry('a copy of the routine', 'POST', '/api/routines', { id, copyOf }))
  return id
}

export const removeRoutine = (id: string) =>
  waitedFor(entry('taking a routine away', 'DELETE', `/api/routines/${id}`, null))

export const keepPreset = (name: string, settings: LessonSettings) =>
  waitedFor(entry('a way to teach', 'POST', '/api/presets', { name, settings }))

export const removePreset = (id: string) =>
  waitedFor(entry('taking a way to teach away', 'DELETE', `/api/presets/${id}`, null))

export const removeOwnCounts = () =>
  waitedFor(entry('taking the recorded counts away', 'DELETE', '/api/voice/own', null))
