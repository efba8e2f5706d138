import * as v from 'valibot'
import { type Clash, mergeRoutines, type Routine, readRoutine } from '@/core/routine'
import { fetchNewer } from './api'
import type { DocumentSaves, SavedDocument } from './document-saves'
import { putRoutine, routineDocument } from './saved'

export type RoutineSaves = DocumentSaves<Routine, Clash>

const Body = v.pipe(v.string(), v.parseJson(), v.object({ routine: v.unknown() }))

/** The routine in the body of a save; null where it cannot be read. */
export function routineIn(body: string): Routine | null {
  try {
    return readRoutine(v.parse(Body, body).routine).routine
  } catch {
    return null
  }
}

const routineBody = (routine: unknown) => JSON.stringify({ routine })

/** A routine, as it is saved. */
export const savedRoutine = (id: string): SavedDocument<Routine, Clash> => ({
  name: routineDocument(id),
  read: routineIn,
  write: routineBody,
  put: (saving, routine, base) => putRoutine(id, saving, routine, base),
  newer: async (revision) => {
    const now = await fetchNewer(id, revision)
    return now && { revision: now.revision, writer: now.writer, body: routineBody(now.routine) }
  },
  merge: (base, mine, theirs, follow) => {
    const merged = mergeRoutines(base, mine, theirs, follow)
    return merged.done ? { made: merged.routine, clashes: merged.clashes, said: merged.said } : null
  },
  isLarge: true,
})
