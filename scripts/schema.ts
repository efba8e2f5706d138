/* npm run schema: writes docs/routine.schema.json, the published form of a routine file. */
import { writeFileSync } from 'node:fs'
import { toJsonSchema } from '@valibot/to-json-schema'
import { RoutineFileSchema } from '../src/core/handout'

/** The JSON Schema (draft-07) of a routine file; what only code can check is left out of it. */
export const routineFileSchema = (): string =>
  `${JSON.stringify({ $id: 'azalea-routine-1', title: 'A routine of Azalea', ...toJsonSchema(RoutineFileSchema, { errorMode: 'ignore', typeMode: 'input' }) }, null, 1)}\n`

if (process.argv[1]?.endsWith('schema.ts')) writeFileSync('docs/routine.schema.json', routineFileSchema())
