/* npm run schema: writes docs/routine.schema.json, the published form of a routine file. */
import { writeFileSync } from 'node:fs'
import { toJsonSchema } from '@valibot/to-json-schema'
import { isBase64 } from '../src/core/formats/base64'
import { RoutineFileSchema } from '../src/core/handout'

/** The JSON Schema (draft-07) of a routine file; what only code can check is left out of it. */
export function routineFileSchema(): string {
  const schema = toJsonSchema(RoutineFileSchema, {
    errorMode: 'ignore',
    typeMode: 'input',
    overrideAction: ({ valibotAction, jsonSchema }) =>
      'requirement' in valibotAction && valibotAction.requirement === isBase64
        ? { ...jsonSchema, contentEncoding: 'base64' }
        : undefined,
  })
  return `${JSON.stringify({ $id: 'azalea-routine-1', title: 'A routine of Azalea', ...schema }, null, 1)}\n`
}

if (process.argv[1]?.endsWith('schema.ts')) writeFileSync('docs/routine.schema.json', routineFileSchema())
