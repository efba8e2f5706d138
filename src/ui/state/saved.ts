'use client'

import { nanoid } from 'nanoid'
import type { Move } from '@/core/choreo'
import type { LessonSettings, Routine } from '@/core/routine'
import type { LogRow, StepEntry, TimingEntry } from './api-log'
import type { Entry, Saving } from './entry'
import { outbox } from './outbox-window'

/*
 * What goes into the outbox. Each has its id and time from here, given when it happened.
 */

type Put = Omit<Entry, 'window' | 'order'>

const entry = (what: string, method: Entry['method'], url: string, data: unknown): Put => ({
  id: nanoid(),
  document: '',
  what,
  method,
  url,
  body: JSON.stringify(data),
})

export const routineDocument = (id: string) => `routine ${id}`
/** The routine a document is; null for another one. */
export const routineOf = (document: string) => /^routine (.+)$/.exec(document)?.[1] ?? null
export const MOVES_DOCUMENT = 'moves'

/** A save of a document with revisions. */
const save = (what: string, url: string, document: string, saving: Saving, data: object, base?: string) =>
  outbox().put({
    ...entry(what, 'PUT', url, data),
    document,
    saving,
    ...(base === undefined ? {} : { base }),
  })

/** @param base what it stands on, as the body of a save; none where that is not known */
export const putRoutine = (id: string, saving: Saving, routine: Routine, base?: string) =>
  save('the routine', `/api/routines/${id}`, routineDocument(id), saving, { routine }, base)

/** @param base what it stands on, as the body of a save; none where that is not known */
export const putMoves = (saving: Saving, moves: readonly Move[], base?: string) =>
  save('the move list', '/api/moves', MOVES_DOCUMENT, saving, { moves }, base)

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

export const putRecording = (id: string, routine: string, wav: string) =>
  outbox().put(
    entry('a recording of calls', 'PUT', `/api/voice/recordings/${id}?routine=${routine}`, { wav }),
  )

export const putTrace = (songId: string, trace: string) =>
  waitedFor(entry('how a song sounds', 'PUT', `/api/songs/${songId}/trace`, { trace }))

export const putMeasure = (songId: string, measure: string) =>
  waitedFor(entry('how a song is played', 'PUT', `/api/songs/${songId}/measure`, { measure }))

export const putHearing = (songId: string, body: unknown) =>
  outbox().put(entry('what was heard', 'PUT', `/api/songs/${songId}/hearing`, body))

/** What a person waits for on the spot: a refusal is told there, and nowhere else. */
async function waitedFor(asked: Put): Promise<unknown> {
  try {
    return await outbox().put(asked)
  } catch (why) {
    outbox().leaveOut(asked.id)
    throw why
  }
}

/** Begins a further routine on a song. @returns its id, which is chosen here: asked twice, it is begun once */
export async function addRoutine(songId: string): Promise<string> {
  const id = nanoid()
  await waitedFor(entry('a new routine', 'POST', '/api/routines', { id, songId }))
  return id
}

/** Begins moves on counts alone. @returns its id, as above */
export async function addCombination(title: string, tempo: number, eights: number): Promise<string> {
  const id = nanoid()
  await waitedFor(entry('a combination', 'POST', '/api/combinations', { id, title, tempo, eights }))
  return id
}

/** A copy of a routine, as the server has it. @returns its id, as above */
export async function copyRoutine(copyOf: string): Promise<string> {
  const id = nanoid()
  await waitedFor(entry('a copy of the routine', 'POST', '/api/routines', { id, copyOf }))
  return id
}

/** Puts a routine into the bin. */
export const binRoutine = (id: string) =>
  waitedFor(entry('taking a routine away', 'DELETE', `/api/routines/${id}`, null))

/** Takes away for good what nobody has seen yet. */
export const removeRoutine = async (id: string) => {
  await binRoutine(id)
  await waitedFor(entry('emptying the bin', 'DELETE', `/api/bin/${id}`, null))
}

export const keepPreset = (name: string, settings: LessonSettings) =>
  waitedFor(entry('a way to teach', 'POST', '/api/presets', { name, settings }))

export const removePreset = (id: string) =>
  waitedFor(entry('taking a way to teach away', 'DELETE', `/api/presets/${id}`, null))

export const removeOwnCounts = () =>
  waitedFor(entry('taking the recorded counts away', 'DELETE', '/api/voice/own', null))
