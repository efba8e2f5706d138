import * as v from 'valibot'
import { type Move, MoveListSchema } from '@/core/choreo'
import { base64Of } from '@/core/formats/base64'
import { packPeaks } from '@/core/hear'
import { LessonSettings, type Routine, readRoutine } from '@/core/routine'
import { ApiError, ask, read, request } from './ask-server'
import type { Heard } from './hear'

/** A move list from anywhere. @throws ApiError where it is none */
export const readMoves = (data: unknown): Move[] => read(MoveListSchema, data)

const MadeBy = v.object({ writer: v.string(), save: v.number() })

/** The move list with its revision, and the save that made it. */
export async function fetchMoves() {
  return ask(v.object({ moves: MoveListSchema, revision: v.number(), madeBy: MadeBy }), '/api/moves')
}

/** The routine as the server has it now. */
export async function fetchRoutine(id: string): Promise<{ routine: Routine; revision: number }> {
  const data = await request(`/api/routines/${id}`)
  const { revision, routine } = read(v.object({ revision: v.number(), routine: v.unknown() }), data)
  try {
    return { revision, routine: readRoutine(routine).routine }
  } catch {
    throw new ApiError('That routine cannot be read by this page. Load the page again.', 'unreadable')
  }
}

const Newer = v.nullable(v.object({ revision: v.number(), writer: v.string(), routine: v.unknown() }))

/** The routine where the server has a later revision than this one; null where it has not. */
export const fetchNewer = (id: string, revision: number) =>
  ask(Newer, `/api/routines/${id}?after=${revision}`)

/** A hearing with its pictures, as it is sent. */
export const hearingBody = ({ hearing, peaks }: Heard) => ({ hearing, peaks: base64Of(packPeaks(peaks)) })

const OwnCount = v.object({ call: v.string(), wav: v.string(), stressMs: v.number() })

/** A count in the instructor's own voice: a WAV file as base64. */
export type OwnCount = v.InferOutput<typeof OwnCount>

export async function fetchOwnCounts(): Promise<OwnCount[]> {
  return ask(v.array(OwnCount), '/api/voice/own')
}

/** The counts there are now, as the server answers. */
export const ownCountsIn = (answer: unknown): OwnCount[] => read(v.array(OwnCount), answer)

const Preset = v.object({ id: v.string(), name: v.string(), settings: LessonSettings })

/** A way to teach that was kept under a name. */
export type Preset = v.InferOutput<typeof Preset>

export async function fetchPresets(): Promise<Preset[]> {
  return ask(v.array(Preset), '/api/presets')
}

/** Whether it is known how a song sounds. */
export async function hasTrace(songId: string): Promise<boolean> {
  return (await ask(v.object({ there: v.boolean() }), `/api/songs/${songId}/trace`)).there
}

/** What playing a song needs to know of it, as base64; '' where it is not known yet. */
export async function fetchMeasure(songId: string): Promise<string> {
  return (await ask(v.object({ measure: v.string() }), `/api/songs/${songId}/measure`)).measure
}
