import { body, handle } from '@/server/handle'
import { allPresets, keepPreset, PresetSchema } from '@/server/lessons'

/** Ways to teach that were kept. */
export const GET = handle(async () => Response.json(await allPresets()))

/** Keeps one more. */
export const POST = handle(async (request) =>
  Response.json({ id: await keepPreset(await body(request, PresetSchema)) }),
)
