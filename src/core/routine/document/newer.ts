import * as v from 'valibot'
import { ROUTINE_VERSION, type Routine, RoutineSchema } from './schema'

const Newer = v.looseObject({
  version: v.pipe(v.number(), v.integer(), v.minValue(ROUTINE_VERSION + 1)),
})

/** Why nothing in a routine of a newer version is changed. */
export const NEWER_WORDS =
  'This routine was written by a newer version of Azalea. It can be looked at, heard and drilled as far as this version understands it; nothing in it is changed.'

/** True for a routine of a version this program does not know yet. */
export const isNewer = (data: unknown): boolean => v.is(Newer, data)

/**
 * A routine of a newer version, as far as this one understands it: for looking at, never for saving.
 * @throws ValiError where it is too different to be understood
 */
export const readNewer = (data: unknown): Routine =>
  v.parse(RoutineSchema, { ...v.parse(Newer, data), version: ROUTINE_VERSION })
